"""How long a dough with egg or dairy may be warm: said and counted in this one place."""

from finebatch.core.measures.figures import degrees

WARM_MOST_MIN = 120
"""Minutes in all between mixing and the oven or the cold (usual food-safety guidance)."""
HOT_ROOM_C, HOT_MOST_MIN = 32.0, 60
"""In a warmer room than this it is an hour in all (usual food-safety guidance)."""
NOT_WARM = "not over two hours at room temperature in all"
KEEP_COLD = f"in the fridge at or below {degrees(4, 40)}"
KEEP_DOUGH = f"Keep dough with egg or dairy {NOT_WARM}, else {KEEP_COLD}."


def warm_most_min(room_c: float) -> int:
    """Minutes in all for which a dough may be warm in a room of that temperature (°C)."""
    return HOT_MOST_MIN if room_c > HOT_ROOM_C else WARM_MOST_MIN
