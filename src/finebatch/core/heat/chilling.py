"""Chilling and tempering: how long a shape of dough takes to reach a temperature.

Newton cooling of the whole shape, τ = ρ·c·(V/A)·(1/h + (V/A)/(3·k)): the second term is the
conduction inside, a tenth or less for thin shapes. Freezing and thawing take the latent heat of
the dough's free water with them. Lengths in mm, temperatures in °C, times in minutes.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from finebatch.core.care.warm import WARM_MOST_MIN
from finebatch.core.measures.figures import (
    centimetres,
    degrees_between,
    degrees_to_a_tenth,
    millimetres,
)
from finebatch.core.refusal import refuse

Air = Literal["fridge", "freezer", "room"]
Purpose = Literal["roll", "slice", "scoop"]

DENSITY_KG_M3 = 1220.0
HEAT_J_KG_K = 2400.0
CONDUCTIVITY_W_M_K = 0.3
"""Cookie dough (food-engineering handbooks, rounded)."""
TRANSFER_W_M2_K: Mapping[Air, float] = {"fridge": 8.0, "freezer": 12.0, "room": 9.0}
"""Still air over wrapped dough (engineering tables, rounded)."""
FREEZES_C, FROZEN_C = -3.0, -12.0
LATENT_J_KG = 40_000.0
"""Heat that the freezing share of a dough's water gives off between these temperatures (about an
eighth of its mass freezes; sugar keeps the rest liquid)."""

WORKING_C: Mapping[Purpose, tuple[float, float]] = {
    "roll": (10.0, 14.0),
    "slice": (5.0, 8.0),
    "scoop": (8.0, 16.0),
}
"""Between which temperatures a dough is rolled, sliced or scooped (household practice)."""
LONGEST_MIN = 1440
STEP_MIN = 0.5
BENCH_THAW_MOST_MIN = WARM_MOST_MIN // 2
"""What would thaw for longer than this on the bench thaws in the fridge first: a dough with egg or
dairy may not be warm for long in all, and has to be portioned yet."""
THAWED_BELOW_K = 2.0
"""So far below the fridge's air a dough counts as thawed: the rest takes longer than it matters."""
NEAR_K = 0.3
"""Nearer to the air around it than this, a dough does not come in any useful time."""


@dataclass(frozen=True, slots=True)
class Shape:
    """A shape of dough: its words and its volume over its surface, in mm."""

    words: str
    volume_over_area_mm: float


def disc_shape(diameter_mm: float, thickness_mm: float) -> Shape:
    """A flat disc."""
    over = diameter_mm * thickness_mm / (2 * diameter_mm + 4 * thickness_mm)
    words = f"a disc {centimetres(diameter_mm, 0)} wide, {millimetres(thickness_mm)} thick"
    return Shape(words, over)


def log_shape(diameter_mm: float, length_mm: float) -> Shape:
    """A round log."""
    over = diameter_mm * length_mm / (4 * length_mm + 2 * diameter_mm)
    return Shape(f"a log {centimetres(diameter_mm)} across, {centimetres(length_mm, 0)} long", over)


def ball_shape(diameter_mm: float) -> Shape:
    """A ball, scooped or rolled."""
    return Shape(f"balls {centimetres(diameter_mm)} across", diameter_mm / 6)


def slab_shape(thickness_mm: float) -> Shape:
    """A wide slab or a filled pan."""
    return Shape(f"a slab {millimetres(thickness_mm)} thick", thickness_mm / 2)


def time_constant_min(shape: Shape, place: Air) -> float:
    """Minutes in which the difference to the air falls to 37 %."""
    over = shape.volume_over_area_mm / 1000
    resistance = 1 / TRANSFER_W_M2_K[place] + over / (3 * CONDUCTIVITY_W_M_K)
    return DENSITY_KG_M3 * HEAT_J_KG_K * over * resistance / 60


def _slower(temp_c: float) -> float:
    """How many times its usual heat the dough holds there, while its water freezes or thaws."""
    if FROZEN_C < temp_c < FREEZES_C:
        return 1 + LATENT_J_KG / (FREEZES_C - FROZEN_C) / HEAT_J_KG_K
    return 1.0


