"""Causes are ranked by what is recorded, and say so when nothing is."""

from dataclasses import replace

import pytest

from finebatch.core.book.trouble import Scene, Suspect, evidence, suspects
from finebatch.core.formula.balance import Standing
from finebatch.core.heat.oven import OvenNature
from finebatch.facts import formula

PLAIN = Scene(
    dough_temp_c=13,
    standings={},
    flour_pct=38,
    mixing="creamed",
    surface="parchment",
    piece_g=28,
    portion_cv=0.03,
    gap_mm=12,
    foreseen_mm=70,
    measured_mm=None,
    foreseen_minutes=12,
    minutes=None,
    oven=None,
    scraps=False,
)


def ranked(scene: Scene, trouble: str) -> list[Suspect]:
    return suspects(scene, [c for c in formula.causes() if c.trouble == trouble])


@pytest.mark.parametrize(
    ("trouble", "scene", "first"),
    [
        ("ran_together", replace(PLAIN, dough_temp_c=22), "too warm"),
        ("ran_together", replace(PLAIN, dough_temp_c=5, measured_mm=84), "too close"),
        ("did_not_spread", replace(PLAIN, dough_temp_c=4), "too cold"),
        ("did_not_spread", replace(PLAIN, flour_pct=55, dough_temp_c=21), "too much flour"),
        ("hard_dry", replace(PLAIN, minutes=15), "too long"),
        ("pale", replace(PLAIN, minutes=10), "too soon"),
        ("pale", replace(PLAIN, minutes=12.5, oven=OvenNature(offset_c=-14)), "cooler than its"),
        ("dark_below", replace(PLAIN, surface="dark"), "dark or thin"),
        ("one_side_dark", replace(PLAIN, oven=OvenNature(hot_side="left")), "browns one side"),
        ("soggy_centre", replace(PLAIN, minutes=12.2, piece_g=70), "large or thick"),
        (
            "too_sweet",
            replace(PLAIN, standings={"sugar": Standing("sugar", 150, 60, 130, "")}),
            "more sugar",
        ),
        (
            "greasy",
            replace(PLAIN, standings={"fat": Standing("fat", 90, 35, 75, "")}),
            "too much fat",
        ),
    ],
)
def test_what_is_recorded_puts_its_cause_first(trouble: str, scene: Scene, first: str) -> None:
    found = ranked(scene, trouble)
    assert first in found[0].cause.words
    assert found[0].speaks_for
    assert found[0].known


def test_it_says_when_it_cannot_know() -> None:
    found = ranked(PLAIN, "tough")
    assert not any(suspect.speaks_for for suspect in found)
    assert found[0].evidence == "Nothing recorded tells."
    assert not found[0].known


def test_a_cause_that_the_records_deny_falls_behind() -> None:
    cold = ranked(replace(PLAIN, dough_temp_c=3), "ran_together")
    place = [s.cause.asks for s in cold].index("warm_dough")
    assert place > 0


def test_every_trouble_has_causes_and_every_question_an_answer() -> None:
    for trouble in formula.troubles():
        assert len(ranked(PLAIN, trouble)) >= 2, trouble
    for cause in formula.causes():
        evidence(PLAIN, cause.asks)
    with pytest.raises(ValueError, match="no question"):
        evidence(PLAIN, "phase_of_the_moon")
