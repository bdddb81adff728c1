"""The kinds of portioning: what a baker sets for each, and the raw piece that follows.

Lengths in mm, masses in g, the way they are kept and sent.
"""

import math
from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace
from typing import Annotated, Any, Literal

from annotated_types import Interval

from finebatch.core.piece.portion import (
    Cut,
    CutDisc,
    Log,
    LogSlice,
    MassPortion,
    PanFill,
    Portion,
    Rope,
    disc_diameter_mm,
    shape_piece,
)
from finebatch.core.refusal import refuse
from finebatch.core.values import FromOutside, OneOfKinds

DropShape = Literal["ball", "left", "tapped", "pressed", "dented"]
CutterShape = Literal["round", "square", "rectangle", "hexagon", "own"]
PanShape = Literal["round", "square", "rectangle"]
RopeForm = Literal["straight", "ring", "twist"]

Grams = Annotated[float, Interval(gt=0, le=5000)]
OnTop = Annotated[float, Interval(ge=0, le=200)]
Thickness = Annotated[float, Interval(ge=1, le=60)]

HEAPED = 1.2
"""A rounded scoop holds about a fifth more than a level one (household trials)."""
TAPPED, DENTED = 1.15, 1.25
"""A tapped ball is about this many times as wide as the ball, a dented one as this."""
TWIST_WIDTH, TWIST_LENGTH = 1.7, 0.45
"""A rope folded and twisted is about this many ropes wide, and this share of its length long."""


@dataclass(frozen=True, slots=True)
class Cutter(FromOutside):
    """A cutter by its bounding box; `area_cm2` is needed for an outline of its own only."""

    NEEDED = ("shape", "across_mm", "down_mm")

    shape: CutterShape = "round"
    across_mm: Annotated[float, Interval(ge=8, le=300)] = 60.0
    down_mm: Annotated[float, Interval(ge=8, le=300)] = 60.0
    area_cm2: Annotated[float, Interval(gt=0, le=900)] | None = None

    @property
    def box_mm(self) -> tuple[float, float]:
        """Across and down, in mm, of the box around it."""
        match self.shape:
            case "round" | "square":
                return self.across_mm, self.across_mm
            case "hexagon":
                return self.across_mm, self.across_mm * 2 / math.sqrt(3)
            case "rectangle" | "own":
                return self.across_mm, self.down_mm

    @property
    def area_mm2(self) -> float:
        """What it cuts out, in mm²; `Refusal` when its own outline is not known or too large."""
        across, down = self.box_mm
        match self.shape:
            case "round":
                return math.pi / 4 * across**2
            case "hexagon":
                return math.sqrt(3) / 2 * across**2
            case "square" | "rectangle":
                return across * down
            case "own":
                most = across * down / 100
                if self.area_cm2 is None or not 0 < self.area_cm2 <= most:
                    raise refuse(
                        "cutter.area_cm2",
                        f"Its box is {most:.1f} cm²; say what it cuts out of that, for a leaf or "
                        f"heart about {0.65 * most:.0f} cm².",
                    )
                return 100 * self.area_cm2


@dataclass(frozen=True, slots=True)
class Drop(FromOutside):
    """A piece by its mass, or by a scoop; then left, tapped, pressed or dented.

    `filling_g`, `coat_g` and `topping_g` come on top of the dough of each piece.
    """

    NEEDED = ("kind", "grams")

    grams: Grams = 28.0
    shape: DropShape = "ball"
    scoop_ml: Annotated[float, Interval(gt=0, le=500)] | None = None
    heaped: bool = False
    press_mm: Annotated[float, Interval(ge=3, le=60)] = 12.0
    filling_g: OnTop = 0.0
    coat_g: OnTop = 0.0
    topping_g: OnTop = 0.0
    kind: Literal["drop"] = "drop"


