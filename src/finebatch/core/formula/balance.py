"""Where a dough stands among doughs of its family, and what that means in plain words."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.formula.composition import PIECE_ROLES, Composition, compose
from finebatch.core.formula.dough import Family
from finebatch.core.larder.ingredient import Larder
from finebatch.core.values import Tells

Figure = Literal["sugar", "fat", "egg", "water", "pieces", "leavening", "salt"]

FIGURES: tuple[Figure, ...] = ("sugar", "fat", "egg", "water", "pieces", "leavening", "salt")


@dataclass(frozen=True, slots=True)
class Band:
    """What is usual in a family, in percent of the flour and what stands in for it; `least` and
    `most` are where it gets out of balance, and what happens there."""

    family: Family
    figure: Figure
    low: Annotated[float, Interval(ge=0, le=200)]
    high: Annotated[float, Interval(ge=0, le=200)]
    least: Annotated[float, Interval(ge=0, le=400)]
    most: Annotated[float, Interval(ge=0, le=400)]
    below: str
    above: str


@dataclass(frozen=True, slots=True)
class Standing:
    """One figure of a dough in percent of its flour and what stands in for it, and the family's
    band where it has one; `out` of balance, `said` is what happens."""

    figure: Figure
    percent: float
    low: float | None
    high: float | None
    said: str
    out: bool = False


@dataclass(frozen=True, slots=True)
class Leavening(Tells):
    """Soda against acid, in grams. `left_g` is soda that no acid meets."""

    soda_g: float
    powder_g: float
    neutralised_g: float

    TOLD = ("left_g",)

    @property
    def left_g(self) -> float:
        """Soda that finds no acid: it browns, and tastes of soap in quantity."""
        return max(self.soda_g - self.neutralised_g, 0.0)


@dataclass(frozen=True, slots=True)
class Balance:
    """A dough's composition in grams and its standing in percent of the flour and its like.

    `water_free_g` is what the flour and its like cannot take up.
    """

    fat_g: float
    sugar_g: float
    water_g: float
    water_free_g: float
    egg_g: float
    structure_g: float
    salt_g: float
    pieces_g: float
    leavening: Leavening
    standings: tuple[Standing, ...]


def _salt_g(formula_g: Mapping[str, float], larder: Larder) -> float:
    """Salt, with that of salted butter (about 1.5 % of it)."""
    plain = sum(g for key, g in formula_g.items() if larder[key].role == "salt")
    return plain + SALTED_BUTTER_SALT * formula_g.get("butter_salted", 0.0)


SALTED_BUTTER_SALT = 0.015
"""Grams of salt in a gram of salted butter (labels: 1.2 to 2 %)."""


def _figures_g(made: Composition, salt_g: float, pieces_g: float) -> dict[Figure, float]:
    return {
        "sugar": made.sugar_g,
        "fat": made.fat_g,
        "egg": made.egg_g,
        "water": made.water_added_g,
        "pieces": pieces_g,
        "leavening": sum(made.leavener_g.values()),
        "salt": salt_g,
    }


def _percentages(made: Composition, salt_g: float, pieces_g: float) -> dict[Figure, float]:
    base = made.structure_g
    if base <= 0:
        return {}
    return {f: 100 * g / base for f, g in _figures_g(made, salt_g, pieces_g).items()}


def percentages(
    formula_g: Mapping[str, float], made: Composition, larder: Larder
) -> Mapping[Figure, float]:
    """A formula's figures in percent of its flour and what stands in for it; `made` is what it is
    composed of."""
    plain = larder.expand({key: g for key, g in formula_g.items() if g > 0})
    return _percentages(made, _salt_g(plain, larder), _pieces_g(plain, larder))


def figures_g(formula_g: Mapping[str, float], larder: Larder) -> dict[str, float]:
    """A formula's figures in g, with those of flour, starch and grain (``base``), of these and
    their like (``structure``) and of all of it (``total``). They add up: those of a dough are the
    sums of its lines'."""
    made = compose(formula_g, larder)
    plain = larder.expand({key: g for key, g in formula_g.items() if g > 0})
    found = _figures_g(made, _salt_g(plain, larder), _pieces_g(plain, larder))
    whole = {"structure": made.structure_g, "base": made.base_g, "total": made.total_g}
    return whole | {str(figure): g for figure, g in found.items()}


def _pieces_g(plain: Mapping[str, float], larder: Larder) -> float:
    pieces = PIECE_ROLES | {"melting_candy"}
    return sum(g for key, g in plain.items() if larder[key].role in pieces)


def _standing(figure: Figure, percent: float, band: Band | None) -> Standing:
    if band is None:
        return Standing(figure, percent, None, None, "")
    below, above = percent < band.least, percent > band.most
    said = band.below if below else band.above if above else ""
    return Standing(figure, percent, band.low, band.high, said, below or above)


def balance(
    formula_g: Mapping[str, float],
    family: Family,
    larder: Larder,
    bands: Sequence[Band],
    soda_per_g: Mapping[str, float],
) -> Balance:
    """Weigh a dough up against its family's bands.

    `soda_per_g` is the soda in grams that one gram of an acid ingredient neutralises.
    """
    made = compose(formula_g, larder)
    plain = larder.expand({key: g for key, g in formula_g.items() if g > 0})
    pieces_g = _pieces_g(plain, larder)
    salt_g = _salt_g(plain, larder)
    mine = {band.figure: band for band in bands if band.family == family}
    shares = _percentages(made, salt_g, pieces_g)
    acid = sum(soda_per_g.get(key, 0.0) * g for key, g in plain.items())
    soda = made.leavener_g.get("soda", 0.0)
    return Balance(
        fat_g=made.fat_g,
        sugar_g=made.sugar_g,
        water_g=made.water_added_g,
        water_free_g=max(made.water_added_g - made.water_bound_g, 0.0),
        egg_g=made.egg_g,
        structure_g=made.structure_g,
        salt_g=salt_g,
        pieces_g=pieces_g,
        leavening=Leavening(soda, made.leavener_g.get("powder", 0.0), min(acid, soda)),
        standings=tuple(_standing(f, shares[f], mine.get(f)) for f in FIGURES if f in shares),
    )
