"""Whether an ingredient can be: its composition adds up, and it fits into a cup."""

from finebatch.core.larder.ingredient import Ingredient
from finebatch.core.measures.figures import grams as in_grams
from finebatch.core.measures.figures import grams_between
from finebatch.core.measures.written_units import ML_IN_CUP
from finebatch.core.refusal import Fault, Refusal

ADDS_UP_WITHIN = 1.0
DENSITY_G_ML = {"water": 1.0, "fat": 0.92, "sugar": 1.59, "solids": 1.6}
"""Densities of the fractions with nothing between them (sucrose crystals 1.59)."""

SALT_G_ML = 2.2
LIGHTEST_G_PER_CUP = 8.0
MOST_BINDING = 3.0
DENSE_ROLES = frozenset({"leavener", "salt"})


def most_g_per_cup(ingredient: Ingredient) -> float:
    """What a cup of it weighs without any air between: no cup can hold more."""
    if ingredient.role in DENSE_ROLES:
        return SALT_G_ML * ML_IN_CUP
    d = DENSITY_G_ML
    ml_per_g = (
        ingredient.water_pct / d["water"]
        + ingredient.fat_pct / d["fat"]
        + ingredient.sugar_pct / d["sugar"]
        + ingredient.other_solids_pct / d["solids"]
    ) / 100
    return 1.03 * ML_IN_CUP / ml_per_g if ml_per_g > 0 else SALT_G_ML * ML_IN_CUP


def _composition_faults(ingredient: Ingredient) -> list[Fault]:
    parts = {
        "water_pct": ingredient.water_pct,
        "fat_pct": ingredient.fat_pct,
        "sugar_pct": ingredient.sugar_pct,
        "other_solids_pct": ingredient.other_solids_pct,
    }
    faults = [
        Fault(field, "Give 0 to 100 %.") for field, value in parts.items() if not 0 <= value <= 100
    ]
    total = sum(parts.values())
    if not faults and abs(total - 100) > ADDS_UP_WITHIN:
        message = f"Water, fat, sugars and the rest add up to {total:g} %. Make it 100 %."
        faults.append(Fault("other_solids_pct", message))
    return faults


def _density_faults(ingredient: Ingredient) -> list[Fault]:
    most = most_g_per_cup(ingredient)
    sifted, spooned, dipped = (
        ingredient.g_per_cup_sifted,
        ingredient.g_per_cup,
        ingredient.g_per_cup_dipped,
    )
    faults = []
    for field, grams in (
        ("g_per_cup", spooned),
        ("g_per_cup_sifted", sifted),
        ("g_per_cup_dipped", dipped),
    ):
        if grams is None:
            continue
        if grams < LIGHTEST_G_PER_CUP:
            message = f"Nothing in a kitchen is as light as {in_grams(grams)} a cup."
            faults.append(Fault(field, message))
        elif grams > most:
            message = (
                f"By its composition a cup without any air weighs {in_grams(most)}: give less."
            )
            faults.append(Fault(field, message))
    if sifted is not None and sifted > spooned:
        faults.append(Fault("g_per_cup_sifted", "Sifted is lighter than spooned, never heavier."))
    if dipped is not None and dipped < spooned:
        faults.append(Fault("g_per_cup_dipped", "Dipped is heavier than spooned, never lighter."))
    return faults


def check_ingredient(ingredient: Ingredient) -> None:
    """Raise `Refusal` naming everything about an ingredient that cannot be."""
    faults = [] if ingredient.name.strip() else [Fault("name", "Give it a name.")]
    faults += _composition_faults(ingredient)
    if not faults:
        faults += _density_faults(ingredient)
    if not 0 <= ingredient.water_binding <= MOST_BINDING:
        faults.append(
            Fault("water_binding", f"Give 0 to {MOST_BINDING:g} times its weight in water.")
        )
    natural = ingredient.natural_unit
    if natural is not None and not 0.1 <= natural.grams <= 5000:
        faults.append(Fault("natural_unit.grams", f"Give {grams_between(0.1, 5000)} for one."))
    if faults:
        raise Refusal(*faults)
