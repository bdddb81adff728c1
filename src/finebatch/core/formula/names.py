"""What people call an ingredient, and which one they mean."""

import re
from collections.abc import Iterable
from dataclasses import dataclass

from rapidfuzz import fuzz, process

NEAR = 86.0
"""Similarity in percent from which a misspelt name is taken for a known one, and asked about."""

_TOOLS = re.compile(
    r"\b(?:ice[- ]?cream|cookie|dough|melon)[- ](?:scoops?|ballers?|cutters?|spoons?)\b"
    r"|\b(?:pastry|butter|sugar|candy|chocolate|egg|nut|nutmeg|flour|icing|coffee|rice|bread)[- ]"
    r"(?:brush(?:es)?|cutters?|boards?|bags?|wheels?|blenders?|kni(?:fe|ves)|dish(?:es)?|papers?|"
    r"thermometers?|timers?|whisks?|crackers?|graters?|sifters?|sieves?|dredgers?|shakers?|cups?|"
    r"mills?|grinders?)\b",
    re.IGNORECASE,
)
"""Tools that have an ingredient in their name: an ice-cream scoop is no cream."""
_WORD = re.compile(r"[^\W\d_]+(?:['’-][^\W\d_]+)*|\d+(?=x\b)x?|\b(?:00|405|55)\b")


@dataclass(frozen=True, slots=True)
class IngredientName:
    """One way to call an ingredient; `ask` is what to ask the baker when it is ambiguous."""

    words: tuple[str, ...]
    key: str
    ask: str | None


@dataclass(frozen=True, slots=True)
class Named:
    """The ingredient that a name means; `ask` when it was guessed or is ambiguous."""

    key: str
    ask: str | None


def split_words(text: str) -> list[str]:
    """A name's words in lower case, without marks."""
    return [word.replace("’", "'") for word in _WORD.findall(text.casefold())]


def _singular(word: str) -> str:
    return word[:-1] if len(word) > 3 and word.endswith("s") and not word.endswith("ss") else word


class Names:
    """All names of all ingredients, and the words that say how an ingredient is, not which."""

    def __init__(self, names: Iterable[IngredientName], describing: Iterable[str]) -> None:
        self._describing = frozenset(_singular(word.casefold()) for word in describing)
        self._by_words = {tuple(map(_singular, name.words)): name for name in names}
        self._longest = max(map(len, self._by_words))
        self._ends: dict[str, set[str]] = {}
        for name in self._by_words.values():
            self._ends.setdefault(name.key, set()).add(_singular(name.words[-1]))
        self._spelt = {" ".join(words): name for words, name in self._by_words.items()}

    def find(self, text: str) -> Named | None:
        """The ingredient that a text names, if it names any.

        The longest known name in it counts. Words that neither belong to that name nor merely
        describe it make it a guess, and so does a misspelling: the baker is asked.
        """
        words = [_singular(word) for word in split_words(text)]
        for length in range(min(self._longest, len(words)), 0, -1):
            for start in range(len(words) - length, -1, -1):
                name = self._by_words.get(tuple(words[start : start + length]))
                if name is None:
                    continue
                rest = words[:start] + words[start + length :]
                strange = [w for w in rest if w not in self._describing]
                if not strange:
                    return Named(name.key, name.ask)
                misspelt = self._nearest(words)
                if misspelt is not None and len(misspelt[0].words) > length:
                    return _spelt_as(*misspelt)
                guess = f"“{' '.join(strange)}” is not known of it: is this right?"
                return Named(name.key, name.ask or guess)
        misspelt = self._nearest(words)
        return _spelt_as(*misspelt) if misspelt else None

    def of(self, key: str) -> list[str]:
        """What an ingredient is called, the usual name first."""
        return [" ".join(name.words) for name in self._by_words.values() if name.key == key]

    def in_short(self, key: str, text: str) -> bool:
        """Whether a sentence names it by its last word alone, when nothing else is called so:
        “the soda”, “the chips”, but not “the butter” for peanut butter."""
        words = {_singular(word) for word in split_words(_TOOLS.sub(" ", text))}
        ends = self._ends.get(key, ())
        return any(end in words and (end,) not in self._by_words for end in ends)

    def mentioned(self, text: str) -> list[tuple[str, str]]:
        """The ingredients that a sentence names, with the words that name them, in order."""
        words = [_singular(word) for word in split_words(_TOOLS.sub(" ", text))]
        found, start = [], 0
        while start < len(words):
            for length in range(min(self._longest, len(words) - start), 0, -1):
                name = self._by_words.get(tuple(words[start : start + length]))
                if name is not None:
                    found.append((name.key, " ".join(name.words)))
                    start += length
                    break
            else:
                start += 1
        return found

    def _nearest(self, words: list[str]) -> tuple[IngredientName, str] | None:
        """The name that is spelt most like these words, and the words that were compared."""
        wanted = " ".join(word for word in words if word not in self._describing)
        if len(wanted) < 4:
            return None
        found = process.extractOne(wanted, self._spelt.keys(), scorer=fuzz.ratio)
        if found is None or found[1] < NEAR:
            return None
        return self._spelt[found[0]], wanted


def _spelt_as(name: IngredientName, written: str) -> Named:
    return Named(name.key, f"“{written}” is read as {' '.join(name.words)}: is this right?")
