"""What a card says of portion, chilling and oven, as the setting that a tray begins with."""

import math
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.book.learn import MeasuredBake, learn
from finebatch.core.formula.card_says import CardSays, card_of, says_of
from finebatch.core.formula.card_text import read_card
from finebatch.core.formula.weigh import weigh_card
from finebatch.core.larder.measuring import USUAL as USUAL_MEASURES
from finebatch.core.measures.figures import dial, read_in
from finebatch.core.measures.kitchen_units import US
from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.effects import measure_effects
from finebatch.core.piece.evidence import By
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.portioning import at
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.lot import Lot
from finebatch.core.tray.from_card import followed, start
from finebatch.core.tray.question import Ground, TrayQuestion, as_said, first_look, sizes
from finebatch.core.tray.setting import TraySetting
from finebatch.facts import tables
from finebatch.workflow.dough.from_card import started, tray_question, usual_tray
from finebatch.workflow.kitchen.equipment import usual_kitchen

LOT = Lot(1000, 1.2)
USUAL = usual_tray("drop")


def said(*steps: str, pieces: int | None = None) -> CardSays:
    lines = ["Caraway rounds", "200 g flour", "Method", *steps]
    return says_of(card_of(read_card("\n".join(lines), tables.reader()), "Caraway rounds", pieces))


@pytest.mark.parametrize(
    ("family", "steps", "fields"),
    [
        ("drop", ["Bake at 350 °F for 10 minutes"], {"oven_c": 176.67}),
        ("drop", ["Bake at gas 2¾ for 40 minutes"], {"oven_c": 159.3}),
        (
            "drop",
            ["Bake at 160 fan for 10 minutes, until crisp"],
            {"oven_c": 180, "doneness": "crisp"},
        ),
        ("drop", ["Chill for 2 hours or overnight"], {"chill_min": 120}),
        ("drop", ["Chill overnight"], {"chill_min": 480, "rested": True}),
        (
            "drop",
            ["Drop by rounded teaspoons onto greased sheets"],
            {
                "piece.scoop_ml": 5,
                "piece.heaped": True,
                "piece.shape": "left",
                "evenness": "spooned",
                "surface": "greased",
            },
        ),
        (
            "drop",
            ["Scoop 2 tbsp balls onto parchment"],
            {"piece.scoop_ml": 30, "evenness": "scooped", "surface": "parchment"},
        ),
        ("drop", ["Roll into 3 cm balls"], {"piece.ball_mm": 30.0, "piece.shape": "ball"}),
        (
            "drop",
            ["Shape balls of 25 g each and flatten slightly"],
            {"piece.grams": 25, "piece.shape": "tapped"},
        ),
        (
            "drop",
            ["Shape balls of 25 g each, press to 1 cm thick"],
            {"piece.grams": 25, "piece.shape": "pressed", "piece.press_mm": 10},
        ),
        (
            "rolled",
            ["Roll out 3 mm thick, cut 5 cm rounds"],
            {"piece.thickness_mm": 3, "piece.cutter.across_mm": 50, "piece.cutter.shape": "round"},
        ),
        (
            "rolled",
            ["Roll out 1/4 inch thick, cut 2 inch squares"],
            {
                "piece.thickness_mm": 6.35,
                "piece.cutter.across_mm": 50.8,
                "piece.cutter.shape": "square",
            },
        ),
        ("shortbread", ["Form logs 4 cm across, cut in 8 mm slices"], {"piece.kind": "sliced"}),
        (
            "shortbread",
            ["Press into a 20 x 30 cm tin"],
            {
                "piece.kind": "filled_pan",
                "piece.shape": "rectangle",
                "piece.across_mm": 200,
                "piece.down_mm": 300,
            },
        ),
        (
            "shortbread",
            ["Press into a 23 cm round tin, mark in wedges"],
            {"piece.kind": "filled_pan", "piece.shape": "round", "piece.across_mm": 230},
        ),
        (
            "twice_baked",
            ["Shape 2 logs, 30 cm long and 5 cm wide", "Slice 1 cm thick"],
            {
                "piece.grams": 490,
                "piece.length_mm": 300,
                "piece.width_mm": 50,
                "piece.slice_mm": 10,
            },
        ),
    ],
)
def test_the_card_begins_the_tray(family: Any, steps: list[str], fields: dict[str, Any]) -> None:
    begun = start(said(*steps), usual_tray(family), LOT, "conventional")
    for path, wanted in fields.items():
        have = at(begun.setting, path)
        assert have == (
            pytest.approx(wanted, abs=0.05) if isinstance(wanted, float | int) else wanted
        )
    named = {
        path.rsplit(".across_mm")[0].rsplit(".shape")[0] if "cutter" in path else path
        for path in fields
        if not path.endswith((".kind", "piece.shape", "heaped"))
    }
    assert named <= set(begun.said)


def test_a_silent_card_begins_as_usual() -> None:
    for family in tables.families():
        begun = start(said("Stir it all together."), usual_tray(family), LOT, "conventional")
        assert (begun.setting, begun.said) == (usual_tray(family), ())