@dataclass(frozen=True, slots=True)
class Rolled(FromOutside):
    """A slab, rolled in parts, with a cutter and a web between cuts; scraps are rolled again."""

    NEEDED = ("kind", "thickness_mm", "cutter")

    thickness_mm: Thickness = 5.0
    cutter: Cutter = field(default_factory=Cutter)
    web_mm: Annotated[float, Interval(ge=0, le=30)] = 3.0
    parts: Annotated[int, Interval(ge=1, le=8)] = 2
    staggered: bool = True
    papers: bool = False
    kind: Literal["rolled"] = "rolled"


@dataclass(frozen=True, slots=True)
class Sliced(FromOutside):
    """Logs of one diameter, none longer than the shelf, cut in slices; the ends are trimmed."""

    NEEDED = ("kind", "log_diameter_mm", "thickness_mm")

    log_diameter_mm: Annotated[float, Interval(ge=10, le=150)] = 50.0
    thickness_mm: Thickness = 7.0
    ends_mm: Annotated[float, Interval(ge=0, le=50)] = 4.0
    longest_mm: Annotated[float, Interval(ge=80, le=600)] = 300.0
    kind: Literal["sliced"] = "sliced"


@dataclass(frozen=True, slots=True)
class Pan(FromOutside):
    """Pressed in a pan with walls, scored in a grid (across by down), or a round one in wedges."""

    NEEDED = ("kind", "shape", "across_mm", "down_mm", "wall_mm", "thickness_mm")

    shape: PanShape = "square"
    across_mm: Annotated[float, Interval(ge=60, le=600)] = 200.0
    down_mm: Annotated[float, Interval(ge=60, le=600)] = 200.0
    wall_mm: Annotated[float, Interval(ge=5, le=150)] = 40.0
    thickness_mm: Thickness = 12.0
    scored_across: Annotated[int, Interval(ge=1, le=30)] = 4
    scored_down: Annotated[int, Interval(ge=1, le=30)] = 5
    wedges: Annotated[int, Interval(ge=2, le=32)] = 8
    kind: Literal["pan"] = "pan"

    @property
    def box_mm(self) -> tuple[float, float]:
        """Across and down, in mm."""
        return self.across_mm, self.down_mm if self.shape == "rectangle" else self.across_mm

    @property
    def area_mm2(self) -> float:
        """The floor of the pan in mm²."""
        across, down = self.box_mm
        return math.pi / 4 * across**2 if self.shape == "round" else across * down

    @property
    def pieces(self) -> int:
        """Pieces scored in one pan."""
        return self.wedges if self.shape == "round" else self.scored_across * self.scored_down


@dataclass(frozen=True, slots=True)
class Roped(FromOutside):
    """A rope of so many grams and so long, baked straight, as a ring or twisted."""

    NEEDED = ("kind", "grams", "length_mm")

    grams: Grams = 25.0
    length_mm: Annotated[float, Interval(ge=20, le=600)] = 140.0
    form: RopeForm = "straight"
    kind: Literal["rope"] = "rope"


@dataclass(frozen=True, slots=True)
class TwiceBaked(FromOutside):
    """Logs baked whole, then sliced `lean_deg` away from straight across, and dried."""

    NEEDED = ("kind", "grams", "length_mm", "width_mm")

    grams: Grams = 375.0
    length_mm: Annotated[float, Interval(ge=50, le=600)] = 300.0
    width_mm: Annotated[float, Interval(ge=15, le=200)] = 55.0
    slice_mm: Annotated[float, Interval(ge=4, le=60)] = 13.0
    lean_deg: Annotated[float, Interval(ge=0, le=90)] = 0.0
    kind: Literal["twice_baked"] = "twice_baked"


@dataclass(frozen=True, slots=True)
class Wafer(FromOutside):
    """A level spoonful spread flat, shaped while hot: soft for so long, each takes so long."""

    NEEDED = ("kind", "grams", "spread_mm")

    grams: Grams = 7.0
    spread_mm: Annotated[float, Interval(ge=20, le=250)] = 70.0
    soft_s: Annotated[float, Interval(ge=5, le=600)] = 75.0
    shape_s: Annotated[float, Interval(ge=1, le=600)] = 12.0
    kind: Literal["wafer"] = "wafer"


