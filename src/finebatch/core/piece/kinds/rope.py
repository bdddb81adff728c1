"""Ropes rolled by hand, baked straight or bent to a form."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.measures.figures import centimetres, millimetres
from finebatch.core.measures.figures import grams as in_grams
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.portioning import Drawn, Grams, Making, Portioning
from finebatch.core.piece.kinds.says import MASS, Ask, Handle, Says, Way
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.lying import Lies, Outline
from finebatch.core.piece.outlines import around, fitted
from finebatch.core.piece.paper import Role
from finebatch.core.piece.portion import MassPortion, RawPiece, Rope, rope_across_mm
from finebatch.core.piece.rope_line import (
    TWIST_LENGTH,
    TWIST_WIDTH,
    RopeForm,
    box_of,
    rope_line,
    rope_portion,
)
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import refuse
from finebatch.core.values import Point

ROPES_G = (10.0, 15.0, 20.0, 25.0, 30.0)


_FORMS: Mapping[RopeForm, str] = {
    "straight": "straight",
    "ring": "a ring",
    "twist": "twisted",
    "spiral": "a spiral",
    "bow": "a bow",
    "s": "an S",
    "crossed": "crossed",
}


@dataclass(frozen=True, slots=True)
class RopeBaked(Making):
    """How thick to roll the rope, and the piece it makes, baked; `hole_mm` of a ring. `line` is the
    middle of the rope as it is laid, `half` as the hands have it on the way, from the piece's upper
    left corner (mm); baked the rope is `baked_mm` thick."""

    rope_mm: float
    baked_mm: float
    line: tuple[Point, ...]
    half: tuple[Point, ...]
    across_mm: float
    down_mm: float
    hole_mm: float | None
    kind: Literal["rope"] = "rope"


@dataclass(frozen=True, slots=True)
class Roped(Portioning):
    """A rope of so many grams and so long, baked straight or bent to a form."""

    NEEDED = ("kind", "grams", "length_mm")
    SAYS = Says(
        "ropes and rings",
        tab="Rope",
        across="rope baked",
        measured="How wide is the rope itself, baked",
        by_photo=False,
        whole="piece",
        work="Roll and form",
        also_field="form",
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

    def portion(self, lot: Lot) -> Rope | MassPortion:
        return rope_portion(self.grams, self.length_mm, self.form, lot.density_g_cm3)

    def weighing(self, grams: float, lot: Lot) -> "Roped":
        return replace(self, grams=grams)

    def wider(self, by: float) -> "Roped":
        return replace(self, grams=self.grams * by)

    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, "Roped"]]:
        return [(in_grams(g), replace(self, grams=g)) for g in ROPES_G]

    def making(self, found: Foreseen) -> RopeBaked:
        return self.close(found.raw, found.width.middle_mm)

    def _piece(self, strand_mm: float, grows_mm: float) -> tuple[float, float]:
        """Across and down of the piece that a rope so thick makes, grown so much in width."""
        match self.form:
            case "straight":
                return self.length_mm + 0.5 * grows_mm, strand_mm + grows_mm
            case "twist":
                long = TWIST_LENGTH * self.length_mm
                return long + 0.5 * grows_mm, TWIST_WIDTH * strand_mm + grows_mm
            case "ring":
                outer = self.length_mm / math.pi + strand_mm + grows_mm
                return outer, outer
            case _:
                line = rope_line(self.form, self.length_mm, strand_mm)
                across, down = box_of(line, strand_mm)
                return across + grows_mm, down + grows_mm

    def bent(self, form: RopeForm) -> "Roped":
        return replace(self, form=form)

    def worked(self) -> str:
        form = "" if self.form == "straight" else f", each {_FORMS[self.form]}"
        return f"ropes of {centimetres(self.length_mm)}{form}"

    def close(self, raw: RawPiece, baked_width_mm: float) -> RopeBaked:
        """Finished size of what the rope is bent to; `Refusal` for a ring that bakes shut."""
        strand = rope_across_mm(raw.volume_cm3, self.length_mm)
        grows = baked_width_mm - raw.width_mm
        across, down = self._piece(strand, grows)
        hole = None
        if self.form == "ring":
            hole = self.length_mm / math.pi - strand - grows
            if hole <= 0:
                need = math.pi * (strand + grows + 5)
                raise refuse(
                    "length_mm",
                    f"The ring would bake shut. Roll the rope at least {millimetres(need)} long, "
                    "or take less dough.",
                )
        return RopeBaked(
            strand,
            strand + grows,
            rope_line(self.form, self.length_mm, strand),
            rope_line(self.form, self.length_mm, strand, half=True),
            across,
            down,
            hole,
        )

    def outlines(self, raw: RawPiece, width_mm: float) -> Mapping[Role, Drawn]:
        """The rope as it is laid and as it bakes, and the line along which it is laid."""
        if self.form == "straight":
            return Portioning.outlines(self, raw, width_mm)
        made = self.close(raw, width_mm)
        lying, baked = self._piece(made.rope_mm, 0.0), (made.across_mm, made.down_mm)
        line = tuple((x - lying[0] / 2, y - lying[1] / 2) for x, y in made.line)
        # The coils of a spiral bake into one round piece.
        rim = () if self.form == "spiral" else fitted(around(made.line, made.baked_mm), baked)
        return {
            "raw": (lying, fitted(around(made.line, made.rope_mm), lying)),
            "line": (lying, (line,)),
            "baked": (baked, rim),
        }

    def lies(self, raw: RawPiece, width_mm: float) -> Lies:
        baked = self.close(raw, width_mm)
        outline: Outline = "ring" if self.form == "ring" else "log"
        if self.form == "spiral":
            outline = "round"
        size = (baked.across_mm, baked.down_mm)
        return Lies(outline, self._piece(baked.rope_mm, 0.0), size, baked.hole_mm)
