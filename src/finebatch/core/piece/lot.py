"""So much dough of one density: what pieces are made of. Masses in g, densities in g/cm³."""

import math
from dataclasses import dataclass

BOWL_LOSS = 0.02
"""Share of the dough that stays on bowl and spoon (usual 1 to 3 %)."""


@dataclass(frozen=True, slots=True)
class Lot:
    """All the dough that there is."""

    total_g: float
    density_g_cm3: float

    @property
    def usable_g(self) -> float:
        """What is left once the bowl has kept its share."""
        return self.total_g * (1 - BOWL_LOSS)

    def shared_g(self, pieces: int) -> float:
        """All of it in so many pieces, to a tenth of a gram below, so that the last one is not lost
        to rounding."""
        return math.floor(10 * self.usable_g / pieces) / 10

    @property
    def usable_mm3(self) -> float:
        """Its volume."""
        return 1000 * self.usable_g / self.density_g_cm3
