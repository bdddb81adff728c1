"""Checks that deserve to be believed: none on ordinary cards, and slips found nine times in ten."""

import pytest

from finebatch.core.formula.balance import balance
from finebatch.core.formula.checks.check import Check
from finebatch.core.formula.checks.method import ForeseenPiece
from finebatch.core.formula.dough import Card, Line, WeighedDough
from finebatch.core.formula.judge_cards import CardCase, UnderstoodCard, understand
from finebatch.core.formula.weigh import weigh
from finebatch.core.measures.figures import read_in
from finebatch.facts import formula, tables
from finebatch.workflow.dough.from_card import foreseen_piece
from finebatch.workflow.kitchen.equipment import usual_kitchen
from tests.ordinary import CARDS, PLANTED, SAYS

LARDER = tables.larder()
FACTS = formula.checking(tables.reader())


def foreseen(card: Card, weighed: WeighedDough) -> ForeseenPiece | None:
    return foreseen_piece(card, weighed, usual_kitchen(), LARDER)


def read(text: str) -> UnderstoodCard:
    return understand(CardCase("card", text), FACTS, foreseen)


@pytest.mark.parametrize("name", CARDS)
def test_an_ordinary_card_raises_no_alarm_and_few_questions(name: str) -> None:
    found = read(CARDS[name])
    assert [check.evidence for check in found.checks] == []
    assert len(found.asked) <= 2


@pytest.mark.parametrize("name", SAYS)
def test_what_an_ordinary_card_says_is_taken_from_it(name: str) -> None:
    found = read(CARDS[name])
    for field, wanted in SAYS[name].items():
        place = (
            found
            if field == "dough_g"
            else found.says
            if hasattr(found.says, field)
            else found.card
        )
        have = getattr(place, field)
        if isinstance(wanted, float | int) and not isinstance(wanted, bool):
            assert have == pytest.approx(wanted, abs=0.6), field
        else:
            assert have == wanted, field


def test_planted_errors_are_found_nine_times_in_ten() -> None:
    assert len(PLANTED) >= 30
    missed = []
    for card, old, new, alarm in PLANTED:
        assert old in CARDS[card]
        if alarm not in read(CARDS[card].replace(old, new, 1)).alarms:
            missed.append((card, new, alarm))
    assert len(missed) <= len(PLANTED) // 10, missed


def test_nine_ordinary_doughs_of_ten_are_in_balance() -> None:
    out = []
    for name, text in CARDS.items():
        card = read(text).card
        known = weigh(card.lines, LARDER).known_g()
        of_larder = {key: g for key, g in known.items() if key in LARDER}
        found = balance(
            of_larder, card.family, LARDER, formula.bands(), formula.soda_per_g()
        ).standings
        out += [name] * any(standing.out for standing in found)
    assert len(out) <= len(CARDS) // 10, out


def lines(*of: tuple[str, str, str]) -> tuple[Line, ...]:
    return tuple(Line(amount, unit, key) for amount, unit, key in of)  # type: ignore[arg-type]


PLAIN = (
    ("250", "g", "flour_ap"),
    ("150", "g", "butter_unsalted"),
    ("120", "g", "sugar_white"),
    ("1", "egg", "egg_whole"),
)


def only(*of: tuple[str, str, str]) -> Check:
    card = Card("Plain", "drop", "creamed", lines(*of))
    (found,) = _checks(card)
    return found


def _checks(card: Card) -> list[Check]:
    from finebatch.core.formula.checks.run import cross_check

    return cross_check(card, weigh(card.lines, LARDER), FACTS, None)


def test_a_mend_shows_what_stands_there_before_and_after() -> None:
    found = only(PLAIN[0], ("1500", "g", "butter_unsalted"), *PLAIN[2:])
    assert found.mend is not None
    assert (found.mend.amount, found.mend.unit, found.mend.tenfold) == ("150", "g", True)
    assert read_in(found.mend.before or "") == "1500 g, 1500 g"
    assert read_in(found.mend.after or "") == "150 g, 150 g"


def test_a_wrong_unit_is_mended_at_once_and_an_even_chance_goes_to_it() -> None:
    found = only(PLAIN[0], ("150", "oz", "butter_unsalted"), *PLAIN[2:])
    assert found.key.startswith("units:")
    assert found.mend is not None
    assert (found.mend.amount, found.mend.unit, found.mend.tenfold) == ("150", "g", False)
    small = only(("250", "oz", "flour_ap"), *PLAIN[1:])
    assert small.mend is not None
    assert (small.mend.amount, small.mend.unit) == ("250", "g")


def test_a_line_that_stands_there_twice_can_be_taken_out() -> None:
    found = only(*PLAIN, PLAIN[3])
    assert found.title == "The whole egg stands there twice"
    assert found.mend is not None
    assert (found.mend.line, found.mend.remove) == (4, True)
    other = Card("Plain", "drop", "creamed", lines(*PLAIN, ("2", "egg", "egg_whole")))
    assert _checks(other) == []


def test_soda_is_judged_beside_the_acid_that_takes_it_up() -> None:
    soda = ("2", "tsp", "baking_soda")
    found = only(*PLAIN, soda)
    assert found.title == "Too much baking soda"
    sour = Card("Plain", "drop", "creamed", lines(*PLAIN, soda, ("250", "g", "buttermilk")))
    assert _checks(sour) == []


def test_a_lace_is_no_slip() -> None:
    lace = lines(
        ("20", "g", "flour_ap"),
        ("100", "g", "butter_unsalted"),
        ("150", "g", "sugar_white"),
        ("30", "g", "golden_syrup"),
    )
    assert _checks(Card("Lace", "drop", "melted", lace)) == []
