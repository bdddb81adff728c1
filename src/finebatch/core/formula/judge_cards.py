"""Whole cards as understood, and which of the checks they raise: what `finebatch evaluate` says."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Len, MaxLen

from finebatch.core.formula.card_says import CardSays, card_of, says_of
from finebatch.core.formula.card_text import ReadCard, read_card
from finebatch.core.formula.checks.check import Check
from finebatch.core.formula.checks.method import ForeseenPiece
from finebatch.core.formula.checks.run import Facts, cross_check
from finebatch.core.formula.dough import Card, WeighedDough
from finebatch.core.formula.weigh import weigh

Alarm = Literal[
    "temperature",
    "volume_weight",
    "amount",
    "yield",
    "minutes",
    "unused",
    "unlisted",
    "units",
    "double",
]

_ALARMS: dict[str, Alarm] = {
    "oven": "temperature",
    "amounts": "volume_weight",
    "dose": "amount",
    "unused": "unused",
    "unlisted": "unlisted",
    "minutes": "minutes",
    "yield": "yield",
    "units": "units",
    "double": "double",
}


@dataclass(frozen=True, slots=True)
class CardCase:
    """A card as it was written."""

    id: Annotated[str, Len(1, 200)]
    text: Annotated[str, MaxLen(100_000)]


@dataclass(frozen=True, slots=True)
class UnderstoodCard:
    """A card as read: what it says, the mass of its dough alone in g, and the checks it raises."""

    id: str
    read: ReadCard
    card: Card
    says: CardSays
    dough_g: float
    checks: tuple[Check, ...]

    @property
    def alarms(self) -> list[Alarm]:
        """The kinds of the checks, each once."""
        return list(dict.fromkeys(_ALARMS[check.key.split(":", 1)[0]] for check in self.checks))

    @property
    def asked(self) -> list[str]:
        """The lines and fields that wait for an answer."""
        lines = [line.text for line in self.read.lines if line.asks]
        return [*lines, *self.says.asked]


def understand(
    case: CardCase,
    facts: Facts,
    foreseen: Callable[[Card, WeighedDough], ForeseenPiece | None] = lambda card, weighed: None,
) -> UnderstoodCard:
    """Read one card and say what is understood of it, with its piece `foreseen` where that can be;
    `Refusal` for one of too many lines."""
    read = read_card(case.text, facts.reader)
    card = card_of(read, read.title)
    weighed = weigh(card.lines, facts.reader.larder, facts.reader.measuring)
    checks = cross_check(card, weighed, facts, foreseen(card, weighed))
    return UnderstoodCard(case.id, read, card, says_of(card), weighed.total_g, tuple(checks))