def test_the_yield_decides_the_piece_where_nothing_else_does() -> None:
    begun = start(said(pieces=40), USUAL, LOT, "conventional")
    assert begun.said == ("piece.yield",)
    assert begun.setting.piece.raw(LOT).grams == pytest.approx(24.5)
    assert int(LOT.usable_g / begun.setting.piece.raw(LOT).grams) == 40
    named = start(said("Make balls of 30 g each.", pieces=40), USUAL, LOT, "conventional")
    assert named.setting.piece.raw(LOT).grams == 30
    about = start(said("Roll walnut-sized balls.", pieces=40), USUAL, LOT, "conventional")
    assert about.setting.piece.raw(LOT).grams == pytest.approx(24.5)


def test_what_no_tray_can_be_set_to_is_left_as_usual() -> None:
    for says in (
        replace(said(), oven_c=900.0),
        replace(said(), pieces=90_000),
        replace(said(), piece_g=4.0e6),
        replace(said(), pan_mm=5000.0),
        replace(said(), oven_c=150.0, oven_asked=True),
    ):
        begun = start(says, USUAL, LOT, "conventional")
        assert (begun.setting, begun.said) == (USUAL, ())
    deep = replace(said("Press into a 20 x 30 cm tin"), pan_mm=60.0, pan_down_mm=60.0)
    assert start(deep, USUAL, LOT, "conventional").setting == USUAL


def test_a_fan_oven_is_set_as_a_fan_oven() -> None:
    still = said("Bake at 180 °C for 10 minutes")
    assert start(still, USUAL, LOT, "fan").setting.oven_c == 160
    fan = said("Bake at 160 fan for 10 minutes")
    assert start(fan, USUAL, LOT, "fan").setting.oven_c == 160


def test_what_was_written_in_fahrenheit_stays_that() -> None:
    for written in (325, 342, 350, 365):
        says = said(f"Bake at {written} °F for 10 minutes")
        setting = start(says, USUAL, LOT, "conventional").setting
        assert read_in(dial(setting.oven_c), US) == f"{written} °F"


def test_the_tray_follows_its_card_but_not_what_was_set_by_hand() -> None:
    def card(oven: int, grams: int) -> TraySetting:
        says = said(f"Balls of {grams} g each.", f"Bake at {oven} °C for 10 minutes.")
        return start(says, USUAL, LOT, "conventional").setting

    before, after = card(180, 30), card(200, 40)
    assert followed(before, before, after) == after
    by_hand = replace(before, oven_c=190.0)
    assert followed(by_hand, before, after) == replace(after, oven_c=190.0)
    pieces = replace(before, piece=Drop(50))
    assert followed(pieces, before, after) == replace(after, piece=Drop(50))


FORMULA = {
    "flour_ap": 250.0,
    "butter_unsalted": 150.0,
    "sugar_white": 120.0,
    "egg_whole": 50.0,
}
GROUND = Ground(tables.larder(), tables.models())


def asked(setting: TraySetting) -> TrayQuestion:
    return TrayQuestion(FORMULA, "drop", "creamed", setting, usual_kitchen())


def by(minutes_by: By, setting: TraySetting = USUAL) -> TraySetting:
    return replace(setting, minutes_by=minutes_by)


@given(st.floats(4, 60), st.floats(1, 1.5))
def test_the_cards_minutes_are_those_of_its_own_piece_and_oven(low: float, times: float) -> None:
    says = replace(said(), minutes=(low, low * times))
    found = as_said(asked(by("card")), says, by("card"), GROUND).foresee(GROUND)
    assert found.minutes == found.sources.card == pytest.approx(low * math.sqrt(times))
    assert found.sources.reckoned == pytest.approx(asked(USUAL).foresee(GROUND).minutes)


def test_another_piece_or_oven_is_reckoned_from_the_cards_minutes() -> None:
    says = replace(said(), minutes=(20.0, 20.0))

    def times(setting: TraySetting) -> float:
        plain = asked(setting).foresee(GROUND).minutes / asked(USUAL).foresee(GROUND).minutes
        by_card = as_said(asked(setting), says, USUAL, GROUND).foresee(GROUND).minutes
        assert by_card == pytest.approx(20 * plain)
        return by_card

    assert times(by("card", replace(USUAL, piece=Drop(60)))) > 21
    assert times(by("card", replace(USUAL, oven_c=210.0))) < 19


def test_card_and_law_are_weighed_by_how_sure_each_is_and_one_press_takes_either() -> None:
    says = replace(said(), minutes=(20.0, 25.0))
    found = {
        way: as_said(asked(by(way)), says, USUAL, GROUND).foresee(GROUND).sources
        for way in ("all", "card", "reckoned")
    }
    law, card = found["all"].law, found["all"].card
    assert card == found["card"].used == pytest.approx(math.sqrt(500))
    assert found["reckoned"].used == law < found["all"].used < card
    # The surer one weighs more.
    weight = math.log(found["all"].used / law) / math.log(card / law)
    assert weight == pytest.approx(0.12**2 / (0.12**2 + 0.07**2)) == found["all"].card_share
    assert found["all"].apart
    near = replace(said(), minutes=(law, law * 1.1))
    assert not as_said(asked(USUAL), near, USUAL, GROUND).foresee(GROUND).sources.apart


