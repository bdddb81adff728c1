"""A dough of a file, as it was read."""

from dataclasses import dataclass

from finebatch.core.formula.dough import Card


@dataclass(frozen=True, slots=True)
class ReadDough:
    """A card, and the names of what the file says that has no place on one."""

    card: Card
    left_out: tuple[str, ...] = ()
