"""How a change of dough shows in the mouth, in colour and in the tin: more, less, or the same."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

Quality = Literal["tender", "browning", "keeping"]

QUALITIES: tuple[Quality, ...] = ("tender", "browning", "keeping")
LITTLE, CLEAR, MUCH = 0.06, 0.2, 0.6


@dataclass(frozen=True, slots=True)
class Influence:
    """How far one effect of the dough moves a quality; 1 is a difference that anyone notices."""

    quality: Quality
    effect: str
    weight: float


def score(quality: Quality, effects: Mapping[str, float], weights: Sequence[Influence]) -> float:
    """A quality of a dough by its effects; only differences between doughs mean anything."""
    return sum(w.weight * effects.get(w.effect, 0.0) for w in weights if w.quality == quality)


_WORDS: Mapping[Quality, tuple[str, str]] = {
    "tender": ("{}more tender", "{}firmer"),
    "browning": ("browns {}sooner", "stays {}paler"),
    "keeping": ("keeps {}longer", "keeps {}less long"),
}


def difference(quality: Quality, before: float, after: float) -> str:
    """What a baker would notice between two scores, in words."""
    delta = after - before
    if abs(delta) < LITTLE:
        return "about the same"
    size = "clearly " if abs(delta) >= MUCH else "a little " if abs(delta) < CLEAR else ""
    return _WORDS[quality][0 if delta > 0 else 1].format(size)