def test_the_first_bake_of_ones_own_outweighs_card_and_law() -> None:
    says = replace(said(), minutes=(20.0, 20.0))
    asks = as_said(asked(USUAL), says, USUAL, GROUND)
    law = asked(USUAL).foresee(GROUND).minutes
    plain = asked(USUAL).foresee(GROUND)
    effects = measure_effects(
        asked(USUAL).composition(GROUND.larder), plain.raw, asked(USUAL).conditions()
    )
    row = GROUND.models.spread.row(effects, plain.raw)
    baked = MeasuredBake("A", row, plain.raw, law, 0.03, (), law)
    taught = learn(GROUND.models.spread, [baked]).of_dough("A")
    used = asks.foresee(replace(GROUND, learnt=taught)).sources
    assert (used.timed, used.own) == (1, pytest.approx(law, rel=0.01))
    assert used.card_share < 0.5
    assert used.used < math.sqrt(20 * law)


@pytest.mark.parametrize(
    ("told", "cutter", "slab"),
    [
        ("Roll out 4 mm thick, cut with a 7 cm star cutter.", Cutter("star", 70, 67), (0, 0)),
        ("Roll out 5 mm thick and cut into hearts.", Cutter("heart", 60, 57), (0, 0)),
        ("Roll out 3 mm thick, cut leaves 4 by 8 cm.", Cutter("leaf", 40, 80), (0, 0)),
        (
            "Roll out to 28 x 11 cm and cut into 3 by 8 cm fingers.",
            Cutter("rectangle", 30, 80),
            (280, 110),
        ),
    ],
)
def test_cutters_outlines_and_the_rectangle_are_read(
    told: str, cutter: Cutter, slab: tuple[float, float]
) -> None:
    lines = "Ingredients\n250 g flour\n150 g butter\n100 g sugar\n1 egg\nMethod\n"
    read = read_card(f"Rolled biscuits\n{lines}{told}\nBake at 180 C.", tables.reader())
    card = card_of(read, "Rolled biscuits")
    weighed = weigh_card(card, tables.larder(), USUAL_MEASURES)
    piece = started(card, weighed, usual_kitchen(), tables.larder()).setting.piece
    assert isinstance(piece, Rolled)
    assert piece.cutter == cutter
    assert (piece.slab_across_mm, piece.slab_down_mm) == slab
    if slab != (0, 0):
        # All of the dough in that rectangle, as no thickness is said.
        grams = 0.97 * weighed.total_g
        assert piece.thickness_mm == pytest.approx(grams / 1.2 / 30.8, rel=0.08)


@pytest.mark.parametrize(
    ("told", "low", "high"),
    [
        # A level tablespoon is 18 g of this dough; so many of 720 g are told beside it.
        ("Makes 30", 21, 24),
        ("Makes 40", 17, 18.5),
        ("Makes 200", 17, 19),
        ("", 17, 19),
    ],
)
def test_what_comes_off_a_spoon_is_put_together_with_the_yield(
    told: str, low: float, high: float
) -> None:
    lines = "Ingredients\n280 g flour\n170 g butter\n170 g sugar\n2 eggs\nMethod\n"
    text = f"Drops\n{told}\n{lines}Drop by tablespoons onto lined sheets.\nBake at 180 C."
    card = card_of(read_card(text, tables.reader()), "Drops")
    weighed = weigh_card(card, tables.larder(), USUAL_MEASURES)
    setting = started(card, weighed, usual_kitchen(), tables.larder()).setting
    assert setting.evenness == "spooned"
    lot = Lot(weighed.total_g, 1.2)
    assert low <= setting.piece.raw(lot).grams <= high


@pytest.mark.parametrize(
    "told",
    [
        "Makes 30\n{}Drop by 0 tablespoons onto sheets.\nBake at 180 C for 12 minutes.",
        "Makes 99999\n{}Drop by tablespoons onto sheets.\nBake at 180 C for 12 minutes.",
        "Makes 30\n{}Drop by tablespoons.\nBake at 180 C for 12 minutes, checking from 0 minutes.",
        "Makes 30 of 0 inches\n{}Roll to 0 by 0 cm and cut with a 0 cm star cutter. Bake.",
    ],
)
def test_a_card_that_says_nothings_begins_all_the_same(told: str) -> None:
    lines = "Ingredients\n280 g flour\n170 g butter\n170 g sugar\n2 eggs\nMethod\nMix.\n"
    card = card_of(read_card(f"Drops\n{told.format(lines)}", tables.reader()), "Drops")
    weighed = weigh_card(card, tables.larder(), USUAL_MEASURES)
    kitchen, larder = usual_kitchen(), tables.larder()
    setting = started(card, weighed, kitchen, larder).setting
    asked = tray_question(card, weighed, setting, kitchen, larder)
    ground = Ground(larder, tables.models())
    assert first_look(asked, sizes(asked, ground).usual, ground.models) >= 1
