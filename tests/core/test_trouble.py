"""Causes are ranked by what is recorded, and say so when nothing is."""

from dataclasses import replace
from typing import Any

import pytest

from finebatch.core.book.trouble import Circumstances, Suspect, evidence, need, suspects
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
    raw_mm=40,
    pitch_mm=86,
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


@pytest.mark.parametrize("asks", ["much:fat", "little:fat"])
@pytest.mark.parametrize("percent", [41, 50, 79])
def test_a_figure_inside_the_usual_range_is_no_evidence(asks: str, percent: float) -> None:
    told = evidence(replace(PLAIN, standings=fat(percent)), asks)
    assert told is not None
    assert told.times < 1


def test_butter_that_was_creamed_does_not_tell_that_it_was_beaten_for_long() -> None:
    assert evidence(PLAIN, "beaten:creamed") is None
    melted = evidence(replace(PLAIN, mixing="melted"), "beaten:creamed")
    assert melted is not None
    assert melted.times < 1


@pytest.mark.parametrize(
    ("aim", "scene", "mm", "narrower", "room"),
    [
        # 12 mm were free; nobody measured: they came out as wide as from middle to middle.
        ("apart", PLAIN, 4, 4, 4),
        ("apart", replace(PLAIN, measured_mm=92), 10, 10, 10),
        ("sharper", replace(PLAIN, measured_mm=48), 4, 4, None),
        ("sharper", replace(PLAIN, measured_mm=40.5), 1, 1, None),
    ],
)
def test_what_is_needed_is_met_by_narrower_pieces_or_more_room(
    aim: Any, scene: Circumstances, mm: float, narrower: float, room: float | None
) -> None:
    found = need(scene, aim)
    assert found is not None
    assert found.mm == pytest.approx(mm)
    assert found.share_met(-narrower, 0) == pytest.approx(1)
    assert found.share_met(0.2, 0) < 0
    if room is not None:
        assert found.share_met(0, room) == pytest.approx(1)
    assert f"{found.mm:.0f} mm" in read_in(found.words)


def test_pieces_that_did_not_spread_need_what_they_fell_short_of() -> None:
    short = need(replace(PLAIN, measured_mm=62), "wider")
    unmeasured = need(PLAIN, "wider")
    assert short is not None
    assert unmeasured is not None
    assert short.mm == pytest.approx(8)
    assert short.share_met(4, 20) == pytest.approx(0.5)
    assert unmeasured.mm == pytest.approx(0.08 * 70)


def test_what_is_no_matter_of_millimetres_needs_none() -> None:
    assert need(PLAIN, "") is None
