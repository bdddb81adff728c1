"""A card's method as typed steps, and where each of them is done."""

import re

import pytest

from finebatch.core.formula.card_says import card_of
from finebatch.core.formula.card_text import read_card
from finebatch.core.formula.dough import Card
from finebatch.core.formula.step import Step, StepKind
from finebatch.core.method.clauses import clauses_of
from finebatch.core.method.of_card import programme_of_card, steps_of
from finebatch.core.method.programme import About, Programme, programme_of
from finebatch.core.method.typed import typed_steps
from finebatch.facts import formula, tables
from tests.ordinary import CARDS


def card(text: str) -> Card:
    return card_of(read_card(text, tables.reader()), "A dough")


def kinds(*lines: str) -> list[StepKind]:
    return [clause.kind for clause in clauses_of(lines)]


def programme(of: Card, chill_min: int = 0, **more: float) -> Programme:
    return programme_of_card(
        of,
        formula.usual_method(),
        tables.larder(),
        kg=0.8,
        chill_min=chill_min,
        kept_as="log",
        **more,
    )


@pytest.mark.parametrize("name", CARDS)
def test_every_word_of_a_method_is_in_one_step_and_in_order(name: str) -> None:
    lines = [step.text for step in card(CARDS[name]).steps]
    said: dict[int, list[str]] = {}
    for clause in clauses_of(lines):
        said.setdefault(clause.line, []).append(clause.text)
    for number, line in enumerate(lines, start=1):
        rest = line
        for text in said[number]:
            between, found, rest = rest.partition(text)
            assert found
            assert re.fullmatch(r"(?:[\s,;:.]|\band\b|\bthen\b)*", between), between
        assert re.fullmatch(r"[\s,;:.]*", rest)


@pytest.mark.parametrize(
    ("lines", "wanted"),
    [
        (
            ("Form into 2 logs about 5 cm across, wrap in film and chill for 2 hours.",),
            ["log", "wrap", "chill"],
        ),
        (
            ("Cream butter and sugar.", "Divide in 12 and roll into balls. Press a dent."),
            ["cream", "scoop", "ball", "dent"],
        ),
        (("Cut the butter into the flour.", "Cut into stars."), ["rub_in", "cut"]),
        (
            ("Bake 25 min.", "Cool 15 minutes, then slice 1 cm thick.", "Bake again for 8 min."),
            ["bake", "rest_sheet", "slice_log", "second_bake"],
        ),
        (
            ("Bake for 9 min.", "Cool completely, dip the tops and leave to set for an hour."),
            ["bake", "cool", "dip", "set"],
        ),
        (("Bake 20 min, turning the tray half way.", "Cut while hot."), ["bake", "recut"]),
        (("Bake 6 min.", "Curve over a rolling pin at once while hot!"), ["bake", "curve"]),
        (
            ("Mix butter and sugar. Rest 20 min.", "Make a well in the flour and pour it in."),
            ["cream", "rest_bench", "beat_in", "beat_in"],
        ),
        (
            ("Preheat the oven to 180 C and line two trays.", "Drop spoonfuls well apart."),
            ["heat_oven", "line", "scoop"],
        ),
        (
            ("Rub in the fat.", "Roll out, cut rounds, brush and sprinkle."),
            ["rub_in", "roll", "cut", "wash", "top"],
        ),
        (("Stir it all. Roll the dough into a log.", "Roll in sugar."), ["beat_in", "log", "coat"]),
        (("Do what grandmother did.",), ["beat_in"]),
    ],
)
def test_a_step_is_told_by_its_words_and_its_place(
    lines: tuple[str, ...], wanted: list[StepKind]
) -> None:
    assert kinds(*lines) == wanted


def test_minutes_are_hands_or_waiting_by_what_is_done() -> None:
    found = typed_steps(
        (
            Step("Cream for 3 to 5 minutes.", 4),
            Step("Toast the nuts in the oven for 12 minutes."),
            Step("Chill 30-45 minutes."),
        )
    )
    assert [(s.hands_min, s.wait_min, s.wait_most_min) for s in found] == [
        (4, 0, None),
        (1, 12, None),
        (0, 30, 45),
    ]


