"""An ingredient: what it is made of and how much of it fills a cup or makes one unit."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from finebatch.core.larder.measuring import LARGE_EGG_G, USUAL, CupHabit, Measuring
from finebatch.core.measures.units import (
    MASS_UNITS,
    VOLUME_UNITS,
    CountUnit,
    Unit,
    cups_in,
    grams_in,
)
from finebatch.core.refusal import refuse

Role = Literal[
    "flour",
    "starch",
    "grain",
    "nutmeal",
    "cocoa",
    "sugar",
    "icing_sugar",
    "polyol",
    "syrup",
    "fat",
    "oil",
    "egg",
    "liquid",
    "dry",
    "flavour",
    "nut_butter",
    "piece",
    "chip",
    "melting_candy",
    "fruit",
    "filling",
    "leavener",
    "salt",
    "spice",
    "decoration",
]


@dataclass(frozen=True, slots=True)
class NaturalUnit:
    """The unit in which an ingredient is counted, such as an egg or a stick."""

    unit: CountUnit
    name: str
    grams: float


@dataclass(frozen=True, slots=True)
class Ingredient:
    """Composition in percent of mass; cup weights in grams per US cup.

    `water_binding` is the grams of water that one gram takes up; `traits` are the facts that
    the spread model asks for by name (brown, soft, strong, wholegrain, no_gluten, plastic, soda,
    powder).
    `made_of` are the ingredients and shares (summing to 1) of a mixture such as self-raising flour.
    """

    key: str
    name: str
    role: Role
    water_pct: float
    fat_pct: float
    sugar_pct: float
    other_solids_pct: float
    water_binding: float
    g_per_cup: float
    g_per_cup_sifted: float | None
    g_per_cup_dipped: float | None
    natural_unit: NaturalUnit | None
    melts_at_c: float | None
    allergens: tuple[str, ...]
    traits: frozenset[str]
    source: str
    made_of: tuple[tuple[str, float], ...] = ()

    @property
    def units(self) -> tuple[Unit, ...]:
        """The units in which this ingredient can be measured."""
        counted: tuple[Unit, ...] = (self.natural_unit.unit,) if self.natural_unit else ()
        return (*MASS_UNITS, *VOLUME_UNITS, *counted)

    @property
    def depends_on_habit(self) -> bool:
        """Whether a cup of it weighs more or less by how it is filled."""
        return self.g_per_cup_sifted is not None or self.g_per_cup_dipped is not None

    def cup_g(self, habit: CupHabit) -> float:
        """Grams of a cup filled by that habit."""
        by_habit = {"sifted": self.g_per_cup_sifted, "dipped": self.g_per_cup_dipped}
        return by_habit.get(habit) or self.g_per_cup

    def grams(
        self, amount: float, unit: Unit, measuring: Measuring = USUAL, *, field: str = "unit"
    ) -> float:
        """Grams in `amount` of `unit`, measured as this kitchen does.

        Raises `Refusal` at `field` when the ingredient is not counted in that unit.
        """
        if unit in MASS_UNITS:
            return amount * grams_in(unit)
        if unit in VOLUME_UNITS:
            return amount * cups_in(unit) * self.cup_g(measuring.cup)
        if self.natural_unit is not None and self.natural_unit.unit == unit:
            share = measuring.egg_g / LARGE_EGG_G if self.role == "egg" else 1.0
            return amount * self.natural_unit.grams * share
        raise refuse(field, f"{self.name} is not counted in {unit}; use {', '.join(self.units)}.")


class Larder(Mapping[str, Ingredient]):
    """All ingredients by key, in the order in which a list shows them."""

    def __init__(self, ingredients: Mapping[str, Ingredient]) -> None:
        self._by_key = dict(ingredients)

    def __getitem__(self, key: str) -> Ingredient:
        return self._by_key[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._by_key)

    def __len__(self) -> int:
        return len(self._by_key)

    def find(self, key: str, field: str) -> Ingredient:
        """The ingredient of that key; `Refusal` at `field` when the larder has none."""
        if key not in self._by_key:
            raise refuse(field, "Choose an ingredient from the larder.")
        return self._by_key[key]

    def known(self, key: str | None) -> Ingredient | None:
        """The ingredient of that key, if there is one."""
        return self._by_key.get(key) if key is not None else None

    def expand(self, formula_g: Mapping[str, float]) -> dict[str, float]:
        """A formula (grams by key) with mixtures taken apart into what they are made of."""
        plain: dict[str, float] = {}
        for key, grams in formula_g.items():
            made_of = self.find(key, f"formula_g.{key}").made_of or ((key, 1.0),)
            for part, share in made_of:
                plain[part] = plain.get(part, 0.0) + share * grams
        return plain

    def share_of(self, key: str, roles: tuple[str, ...]) -> float:
        """How much of an ingredient, 0 to 1, has one of these roles."""
        made_of = self[key].made_of or ((key, 1.0),)
        return sum(share for part, share in made_of if self[part].role in roles)
