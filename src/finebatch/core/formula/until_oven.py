"""How long a dough may wait for the oven, where its card says so: “bake within 45 minutes of
mixing”, “do not let the batter stand for longer than 20 minutes”."""

import re
from collections.abc import Sequence

from finebatch.core.measures.durations import find_durations, find_limits
from finebatch.core.measures.spoken import plain_text
from finebatch.core.measures.temperatures import find_temperatures

LONGEST_MIN = 240.0
"""What may wait longer waits in the cold, and says nothing of a batter that sinks."""
_WAITS = re.compile(
    r"\b(?:bak(?:e|ed|ing)|oven|use[ds]?|stands?|waits?|sits?|lies?|stays?|keeps?|leaves?|left|holds?|lasts?)\b",
    re.IGNORECASE,
)
_OF_DOUGH = re.compile(r"\b(?:batter|dough|mixture|mix|mixing|mixed)\b", re.IGNORECASE)
_OF_ELSE = re.compile(
    r"\b(?:icing|frosting|glaze|filling|cream|topping|wash|chocolate)\b"
    r"|\b(?:tak(?:e|ing)|com(?:e|ing)|out|from)\b.{0,20}\b(?:fridge|freezer|cold|oven)\b"
    r"|\b(?:fridge|freezer|refrigerat\w*|chill\w*|airtight|tins?|eat|eaten)\b",
    re.IGNORECASE,
)
"""Other things that do not keep for long, and other moments from which it is counted."""


def _limit(text: str) -> float | None:
    plain = plain_text(text)
    if not _WAITS.search(plain) or _OF_ELSE.search(plain):
        return None
    fits = [one.high for one in find_limits(text) if 1 <= one.high <= LONGEST_MIN]
    return min(fits, default=None)


def only_says_how_long(text: str) -> bool:
    """Whether a sentence only says how long a dough may wait, and tells nothing to do."""
    return _limit(text) is not None and not find_durations(text) and not find_temperatures(text)


def until_oven_min(sentences: Sequence[str], first: int) -> float | None:
    """The fewest minutes within which a dough has to be in the oven; None where no sentence says
    so. `first` is the number of that which bakes it: behind it the dough has to be named."""
    said = [
        limit
        for n, text in enumerate(sentences)
        if (limit := _limit(text)) is not None and (n <= first or _OF_DOUGH.search(text))
    ]
    return min(said, default=None)
