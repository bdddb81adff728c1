"""Chilling and tempering: how long a shape of dough takes to reach a temperature.

The exact series of heat conduction for a wide slab, a long cylinder and a ball with heat passing at
the surface (Carslaw and Jaeger), discs and logs as the product of two. Where a dough is
rolled or sliced its middle has to be cold, and the middle waits before it follows; portions are
taken by their mean. Freezing and thawing take the latent heat of what water the dough's sugar
leaves free. Lengths in mm, temperatures in °C, times in minutes.
"""

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

import numpy as np
import numpy.typing as npt

from finebatch.core.care.warm import WARM_MOST_MIN
from finebatch.core.formula.composition import Composition
from finebatch.core.measures.figures import (
    centimetres,
    degrees_between,
    degrees_to_a_tenth,
    millimetres,
)
from finebatch.core.refusal import refuse

Vector = npt.NDArray[np.float64]
Air = Literal["fridge", "freezer", "room"]
Purpose = Literal["roll", "slice", "scoop"]

DENSITY_KG_M3 = 1220.0
HEAT_J_KG_K = 2400.0
CONDUCTIVITY_W_M_K = 0.3
"""Cookie dough (food-engineering handbooks, rounded)."""
TRANSFER_W_M2_K: Mapping[Air, float] = {"fridge": 8.0, "freezer": 12.0, "room": 9.0}
"""Still air over wrapped dough (engineering tables, rounded)."""
FREEZES_C, FROZEN_C = -3.0, -12.0
ICE_J_KG = 334_000.0
SUGAR_HOLDS, LEAST_FREEZES = 0.67, 0.1
"""A gram of sugar keeps so much water from freezing at −12 °C (freezing curve of sucrose syrups),
and at least this share of a dough's water freezes."""

WORKING_C: Mapping[Purpose, tuple[float, float]] = {
    "roll": (10.0, 14.0),
    "slice": (5.0, 8.0),
    "scoop": (8.0, 16.0),
}
"""Between which temperatures a dough is rolled, sliced or scooped (household practice)."""
OF_THE_MIDDLE: frozenset[Purpose] = frozenset({"roll", "slice"})
"""A roller or a knife goes through the middle: that has to be cold. On the bench the outside
softens first, and the mean tells."""
LONGEST_MIN = 1440
STEP_MIN = 0.5
WAYS = 16
"""Ways of heat that are followed: the fastest of them is over in a minute."""
BENCH_THAW_MOST_MIN = WARM_MOST_MIN // 2
"""What would thaw for longer than this on the bench thaws in the fridge first: a dough with egg or
dairy may not be warm for long in all, and has to be portioned yet."""
THAWED_BELOW_K = 2.0
"""So far below the fridge's air a dough counts as thawed: the rest takes longer than it matters."""
NEAR_K = 0.3
"""Nearer to the air around it than this, a dough does not come in any useful time."""


Side = Literal["slab", "cylinder", "ball"]


@dataclass(frozen=True, slots=True)
class Shape:
    """A shape of dough: its words, its sides with half their thickness (mm), and the latent heat
    (J/kg) that its freezing takes."""

    words: str
    sides: tuple[tuple[Side, float], ...]
    latent_j_kg: float = 0.0

    def of(self, dough: Composition) -> "Shape":
        """The same of that dough."""
        free = max(dough.water_g - SUGAR_HOLDS * dough.sugar_g, LEAST_FREEZES * dough.water_g)
        return replace(self, latent_j_kg=ICE_J_KG * free / dough.total_g)


def disc_shape(diameter_mm: float, thickness_mm: float) -> Shape:
    """A flat disc."""
    words = f"a disc {centimetres(diameter_mm, 0)} wide, {millimetres(thickness_mm)} thick"
    return Shape(words, (("slab", thickness_mm / 2), ("cylinder", diameter_mm / 2)))


def log_shape(diameter_mm: float, length_mm: float) -> Shape:
    """A round log."""
    words = f"a log {centimetres(diameter_mm)} across, {centimetres(length_mm, 0)} long"
    return Shape(words, (("cylinder", diameter_mm / 2), ("slab", length_mm / 2)))


