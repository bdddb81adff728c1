"""What each kind of portioning asks of the baker, in answers. Lengths in mm, masses in g."""

from typing import Annotated, Literal

from pydantic import Field

from finebatch.core.piece.making import LogsCut, PanScored, RopeBaked, SlicesDried, WaferLimit
from finebatch.core.piece.slab import RolledOut, Slab
from finebatch.core.piece.tray import Making
from finebatch.web.types import Out


class CutOut(Out):
    """The middle of a cut on the slab, from its upper left corner."""

    x: float
    y: float


class SlabOut(Out):
    """A rectangle of rolled dough with its cuts."""

    across_mm: float
    down_mm: float
    rows: list[int]
    cuts: list[CutOut]


class PassOut(Out):
    """One rolling: how many slabs, the pieces they give, and the scraps left."""

    slabs: int
    slab: SlabOut
    pieces: int
    rest_g: float


class RolledMakingOut(Out):
    """The slabs to roll, pass by pass."""

    kind: Literal["rolled"] = "rolled"
    passes: list[PassOut]
    pieces: int
    flour_g: float
    rest_g: float


class LogsMakingOut(Out):
    """The logs to shape and slice."""

    kind: Literal["sliced"] = "sliced"
    lengths_mm: list[float]
    slices: list[int]
    ends_g: float
    rest_g: float


class SlicesMakingOut(Out):
    """One baked log in slices."""

    kind: Literal["twice_baked"] = "twice_baked"
    log_mm: float
    face_mm: float
    high_mm: float
    step_mm: float
    per_log: int
    lost_g: float
    slice_g: float
    dried_g: float


class PanMakingOut(Out):
    """Pans to fill and score."""

    kind: Literal["pan"] = "pan"
    pans: int
    full_g: float
    pieces: int
    across_mm: float
    down_mm: float
    piece_g: float


class RopeMakingOut(Out):
    """How thick to roll the rope and how large it bakes."""

    kind: Literal["rope"] = "rope"
    rope_mm: float
    across_mm: float
    down_mm: float
    hole_mm: float | None


class WaferMakingOut(Out):
    """The most on a tray that can be shaped in time."""

    kind: Literal["wafer"] = "wafer"
    by_hand: int
    soft_s: float
    each_s: float


MakingOut = Annotated[
    RolledMakingOut
    | LogsMakingOut
    | SlicesMakingOut
    | PanMakingOut
    | RopeMakingOut
    | WaferMakingOut,
    Field(discriminator="kind"),
]


def _slab_out(slab: Slab) -> SlabOut:
    return SlabOut(
        across_mm=slab.across_mm, down_mm=slab.down_mm, rows=list(slab.rows),
        cuts=[CutOut(x=x, y=y) for x, y in slab.cuts],
    )  # fmt: skip


def making_out(making: Making | None) -> MakingOut | None:
    """What is to be made, as the API gives it."""
    match making:
        case None:
            return None
        case RolledOut():
            passes = [
                PassOut(slabs=p.slabs, slab=_slab_out(p.slab), pieces=p.pieces, rest_g=p.rest_g)
                for p in making.passes
            ]
            return RolledMakingOut(
                passes=passes, pieces=making.pieces, flour_g=making.flour_g, rest_g=making.rest_g
            )
        case LogsCut():
            return LogsMakingOut.model_validate(making)
        case SlicesDried():
            return SlicesMakingOut.model_validate(making)
        case PanScored():
            return PanMakingOut.model_validate(making)
        case RopeBaked():
            return RopeMakingOut.model_validate(making)
        case WaferLimit():
            return WaferMakingOut.model_validate(making)
