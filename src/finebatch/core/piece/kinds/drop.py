"""Dropped pieces: by mass, by a scoop or a ball's width; then left, tapped, pressed or dented."""

import math
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.measures.figures import centimetres, millilitres, millimetres
from finebatch.core.piece.kinds.portioning import Extra, Grams, Portioning, moved
from finebatch.core.piece.kinds.says import MASS, Ask, Says, Way, When
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.portion import (
    MassPortion,
    ball_across_mm,
    ball_volume_cm3,
    disc_diameter_mm,
)
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import refuse

DropShape = Literal["ball", "left", "tapped", "pressed", "dented"]
OnTop = Annotated[float, Interval(ge=0, le=200)]

HEAPED = 1.2
"""A rounded scoop holds about a fifth more than a level one (household trials)."""
TAPPED, DENTED = 1.15, 1.25
"""A tapped ball is about this many times as wide as the ball, a dented one as this."""
WEIGHED = replace(MASS, clears=("scoop_ml", "ball_mm"))


@dataclass(frozen=True, slots=True)
class Drop(Portioning):
    """A piece by its mass, by a scoop, or rolled to a ball so wide; then left, tapped, pressed or
    dented.

    `filling_g`, `coat_g` and `topping_g` come on top of the dough of each piece.
    """

    NEEDED = ("kind", "grams")
    SAYS = Says("dropped")
    HANDLES = (WEIGHED,)
    ASKS = (
        Ask("scoop_ml", "By", "scoop", "ml", 0.5),
        Ask("ball_mm", "Ball across", "ball"),
        Ask(
            "evenness",
            "Portions",
            "evenness",
            "",
            ways=(
                Way("weighed", "weighed"),
                Way("scooped", "scooped"),
                Way("spooned", "by spoon"),
            ),
        ),
        Ask(
            "shape",
            "Then",
            "choice",
            "",
            ways=(
                Way("ball", "rolled to a ball"),
                Way("left", "left as it falls"),
                Way("tapped", "tapped"),
                Way("pressed", "pressed flat"),
                Way("dented", "dented, filled"),
            ),
        ),
        Ask("press_mm", "To a height", when=When("shape", ("pressed",))),
        Ask("filling_g", "Filling each", unit="g", when=When("shape", ("dented",))),
        Ask("coat_g", "Coat each", unit="g", aside="Dipped or topped"),
        Ask("topping_g", "Topping each", unit="g", aside="Dipped or topped"),
    )
    KEPT_AS = "portions"
    CHILLED_AS = ("portions", "disc", "log", "dough")

    grams: Grams = 28.0
    shape: DropShape = "ball"
    scoop_ml: Annotated[float, Interval(gt=0, le=500)] | None = None
    heaped: bool = False
    press_mm: Annotated[float, Interval(ge=3, le=60)] = 12.0
    filling_g: OnTop = 0.0
    coat_g: OnTop = 0.0
    topping_g: OnTop = 0.0
    ball_mm: Annotated[float, Interval(ge=8, le=90)] | None = None
    kind: Literal["drop"] = "drop"

    def portion(self, lot: Lot) -> MassPortion:
        grams = self.grams
        if self.scoop_ml is not None:
            grams = self.scoop_ml * lot.density_g_cm3 * (HEAPED if self.heaped else 1.0)
        elif self.ball_mm is not None:
            grams = ball_volume_cm3(self.ball_mm) * lot.density_g_cm3
        volume = max(grams, 0.001) / lot.density_g_cm3
        ball_mm = ball_across_mm(volume)
        match self.shape:
            case "ball":
                return MassPortion(grams)
            case "left":
                return MassPortion(grams, "rough_mound")
            case "tapped":
                return MassPortion(grams, "flattened", TAPPED * ball_mm)
            case "dented":
                return MassPortion(grams, "flattened", DENTED * ball_mm)
            case "pressed":
                if self.press_mm >= ball_mm:
                    message = (
                        f"The ball is {millimetres(ball_mm)} high; press it to less than that."
                    )
                    raise refuse("press_mm", message)
                return MassPortion(grams, "flattened", disc_diameter_mm(volume, self.press_mm))

    def weighing(self, grams: float, lot: Lot) -> "Drop":
        return replace(self, grams=grams, scoop_ml=None, ball_mm=None)

    def wider(self, by: float) -> "Drop":
        if self.scoop_ml is not None:
            return replace(self, scoop_ml=self.scoop_ml * by)
        if self.ball_mm is not None:
            return replace(self, ball_mm=self.ball_mm * math.cbrt(by))
        return moved(self, WEIGHED, by)

    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, "Drop"]]:
        by_ml = sorted(tools.scoops, key=lambda scoop: scoop.ml)
        return [
            (f"{s.name}, {millilitres(s.ml)}", replace(self, scoop_ml=s.ml, ball_mm=None))
            for s in by_ml
        ]

    def worked(self) -> str:
        if self.scoop_ml is not None or self.ball_mm is None:
            return ""
        return f"balls {centimetres(self.ball_mm, 1)} across"

    def extras(self, pieces: int) -> tuple[Extra, ...]:
        filling = self.filling_g if self.shape == "dented" else 0.0
        each: tuple[tuple[Literal["filling", "coat", "topping"], float], ...] = (
            ("filling", filling),
            ("coat", self.coat_g),
            ("topping", self.topping_g),
        )
        return tuple(Extra(what, grams, grams * pieces) for what, grams in each if grams > 0)
