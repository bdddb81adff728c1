"""Allergens of a dough and its parts, and the usual cautions for what is in it."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from finebatch.core.formula.dough import Card
from finebatch.core.larder.ingredient import Larder

DEFER = "Follow your local food authority, the labels and the appliance's manual."
MAY_HOLD = "may hold "
"""How the larder writes an allergen that only some kinds of an ingredient hold."""


@dataclass(frozen=True, slots=True)
class Allergen:
    """One allergen and what brings it: ingredient names, and the part that they are in.

    `surely` is False where all that brings it only may hold it: then the label tells.
    """

    name: str
    brought_by: tuple[str, ...]
    surely: bool = True


def _keys(card: Card, larder: Larder) -> Iterable[tuple[str, str]]:
    """Every ingredient key of the dough and its parts, with the part's name (empty: the dough)."""
    groups = [("", card.lines), *((part.name, part.lines) for part in card.parts)]
    for part, lines in groups:
        for line in lines:
            if line.ingredient is not None and line.ingredient in larder:
                yield line.ingredient, part


def allergens(card: Card, larder: Larder) -> list[Allergen]:
    """All allergens by the larder, in the order in which the card brings them."""
    found: dict[str, list[str]] = {}
    sure: set[str] = set()
    for key, part in _keys(card, larder):
        ingredient = larder[key]
        named = f"{ingredient.name} in the {part}" if part else ingredient.name
        for written in ingredient.allergens:
            allergen = written.removeprefix(MAY_HOLD)
            if surely := allergen == written:
                sure.add(allergen)
            by = found.setdefault(allergen, [])
            words = named if surely else f"{named} (may; read its label)"
            if words not in by:
                by.append(words)
    return [Allergen(name, tuple(by), name in sure) for name, by in found.items()]


def _triggers(card: Card, larder: Larder) -> set[str]:
    keys = list(_keys(card, larder))
    roles = {larder[key].role for key, _ in keys}
    found = set()
    if roles & {"flour", "grain", "starch"}:
        found.add("flour")
    if any(larder[key].role == "grain" and "gluten" in larder[key].allergens for key, _ in keys):
        found.add("oats")
    if "egg" in roles:
        found.add("egg")
    if any("milk" in larder[key].allergens for key, _ in keys):
        found.add("dairy")
    icing = {part.name for part in card.parts if part.kind in ("icing", "dip", "filling")}
    if any(key in ("egg_white", "egg_whole") and part in icing for key, part in keys):
        found.add("raw_white")
    if any(key == "honey" for key, _ in keys):
        found.add("honey")
    if any(key in ("liqueur", "spirit") for key, _ in keys):
        found.add("alcohol")
    if card.mixing == "melted":
        found.add("hot_fat")
    if "melting_candy" in roles:
        found.add("syrup")
    if card.family == "twice_baked":
        found.add("slicing")
    if card.mixing in ("creamed", "whisked"):
        found.add("mixer")
    return found


def cautions(card: Card, larder: Larder, texts: Mapping[str, str]) -> list[str]:
    """The cautions for what is in the dough and how it is made; `texts` by trigger."""
    wanted = _triggers(card, larder)
    return [text for trigger, text in texts.items() if trigger in wanted]