def test_what_the_baker_has_set_goes_before_the_words() -> None:
    [cream] = typed_steps((Step("Cream for 3 minutes.", 9),))
    assert cream.hands_min == 9
    [rest] = typed_steps((Step("Let it rest 10 minutes.", 1, 25),))
    assert rest.wait_min == 25
    own = Step("It is done by the cat.", 6, 4, kind="knead", wait_most_min=8, each_s=2)
    [given] = typed_steps((own,))
    assert (given.kind, given.hands_min, given.wait_min, given.wait_most_min) == ("knead", 6, 4, 8)


STARS = """Stars
300 g flour
200 g cold butter
100 g sugar

Toast the nuts for 5 minutes, let them cool. Rub the butter into the flour.
Flatten to two discs, wrap and chill 30-45 minutes.
Let it stand 10 minutes if it is too hard to roll.
Roll 5 mm thick and cut 6 cm stars. Brush with egg.
Bake at 180 C for 11 min, leave on the sheet 4 minutes, then move to a rack.
"""


def test_each_step_is_done_where_it_belongs() -> None:
    found = programme(card(STARS), 30)
    assert [[s.kind for s in one.steps] for one in found.ready] == [["toast"], ["weigh"]]
    assert found.ready[0].wait_min == formula.step_habits()["toast"].wait_min
    mix, form = found.makes
    assert ([s.kind for s in mix.steps], mix.cold) == (["rub_in"], False)
    assert [s.kind for s in form.steps] == ["disc", "wrap", "chill"]
    assert (form.wait_min, form.wait_most_min, form.cold) == (30, 45, True)
    assert found.temper_min == 10
    assert [s.kind for s in found.on_tray("portion")] == ["roll", "cut", "wash"]
    rest = found.wait("rest")
    assert rest is not None
    assert rest.wait_min == 4
    assert [s.kind for s in found.on_tray("rack")] == ["to_rack"]


def test_the_tray_s_own_setting_says_how_long_it_is_chilled() -> None:
    assert programme(card(STARS), 90).makes[-1].wait_min == 90
    assert not programme(card(STARS), 0).makes[-1].cold


def test_what_the_card_leaves_out_is_usual_and_can_be_left_out() -> None:
    plain = Card("Plain", "shortbread", "creamed", card(CARDS["short"]).lines)
    found = programme(plain, 60)
    origins = {s.origin for one in (*found.ready, *found.makes) for s in one.steps}
    assert origins == {"usual"}
    assert [[s.kind for s in one.steps] for one in found.ready] == [["soften"], ["weigh"]]
    assert [s.kind for s in found.makes[-1].steps] == ["log", "wrap", "chill"]
    bare = Card("Plain", "shortbread", "creamed", plain.lines, without=("weigh", "soften", "wrap"))
    left = programme(bare, 60)
    assert left.ready == ()
    assert [s.kind for s in left.makes[-1].steps] == ["log", "chill"]


def test_trays_that_are_chilled_stand_before_the_oven() -> None:
    found = programme(card(CARDS["viennese"]), 30)
    assert found.stand is not None
    assert found.stand.wait_min == 30
    assert not any(one.cold for one in found.makes)


def test_a_slow_baker_mixes_longer_and_weighs_as_ever() -> None:
    usual, slow = programme(card(STARS), 30), programme(card(STARS), 30, paces={"mix": 2.0})
    assert slow.makes[0].hands_min == pytest.approx(2 * usual.makes[0].hands_min, abs=1)
    assert slow.ready == usual.ready


def test_a_method_without_mixing_is_mixed_as_usual() -> None:
    logs = card(CARDS["cantucci"])
    found = steps_of(logs, formula.usual_method(), tables.larder())
    assert [s.origin for s in found].count("usual") > 2
    made = programme(logs)
    assert any(one.kind == "mix" for one in made.makes)
    assert [s.kind for s in made.on_tray("portion")] == ["log"]


def test_nothing_at_all_is_still_weighed() -> None:
    found = programme_of((), About("drop", 1.0), formula.step_habits())
    assert [[s.kind for s in one.steps] for one in found.ready] == [["weigh"]]
