"""What a dough is made of, as far as it decides how the dough flows, lifts and browns."""

from collections.abc import Mapping
from dataclasses import dataclass

from finebatch.core.formula.weigh import BASE_ROLES
from finebatch.core.larder.ingredient import Ingredient, Larder

SWEET_ROLES = frozenset({"sugar", "icing_sugar", "polyol", "syrup"})
PIECE_ROLES = frozenset({"piece", "chip", "fruit"})

STRUCTURE_SHARE = {"cocoa": 1.0, "nutmeal": 0.5, "nut_butter": 0.35, "dry": 0.5}
"""How far a gram of these does the work of a gram of flour: their solids that are not fat or
sugar, rounded (food-composition tables)."""

DENSITY_G_CM3 = {"water": 1.0, "fat": 0.92, "sugar": 1.55, "solids": 1.45}
"""Densities of the four fractions (sucrose 1.59 dry and about 1.55 dissolved, flour solids
1.45 to 1.5; food-engineering handbooks)."""

AIR_SHARE = 0.06
"""Air beaten into a cookie dough, as a share of its volume; most doughs weigh 1.2 to 1.3 g/cm³."""


@dataclass(frozen=True, slots=True)
class Composition:
    """Grams of each fraction of a dough, and the shares by which families differ.

    `base_g` is flour, starch and grain; `structure_g` adds what stands in for flour. `sugar_g`
    are the added sweeteners' dissolving sugars. `water_added_g` leaves out flour's own moisture.
    """

    total_g: float
    base_g: float
    structure_g: float
    fat_g: float
    sugar_g: float
    water_added_g: float
    water_bound_g: float
    egg_g: float
    yolk_g: float
    white_g: float
    salt_g: float
    density_g_cm3: float
    pieces_share_by_volume: float
    candy_share_by_volume: float
    sweetener_g: Mapping[str, float]
    base_by_trait_g: Mapping[str, float]
    fat_by_kind_g: Mapping[str, float]
    leavener_g: Mapping[str, float]
    nut_butter_g: float
    nutmeal_g: float
    grain_g: float
    starch_g: float


def _volume_cm3(ingredient: Ingredient, grams: float) -> float:
    d = DENSITY_G_CM3
    return (grams / 100) * (
        ingredient.water_pct / d["water"]
        + ingredient.fat_pct / d["fat"]
        + ingredient.sugar_pct / d["sugar"]
        + ingredient.other_solids_pct / d["solids"]
    )


def _fat_kind(ingredient: Ingredient) -> str:
    if ingredient.role == "oil":
        return "oil"
    return "plastic" if "plastic" in ingredient.traits else "butter"


def compose(formula_g: Mapping[str, float], larder: Larder) -> Composition:
    """Add up a formula (grams by ingredient key); `Refusal` for a key that the larder lacks."""
    items = [(larder.find(k, f"formula_g.{k}"), g) for k, g in formula_g.items() if g > 0]
    by_role: dict[str, float] = {}
    traits: dict[str, float] = {}
    sweet: dict[str, float] = {}
    fats: dict[str, float] = {}
    leaven: dict[str, float] = {}
    fat = sugar = added = bound = matrix_cm3 = pieces_cm3 = candy_cm3 = 0.0
    for item, grams in items:
        by_role[item.role] = by_role.get(item.role, 0.0) + grams
        for trait in item.traits:
            traits[trait] = traits.get(trait, 0.0) + grams
            if item.role == "leavener":
                leaven[trait] = leaven.get(trait, 0.0) + grams
        volume = _volume_cm3(item, grams)
        if item.role in PIECE_ROLES:
            pieces_cm3 += volume
            continue
        if item.role == "melting_candy":
            candy_cm3 += volume
            continue
        matrix_cm3 += volume
        bound += item.water_binding * grams
        fat += item.fat_pct / 100 * grams
        if item.role in ("fat", "oil"):
            kind = _fat_kind(item)
            fats[kind] = fats.get(kind, 0.0) + item.fat_pct / 100 * grams
        if item.role in SWEET_ROLES:
            kind = "brown" if "brown" in item.traits else item.role
            sweet[kind] = sweet.get(kind, 0.0) + item.sugar_pct / 100 * grams
        sugar += item.sugar_pct / 100 * grams if item.role not in BASE_ROLES else 0.0
        if item.role not in BASE_ROLES:
            added += item.water_pct / 100 * grams
    base = sum(by_role.get(role, 0.0) for role in BASE_ROLES)
    structure = base + sum(s * by_role.get(role, 0.0) for role, s in STRUCTURE_SHARE.items())
    solid_cm3 = matrix_cm3 + pieces_cm3 + candy_cm3
    total = sum(grams for _, grams in items)
    return Composition(
        total_g=total,
        base_g=base,
        structure_g=structure,
        fat_g=fat,
        sugar_g=sugar,
        water_added_g=added,
        water_bound_g=bound,
        egg_g=by_role.get("egg", 0.0),
        yolk_g=traits.get("yolk", 0.0),
        white_g=traits.get("white", 0.0),
        salt_g=by_role.get("salt", 0.0),
        density_g_cm3=total / (solid_cm3 / (1 - AIR_SHARE)) if solid_cm3 else 1.2,
        pieces_share_by_volume=pieces_cm3 / solid_cm3 if solid_cm3 else 0.0,
        candy_share_by_volume=candy_cm3 / solid_cm3 if solid_cm3 else 0.0,
        sweetener_g=sweet,
        base_by_trait_g=traits,
        fat_by_kind_g=fats,
        leavener_g=leaven,
        nut_butter_g=by_role.get("nut_butter", 0.0),
        nutmeal_g=by_role.get("nutmeal", 0.0),
        grain_g=by_role.get("grain", 0.0),
        starch_g=by_role.get("starch", 0.0),
    )
