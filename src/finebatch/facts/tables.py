"""Read the shipped tables, check every row, and hand them to the core as its own values."""

import csv
import json
from functools import cache
from importlib.resources import files
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, TypeAdapter, model_validator

from finebatch.core.formula.dough import Family, Mixing
from finebatch.core.formula.names import Name, Names, split_words
from finebatch.core.formula.reading import Reader
from finebatch.core.heat.minutes import HeatModel
from finebatch.core.larder.ingredient import Ingredient, Larder, NaturalUnit, Role
from finebatch.core.measures.units import CountUnit
from finebatch.core.piece.foresee import Models
from finebatch.core.piece.spread import Effect, SpreadModel
from finebatch.core.piece.thickness import LiftModel
from finebatch.core.plan.prepare import FamilyHabits


def _blank(value: object) -> object:
    return None if value == "" else value


def _split(value: str) -> list[str]:
    return [part for part in value.split(";") if part]


Optional = Annotated[float | None, BeforeValidator(_blank)]
Percent = Annotated[float, Field(ge=0, le=100)]


class IngredientRow(BaseModel):
    """One row of `ingredients.csv`; its composition has to add up to 100 % within rounding."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    key: str
    name: str
    role: Role
    traits: Annotated[frozenset[str], BeforeValidator(_split)]
    g_per_cup: Annotated[float, Field(ge=10, le=500)]
    g_per_cup_sifted: Optional
    g_per_cup_dipped: Optional
    unit: Annotated[CountUnit | Literal[""], Field()]
    unit_name: str
    g_per_unit: Optional
    water_pct: Percent
    fat_pct: Percent
    sugar_pct: Percent
    other_solids_pct: Percent
    water_binding: Annotated[float, Field(ge=0, le=3)]
    melts_at_c: Optional
    allergens: Annotated[tuple[str, ...], BeforeValidator(_split)]
    source: Annotated[str, Field(min_length=3)]

    @model_validator(mode="after")
    def _adds_up(self) -> "IngredientRow":
        total = self.water_pct + self.fat_pct + self.sugar_pct + self.other_solids_pct
        if abs(total - 100) > 1:
            raise ValueError(f"{self.key}: its composition adds up to {total:g} %, not 100 %")
        return self

    def ingredient(self) -> Ingredient:
        """The row as the core's own value."""
        counted = (
            NaturalUnit(self.unit, self.unit_name, self.g_per_unit)
            if self.unit and self.g_per_unit
            else None
        )
        plain = self.model_dump(exclude={"unit", "unit_name", "g_per_unit"})
        return Ingredient(**plain, natural_unit=counted)


class NameRow(BaseModel):
    """One row of `names.csv`: what an ingredient is called, and what to ask when that is unsure.

    A row without a key holds the words that only describe.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    key: str
    names: Annotated[tuple[str, ...], BeforeValidator(_split), Field(min_length=1)]
    ask: Annotated[str | None, BeforeValidator(_blank)]
    source: Annotated[str, Field(min_length=3)]


class EggRow(BaseModel):
    """One row of `egg_sizes.csv`: an egg's contents by market and size."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    market: str
    size: str
    in_shell_g_min: Optional
    in_shell_g_max: Optional
    contents_g: Annotated[float, Field(gt=10, lt=100)]
    source: Annotated[str, Field(min_length=3)]


