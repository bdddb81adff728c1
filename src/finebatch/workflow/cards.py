"""Cards as the data file keeps them: documents that read back the same."""

from typing import Any

from pydantic import TypeAdapter

from finebatch.core.formula.dough import Card
from finebatch.core.formula.limits import within

CARD = TypeAdapter(Card)


def card_of(document: dict[str, Any]) -> Card:
    """The card that a document holds, brought within what a card can hold where an earlier version
    kept it without looking."""
    return within(CARD.validate_python(document))


def document_of(card: Card) -> dict[str, Any]:
    """A card as the data file keeps it."""
    document: dict[str, Any] = CARD.dump_python(card, mode="json")
    return document
