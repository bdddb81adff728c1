"""A dough to begin from: a card as it would be pasted, and what no card tells."""

from dataclasses import dataclass

from finebatch.core.formula.dough import Family, Mixing
from finebatch.core.piece.kinds.every import AnyKind


@dataclass(frozen=True, slots=True)
class BaseDough:
    """A card's text, and the family, mixing and portion that it is meant for."""

    key: str
    family: Family
    mixing: Mixing
    piece: AnyKind
    text: str