@dataclass(frozen=True, slots=True)
class Curve:
    """A temperature over time in one place, from minute 0, every `STEP_MIN`."""

    place: Air
    air_c: float
    temps_c: tuple[float, ...]

    @property
    def step_min(self) -> float:
        """Minutes from one temperature to the next."""
        return STEP_MIN

    def reaches(self, temp_c: float) -> float | None:
        """Minutes until the dough has that temperature; None when it does not within a day."""
        falling = self.temps_c[0] > self.air_c
        if (falling and temp_c >= self.temps_c[0]) or (not falling and temp_c <= self.temps_c[0]):
            return 0.0
        for n, now in enumerate(self.temps_c):
            if (now <= temp_c) if falling else (now >= temp_c):
                return n * STEP_MIN
        return None


def follow(shape: Shape, place: Air, air_c: float, start_c: float, slower: float = 1.0) -> Curve:
    """The dough's temperature in that place, until it is as cold or warm as the air or a day. This
    fridge takes `slower` times the usual minutes."""
    tau = time_constant_min(shape, place) * slower
    temps = [start_c]
    while len(temps) * STEP_MIN < LONGEST_MIN and abs(temps[-1] - air_c) > NEAR_K:
        now = temps[-1]
        temps.append(now - (now - air_c) * STEP_MIN / tau / _slower(now))
    return Curve(place, air_c, tuple(temps))


@dataclass(frozen=True, slots=True)
class Chill:
    """How a shape chills for a job. Minutes from going in: `ready_min` workable at the warm end,
    `best_min` in the middle, `hard_min` too cold without tempering (None: never).

    `bench_min` it stays workable on the bench from the middle; `temper_min` brings it back from
    as cold as the place is.
    """

    shape: Shape
    job: Purpose
    from_c: float
    to_c: tuple[float, float]
    cooling: Curve
    warming: Curve
    ready_min: float | None
    best_min: float | None
    hard_min: float | None
    bench_min: float | None
    temper_min: float | None


def chill(
    shape: Shape,
    job: Purpose,
    place: Air,
    *,
    start_c: float,
    air_c: float,
    room_c: float,
    slower: float = 1.0,
) -> Chill:
    """Follow the shape into the cold and back; `Refusal` when the place is not cold enough. The
    fridge or freezer takes `slower` times the usual minutes."""
    low, high = WORKING_C[job]
    if air_c > high - NEAR_K:
        raise refuse(
            "place",
            f"To {job} it wants {degrees_between(low, high)}; at {degrees_to_a_tenth(air_c)} it "
            "never gets there. Use a colder place.",
        )
    cooling = follow(shape, place, air_c, start_c, slower)
    middle = (low + high) / 2
    bench = follow(shape, "room", room_c, min(middle, start_c))
    warming = follow(shape, "room", room_c, min(air_c, start_c))
    return Chill(
        shape=shape,
        job=job,
        from_c=start_c,
        to_c=(low, high),
        cooling=cooling,
        warming=warming,
        ready_min=cooling.reaches(high),
        best_min=cooling.reaches(middle),
        hard_min=cooling.reaches(low),
        bench_min=bench.reaches(high),
        temper_min=warming.reaches(low),
    )


@dataclass(frozen=True, slots=True)
class Tempering:
    """How a dough out of the cold gets to where it can be worked: minutes in the fridge to thaw
    (0: none), then minutes on the bench."""

    thaw_min: int
    bench_min: int


def tempering(
    shape: Shape,
    job: Purpose,
    place: Literal["fridge", "freezer"],
    *,
    fridge_c: float,
    freezer_c: float,
    room_c: float,
    slower: float = 1.0,
) -> Tempering:
    """How long that shape takes to come back for the job, from the fridge or the freezer."""
    low, _ = WORKING_C[job]

    def bench(start_c: float) -> int:
        return math.ceil(follow(shape, "room", room_c, start_c).reaches(low) or 0)

    if place == "fridge":
        return Tempering(0, bench(fridge_c))
    at_once = bench(freezer_c)
    if at_once <= BENCH_THAW_MOST_MIN:
        return Tempering(0, at_once)
    thawed_c = fridge_c - THAWED_BELOW_K
    thaw = follow(shape, "fridge", fridge_c, freezer_c, slower).reaches(thawed_c)
    return Tempering(math.ceil(LONGEST_MIN if thaw is None else thaw), bench(thawed_c))


def disc_across_mm(volume_cm3: float, thickness_mm: float) -> float:
    """How wide a disc of that volume and thickness is."""
    return math.sqrt(1000 * volume_cm3 / thickness_mm * 4 / math.pi)
