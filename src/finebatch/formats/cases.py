"""Case files in: measured pieces as JSON, for `finebatch evaluate` and for the fit."""

from pathlib import Path
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from finebatch.core.formula.dough import Family, Mixing
from finebatch.core.heat.minutes import Doneness
from finebatch.core.heat.oven import OvenMode
from finebatch.core.piece.cases import Case
from finebatch.core.piece.effects import BakeConditions, Surface
from finebatch.core.piece.portion import CutDisc, Log, LogSlice, MassPortion, MassShape, Portion

Positive = Annotated[float, Field(gt=0, allow_inf_nan=False)]
Minutes = tuple[Positive, Positive]


class UnreadableFile(ValueError):
    """A file that is not what it should be; the message says what to do."""


class _Row(BaseModel):
    model_config = ConfigDict(frozen=True)


class _Mass(_Row):
    kind: Literal["mass"]
    grams: Positive
    shape: MassShape = "ball"
    diameter_mm: Positive | None = None

    def portion(self) -> Portion:
        return MassPortion(self.grams, self.shape, self.diameter_mm)


class _Disc(_Row):
    kind: Literal["cut_disc", "log_slice"]
    diameter_mm: Positive
    thickness_mm: Positive

    def portion(self) -> Portion:
        make = CutDisc if self.kind == "cut_disc" else LogSlice
        return make(self.diameter_mm, self.thickness_mm)


class _Log(_Row):
    kind: Literal["log"]
    length_mm: Positive
    width_mm: Positive
    grams: Positive

    def portion(self) -> Portion:
        return Log(self.length_mm, self.width_mm, self.grams)


class _Case(_Row):
    id: str
    family: Family
    formula_g: dict[str, Annotated[float, Field(ge=0, allow_inf_nan=False)]]
    portion: Annotated[_Mass | _Disc | _Log, Field(discriminator="kind")]
    dough_temp_c: float = 21.0
    oven_c: float
    oven_mode: OvenMode = "conventional"
    surface: Surface = "parchment"
    mixing: Mixing = "creamed"
    rested_overnight: bool = False
    doneness: Doneness | None = None
    minutes: Minutes
    minutes_second: Minutes | None = None
    baked_diameter_mm: Positive
    baked_thickness_mm: Positive | None = None

    def case(self) -> Case:
        how = BakeConditions(
            self.dough_temp_c, self.oven_c, self.oven_mode, self.surface, self.mixing,
            self.rested_overnight,
        )  # fmt: skip
        return Case(
            id=self.id,
            family=self.family,
            formula_g=self.formula_g,
            portion=self.portion.portion(),
            how=how,
            doneness=self.doneness,
            observed_mm=self.baked_diameter_mm,
            observed_thickness_mm=self.baked_thickness_mm,
            minutes=self.minutes,
            minutes_second=self.minutes_second,
        )


class _CaseFile(_Row):
    cases: Annotated[list[_Case], Field(min_length=1)]


def parse_cases(text: str) -> list[Case]:
    """Cases from JSON text; `UnreadableFile` says where it goes wrong."""
    try:
        return [row.case() for row in _CaseFile.model_validate_json(text).cases]
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the file"
        raise UnreadableFile(f"{where}: {first['msg']}") from error


def read_cases(path: Path) -> list[Case]:
    """Cases from a file; `UnreadableFile` when it cannot be read."""
    try:
        text = path.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise UnreadableFile(f"{path} cannot be read as a text file: {error}") from error
    return parse_cases(text)
