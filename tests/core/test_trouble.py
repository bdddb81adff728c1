"""Causes are ranked by what is recorded, and say so when nothing is."""

from dataclasses import replace
from typing import Any

import pytest

from finebatch.core.book.trouble import Circumstances, Suspect, evidence, suspects
from finebatch.core.formula.balance import Standing
from finebatch.core.heat.oven import OvenNature
from finebatch.core.measures.figures import read_in
from finebatch.facts import formula

PLAIN = Circumstances(
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


def ranked(scene: Circumstances, trouble: str) -> list[Suspect]:
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
def test_what_is_recorded_puts_its_cause_first(
    trouble: str, scene: Circumstances, first: str
) -> None:
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


def fat(percent: float) -> dict[str, Standing]:
    return {"fat": Standing("fat", percent, 40, 80, "")}


@pytest.mark.parametrize(
    ("asks", "speaks_for", "speaks_against", "words"),
    [
        ("warm_dough", {"dough_temp_c": 22}, {"dough_temp_c": 8}, "went in at 22 °C"),
        ("cold_dough", {"dough_temp_c": 4}, {"dough_temp_c": 19}, "went in at 4 °C"),
        ("long_bake", {"minutes": 14}, {"minutes": 11.5}, "in for 14.0 min; 12.0 were foreseen"),
        ("short_bake", {"minutes": 10}, {"minutes": 13}, "in for 10.0 min; 12.0 were foreseen"),
        (
            "hot_oven",
            {"oven": OvenNature(offset_c=9)},
            {"oven": OvenNature(offset_c=-9)},
            "9 °C hotter than its dial",
        ),
        (
            "cool_oven",
            {"oven": OvenNature(offset_c=-12)},
            {"oven": OvenNature(offset_c=0.4)},
            "12 °C cooler than its dial",
        ),
        ("wider", {"measured_mm": 78}, {"measured_mm": 69}, "8 mm wider than foreseen"),
        (
            "hot_side",
            {"oven": OvenNature(hot_side="right")},
            {"oven": OvenNature()},
            "browns first at the right",
        ),
        ("uneven", {"portion_cv": 0.09}, {"portion_cv": 0.02}, "differ by about 9 %"),
        ("large", {"piece_g": 60}, {"piece_g": 20}, "A piece is 60 g"),
        ("much:flour", {"flour_pct": 56}, {"flour_pct": 38}, "Flour is 56 % of the dough"),
        ("little:flour", {"flour_pct": 22}, {"flour_pct": 38}, "Flour is 22 % of the dough"),
        ("much:fat", {"standings": fat(95)}, {"standings": fat(50)}, "fat is 95 % of the flour"),
        ("little:fat", {"standings": fat(30)}, {"standings": fat(70)}, "40 to 80 is usual"),
        (
            "surface:dark|bare",
            {"surface": "bare"},
            {"surface": "silicone"},
            "It was baked on bare",
        ),
        ("mixing:melted", {"mixing": "melted"}, {"mixing": "creamed"}, "It was mixed melted"),
    ],
)
def test_each_question_is_answered_both_ways_with_its_figure(
    asks: str, speaks_for: dict[str, Any], speaks_against: dict[str, Any], words: str
) -> None:
    told = evidence(replace(PLAIN, **speaks_for), asks)
    against = evidence(replace(PLAIN, **speaks_against), asks)
    assert told is not None
    assert against is not None
    assert told.times > 1 > against.times
    assert words in read_in(told.words)


@pytest.mark.parametrize(
    "asks",
    [
        "long_bake",
        "short_bake",
        "hot_oven",
        "cool_oven",
        "wider",
        "hot_side",
        "scraps",
        "unknown",
        "much:sugar",
    ],
)
def test_what_was_not_recorded_says_nothing(asks: str) -> None:
    assert evidence(PLAIN, asks) is None


def test_a_figure_without_a_usual_range_says_nothing() -> None:
    scene = replace(PLAIN, standings={"fat": Standing("fat", 95, None, None, "")})
    assert evidence(scene, "much:fat") is None


@pytest.mark.parametrize(("minutes", "times"), [(12.6, 1.0), (13.3, 3.0), (12.0, 0.35)])
def test_a_bake_a_little_too_long_neither_speaks_for_nor_against(
    minutes: float, times: float
) -> None:
    told = evidence(replace(PLAIN, minutes=minutes), "long_bake")
    assert told is not None
    assert told.times == times


def test_an_even_oven_keeping_to_its_dial_is_said_so() -> None:
    told = evidence(replace(PLAIN, oven=OvenNature(offset_c=0.5)), "hot_oven")
    assert told is not None
    assert told.words == "This oven keeps to its dial."