class EffectRow(BaseModel):
    """One row of `spread_effects.csv`."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    key: str
    label: str
    per: str
    prior_mean: float
    prior_sd: Annotated[float, Field(gt=0)]
    source: Annotated[str, Field(min_length=3)]


def _read(name: str) -> str:
    return files("finebatch.facts").joinpath("data", name).read_text(encoding="utf-8")


def _rows(name: str) -> list[dict[str, str]]:
    return list(csv.DictReader(_read(name).splitlines()))


def read_json(name: str) -> Any:
    """A shipped JSON table as plain values."""
    return json.loads(_read(name))


@cache
def larder() -> Larder:
    """The shipped larder, checked."""
    rows = TypeAdapter(list[IngredientRow]).validate_python(_rows("ingredients.csv"))
    return Larder({row.key: row.ingredient() for row in rows})


@cache
def name_rows() -> tuple[NameRow, ...]:
    """What the ingredients are called, and the words that only describe."""
    return tuple(TypeAdapter(list[NameRow]).validate_python(_rows("names.csv")))


@cache
def reader() -> Reader:
    """What reads a card's lines: the larder, the names of its ingredients, the sizes of eggs."""
    describing = [word for row in name_rows() if not row.key for word in row.names]
    rows = [row for row in name_rows() if row.key]
    unknown = [row.key for row in rows if row.key not in larder()]
    if unknown:
        raise ValueError(f"names.csv names what the larder lacks: {unknown}")
    names = Names(
        (Name(tuple(split_words(name)), row.key, row.ask) for row in rows for name in row.names),
        describing,
    )
    eggs = TypeAdapter(list[EggRow]).validate_python(_rows("egg_sizes.csv"))
    return Reader(larder(), names, {(egg.market, egg.size): egg.contents_g for egg in eggs})


@cache
def effects() -> tuple[Effect, ...]:
    """The spread effects with what was known of them before any fit."""
    rows = TypeAdapter(list[EffectRow]).validate_python(_rows("spread_effects.csv"))
    return tuple(Effect(**row.model_dump()) for row in rows)


class PriorRow(BaseModel):
    """One row of `fit_priors.csv`."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    model: Literal["lift", "heat"]
    figure: str
    prior_mean: float
    prior_sd: Annotated[float, Field(gt=0)]
    source: Annotated[str, Field(min_length=3)]


@cache
def prior_rows() -> tuple[PriorRow, ...]:
    """What was known of lift and minutes before any fit."""
    return tuple(TypeAdapter(list[PriorRow]).validate_python(_rows("fit_priors.csv")))


@cache
def models() -> Models:
    """The fitted models of width, thickness and minutes (`fitted.json`)."""
    fitted = read_json("fitted.json")
    spread = fitted["spread"]
    if spread["keys"] != [effect.key for effect in effects()]:
        raise ValueError("fitted.json does not match spread_effects.csv; run scripts/fit_models.py")
    return Models(
        spread=SpreadModel(
            effects(), np.array(spread["mean"]), np.array(spread["covariance"]), spread["noise_sd"]
        ),
        lift=LiftModel(**fitted["lift"]),
        heat=HeatModel(**fitted["heat"]),
    )


class FamilyRow(BaseModel):
    """One row of `families.csv`."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    family: Family
    label: str
    grams: Annotated[float, Field(gt=0)]
    thickness_mm: Annotated[float, Field(gt=0)]
    log_diameter_mm: Annotated[float, Field(gt=0)]
    log_length_mm: Annotated[float, Field(gt=0)]
    log_width_mm: Annotated[float, Field(gt=0)]
    dough_temp_c: float
    oven_c: float
    chill_min: Annotated[int, Field(ge=0)]
    portion_s: Annotated[float, Field(gt=0)]
    rest_min: Annotated[int, Field(ge=0)]
    cool_min: Annotated[int, Field(ge=0)]
    source: Annotated[str, Field(min_length=3)]


class MixingRow(BaseModel):
    """One row of `mixing.csv`: a method's label and its hands-minutes."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    mixing: Mixing
    label: str
    minutes: Annotated[int, Field(ge=1)]
    source: Annotated[str, Field(min_length=3)]


@cache
def families() -> dict[Family, FamilyHabits]:
    """Each family's usual portion and times."""
    rows = TypeAdapter(list[FamilyRow]).validate_python(_rows("families.csv"))
    return {row.family: FamilyHabits(**row.model_dump()) for row in rows}


@cache
def mixing_methods() -> dict[Mixing, MixingRow]:
    """Each mixing method's label and minutes."""
    rows = TypeAdapter(list[MixingRow]).validate_python(_rows("mixing.csv"))
    return {row.mixing: row for row in rows}
