"""Read the shipped tables, check every row, and hand them to the core as its own values."""

import hashlib
import json
from collections.abc import Mapping
from dataclasses import replace
from functools import cache
from typing import Annotated, Literal

import numpy as np
from pydantic import BeforeValidator, Field, model_validator

from finebatch.core.formula.dough import Doneness, Family, PartKind
from finebatch.core.formula.names import IngredientName, Names, split_words
from finebatch.core.formula.reading import Reader
from finebatch.core.heat.cues import Cues
from finebatch.core.heat.minutes import DONE_AT_C, USUAL_DONENESS, HeatModel
from finebatch.core.larder.ingredient import Ingredient, Larder, NaturalUnit, Role
from finebatch.core.larder.measuring import Measuring
from finebatch.core.measures.units import CountUnit
from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.foresee import Models
from finebatch.core.piece.kinds.every import over_usual
from finebatch.core.piece.pans import PanBox
from finebatch.core.piece.spread import Effect, SpreadModel
from finebatch.core.piece.thickness import LIFTS, LiftModel
from finebatch.core.piece.timing import TIMES
from finebatch.core.piece.tools import NamedCutter, NamedPan, NamedSheet, Scoop
from finebatch.core.plan.prepare import FamilyHabits, PartHabits
from finebatch.core.tray.base_dough import BaseDough
from finebatch.facts.rows import (
    Optional,
    OptionalText,
    Percent,
    Row,
    Shares,
    Words,
    checked,
    read,
    read_json,
    settings,
    split,
    table,
    value,
    values,
)


class IngredientRow(Row):
    """One row of `ingredients.csv`; its composition has to add up to 100 % within rounding."""

    key: str
    name: str
    role: Role
    traits: Annotated[frozenset[str], BeforeValidator(split)]
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
    allergens: Words

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


class NameRow(Row):
    """One row of `names.csv`: what an ingredient is called, and what to ask when that is unsure.

    A row without a key holds the words that only describe.
    """

    key: str
    names: Annotated[Words, Field(min_length=1)]
    ask: OptionalText


class EggRow(Row):
    """One row of `egg_sizes.csv`: an egg's contents by market and size."""

    market: str
    size: str
    in_shell_g_min: Optional
    in_shell_g_max: Optional
    contents_g: Annotated[float, Field(gt=10, lt=100)]


class MixtureRow(Row):
    """One row of `mixtures.csv`: what a mixture is made of, as shares that sum to 1."""

    key: str
    made_of: Shares

    @model_validator(mode="after")
    def _is_whole(self) -> "MixtureRow":
        if abs(sum(share for _, share in self.made_of) - 1) > 1e-6:
            raise ValueError(f"{self.key}: its shares do not sum to 1")
        return self


@cache
def larder() -> Larder:
    """The shipped larder, checked."""
    rows = checked(IngredientRow, "ingredients.csv")
    found = {row.key: row.ingredient() for row in rows}
    for mixture in checked(MixtureRow, "mixtures.csv"):
        unknown = [key for key, _ in mixture.made_of if key not in found]
        if unknown or mixture.key not in found:
            raise ValueError(f"mixtures.csv names what the larder lacks: {unknown or mixture.key}")
        found[mixture.key] = replace(found[mixture.key], made_of=mixture.made_of)
    return Larder(found)


@cache
def egg_sizes() -> dict[str, float]:
    """Grams of an egg's contents by market and size: ``EU/UK medium``."""
    rows = checked(EggRow, "egg_sizes.csv")
    return {f"{row.market} {row.size}": row.contents_g for row in rows}


@cache
def name_rows() -> tuple[NameRow, ...]:
    """What the ingredients are called, and the words that only describe."""
    return tuple(checked(NameRow, "names.csv"))


@cache
def names() -> tuple[IngredientName, ...]:
    """What the shipped ingredients are called."""
    rows = [row for row in name_rows() if row.key]
    unknown = [row.key for row in rows if row.key not in larder()]
    if unknown:
        raise ValueError(f"names.csv names what the larder lacks: {unknown}")
    return tuple(
        IngredientName(tuple(split_words(name)), row.key, row.ask)
        for row in rows
        for name in row.names
    )


@cache
def describing_words() -> tuple[str, ...]:
    """The words of cards that say how an ingredient is, not which."""
    return tuple(word for row in name_rows() if not row.key for word in row.names)


@cache
def reader() -> Reader:
    """What reads a card's lines with the shipped larder and names."""
    return Reader(larder(), Names(names(), describing_words()), Measuring(egg_sizes=egg_sizes()))


