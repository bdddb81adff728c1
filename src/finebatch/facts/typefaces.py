"""The fonts that print names in any script: files of a few hundred letters each, as they are built
from the interface's packages (SIL Open Font License)."""

import json
from bisect import bisect_right
from dataclasses import dataclass
from functools import cache, lru_cache
from io import BytesIO
from pathlib import Path

FOLDER = Path(__file__).parent / "fonts"
OPEN_AT_ONCE = 48


@dataclass(frozen=True, slots=True)
class FontFile:
    """One file and the letters that it may have, as spans of code points."""

    file: str
    family: str
    letters: tuple[tuple[int, int], ...]

    def may_have(self, letter: str) -> bool:
        """Whether the letter lies in one of its spans."""
        place = bisect_right(self.letters, (ord(letter), 0x110000)) - 1
        return place >= 0 and self.letters[place][1] >= ord(letter)


@cache
def font_files() -> tuple[FontFile, ...]:
    """All fonts, the one to be preferred first."""
    index = json.loads((FOLDER / "index.json").read_text(encoding="utf-8"))
    return tuple(
        FontFile(one["file"], one["family"], tuple(sorted(map(tuple, one["letters"]))))
        for one in index
    )


@lru_cache(OPEN_AT_ONCE)
def open_font(file: str) -> tuple[bytes, frozenset[int]]:
    """A font as TrueType, and the letters that it has."""
    from fontTools.ttLib import TTFont  # takes time to load

    font = TTFont(FOLDER / file)
    font.flavor = None
    written = BytesIO()
    font.save(written)
    return written.getvalue(), frozenset(font.getBestCmap())
