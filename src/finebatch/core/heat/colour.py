"""Minutes by the colour that is wanted: a piece goes on browning once it is done."""

from collections.abc import Mapping

from finebatch.core.formula.dough import Colour

ColourSteps = tuple[int, int]
"""From and to on the colour strip, counted from 1, the lightest."""

STRIP_RGB = (
    (234, 220, 185),
    (233, 210, 156),
    (223, 187, 116),
    (207, 156, 73),
    (176, 116, 46),
    (135, 76, 31),
    (76, 43, 21),
)
"""The colour strip as the screen shows it: red, green and blue of each step, lightest first."""
STEPS: Mapping[Colour, ColourSteps] = {"pale": (2, 2), "golden": (4, 4), "brown": (6, 6)}
STEP_LN = 0.06
"""What one step of the strip takes in ln of minutes (household practice: from gold to brown about a
tenth longer)."""


def colour_shift(wanted: Colour | None, usual: ColourSteps | None) -> float:
    """By how much in ln a bake is longer for that colour than for the `usual` ones."""
    if wanted is None or usual is None:
        return 0.0
    lightest, darkest = usual
    low, high = STEPS[wanted]
    return STEP_LN * (max(low - darkest, 0) - max(lightest - high, 0))
