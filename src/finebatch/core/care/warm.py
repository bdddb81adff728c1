"""How long a dough with egg or dairy may be warm: said and counted in this one place."""

from finebatch.core.measures.figures import degrees

WARM_MOST_MIN = 120
"""Minutes in all between mixing and the oven or the cold (usual food-safety guidance)."""
NOT_WARM = "not over two hours at room temperature in all"
KEEP_COLD = f"in the fridge at or below {degrees(4, 40)}"
KEEP_DOUGH = f"Keep dough with egg or dairy {NOT_WARM}, else {KEEP_COLD}."
