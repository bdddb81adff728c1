"""A colour that is wanted moves the minutes, the cue and nothing else."""

import pytest

from finebatch.core.formula.card_says import card_of, says_of
from finebatch.core.formula.card_text import read_card
from finebatch.core.formula.dough import Colour, Doneness
from finebatch.core.formula.weigh import weigh_card
from finebatch.core.heat.colour import colour_shift
from finebatch.core.heat.minutes import DONE_AT_C, out_at_c
from finebatch.core.measures.figures import read_in
from finebatch.core.session.words import goes_on
from finebatch.core.tray.question import Ground, TrayQuestion, first_look, sizes
from finebatch.facts import tables
from finebatch.workflow.dough.from_card import started, tray_question
from finebatch.workflow.kitchen.equipment import usual_kitchen

LARDER = tables.larder()
LINES = "Plain drops\nIngredients\n250 g flour\n150 g butter\n150 g sugar\n1 egg\nMethod\n"


def asked(method: str) -> TrayQuestion:
    card = card_of(read_card(LINES + method, tables.reader()), "Plain")
    kitchen, weighed = usual_kitchen(), weigh_card(card, LARDER)
    tray = started(card, weighed, kitchen, LARDER).setting
    return tray_question(card, weighed, tray, kitchen, LARDER)


@pytest.mark.parametrize(
    ("wanted", "usual", "least", "most"),
    [
        (None, (3, 4), 0, 0),
        ("golden", (3, 4), 0, 0),
        ("pale", (3, 4), -0.1, -0.03),
        ("brown", (3, 4), 0.08, 0.2),
        ("golden", (2, 3), 0.03, 0.1),
        ("pale", None, 0, 0),
    ],
)
def test_a_darker_piece_takes_longer_than_the_usual_one(
    wanted: Colour | None, usual: tuple[int, int] | None, least: float, most: float
) -> None:
    assert least <= colour_shift(wanted, usual) <= most


def test_a_card_that_wants_them_brown_bakes_longer_and_shows_another_strip() -> None:
    ground = Ground(LARDER, tables.models())
    plain, brown = asked("Bake at 180 C."), asked("Bake at 180 C until well browned.")
    assert brown.setting.colour == "brown"
    longer = brown.foresee(ground).minutes / plain.foresee(ground).minutes
    assert 1.08 < longer < 1.2
    usual = tables.cues()["drop", "chewy"]
    shown = usual.coloured("brown")
    assert (shown.colour_from, shown.colour_to, shown.edges) == (6, 6, "brown")
    assert usual.coloured("golden") == usual.coloured(None) == usual


@pytest.mark.parametrize(
    ("bake", "minute"),
    [
        ("Bake at 180 C for 10 to 14 minutes. Start checking after 8 minutes.", 8),
        ("Bake at 180 C for 12 min, checking from 9 minutes.", 9),
        ("Bake 10-12 minutes at 180C. Look at them from the 9th minute.", 9),
        ("Bake at 180 C for 12 minutes. Cool for 5 minutes.", None),
        ("Bake at 180 C for 12 minutes, and check your oven.", None),
    ],
)
def test_from_when_on_the_card_says_to_look(bake: str, minute: float | None) -> None:
    card = card_of(read_card(LINES + bake, tables.reader()), "Plain")
    assert says_of(card).look_min == minute


def test_the_first_look_is_when_the_card_says() -> None:
    ground = Ground(LARDER, tables.models())

    def look(method: str) -> int:
        question = asked(method)
        return first_look(question, sizes(question, ground).usual, ground.models)

    early = look("Bake at 180 C for 10 to 12 minutes. Start checking after 7 minutes.")
    assert early < look("Bake at 180 C for 10 to 12 minutes.")


@pytest.mark.parametrize("doneness", DONE_AT_C)
def test_what_is_soft_inside_comes_out_before_it_is_done(doneness: Doneness) -> None:
    out, words = out_at_c(doneness), read_in(goes_on(doneness))
    assert "goes on" in words
    if doneness in ("crisp", "dry"):
        assert out is None
    else:
        assert out is not None
        assert 7 <= DONE_AT_C[doneness] - out <= 11
        assert f"{out:.0f} °C" in words
