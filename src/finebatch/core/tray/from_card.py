"""What a card says of portion, chilling and oven, as a tray's setting.

The usual setting of the family holds wherever the card is silent, or says what no tray can be set
to.
"""

from dataclasses import dataclass, replace
from typing import Any

from finebatch.core.formula.card_says import CardSays
from finebatch.core.heat.oven import OvenMode, conventional_c, setting_c
from finebatch.core.measures.kitchen_units import METRIC, KitchenUnits
from finebatch.core.measures.temperatures import celsius_of
from finebatch.core.piece.kinds.every import AnyKind, usual_of
from finebatch.core.piece.kinds.from_card import piece_of
from finebatch.core.piece.lot import Lot
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import within

OVERNIGHT_MIN = 480
"""Chilled for so long a dough has rested (household practice)."""
COLD_DROP_C = 8.0
"""What portions or a bowl of dough have after an hour or more in a fridge (household practice)."""
COLD_FROM_MIN = 45
PRESSED_C = 20.0
"""A dough pressed in a pan straight from the bowl (household practice)."""


@dataclass(frozen=True, slots=True)
class Started:
    """What a card says, a tray's setting as that begins it, and which of its fields the card has
    said; those of the piece as ``piece.thickness_mm``."""

    says: CardSays
    setting: TraySetting
    said: tuple[str, ...]

    def guesses(self, piece: AnyKind) -> bool:
        """Whether that piece is of another kind than this, of which the card has said nothing."""
        silent = not any(name.startswith("piece.") for name in self.said)
        return silent and usual_of(piece) != usual_of(self.setting.piece)


def oven_of(says: CardSays, mode: OvenMode, units: KitchenUnits) -> float | None:
    """What the card sets an oven of that mode to, in °C to a hundredth: of two scales on it by the
    one that the kitchen reads. None where it says nothing, or says two things."""
    if says.oven_c is None or says.oven_asked:
        return None
    in_f = says.oven_in_f if units.temperature == "F" else None
    told = says.oven_c if in_f is None else celsius_of(in_f)
    still = conventional_c(told, "fan" if says.fan else "conventional")
    return round(setting_c(still, mode), 2)


def start(
    says: CardSays,
    usual: TraySetting,
    lot: Lot | None,
    mode: OvenMode,
    units: KitchenUnits = METRIC,
) -> Started:
    """The setting that a card begins with, on an oven of that mode.

    `lot` is its dough, None while that is not known. The oven is set to just what the card says: a
    setting in °F stays one.
    """
    found: dict[str, Any] = {}
    oven = oven_of(says, mode, units)
    if oven is not None:
        found["oven_c"] = oven
    if says.chill_min is not None:
        found["chill_min"] = round(says.chill_min[0])
        if says.chill_min[0] >= OVERNIGHT_MIN:
            found["rested"] = True
    if says.doneness is not None:
        found["doneness"] = says.doneness
    if says.colour is not None:
        found["colour"] = says.colour
    if says.surface is not None:
        found["surface"] = says.surface
    if says.by_spoon:
        found["evenness"] = "spooned"
    elif says.spoon_ml is not None:
        found["evenness"] = "scooped"
    found = within(TraySetting, found)
    piece, of_piece = piece_of(says, usual.piece, lot)
    said = (*found, *(f"piece.{name}" for name in of_piece))
    # What goes along with it, though the card does not say it.
    if found.get("chill_min", 0) >= COLD_FROM_MIN and usual.chill_min == 0:
        found["dough_temp_c"] = COLD_DROP_C
    elif piece.AS_MIXED and "chill_min" not in found:
        found["chill_min"], found["dough_temp_c"] = 0, PRESSED_C
    return Started(says, replace(usual, piece=piece, **found), said)


def followed(now: TraySetting, before: TraySetting, after: TraySetting) -> TraySetting:
    """The setting once its card has changed: what stood as the old card began it stands as the new
    one does; what was set by hand stays."""
    names = TraySetting.__dataclass_fields__
    moved = {
        name: getattr(after, name) for name in names if getattr(now, name) == getattr(before, name)
    }
    return replace(now, **moved)
