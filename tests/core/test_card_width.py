"""What a card says of how wide its pieces bake: read from it, and weighed against the law."""

from dataclasses import replace

import pytest

from finebatch.core.formula.card_says import card_of, says_of
from finebatch.core.formula.card_text import read_card
from finebatch.core.formula.weigh import weigh_card
from finebatch.core.piece.evidence import By, SaidWidth, join_width
from finebatch.core.piece.portion import CutDisc, MassPortion, PanFill, shape_piece
from finebatch.core.piece.spread import Width, baked_width_mm, flow_at
from finebatch.core.tray.question import Ground
from finebatch.facts import tables
from finebatch.workflow.dough.from_card import started, tray_question
from finebatch.workflow.kitchen.equipment import usual_kitchen

LINES = "Ingredients\n250 g flour\n150 g butter\n150 g sugar\n1 egg\n2 g baking soda\nMethod\n"
LARDER = tables.larder()


def read(fact: str, sentence: str = "Cream butter and sugar.") -> float | None:
    text = f"Plain drops\n{fact}\n{LINES}{sentence}\nBake at 180 C for 12 minutes."
    return says_of(card_of(read_card(text, tables.reader()), "Plain")).baked_mm


@pytest.mark.parametrize(
    ("fact", "mm"),
    [
        ("Makes 36 of 3 inches", 76.2),
        ("Makes about 24 (3-inch) cookies", 76.2),
        ("24 3-inch cookies", 76.2),
        ("Yield: about 4 dozen 2 1/2-inch cookies", 63.5),
        ("40 biscuits of 6 cm", 60),
        ("24 cookies, 8 cm across", 80),
        ("Baked size: 7.6 cm", 76),
        ("Makes 36", None),
        ("Makes 40, from a 20 cm tin", None),
        ("Makes 24 5-cm balls", None),
        ("Makes 2 logs of 25 cm", None),
        ("Makes 24 bars, 2 cm thick", None),
    ],
)
def test_a_yield_may_tell_how_wide_a_piece_bakes(fact: str, mm: float | None) -> None:
    assert read(fact) == mm


@pytest.mark.parametrize(
    ("sentence", "mm"),
    [
        ("They spread to about 8 cm.", 80),
        ("Drop by tablespoons; they will spread to 3 inches.", 76.2),
        ("They should be about 7 cm across when baked.", 70),
        ("Spread to 8 cm circles.", None),
        ("Space them 5 cm apart, as they spread.", None),
        ("They should be 6 mm thick.", None),
        ("Roll to balls 3 cm across.", None),
    ],
)
def test_so_may_a_sentence(sentence: str, mm: float | None) -> None:
    assert read("Makes 30", sentence) == mm


def test_a_yield_with_a_width_still_counts_pieces() -> None:
    card = read_card(f"Drops\nMakes 3 dozen 3-inch cookies\n{LINES}Bake.", tables.reader())
    assert card.stated_pieces == 36


@pytest.mark.parametrize("wider", [1.1, 1.4, 2.0])
def test_the_flow_of_a_width_gives_that_width_again(wider: float) -> None:
    for portion in (MassPortion(30), CutDisc(60, 6)):
        raw = shape_piece(portion, 1.2)
        found = flow_at(raw, wider * raw.width_mm)
        assert found is not None
        width, share = baked_width_mm(raw, found[0])
        assert width == pytest.approx(wider * raw.width_mm)
        assert share == pytest.approx(found[1])
    raw = shape_piece(CutDisc(60, 6), 1.2)
    assert flow_at(raw, raw.width_mm) is None
    assert flow_at(shape_piece(PanFill(200, 200, 40_000, 12), 1.2), 250) is None


def foreseen(wide_mm: float | None, by: By = "all") -> Width:
    text = f"Plain drops\nMakes 20\n{LINES}Roll into balls.\nBake at 180 C for 12 minutes."
    card = replace(card_of(read_card(text, tables.reader()), "Plain"), stated_width_mm=wide_mm)
    kitchen, weighed = usual_kitchen(), weigh_card(card, LARDER)
    tray = replace(started(card, weighed, kitchen, LARDER).setting, width_by=by)
    asked = tray_question(card, weighed, tray, kitchen, LARDER)
    return asked.foresee(Ground(LARDER, tables.models())).width


def test_law_and_card_meet_by_how_sure_each_is() -> None:
    law = foreseen(None)
    assert law.sources is None
    said = 1.12 * law.middle_mm
    both, card, alone = (foreseen(said, by) for by in ("all", "card", "reckoned"))
    assert alone.middle_mm == pytest.approx(law.middle_mm)
    assert card.middle_mm == pytest.approx(said, rel=1e-3)
    assert law.middle_mm < both.middle_mm < card.middle_mm
    assert both.sources is not None
    assert both.sources.card == pytest.approx(said, rel=1e-3)
    assert 0.1 < both.sources.card_share < 0.6
    assert not both.sources.apart
    # Two that agree are surer than one.
    same = foreseen(law.middle_mm)
    assert same.high_mm - same.low_mm < law.high_mm - law.low_mm


@pytest.mark.parametrize("by", ["all", "card", "reckoned"])
def test_the_minutes_of_the_cards_own_piece_are_the_cards(by: By) -> None:
    text = f"Drops\nMakes 20 of 9 cm\n{LINES}Roll into balls.\nBake at 180 C for 15 minutes."
    card = card_of(read_card(text, tables.reader()), "Drops")
    kitchen, weighed = usual_kitchen(), weigh_card(card, LARDER)
    tray = replace(started(card, weighed, kitchen, LARDER).setting, width_by=by)
    asked = tray_question(card, weighed, tray, kitchen, LARDER)
    assert asked.foresee(Ground(LARDER, tables.models())).sources.card == pytest.approx(15)


def test_a_card_far_from_the_law_is_said_to_be() -> None:
    found = foreseen(1.6 * foreseen(None).middle_mm).sources
    assert found is not None
    assert found.apart


def test_what_own_bakes_know_outweighs_the_card() -> None:
    said = SaidWidth(80, 0.2, 0.1)
    unknown, known = join_width(0.0, 0.08**2, said, "all"), join_width(0.0, 0.02**2, said, "all")
    assert unknown.card_share > 0.35
    assert known.card_share < 0.05
    assert known.variance < unknown.variance
