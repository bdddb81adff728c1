"""Case files in: measured pieces or written lines as JSON, for `finebatch evaluate` and the fit."""

import json
import math
from pathlib import Path
from typing import Annotated, Literal, Self, TypeVar

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator

from finebatch.core.formula.dough import Doneness, Family, Mixing
from finebatch.core.formula.judge_cards import CardCase
from finebatch.core.formula.judge_lines import LineCase
from finebatch.core.heat.minutes import Lying
from finebatch.core.heat.oven import OvenMode
from finebatch.core.piece.cases import USUAL_WIDTH_SD, Case, DriedSlice, Ladder
from finebatch.core.piece.effects import BakeConditions, Surface
from finebatch.core.piece.portion import (
    CutDisc,
    Log,
    LogSlice,
    MassPortion,
    MassShape,
    PanFill,
    Portion,
)
from finebatch.core.piece.rope_line import RopeForm, rope_portion
from finebatch.formats.decoded import text_of
from finebatch.formats.unreadable import UnreadableFile

Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
Length = Annotated[float, Field(gt=0, le=2000, allow_inf_nan=False)]
Celsius = Annotated[float, Field(ge=-40, le=400, allow_inf_nan=False)]
Minutes = tuple[Positive, Positive]


USUAL_DENSITY_G_CM3 = 1.25
"""A spiral's own size hangs on how thick its strand is; that of a usual dough serves for a case."""


class _Row(BaseModel):
    model_config = ConfigDict(frozen=True)


class _Grams(_Row):
    grams: Positive


class _Thick(_Row):
    thickness_mm: Length


class _Mass(_Grams):
    kind: Literal["mass"]
    shape: MassShape = "ball"
    diameter_mm: Length | None = None

    def portion(self) -> Portion:
        return MassPortion(self.grams, self.shape, self.diameter_mm)


class _Disc(_Thick):
    kind: Literal["cut_disc", "log_slice"]
    diameter_mm: Length

    def portion(self) -> Portion:
        make = CutDisc if self.kind == "cut_disc" else LogSlice
        return make(self.diameter_mm, self.thickness_mm)


class _Log(_Grams):
    kind: Literal["log"]
    length_mm: Length
    width_mm: Length

    def portion(self) -> Portion:
        return Log(self.length_mm, self.width_mm, self.grams)


class _Pan(_Thick):
    """A square or oblong pan by its sides, a round one by its diameter."""

    kind: Literal["pan"]
    across_mm: Length | None = None
    down_mm: Length | None = None
    diameter_mm: Length | None = None

    @model_validator(mode="after")
    def _sized(self) -> Self:
        if self.diameter_mm is None and (self.across_mm is None or self.down_mm is None):
            raise ValueError("a pan has across_mm and down_mm, or diameter_mm")
        return self

    def portion(self) -> Portion:
        if self.diameter_mm is not None:
            across = down = self.diameter_mm
            area = math.pi / 4 * across * down
        else:
            across, down = self.across_mm or 0.0, self.down_mm or 0.0
            area = across * down
        return PanFill(across, down, area, self.thickness_mm)


class _Rope(_Grams):
    kind: Literal["rope"]
    length_mm: Length
    form: RopeForm = "straight"

    def portion(self) -> Portion:
        return rope_portion(self.grams, self.length_mm, self.form, USUAL_DENSITY_G_CM3)


class _SecondBake(_Row):
    kind: Literal["second_bake"]
    slice_thickness_mm: Length
    lying: Lying = "flat"
    turned: bool = True

    def portion(self) -> DriedSlice:
        return DriedSlice(self.slice_thickness_mm, self.lying, self.turned)


class _Ladder(_Row):
    name: str
    step: str | float
    relative_confidence_pct: Annotated[float, Field(ge=0, le=100)]

    def ladder(self) -> Ladder:
        return Ladder(self.name, str(self.step), self.relative_confidence_pct / 100)


class _Case(_Row):
    id: str
    family: Family
    formula_g: dict[str, Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]]
    portion: Annotated[
        _Mass | _Disc | _Log | _Pan | _Rope | _SecondBake, Field(discriminator="kind")
    ]
    dough_temp_c: Celsius = 21.0
    oven_c: Celsius
    oven_mode: OvenMode = "conventional"
    surface: Surface = "parchment"
    mixing: Mixing = "creamed"
    rested_overnight: bool = False
    doneness: Doneness | None = None
    minutes: Minutes | None = None
    minutes_second: Minutes | None = None
    baked_diameter_mm: Positive | None = None
    baked_width_mm: Positive | None = None
    baked_thickness_mm: Positive | None = None
    confidence_pct: Annotated[float, Field(gt=0, le=100)] = 100 * USUAL_WIDTH_SD
    group: str = ""
    ladders: tuple[_Ladder, ...] = ()

    def case(self) -> Case:
        how = BakeConditions(
            self.dough_temp_c,
            self.oven_c,
            self.oven_mode,
            self.surface,
            self.mixing,
            self.rested_overnight,
        )
        return Case(
            id=self.id,
            family=self.family,
            formula_g=self.formula_g,
            portion=self.portion.portion(),
            how=how,
            doneness=self.doneness,
            observed_mm=self.baked_diameter_mm or self.baked_width_mm,
            observed_thickness_mm=self.baked_thickness_mm,
            minutes=self.minutes,
            minutes_second=self.minutes_second,
            width_sd=self.confidence_pct / 100,
            group=self.group,
            ladders=tuple(ladder.ladder() for ladder in self.ladders),
        )


class _CaseFile(_Row):
    cases: Annotated[list[_Case], Field(min_length=1)]


class _LineFile(_Row):
    lines: Annotated[list[LineCase], Field(min_length=1)]


class _CardFile(_Row):
    cards: Annotated[list[CardCase], Field(min_length=1, max_length=1000)]


File = TypeVar("File", bound=BaseModel)


def _parse(text: str, form: type[File]) -> File:
    try:
        return form.model_validate_json(text)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the file"
        raise UnreadableFile(f"{where}: {first['msg']}") from error


def parse_cases(text: str) -> list[Case]:
    """Measured pieces from JSON text; `UnreadableFile` says where it goes wrong."""
    return [row.case() for row in _parse(text, _CaseFile).cases]


def parse_lines(text: str) -> list[LineCase]:
    """Written lines from JSON text; `UnreadableFile` says where it goes wrong."""
    return _parse(text, _LineFile).lines


def parse_cards(text: str) -> list[CardCase]:
    """Whole cards from JSON text; `UnreadableFile` says where it goes wrong."""
    return _parse(text, _CardFile).cards


def kind_of(text: str) -> Literal["lines", "cards", "cases"]:
    """What a case file holds: written lines, whole cards, else measured pieces."""
    try:
        found = json.loads(text)
    except (ValueError, RecursionError):
        return "cases"
    named = found if isinstance(found, dict) else {}
    return "lines" if "lines" in named else "cards" if "cards" in named else "cases"


def read_cases(path: Path) -> list[Case]:
    """Measured pieces from a file; `UnreadableFile` when it cannot be read."""
    return parse_cases(text_of(path))
