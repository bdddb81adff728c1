"""What an answer changes, what it costs elsewhere, and why a wish cannot be had, in words."""

from collections.abc import Iterator, Sequence

from finebatch.core.aim.distance import handle_at
from finebatch.core.aim.items import card_of
from finebatch.core.aim.problem import Answer
from finebatch.core.aim.trial import Dough
from finebatch.core.aim.wish import FIGURES, WITHOUT, Aim, Figure, Wished
from finebatch.core.care.cautions import allergens
from finebatch.core.formula.compare import changes
from finebatch.core.formula.dough import Card
from finebatch.core.heat.minutes import USUAL_DONENESS
from finebatch.core.measures.figures import degrees, dial, grams, millimetres
from finebatch.core.piece.kinds.says import Handle
from finebatch.core.tray.setting import TraySetting

DONE: dict[str, str] = {
    "soft_centre": "soft centre",
    "chewy": "chewy",
    "set": "set",
    "crisp": "crisp",
    "dry": "dry",
}
FAR = 15.0
"""From this distance on it is another dough: as much as five swaps."""
NAMES: dict[str, str] = {
    "sugar": "Sugar",
    "fat": "Fat",
    "egg": "Egg",
    "water": "Added water",
    "pieces": "What lies in it in pieces",
    "leavening": "Leavening",
    "salt": "Salt",
}


def figure_words(figure: Figure, value: float, digits: int = 0) -> str:
    """A figure of a piece as a baker says it."""
    match figure:
        case "width":
            return f"{millimetres(value, digits)} wide"
        case "height":
            return f"{millimetres(value, digits)} high"
        case "minutes":
            return f"{value:.{digits}f} minutes"
        case "sugar":
            return f"{value:.{digits}f} % sugar"


def wish_words(figure: Figure, wish: Wished) -> str:
    """A wish as a baker says it."""
    said = figure_words(figure, wish.figure, 0 if float(wish.figure).is_integer() else 1)
    return {"about": "about ", "at_most": "at most ", "at_least": "at least "}[wish.sense] + said


def aim_words(aim: Aim) -> str:
    """What is wished, as the reason of a version."""
    said = [wish_words(figure, wish) for figure in FIGURES if (wish := aim.of(figure))]
    if aim.doneness:
        said.append(DONE[aim.doneness])
    if aim.colour:
        said.append(aim.colour)
    if aim.keeps_days:
        said.append(f"keeps {aim.keeps_days} days")
    said += [f"without {WITHOUT[one]}" for one in aim.without]
    if aim.from_house:
        said.append("from what is in the house")
    return f"Aimed at: {', '.join(said)}" if said else "Aimed"


def _handle_words(handle: Handle, value: float) -> str:
    match handle.unit:
        case "mm":
            return millimetres(value, 0 if float(value).is_integer() else 1)
        case "g":
            return grams(value, 0 if float(value).is_integer() else 1)
        case _:
            return f"{value:g} {handle.unit}"


def _setting_words(before: Dough, after: Answer) -> Iterator[str]:
    one, other = before.asked.setting, after.changed.setting
    lot = before.origin.lot
    for handle in one.piece.HANDLES:
        was, now = handle_at(one.piece, handle, lot), handle_at(other.piece, handle, lot)
        if abs(was - now) > 1e-6 * max(was, now):
            yield f"{handle.typed}: {_handle_words(handle, was)} → {_handle_words(handle, now)}"
    if one.oven_c != other.oven_c:
        yield f"Oven: {dial(one.oven_c)} → {dial(other.oven_c)}"
    if one.dough_temp_c != other.dough_temp_c:
        yield f"Dough: {degrees(one.dough_temp_c)} → {degrees(other.dough_temp_c)} into the oven"
    yield from _words_of(one, other, before)


def _words_of(one: TraySetting, other: TraySetting, before: Dough) -> Iterator[str]:
    usual = USUAL_DONENESS[before.family]
    was, now = one.doneness or usual, other.doneness or usual
    if was != now:
        yield f"Baked until {DONE[now]} instead of {DONE[was]}"
    if one.colour != other.colour and other.colour is not None:
        yield f"Baked until {other.colour}"
    if one.rested != other.rested:
        yield "Rest the dough overnight" if other.rested else "No rest overnight"
    if one.surface != other.surface:
        yield f"On {other.surface} instead of {one.surface}"


def changes_of(before: Dough, after: Answer) -> tuple[str, ...]:
    """All that an answer changes, in words."""
    card = card_of(after.dough, after.changed)
    said = changes(before.card, card, before.larder, before.measuring, own_units=True)
    return (*said, *_setting_words(before, after))


def _allergen_names(card: Card, dough: Dough) -> set[str]:
    return {allergen.name for allergen in allergens(card, dough.larder)}


def costs_of(before: Dough, after: Answer, pieces: tuple[int, int]) -> tuple[str, ...]:
    """What else comes of it: pieces, figures that leave what is usual, allergens."""
    found = []
    if pieces[0] != pieces[1]:
        found.append(f"{pieces[1]} pieces instead of {pieces[0]}")
    was = before.outcome(before.as_it_is())
    bands = {band.figure: band for band in before.bands if band.family == before.family}
    for figure, percent in after.outcome.percents.items():
        band = bands.get(figure)
        inside = band is not None and band.low <= percent <= band.high
        if band is None or inside or was is None:
            continue
        if band.low <= was.percents.get(figure, band.low) <= band.high:
            said = band.below if percent < band.low else band.above
            found.append(
                f"{NAMES[figure]} {percent:.0f} % of the flour; {band.low:g} to {band.high:g} is "
                f"usual. {said}".strip()
            )
    card = card_of(after.dough, after.changed)
    one, other = _allergen_names(before.card, before), _allergen_names(card, before)
    if after.outcome.distance > FAR:
        found.append("So far from the card that it is another dough: try a small batch first.")
    found += [f"Brings {name}" for name in sorted(other - one)]
    found += [f"No more {name}" for name in sorted(one - other)]
    return (*found, *after.dough.notes)


def _came_words(figure: Figure, wish: Wished, value: float) -> str:
    """What comes of it; to a tenth where it misses the wish by less than what is told else."""
    plain = figure_words(figure, value)
    return figure_words(figure, value, 1) if plain in wish_words(figure, wish) else plain


def clash_words(wishes: Sequence[tuple[Figure, Wished]], nearest: Answer) -> str:
    """Why those wishes cannot be had together, or one alone, and how near one gets."""
    came = [_came_words(figure, wish, nearest.outcome.figure(figure)) for figure, wish in wishes]
    if len(wishes) == 1:
        wish = wish_words(*wishes[0])
        return f"No change of this dough brings it to {wish}; the nearest is {came[0]}."
    said = " and ".join(wish_words(*wish) for wish in wishes)
    return f"{said[0].upper()}{said[1:]} do not go together; the nearest is {', '.join(came)}."
