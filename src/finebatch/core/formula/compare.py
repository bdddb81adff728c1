"""Two versions of a dough beside each other: what changed, in words and in grams."""

from dataclasses import dataclass

from finebatch.core.formula.dough import Card, WeighedDough
from finebatch.core.formula.weigh import weigh_card
from finebatch.core.larder.ingredient import Larder
from finebatch.core.larder.measuring import USUAL, Measuring
from finebatch.core.measures.figures import LEAST_WHOLE_G, grams_changed
from finebatch.core.measures.figures import grams as in_grams
from finebatch.core.measures.units import MASS_UNITS
from finebatch.core.values import Tells

NOTICEABLE = 0.005
"""Below half a percent two weights are the same."""


@dataclass(frozen=True, slots=True)
class ComparedLine(Tells):
    """One ingredient in two versions: grams and percent of the flour; none where it is not in."""

    ingredient: str
    before_g: float | None
    after_g: float | None
    before_pct: float | None
    after_pct: float | None

    TOLD = ("changed",)

    @property
    def changed(self) -> bool:
        """Whether the grams differ so that one would notice."""
        if self.before_g is None or self.after_g is None:
            return True
        return abs(self.after_g - self.before_g) > NOTICEABLE * max(self.before_g, self.after_g)


def compare_lines(before: WeighedDough, after: WeighedDough) -> list[ComparedLine]:
    """Every ingredient of either, in the order of the later one and then of the earlier."""
    one, other = before.known_g(), after.known_g()

    def percent(grams: float | None, dough: WeighedDough) -> float | None:
        return 100 * grams / dough.base_g if grams is not None and dough.base_g else None

    return [
        ComparedLine(
            key,
            one.get(key),
            other.get(key),
            percent(one.get(key), before),
            percent(other.get(key), after),
        )
        for key in dict.fromkeys((*other, *one))
    ]


def _figure(grams: float) -> str:
    return in_grams(grams, 0 if grams >= LEAST_WHOLE_G else 1)


def _line_words(line: ComparedLine, larder: Larder) -> str:
    name = larder[line.ingredient].name if line.ingredient in larder else line.ingredient
    if line.before_g is None:
        return f"{name} added, {_figure(line.after_g or 0)}"
    if line.after_g is None:
        return f"{name} taken out"
    return f"{name} {grams_changed(line.before_g, line.after_g)}"


def _in_own_unit(before: Card, after: Card, key: str) -> str:
    """An ingredient's amounts as both cards measure it, by spoon, cup or piece; nothing where they
    do not, or weigh it."""
    one, other = ([ln for ln in card.lines if ln.ingredient == key] for card in (before, after))
    if len(one) != 1 or len(other) != 1 or one[0].unit != other[0].unit:
        return ""
    if one[0].unit in MASS_UNITS or one[0].amount == other[0].amount:
        return ""
    return f"{one[0].amount.strip()} → {other[0].amount.strip()} {one[0].unit.replace('_', ' ')}"


def _scaled_by(lines: list[ComparedLine]) -> float | None:
    """The factor that every line grew by; none when they did not grow alike."""
    if not lines or any(not line.before_g or not line.after_g for line in lines):
        return None
    factors = [(line.after_g or 0) / (line.before_g or 1) for line in lines]
    same = max(factors) - min(factors) <= 2 * NOTICEABLE * max(factors)
    return factors[0] if same and abs(factors[0] - 1) > NOTICEABLE else None


def changes(
    before: Card,
    after: Card,
    larder: Larder,
    measuring: Measuring = USUAL,
    *,
    own_units: bool = False,
) -> tuple[str, ...]:
    """What a baker would say was changed, in words; nothing when the doughs bake the same. In
    `own_units` what both cards measure by spoon, cup or piece is told so."""
    lines = compare_lines(*(weigh_card(card, larder, measuring) for card in (before, after)))
    factor = _scaled_by(lines)
    if factor is not None:
        said = [f"all × {factor:.3g}"]
    else:
        said = []
        for line in lines:
            own = _in_own_unit(before, after, line.ingredient) if own_units else ""
            if line.changed and own:
                said.append(f"{larder[line.ingredient].name} {own}")
            elif line.changed:
                said.append(_line_words(line, larder))
    for name in ("family", "mixing"):
        old, new = getattr(before, name), getattr(after, name)
        if old != new:
            said.append(f"{old.replace('_', ' ')} → {new.replace('_', ' ')}")
    if before.steps != after.steps:
        said.append("method changed")
    old_parts = {part.name: part for part in before.parts}
    new_parts = {part.name: part for part in after.parts}
    said += [f"{name} added" for name in new_parts if name not in old_parts]
    said += [f"{name} taken out" for name in old_parts if name not in new_parts]
    said += [
        f"{name} changed"
        for name in new_parts
        if name in old_parts and new_parts[name] != old_parts[name]
    ]
    return tuple(said)
