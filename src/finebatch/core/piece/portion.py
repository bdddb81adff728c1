"""The raw piece: how a portion of dough lies on the sheet before it bakes."""

import math
from dataclasses import dataclass
from typing import Literal

from finebatch.core.measures.figures import grams as in_grams
from finebatch.core.measures.figures import grams_between, length_between, millimetres
from finebatch.core.refusal import refuse
from finebatch.core.values import Tells

MassShape = Literal["ball", "rough_mound", "flattened"]

MIN_PIECE_G, MAX_PIECE_G = 2.0, 400.0
MAX_LOG_G = 3000.0
MAX_WIDTH_MM = 600.0


@dataclass(frozen=True, slots=True)
class MassPortion:
    """A weighed piece: a ball, a rough mound, or pressed flat to `diameter_mm`."""

    grams: float
    shape: MassShape = "ball"
    diameter_mm: float | None = None


@dataclass(frozen=True, slots=True)
class CutDisc:
    """A round cut from a rolled slab."""

    diameter_mm: float
    thickness_mm: float


@dataclass(frozen=True, slots=True)
class Cut:
    """A piece cut from a slab with any cutter: its bounding box and its area."""

    across_mm: float
    down_mm: float
    area_mm2: float
    thickness_mm: float


@dataclass(frozen=True, slots=True)
class LogSlice:
    """A slice of a chilled log."""

    diameter_mm: float
    thickness_mm: float


@dataclass(frozen=True, slots=True)
class Log:
    """A whole log, baked in one and sliced afterwards."""

    length_mm: float
    width_mm: float
    grams: float


@dataclass(frozen=True, slots=True)
class Rope:
    """A rope rolled by hand, baked straight, or `bent` to a ring, twisted and so on."""

    grams: float
    length_mm: float
    bent: bool = False


@dataclass(frozen=True, slots=True)
class PanFill:
    """Dough pressed into a pan, which holds it where it is."""

    across_mm: float
    down_mm: float
    area_mm2: float
    thickness_mm: float


@dataclass(frozen=True, slots=True)
class SlabPortion:
    """A rectangle of dough on its paper, baked in one."""

    across_mm: float
    down_mm: float
    thickness_mm: float


Portion = MassPortion | CutDisc | Cut | LogSlice | Log | Rope | PanFill | SlabPortion

RawForm = Literal["mound", "disc", "log", "rope", "pan", "slab"]

EDGE_MM = 60.0
"""Of a slab only the edges flow, as those of a disc that is so wide and as thick do."""


@dataclass(frozen=True, slots=True)
class RawPiece(Tells):
    """Raw geometry: mm, cm³ and grams. `length_mm` is set for logs and ropes only.

    `flat` tells a disc with an upright edge from a mound that the oven turns into a dome. A piece
    that is not round flows like the round one of the same area, `width_mm` wide; its own sides
    are `beyond_mm` longer (across) and `beyond_down_mm` (down) than that. A rope that does not lie
    straight is `bent`.
    """

    grams: float
    volume_cm3: float
    width_mm: float
    height_mm: float
    flat: bool
    length_mm: float | None = None
    form: RawForm = "mound"
    beyond_mm: float = 0.0
    beyond_down_mm: float = 0.0
    bent: bool = False

    TOLD = (
        "across_mm",
        "down_mm",
    )

    @property
    def across_mm(self) -> float:
        """Its own width in mm as it lies on the sheet."""
        return self.width_mm + self.beyond_mm

    @property
    def down_mm(self) -> float | None:
        """Its own length in mm as it lies on the sheet; None for logs and ropes."""
        return None if self.length_mm is not None else self.width_mm + self.beyond_down_mm

    @property
    def edge(self) -> "RawPiece":
        """The piece that flows as this one's edges do: of a slab a disc as thick, else itself."""
        if self.form != "slab":
            return self
        volume = disc_volume_cm3(EDGE_MM, self.height_mm)
        of_it = volume / self.volume_cm3
        return RawPiece(self.grams * of_it, volume, EDGE_MM, self.height_mm, flat=True, form="disc")

    @property
    def section_cm2(self) -> float:
        """Cross-section of a log in cm²."""
        if self.length_mm is None:
            raise TypeError("only a log has a cross-section")
        return self.volume_cm3 / (self.length_mm / 10)


def disc_volume_cm3(diameter_mm: float, thickness_mm: float) -> float:
    """Volume in cm³ of a disc measured in mm."""
    return math.pi / 4 * diameter_mm**2 * thickness_mm / 1000


def ball_volume_cm3(across_mm: float) -> float:
    """Volume in cm³ of a ball measured in mm."""
    return math.pi / 6 * (across_mm / 10) ** 3