def ball_shape(diameter_mm: float) -> Shape:
    """A ball, scooped or rolled."""
    return Shape(f"balls {centimetres(diameter_mm)} across", (("ball", diameter_mm / 2),))


def slab_shape(thickness_mm: float) -> Shape:
    """A wide slab or a filled pan."""
    return Shape(f"a slab {millimetres(thickness_mm)} thick", (("slab", thickness_mm / 2),))


@dataclass(frozen=True, slots=True)
class Ways:
    """The ways of heat out of one side, slowest first, each (n,): minutes in which its part of the
    difference to the air falls to 37 %, and how large that part is in the middle and in the mean.
    """

    tau_min: Vector
    middle: Vector
    mean: Vector


def _roots(law: Callable[[float], float], ends: Iterable[tuple[float, float]]) -> Vector:
    """The root of a law between each two ends."""
    from scipy.optimize import brentq  # it takes time to load

    near = 1e-9
    return np.array([brentq(law, low + near, high - near) for low, high in ends])


@lru_cache(maxsize=4096)
def ways_out(side: Side, half_mm: float, place: Air) -> Ways:
    """The ways of heat out of that side in that place: the roots of its equation."""
    from scipy.special import j0, j1, jn_zeros  # they take time to load

    biot = TRANSFER_W_M2_K[place] * half_mm / 1000 / CONDUCTIVITY_W_M_K
    turns = np.arange(WAYS) * math.pi
    match side:
        case "slab":
            ends = zip(turns, turns + math.pi / 2, strict=True)
            m = _roots(lambda x: x * math.sin(x) - biot * math.cos(x), ends)
            middle = 4 * np.sin(m) / (2 * m + np.sin(2 * m))
            mean = middle * np.sin(m) / m
        case "cylinder":
            ends = zip([0.0, *jn_zeros(1, WAYS - 1)], jn_zeros(0, WAYS), strict=True)
            m = _roots(lambda x: x * j1(x) - biot * j0(x), ends)
            middle = 2 * j1(m) / m / (j0(m) ** 2 + j1(m) ** 2)
            mean = middle * 2 * j1(m) / m
        case "ball":
            ends = zip(turns, turns + math.pi, strict=True)
            m = _roots(lambda x: (1 - biot) * math.sin(x) - x * math.cos(x), ends)
            middle = 4 * (np.sin(m) - m * np.cos(m)) / (2 * m - np.sin(2 * m))
            mean = middle * 3 * (np.sin(m) - m * np.cos(m)) / m**3
    spreads = CONDUCTIVITY_W_M_K / DENSITY_KG_M3 / HEAT_J_KG_K * 60  # m² a minute
    return Ways((half_mm / 1000 / m) ** 2 / spreads, middle, mean)


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


def follow(
    shape: Shape,
    place: Air,
    air_c: float,
    start_c: float,
    slower: float = 1.0,
    *,
    middle: bool = False,
) -> Curve:
    """The dough's mean temperature in that place, or that of its `middle`, until it is as cold or
    warm as the air or a day. This fridge takes `slower` times the usual minutes."""
    gone = np.arange(0.0, LONGEST_MIN, STEP_MIN)
    left = np.ones_like(gone)
    for side, half_mm in shape.sides:
        ways = ways_out(side, half_mm, place)
        parts = ways.middle if middle else ways.mean
        left *= np.exp(-gone[:, None] / (ways.tau_min * slower)) @ parts
    left[0] = 1.0
    at_c = air_c + (start_c - air_c) * np.clip(left, 0.0, 1.0)
    # While its water freezes or thaws time passes by slower.
    frees = 1 + shape.latent_j_kg / (FREEZES_C - FROZEN_C) / HEAT_J_KG_K
    steps = np.where((at_c > FROZEN_C) & (at_c < FREEZES_C), frees, 1.0) * STEP_MIN
    passed = np.concatenate([[0.0], np.cumsum(steps[:-1])])
    on_time = np.interp(gone, passed, at_c)
    near = np.flatnonzero(np.abs(on_time - air_c) <= NEAR_K)
    temps = on_time[: near[0] + 1] if len(near) else on_time
    return Curve(place, air_c, tuple(temps.tolist()))


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
    cooling = follow(shape, place, air_c, start_c, slower, middle=job in OF_THE_MIDDLE)
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
