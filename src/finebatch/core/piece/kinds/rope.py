"""Ropes rolled by hand, baked straight, as rings or twisted."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.measures.figures import centimetres, millimetres
from finebatch.core.measures.figures import grams as in_grams
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.portioning import Grams, Making, Portioning
from finebatch.core.piece.kinds.says import MASS, Ask, Handle, Says, Way
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.lying import Lies
from finebatch.core.piece.portion import RawPiece, Rope
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import refuse

RopeForm = Literal["straight", "ring", "twist"]
TWIST_WIDTH, TWIST_LENGTH = 1.7, 0.45
"""A rope folded and twisted is about this many ropes wide, and this share of its length long."""
ROPES_G = (10.0, 15.0, 20.0, 25.0, 30.0)


_FORMS: Mapping[RopeForm, str] = {
    "straight": "straight",
    "ring": "a ring",
    "twist": "twisted",
}


@dataclass(frozen=True, slots=True)
class RopeBaked(Making):
    """How thick to roll the rope, and the piece it makes, baked; `hole_mm` of a ring."""

    rope_mm: float
    across_mm: float
    down_mm: float
    hole_mm: float | None
    kind: Literal["rope"] = "rope"


@dataclass(frozen=True, slots=True)
class Roped(Portioning):
    """A rope of so many grams and so long, baked straight, as a ring or twisted."""

    NEEDED = ("kind", "grams", "length_mm")
    SAYS = Says(
        "ropes and rings", tab="Rope", across="rope baked", whole="piece", work="Roll and form"
    )
    HANDLES = (
        replace(MASS, range=(10, 60)),
        Handle("length_mm", "Length on the ruler", "Length of the rope", "mm", (60, 300), 5),
    )
    ASKS = (
        Ask(
            "form",
            "Baked",
            "choice",
            "",
            ways=tuple(Way(form, label) for form, label in _FORMS.items()),
        ),
    )

    grams: Grams = 25.0
    length_mm: Annotated[float, Interval(ge=20, le=600)] = 140.0
    form: RopeForm = "straight"
    kind: Literal["rope"] = "rope"

    def portion(self, lot: Lot) -> Rope:
        return Rope(self.grams, self.length_mm)

    def weighing(self, grams: float, lot: Lot) -> "Roped":
        return replace(self, grams=grams)

    def wider(self, by: float) -> "Roped":
        return replace(self, grams=self.grams * by)

    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, "Roped"]]:
        return [(in_grams(g), replace(self, grams=g)) for g in ROPES_G]

    def making(self, found: Foreseen) -> RopeBaked:
        return self.close(found.raw, found.width.middle_mm)

    def _piece(self, rope_mm: float, grows_mm: float) -> tuple[float, float]:
        """Across and down of the piece that a rope so thick makes, grown so much in width."""
        match self.form:
            case "straight":
                return self.length_mm + 0.5 * grows_mm, rope_mm
            case "twist":
                return TWIST_LENGTH * self.length_mm + 0.5 * grows_mm, TWIST_WIDTH * rope_mm
            case "ring":
                outer = self.length_mm / math.pi + rope_mm
                return outer, outer

    def worked(self) -> str:
        form = "" if self.form == "straight" else f", each {_FORMS[self.form]}"
        return f"ropes of {centimetres(self.length_mm)}{form}"

    def close(self, raw: RawPiece, baked_width_mm: float) -> RopeBaked:
        """Finished size of a straight rope, a ring or a twist; `Refusal` for a ring that bakes
        shut."""
        across, down = self._piece(baked_width_mm, baked_width_mm - raw.width_mm)
        hole = None
        if self.form == "ring":
            hole = self.length_mm / math.pi - baked_width_mm
            if hole <= 0:
                need = math.pi * (baked_width_mm + 5)
                raise refuse(
                    "length_mm",
                    f"The ring would bake shut. Roll the rope at least {millimetres(need)} long, "
                    "or "
                    "take less dough.",
                )
        return RopeBaked(raw.width_mm, across, down, hole)

    def lies(self, raw: RawPiece, width_mm: float) -> Lies:
        baked = self.close(raw, width_mm)
        outline: Literal["ring", "log"] = "ring" if self.form == "ring" else "log"
        size = (baked.across_mm, baked.down_mm)
        return Lies(outline, self._piece(raw.width_mm, 0.0), size, baked.hole_mm)