def ball_across_mm(volume_cm3: float) -> float:
    """How wide a ball of that volume is, in mm."""
    across: float = 10 * (6 * max(volume_cm3, 0.0) / math.pi) ** (1 / 3)
    return across


def rope_across_mm(volume_cm3: float, length_mm: float) -> float:
    """How thick a rope of that volume and length is, in mm."""
    return 20 * math.sqrt(max(volume_cm3, 0.0) / (length_mm / 10) / math.pi)


def disc_thickness_mm(volume_cm3: float, diameter_mm: float) -> float:
    """Thickness in mm of a disc of that volume and diameter."""
    return 1000 * volume_cm3 / (math.pi / 4 * diameter_mm**2)


def disc_diameter_mm(volume_cm3: float, thickness_mm: float) -> float:
    """Diameter in mm of a disc of that volume and thickness."""
    return math.sqrt(1000 * volume_cm3 / (math.pi / 4 * thickness_mm))


def _flat(
    across: float, down: float, area_mm2: float, thickness: float, density: float, form: RawForm
) -> RawPiece:
    """A flat piece of any outline, as the round one of its area."""
    round_mm = math.sqrt(4 * area_mm2 / math.pi)
    volume = area_mm2 * thickness / 1000
    return RawPiece(
        volume * density,
        volume,
        round_mm,
        thickness,
        True,
        None,
        form,
        across - round_mm,
        down - round_mm,
    )


def _check(grams: float, width_mm: float, most_g: float) -> None:
    if not MIN_PIECE_G <= grams <= most_g:
        message = f"{grams_between(MIN_PIECE_G, most_g)} a piece; this one is {in_grams(grams)}."
        raise refuse("grams", message)
    if not 5 <= width_mm <= MAX_WIDTH_MM:
        message = f"{length_between(5, MAX_WIDTH_MM, small=True)} across; this one is "
        message += f"{millimetres(width_mm, 1)}."
        raise refuse("diameter_mm", message)


def shape_piece(portion: Portion, density_g_cm3: float) -> RawPiece:
    """Work out the raw geometry of a portion of a dough of that density.

    Raises `Refusal` for a piece that no hand would make.
    """
    match portion:
        case MassPortion(grams, shape, diameter_mm):
            volume = grams / density_g_cm3
            ball_mm = ball_across_mm(volume)
            if shape == "flattened":
                width = diameter_mm or 1.25 * ball_mm
                raw = RawPiece(grams, volume, width, disc_thickness_mm(volume, width), flat=False)
            else:
                raw = RawPiece(grams, volume, ball_mm, ball_mm, flat=False)
            _check(raw.grams, raw.width_mm, MAX_PIECE_G)
        case CutDisc(diameter, thickness) | LogSlice(diameter, thickness):
            volume = disc_volume_cm3(diameter, thickness)
            raw = RawPiece(
                volume * density_g_cm3, volume, diameter, thickness, flat=True, form="disc"
            )
            _check(raw.grams, raw.width_mm, MAX_PIECE_G)
        case Cut(across, down, area, thickness):
            raw = _flat(across, down, area, thickness, density_g_cm3, "disc")
            _check(raw.grams, raw.width_mm, MAX_PIECE_G)
            if thickness > min(across, down):
                message = f"The slab is {millimetres(thickness, 1)} thick and the cutter only "
                message += f"{millimetres(min(across, down), 1)} across; roll it thinner than that."
                raise refuse("thickness_mm", message)
        case PanFill(across, down, area, thickness):
            raw = _flat(across, down, area, thickness, density_g_cm3, "pan")
        case SlabPortion(across, down, thickness):
            raw = _flat(across, down, across * down, thickness, density_g_cm3, "slab")
        case Rope(grams, length, bent):
            volume = grams / density_g_cm3
            width = rope_across_mm(volume, length)
            raw = RawPiece(grams, volume, width, width, False, length, "rope", bent=bent)
            _check(raw.grams, max(raw.width_mm, 5.0), MAX_PIECE_G)
            if width > length / 2:
                message = f"{in_grams(grams)} make a rope at least {millimetres(4 * width)} long; "
                raise refuse("length_mm", f"{message}{millimetres(length)} would be a lump.")
        case Log(length, width, grams):
            volume = grams / density_g_cm3
            height = 1000 * volume / (length * width * SHAPED_FILL)
            raw = RawPiece(grams, volume, width, height, False, length, "log")
            _check(raw.grams, raw.width_mm, MAX_LOG_G)
            if not 50 <= length <= MAX_WIDTH_MM:
                message = f"A log is {length_between(50, MAX_WIDTH_MM)} long."
                raise refuse("length_mm", message)
    return raw


SHAPED_FILL = 0.85
"""A hand-shaped log fills about this share of its width times height (between half round and
box)."""
