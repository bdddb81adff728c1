"""How a kitchen measures: how it fills a cup and which eggs it buys."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

CupHabit = Literal["spooned", "sifted", "dipped"]

LARGE_EGG_G = 50.0
"""The egg that the larder's natural units are given for: a US large, without its shell."""
USUAL_EGG = "US large"


@dataclass(frozen=True, slots=True)
class Measuring:
    """What is assumed where a card does not say. `egg` is a market and a size: ``EU/UK medium``.

    `egg_sizes` are grams of an egg's contents by market and size.
    """

    cup: CupHabit = "spooned"
    egg: str = USUAL_EGG
    egg_sizes: Mapping[str, float] = field(default_factory=lambda: {USUAL_EGG: LARGE_EGG_G})

    def where(self, cup: CupHabit | None, egg: str | None) -> "Measuring":
        """The same with what a dough or line says otherwise."""
        if cup is None and egg is None:
            return self
        return replace(self, cup=cup or self.cup, egg=egg or self.egg)

    @property
    def egg_g(self) -> float:
        """Grams of one whole egg without its shell."""
        return self.egg_sizes.get(self.egg, LARGE_EGG_G)


USUAL = Measuring()
