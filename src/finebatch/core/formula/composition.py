"""What a dough is made of, as far as it decides how the dough flows, lifts and browns."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass

from finebatch.core.formula.weigh import BASE_ROLES
from finebatch.core.larder.ingredient import Ingredient, Larder

SWEET_ROLES = frozenset({"sugar", "icing_sugar", "polyol", "syrup"})
PIECE_ROLES = frozenset({"piece", "chip", "fruit"})

STRUCTURE_SHARE = {"cocoa": 1.0, "nutmeal": 0.7, "nut_butter": 0.35, "dry": 0.5}
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
    are the added sweeteners' dissolving sugars. `water_added_g` leaves out flour's own moisture,
    `water_g` has it; what pieces hold stays in them.
    `paste_g` is all but pieces and melting candy.
    """

    total_g: float
    paste_g: float
    base_g: float
    structure_g: float
    fat_g: float
    sugar_g: float
    water_added_g: float
    water_g: float
    water_bound_g: float
    egg_g: float
    yolk_g: float
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
    flaked_g: float
    white_g: float


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


def _sweet_kind(ingredient: Ingredient) -> str:
    return "brown" if "brown" in ingredient.traits else ingredient.role


Item = tuple[Ingredient, float]


def _grouped(
    items: Iterable[Item],
    names: Callable[[Ingredient], Iterable[str]],
    share_pct: Callable[[Ingredient], float] = lambda _: 100.0,
) -> dict[str, float]:
    """Grams under each name, counting `share_pct` percent of each item."""
    found: dict[str, float] = {}
    for item, grams in items:
        for name in names(item):
            found[name] = found.get(name, 0.0) + share_pct(item) / 100 * grams
    return found


def _volumes_cm3(items: Sequence[Item]) -> tuple[float, float, float]:
    """Volume of all without air, of its pieces, and of its melting candy."""
    pieces = sum(_volume_cm3(i, g) for i, g in items if i.role in PIECE_ROLES)
    candy = sum(_volume_cm3(i, g) for i, g in items if i.role == "melting_candy")
    return sum(_volume_cm3(i, g) for i, g in items), pieces, candy


def compose(formula_g: Mapping[str, float], larder: Larder) -> Composition:
    """Add up a formula (grams by ingredient key); `Refusal` for a key that the larder lacks."""
    plain = larder.expand({k: g for k, g in formula_g.items() if g > 0})
    items = [(larder[k], g) for k, g in plain.items()]
    total = sum(grams for _, grams in items)
    by_role = _grouped(items, lambda i: (i.role,))
    # What lies in the dough in pieces neither wets, sweetens nor shortens it.
    paste = [(i, g) for i, g in items if i.role not in PIECE_ROLES | {"melting_candy"}]
    added = [(i, g) for i, g in paste if i.role not in BASE_ROLES]
    base = sum(by_role.get(role, 0.0) for role in BASE_ROLES)
    structure = base + sum(s * by_role.get(role, 0.0) for role, s in STRUCTURE_SHARE.items())
    all_cm3, pieces_cm3, candy_cm3 = _volumes_cm3(items)
    traits = _grouped(items, lambda i: i.traits)
    return Composition(
        total_g=total,
        paste_g=sum(g for _, g in paste),
        base_g=base,
        structure_g=structure,
        fat_g=sum(i.fat_pct / 100 * g for i, g in paste),
        sugar_g=sum(i.sugar_pct / 100 * g for i, g in added),
        water_added_g=sum(i.water_pct / 100 * g for i, g in added),
        water_g=sum(i.water_pct / 100 * g for i, g in paste),
        water_bound_g=sum(i.water_binding * g for i, g in paste),
        egg_g=by_role.get("egg", 0.0),
        yolk_g=traits.get("yolk", 0.0),
        density_g_cm3=total / all_cm3 * (1 - AIR_SHARE) if all_cm3 else 1.2,
        pieces_share_by_volume=pieces_cm3 / all_cm3 if all_cm3 else 0.0,
        candy_share_by_volume=candy_cm3 / all_cm3 if all_cm3 else 0.0,
        sweetener_g=_grouped(
            [(i, g) for i, g in paste if i.role in SWEET_ROLES],
            lambda i: (_sweet_kind(i),),
            lambda i: i.sugar_pct,
        ),
        base_by_trait_g=traits,
        fat_by_kind_g=_grouped(
            [(i, g) for i, g in paste if i.role in ("fat", "oil")],
            lambda i: (_fat_kind(i),),
            lambda i: i.fat_pct,
        ),
        leavener_g=_grouped([(i, g) for i, g in items if i.role == "leavener"], lambda i: i.traits),
        nut_butter_g=by_role.get("nut_butter", 0.0),
        nutmeal_g=by_role.get("nutmeal", 0.0),
        grain_g=by_role.get("grain", 0.0),
        flaked_g=traits.get("flaked", 0.0),
        white_g=traits.get("white", 0.0),
    )