Kind = Literal["drop", "rolled", "sliced", "pan", "rope", "twice_baked", "wafer"]
Portioning = Drop | Rolled | Sliced | Pan | Roped | TwiceBaked | Wafer
AnyKind = Annotated[Portioning, OneOfKinds()]
"""The same, read by the kind that is named."""

KINDS: Mapping[Kind, type[Portioning]] = {
    "drop": Drop,
    "rolled": Rolled,
    "sliced": Sliced,
    "pan": Pan,
    "rope": Roped,
    "twice_baked": TwiceBaked,
    "wafer": Wafer,
}


def over_usual(told: Mapping[str, Any]) -> dict[str, Any]:
    """The usual settings of a kind with those that are told in their place."""
    return {**asdict(KINDS[told["kind"]]()), **told}


def _drop(drop: Drop, density: float) -> MassPortion:
    grams = drop.grams
    if drop.scoop_ml is not None:
        grams = drop.scoop_ml * density * (HEAPED if drop.heaped else 1.0)
    volume = max(grams, 0.001) / density
    ball_mm = 10 * (6 * volume / math.pi) ** (1 / 3)
    match drop.shape:
        case "ball":
            return MassPortion(grams)
        case "left":
            return MassPortion(grams, "rough_mound")
        case "tapped":
            return MassPortion(grams, "flattened", TAPPED * ball_mm)
        case "dented":
            return MassPortion(grams, "flattened", DENTED * ball_mm)
        case "pressed":
            if drop.press_mm >= ball_mm:
                message = f"The ball is {ball_mm:.0f} mm high; press it to less than that."
                raise refuse("press_mm", message)
            return MassPortion(grams, "flattened", disc_diameter_mm(volume, drop.press_mm))


def portion(piece: Portioning, density_g_cm3: float) -> Portion:
    """The portion that these settings make of a dough of that density."""
    match piece:
        case Drop():
            return _drop(piece, density_g_cm3)
        case Rolled(thickness, cutter):
            if cutter.shape == "round":
                return CutDisc(cutter.across_mm, thickness)
            across, down = cutter.box_mm
            return Cut(across, down, cutter.area_mm2, thickness)
        case Sliced():
            return LogSlice(piece.log_diameter_mm, piece.thickness_mm)
        case Pan():
            if piece.thickness_mm > piece.wall_mm:
                raise refuse(
                    "thickness_mm",
                    f"The pan is {piece.wall_mm:g} mm deep; fill it to that at most, and lower "
                    "if the dough rises.",
                )
            across, down = piece.box_mm
            return PanFill(across, down, piece.area_mm2, piece.thickness_mm)
        case Roped():
            return Rope(piece.grams, piece.length_mm)
        case TwiceBaked():
            return Log(piece.length_mm, piece.width_mm, piece.grams)
        case Wafer():
            return MassPortion(piece.grams, "flattened", piece.spread_mm)


def batch_grams(piece: Portioning, density_g_cm3: float) -> float:
    """Grams of dough that one piece takes; for a pan all that it holds, for logs one of them."""
    return shape_piece(portion(piece, density_g_cm3), density_g_cm3).grams


def with_grams(piece: Portioning, grams: float, density_g_cm3: float) -> Portioning:
    """The same portioning with pieces of that mass: the handle that a baker would move.

    Cutters grow or shrink in proportion, slices become thicker, a pan is filled higher.
    """
    match piece:
        case Drop():
            return replace(piece, grams=grams, scoop_ml=None)
        case Roped() | TwiceBaked() | Wafer():
            return replace(piece, grams=grams)
        case Rolled(thickness, cutter):
            now = cutter.area_mm2 * thickness / 1000 * density_g_cm3
            by = math.sqrt(grams / now)
            area = cutter.area_cm2 * by**2 if cutter.area_cm2 is not None else None
            sized = replace(
                cutter, across_mm=cutter.across_mm * by, down_mm=cutter.down_mm * by, area_cm2=area
            )
            return replace(piece, cutter=sized)
        case Sliced() | Pan():
            now = batch_grams(piece, density_g_cm3)
            return replace(piece, thickness_mm=piece.thickness_mm * grams / now)
