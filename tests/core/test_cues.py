"""What to look for is known for every family and doneness, and darker is never paler."""

from itertools import pairwise

from finebatch.core.heat.minutes import DONE_AT_C, USUAL_DONENESS
from finebatch.facts import tables


def test_the_drier_it_is_wanted_the_darker_it_is() -> None:
    for family in USUAL_DONENESS:
        steps = [tables.cues()[family, doneness] for doneness in DONE_AT_C]
        for softer, drier in pairwise(steps):
            assert drier.colour_to >= softer.colour_to
            assert drier.colour_from >= softer.colour_from
