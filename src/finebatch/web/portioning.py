"""The kinds of portioning in requests and answers. Lengths in mm, masses in g."""

from typing import Annotated, Literal

from pydantic import Field, TypeAdapter

from finebatch.core.piece.kinds import (
    Cutter,
    CutterShape,
    DropShape,
    Pan,
    PanShape,
    Portioning,
    RopeForm,
)
from finebatch.core.piece.tools import NamedCutter, Scoop
from finebatch.web.types import Text, ValueBody

Grams = Annotated[float, Field(gt=0, le=5000)]
Extra = Annotated[float, Field(ge=0, le=200)]
Thickness = Annotated[float, Field(ge=1, le=60)]


class CutterBody(ValueBody):
    """A cutter by its bounding box, and its area in cm² for an outline of its own."""

    shape: CutterShape
    across_mm: Annotated[float, Field(ge=8, le=300)]
    down_mm: Annotated[float, Field(ge=8, le=300)]
    area_cm2: Annotated[float, Field(gt=0, le=900)] | None = None

    def cutter(self) -> Cutter:
        """The core's cutter."""
        return Cutter(**self.model_dump())


class NamedCutterBody(ValueBody):
    """A cutter of the kitchen."""

    name: Annotated[Text, Field(min_length=1, max_length=40)]
    cutter: CutterBody

    def named(self) -> NamedCutter:
        """The core's cutter with its name."""
        return NamedCutter(self.name, self.cutter.cutter())


class ScoopBody(ValueBody):
    """A scoop or spoon of the kitchen, level."""

    name: Annotated[Text, Field(min_length=1, max_length=40)]
    ml: Annotated[float, Field(gt=0, le=500)]

    def scoop(self) -> Scoop:
        """The core's scoop."""
        return Scoop(self.name, self.ml)


class DropBody(ValueBody):
    """A piece by its mass, or by a scoop of so many ml."""

    kind: Literal["drop"]
    grams: Grams
    shape: DropShape = "ball"
    scoop_ml: Annotated[float, Field(gt=0, le=500)] | None = None
    heaped: bool = False
    press_mm: Annotated[float, Field(ge=3, le=60)] = 12.0
    filling_g: Extra = 0.0
    coat_g: Extra = 0.0
    topping_g: Extra = 0.0


class RolledBody(ValueBody):
    """A slab rolled in parts, and the cutter."""

    kind: Literal["rolled"]
    thickness_mm: Thickness
    cutter: CutterBody
    web_mm: Annotated[float, Field(ge=0, le=30)] = 3.0
    parts: Annotated[int, Field(ge=1, le=8)] = 2
    staggered: bool = True
    papers: bool = False


class SlicedBody(ValueBody):
    """Chilled logs, sliced."""

    kind: Literal["sliced"]
    log_diameter_mm: Annotated[float, Field(ge=10, le=150)]
    thickness_mm: Thickness
    ends_mm: Annotated[float, Field(ge=0, le=50)] = 4.0
    longest_mm: Annotated[float, Field(ge=80, le=600)] = 300.0


class PanBody(ValueBody):
    """Pressed in a pan and scored."""

    kind: Literal["pan"]
    shape: PanShape
    across_mm: Annotated[float, Field(ge=60, le=600)]
    down_mm: Annotated[float, Field(ge=60, le=600)]
    wall_mm: Annotated[float, Field(ge=5, le=150)]
    thickness_mm: Thickness
    scored_across: Annotated[int, Field(ge=1, le=30)] = 4
    scored_down: Annotated[int, Field(ge=1, le=30)] = 5
    wedges: Annotated[int, Field(ge=2, le=32)] = 8

    def pan(self) -> Pan:
        """The core's pan."""
        return Pan(**self.model_dump())


class RopedBody(ValueBody):
    """A rope, baked straight, as a ring or twisted."""

    kind: Literal["rope"]
    grams: Grams
    length_mm: Annotated[float, Field(ge=20, le=600)]
    form: RopeForm = "straight"


class TwiceBakedBody(ValueBody):
    """Logs baked whole, sliced and dried."""

    kind: Literal["twice_baked"]
    grams: Grams
    length_mm: Annotated[float, Field(ge=50, le=600)]
    width_mm: Annotated[float, Field(ge=15, le=200)]
    slice_mm: Annotated[float, Field(ge=4, le=60)] = 13.0
    lean_deg: Annotated[float, Field(ge=0, le=90)] = 0.0


class WaferBody(ValueBody):
    """Spread thin and shaped while hot. Times in seconds."""

    kind: Literal["wafer"]
    grams: Grams
    spread_mm: Annotated[float, Field(ge=20, le=250)]
    soft_s: Annotated[float, Field(ge=5, le=600)] = 75.0
    shape_s: Annotated[float, Field(ge=1, le=600)] = 12.0


PieceBody = Annotated[
    DropBody | RolledBody | SlicedBody | PanBody | RopedBody | TwiceBakedBody | WaferBody,
    Field(discriminator="kind"),
]

_PORTIONING: TypeAdapter[Portioning] = TypeAdapter(
    Annotated[Portioning, Field(discriminator="kind")]
)


def portioning(body: PieceBody) -> Portioning:
    """The core's portioning."""
    return _PORTIONING.validate_python(body.model_dump())
