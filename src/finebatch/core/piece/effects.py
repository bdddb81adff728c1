"""What makes a dough spread more or less: one number for each effect, zero for the reference.

The effects' names, units of count and starting values are data (`spread_effects.csv`); this
module says how each is measured on a dough, a piece and an oven.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from finebatch.core.formula.composition import Composition
from finebatch.core.formula.dough import Mixing
from finebatch.core.heat.oven import OvenMode, conventional_c
from finebatch.core.piece.portion import RawPiece

Surface = Literal["parchment", "bare", "greased", "silicone", "perforated", "insulated", "dark"]

REFERENCE_SUGAR = 0.60
REFERENCE_FAT = 0.60
REFERENCE_DOUGH_C = 21.0
REFERENCE_OVEN_C, OVEN_STEP_C = 180.0, 25.0
FRIDGE_C = 4.0
FREEZER_C = -18.0
SOFTEST_DOUGH_C = 30.0
LARGE_PIECE_CM3 = 45.0
WET_ENOUGH = 0.20
"""Grams of water a gram of flour from which a dough without egg runs on, as nothing sets it early;
a drier one, ever less: it lacks the water that egg brings (household recipes: a drop dough without
its egg)."""
YOLK_TO_WHITE = 0.36 / 0.64
"""Grams of yolk for a gram of white in a whole egg (public food-composition tables): yolk and white
together are whole eggs, and only what is beyond that counts for itself."""
SODA_USUAL = 0.010
POWDER_USUAL = 0.040
"""Usual doses in grams a gram of flour: 1.2 g of soda or 5 g of baking powder for 125 g."""


LACE_AT, LACE_OVER = 0.295, 0.03
"""Share of the paste's mass about which flour and egg let go of it, and how broadly (household
recipes: drops, macaroons over 0.36; lace, florentines 0.15 to 0.27)."""

SANDY_WATER, SANDY_SUGAR = 0.20, 0.60
"""Grams of added water and of sugar a gram of flour about which a dough turns sandy, gradually: a
spoonful of milk changes little (household recipes: shortbreads and crumbly doughs)."""


STIFF_FROM, MELTS, MOST_STIFF = 0.42, 0.6, 1.5
"""Water, and this share of the sugar, for the flour below which a dough is stiff; and the most that
counts (household recipes: crumbly, pressed and sliced butter doughs)."""


@dataclass(frozen=True, slots=True)
class BakeConditions:
    """How a piece is baked. Temperatures in °C; `oven_c` is what the dial says in `oven_mode`."""

    dough_temp_c: float
    oven_c: float
    oven_mode: OvenMode
    surface: Surface
    mixing: Mixing = "creamed"
    rested_overnight: bool = False


def _ratio(part: float, whole: float) -> float:
    return part / whole if whole > 0 else 0.0


def _doublings(ratio: float, reference: float, least: float = 0.1, most: float = 3.0) -> float:
    """log2 of a ratio against its reference, held inside the range that bakers use."""
    return math.log2(min(max(ratio, least), most) / reference)


def cold_units(dough_temp_c: float) -> tuple[float, float]:
    """How far a dough is from 21 °C down to 4 °C, and from 4 °C down to −18 °C, each 0 to 1."""
    warm = min(dough_temp_c, SOFTEST_DOUGH_C)
    chilled = (REFERENCE_DOUGH_C - max(warm, FRIDGE_C)) / (REFERENCE_DOUGH_C - FRIDGE_C)
    frozen = (FRIDGE_C - max(min(warm, FRIDGE_C), FREEZER_C)) / (FRIDGE_C - FREEZER_C)
    return chilled, frozen


def sandiness(dough: Composition) -> float:
    """0 to 1: little added water and little sugar make a sandy dough that holds its shape."""
    water = _ratio(dough.water_added_g, dough.structure_g)
    sugar = _ratio(dough.sugar_g, dough.structure_g)
    dry = 1 / (1 + math.exp((water - SANDY_WATER) / 0.06))
    plain = 1 / (1 + math.exp((sugar - SANDY_SUGAR) / 0.08))
    return dry * plain


def stiffness(dough: Composition) -> float:
    """How far what flows (water, and sugar that melts) falls short of what a plain dough has for
    its flour, in ln: a stiff dough keeps its shape."""
    flows = dough.water_added_g + MELTS * dough.sugar_g
    lacks = STIFF_FROM * dough.structure_g
    if lacks <= flows:
        return 0.0
    return min(math.log(lacks / flows), MOST_STIFF) if flows > 0 else MOST_STIFF


def laciness(dough: Composition) -> float:
    """0 to 1: too little flour and egg to hold what melts, so that the dough runs to lace.

    Grain holds half as much as flour; nut butter's solids hold as much again as they bind.
    """
    holding = dough.structure_g - dough.grain_g / 2 + 0.35 * dough.nut_butter_g + dough.egg_g
    return 1 / (1 + math.exp((_ratio(holding, dough.paste_g) - LACE_AT) / LACE_OVER))


def _formula_effects(dough: Composition) -> dict[str, float]:
    base, structure = dough.base_g, dough.structure_g
    sweet = sum(dough.sweetener_g.values())
    fats = sum(dough.fat_by_kind_g.values())
    trait = dough.base_by_trait_g
    free = _ratio(dough.water_added_g - dough.water_bound_g, structure)
    egg, water = _ratio(dough.egg_g, structure), _ratio(dough.water_added_g, structure)
    sugar = _doublings(_ratio(dough.sugar_g, structure), REFERENCE_SUGAR)
    soda = min(_ratio(dough.leavener_g.get("soda", 0.0), structure) / SODA_USUAL, 2.0)
    return {
        "sugar": sugar,
        "sugar_soda": sugar * min(soda, 1.0),
        "fat": _doublings(_ratio(dough.fat_g, structure), REFERENCE_FAT),
        "plastic_fat": _ratio(dough.fat_by_kind_g.get("plastic", 0.0), fats),
        "free_water": math.tanh(free + 0.35),
        "sandy": sandiness(dough),
        "stiff": stiffness(dough),
        "lace": laciness(dough),
        "icing_sugar": _ratio(dough.sweetener_g.get("icing_sugar", 0.0), sweet),
        "syrup": _ratio(dough.sweetener_g.get("syrup", 0.0), sweet),
        "brown_sugar": _ratio(dough.sweetener_g.get("brown", 0.0), sweet),
        "sugar_alcohol": _ratio(dough.sweetener_g.get("polyol", 0.0), sweet),
        "pieces": dough.pieces_share_by_volume,
        "melting_candy": dough.candy_share_by_volume,
        "nut_butter": min(_ratio(dough.nut_butter_g, structure), 1.5),
        "grain": _ratio(dough.grain_g, base),
        "wholegrain": _ratio(trait.get("wholegrain", 0.0), base),
        "nutmeal": _ratio(dough.nutmeal_g, base + dough.nutmeal_g),
        "flaked": _ratio(dough.flaked_g, base + dough.nutmeal_g),
        "no_gluten": _ratio(trait.get("no_gluten", 0.0), base),
        "soft_flour": _ratio(trait.get("soft", 0.0), base),
        "strong_flour": _ratio(trait.get("strong", 0.0), base),
        "soda": soda,
        "powder": min(_ratio(dough.leavener_g.get("powder", 0.0), structure) / POWDER_USUAL, 2.0),
        "no_egg": math.exp(-egg / 0.05),
        "eggless": math.exp(-egg / 0.05) * min(water / WET_ENOUGH, 1.0) ** 2,
        "yolk_only": _ratio(max(dough.yolk_g - YOLK_TO_WHITE * dough.white_g, 0.0), dough.egg_g),
        "egg_white": _ratio(max(dough.white_g - dough.yolk_g / YOLK_TO_WHITE, 0.0), dough.egg_g),
    }


SURFACES: tuple[Surface, ...] = ("bare", "greased", "silicone", "perforated", "insulated")
"""What lies under a piece that counts against parchment."""


def conditions_of(measured: Mapping[str, float], else_on: BakeConditions) -> BakeConditions:
    """How a piece of those effects was baked: `else_on` where they do not tell."""
    warm = REFERENCE_DOUGH_C - (REFERENCE_DOUGH_C - FRIDGE_C) * measured["chilled"]
    under = [surface for surface in SURFACES if measured.get(surface)]
    return BakeConditions(
        dough_temp_c=warm - (FRIDGE_C - FREEZER_C) * measured["frozen"],
        oven_c=REFERENCE_OVEN_C + OVEN_STEP_C * measured["oven"],
        oven_mode="conventional",
        surface=under[0] if under else "dark" if else_on.surface == "dark" else "parchment",
        mixing=else_on.mixing,
        rested_overnight=measured["overnight"] > 0,
    )


def measure_effects(dough: Composition, raw: RawPiece, how: BakeConditions) -> Mapping[str, float]:
    """Every effect's size for this dough, piece and oven, by the key of `spread_effects.csv`."""
    fats = sum(dough.fat_by_kind_g.values())
    oil = _ratio(dough.fat_by_kind_g.get("oil", 0.0), fats)
    chilled, frozen = cold_units(how.dough_temp_c)
    oven_c = conventional_c(how.oven_c, how.oven_mode)
    edge, oven = raw.edge, (oven_c - REFERENCE_OVEN_C) / OVEN_STEP_C
    large = math.log(max(edge.volume_cm3, LARGE_PIECE_CM3) / LARGE_PIECE_CM3)
    steep = math.log(edge.height_mm / edge.width_mm)
    effects = _formula_effects(dough)
    effects |= {
        "liquid_fat": max(oil, 1.0 if how.mixing in ("melted", "oil") else 0.0),
        "chilled": chilled,
        "frozen": frozen,
        "overnight": 1.0 if how.rested_overnight else 0.0,
        "oven": oven,
        "oven_egg": oven * (1 - effects["no_egg"]),
        "large_piece": large if raw.length_mm is None else 0.0,
        "steep": steep if raw.length_mm is None else 0.0,
    }
    for surface in SURFACES:
        effects[surface] = 1.0 if how.surface == surface else 0.0
    return effects