@cache
def effects() -> tuple[Effect, ...]:
    """The spread effects with what was known of them before any fit."""
    return tuple(values(Effect, "spread_effects.csv"))


class PriorRow(Row):
    """One row of `fit_priors.csv`."""

    model: Literal["lift", "heat"]
    figure: str
    prior_mean: float
    prior_sd: Annotated[float, Field(gt=0)]


@cache
def prior_rows() -> tuple[PriorRow, ...]:
    """What was known of lift and minutes before any fit."""
    return tuple(checked(PriorRow, "fit_priors.csv"))


@cache
def law_mark() -> str:
    """What tells one law from another: effects and minutes that were reckoned by another mark have
    to be reckoned anew."""
    law = [read_json("fitted.json"), [effect.key for effect in effects()]]
    return hashlib.sha256(json.dumps(law, sort_keys=True).encode()).hexdigest()[:16]


@cache
def cues() -> dict[tuple[Family, Doneness], Cues]:
    """By what one sees that a tray is done (`cues.csv`)."""
    found = values(Cues, "cues.csv")
    wanted = {(family, doneness) for family in USUAL_DONENESS for doneness in DONE_AT_C}
    known = {(row.family, row.doneness): row for row in found}
    if wanted - set(known) or any(row.colour_from > row.colour_to for row in found):
        raise ValueError("cues.csv: a family and doneness is missing, or its colours run backwards")
    return known


@cache
def models() -> Models:
    """The fitted models of width, thickness and minutes (`fitted.json`)."""
    fitted = read_json("fitted.json")
    spread = fitted["spread"]
    if spread["keys"] != [effect.key for effect in effects()]:
        raise ValueError("fitted.json does not match spread_effects.csv; run scripts/fit_models.py")
    lift, heat = fitted["lift"], fitted["heat"]
    if set(lift["figures"]) != set(LIFTS) or set(heat["figures"]) != set(TIMES):
        raise ValueError("fitted.json does not match the model; run scripts/fit_models.py")
    return Models(
        spread=SpreadModel(
            effects(),
            np.array(spread["mean"]),
            np.array(spread["covariance"]),
            spread["noise_sd"],
            np.array(spread["measured"]),
        ),
        lift=LiftModel(**fitted["lift"]),
        heat=HeatModel(**fitted["heat"]),
        colours={key: (row.colour_from, row.colour_to) for key, row in cues().items()},
    )


@cache
def families() -> dict[Family, FamilyHabits]:
    """Each family's usual portion and times."""
    rows = [
        value(FamilyHabits, {**row, "piece": over_usual(settings(row["piece"]))})
        for row in table("families.csv")
    ]
    return {row.family: row for row in rows}


@cache
def base_doughs() -> dict[str, BaseDough]:
    """The doughs that ship for a baker to begin from, by key."""
    found = [
        value(
            BaseDough,
            {
                **row,
                "piece": over_usual(settings(row["piece"])),
                "text": read(f"base/{row['key']}.txt"),
            },
        )
        for row in table("base_doughs.csv")
    ]
    return {dough.key: dough for dough in found}


@cache
def part_habits() -> dict[PartKind, PartHabits]:
    """How long each kind of part takes to make, to put on and to set."""
    return {row.kind: row for row in values(PartHabits, "part_habits.csv")}


@cache
def scoops() -> tuple[Scoop, ...]:
    """Scoops and spoons that a kitchen usually has."""
    return tuple(values(Scoop, "scoops.csv"))


@cache
def cutters() -> tuple[NamedCutter, ...]:
    """Cutters that a kitchen usually has."""
    rows = table("cutters.csv")
    return tuple(NamedCutter(row.pop("name"), value(Cutter, row)) for row in rows)


@cache
def pans() -> tuple[NamedPan, ...]:
    """Pans that a kitchen usually has."""
    return tuple(NamedPan(row.pop("name"), value(PanBox, row)) for row in table("pans.csv"))


@cache
def sheet_colours() -> Mapping[str, tuple[float, float, float]]:
    """The colour (red, green, blue, 0 to 255) of each surface that pieces lie on."""
    return {
        row["surface"]: (float(row["red"]), float(row["green"]), float(row["blue"]))
        for row in table("sheet_colours.csv")
    }


@cache
def sheets() -> tuple[NamedSheet, ...]:
    """Sheets that bakers have."""
    return tuple(values(NamedSheet, "sheets.csv"))
