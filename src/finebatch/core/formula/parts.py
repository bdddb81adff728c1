"""Parts beside the dough: how much of a wash, filling or icing these pieces take."""

from collections.abc import Sequence
from dataclasses import dataclass

from finebatch.core.formula.dough import Part, WeighedDough
from finebatch.core.formula.weigh import weigh
from finebatch.core.larder.ingredient import Larder
from finebatch.core.larder.measuring import USUAL, Measuring


@dataclass(frozen=True, slots=True)
class PartNeed:
    """A part as written, what these pieces take of it, and the factor from one to the other."""

    weighed: WeighedDough
    need_g: float
    factor: float | None


def part_needs(
    parts: Sequence[Part], pieces: int, larder: Larder, measuring: Measuring = USUAL
) -> list[PartNeed]:
    """What `pieces` pieces take of each part; no factor while a part weighs nothing."""
    found = []
    for part in parts:
        weighed = weigh(part.lines, larder, measuring)
        need = part.per_piece_g * pieces
        found.append(PartNeed(weighed, need, need / weighed.total_g if weighed.total_g else None))
    return found
