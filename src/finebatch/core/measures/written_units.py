"""Units in the ways in which cards write them, and how full a measure is said to be."""

from collections.abc import Mapping
from typing import Literal

from finebatch.core.measures.units import PINCH_CUPS

Dimension = Literal["mass", "volume", "count"]

ML_IN_CUP = 236.588

UNITS: Mapping[str, tuple[Dimension, float, str]] = {
    # Mass in grams.
    "g|gr|gms?|grams?|grammes?": ("mass", 1.0, "g"),
    "kg|kgs|kilos?|kilograms?": ("mass", 1000.0, "g"),
    "oz|ozs|ounces?": ("mass", 28.349523, "oz"),
    "lbs?|pounds?": ("mass", 453.59237, "lb"),
    # Volume in US cups.
    "cups?|c|cupfuls?": ("volume", 1.0, "cup"),
    "(?-i:T)|tbsps?|tbs|tblsp|tablespoons?|tablespoonfuls?": ("volume", 1 / 16, "tbsp"),
    "(?-i:t)|tsps?|teaspoons?|teaspoonfuls?": ("volume", 1 / 48, "tsp"),
    "dessertspoons?|dsp": ("volume", 10 / ML_IN_CUP, "tbsp"),
    "fl\\.? ?oz|fluid ounces?": ("volume", 1 / 8, "cup"),
    "pints?|pt": ("volume", 2.0, "cup"),
    "ml|mls|millilit(?:er|re)s?": ("volume", 1 / ML_IN_CUP, "ml"),
    "cl|centilit(?:er|re)s?": ("volume", 10 / ML_IN_CUP, "ml"),
    "dl|decilit(?:er|re)s?": ("volume", 100 / ML_IN_CUP, "ml"),
    "l|lit(?:er|re)s?": ("volume", 1000 / ML_IN_CUP, "ml"),
    "pinch(?:es)?": ("volume", PINCH_CUPS, "pinch"),
    "dash(?:es)?": ("volume", 2 * PINCH_CUPS, "pinch"),
    # Things that are counted.
    "sticks?": ("count", 1.0, "stick"),
    "bags?|packets?|packs?|packages?|pkgs?|pkts?|sachets?": ("count", 1.0, "container"),
    "bars?|tins?|cans?|jars?|tubs?|boxes|box": ("count", 1.0, "container"),
}
"""Units by the ways in which they are written: dimension, size in grams or cups, and name. A pinch
is taken as 1/16 and a dash as 1/8 teaspoon (usual measuring-spoon sets)."""

HEAPS: Mapping[str, float] = {
    "well rounded": 1.25,
    "well-rounded": 1.25,
    "heaped": 1.5,
    "heaping": 1.5,
    "rounded": 1.25,
    "generous": 1.1,
    "good": 1.1,
    "scant": 0.9,
    "level": 1.0,
    "flat": 1.0,
    "packed": 1.0,
    "firmly packed": 1.0,
    "lightly packed": 1.0,
    "struck": 1.0,
}
"""How full a measure is, against level (household practice)."""

ANY_UNIT = "|".join(UNITS)
ANY_HEAP = "|".join(sorted(HEAPS, key=len, reverse=True))
