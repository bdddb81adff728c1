"""When an oven's dial is turned, and to what: read off the times of what goes into it.

An oven is in runs. Within a run its air stays near enough to what each tray wants; before each run
it is heated, or cools down. A run may drift: settings that each lie near the one before, but not
all near each other. Then the dial is turned on the way, as a tray goes in.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.network import BakeStay
from finebatch.core.plan.placed import JobTime
from finebatch.core.plan.work import Kitchen, Oven

EMPTY_MIN = 45
"""An oven that would stand hot and empty for so long is off meanwhile (household practice)."""


@dataclass(frozen=True, slots=True)
class Inside:
    """When a tray is loaded, and taken out."""

    stay: BakeStay
    load: JobTime
    out: JobTime


@dataclass(frozen=True, slots=True)
class DialTurn:
    """The dial turned to `oven_c` (a still oven's setting, °C) at `start`, and hot at `end`. Where
    the oven stands empty for long, or nobody is there, it is off from the take-out `off_after` on
    for `off_min`."""

    start: int
    end: int
    oven_c: int
    off_after: JobKey | None = None
    off_min: int = 0


@dataclass(slots=True)
class _Run:
    """Trays between which an oven is neither heated nor cools down, and how it got to them."""

    heated: DialTurn
    trays: list[Inside]

    def drifts(self, tolerance_c: int) -> bool:
        """Whether its settings are not all near each other."""
        settings = [tray.stay.oven_c for tray in self.trays]
        return max(settings) - min(settings) > tolerance_c


def in_oven(
    stays: Sequence[BakeStay],
    jobs: Mapping[JobKey, JobTime],
    ovens: Mapping[JobKey, int],
    oven: int,
) -> list[Inside]:
    """The trays of one oven (counted from 0) in the order in which they go in."""
    own = (stay for stay in stays if ovens[stay.key] == oven)
    busy = [Inside(stay, jobs[stay.load], jobs[stay.out]) for stay in own]
    return sorted(busy, key=lambda tray: (tray.load.end, tray.stay.key))


def dial_turns(oven: Oven, trays: Sequence[Inside], kitchen: Kitchen) -> Iterator[DialTurn]:
    """Each turn of an oven's dial, in order."""
    for run in _runs(oven, trays, kitchen):
        yield run.heated
        if run.drifts(kitchen.tolerance_c):
            for before, tray in pairwise(run.trays):
                if tray.stay.oven_c != before.stay.oven_c:
                    yield DialTurn(tray.load.start, tray.load.end, tray.stay.oven_c)


def _runs(oven: Oven, trays: Sequence[Inside], kitchen: Kitchen) -> list[_Run]:
    runs: list[_Run] = []
    emptied, last_out = 0, None
    for before, tray in pairwise((None, *trays)):
        assert tray is not None
        loaded = tray.load.end
        # With nobody there for long the oven was turned off: it is heated anew.
        back = max((b for _, b in kitchen.unattended if emptied < b <= loaded), default=0)
        cold_min = oven.heat_min(tray.stay.oven_c)
        idle = before is not None and loaded - emptied >= EMPTY_MIN + cold_min
        hot_c = before.stay.oven_c if before is not None and not back and not idle else None
        minutes = _minutes_to(oven, hot_c, tray.stay.oven_c, kitchen.tolerance_c)
        if minutes or not runs:
            latest = max(loaded - minutes, emptied, back, 0)
            start = _while_somebody_is_there(latest, emptied, kitchen)
            off = (last_out, start - emptied) if hot_c is None and last_out else (None, 0)
            runs.append(_Run(DialTurn(start, loaded, tray.stay.oven_c, *off), []))
        runs[-1].trays.append(tray)
        if tray.out.end >= emptied:
            emptied, last_out = tray.out.end, tray.stay.out
    return runs


def _minutes_to(oven: Oven, hot_c: int | None, wanted_c: int, tolerance_c: int) -> int:
    """Minutes from what an oven is at (None: cold) to what is wanted."""
    if hot_c is None:
        return oven.heat_min(wanted_c)
    return oven.change_min(hot_c, wanted_c, tolerance_c)


def _while_somebody_is_there(latest: int, free: int, kitchen: Kitchen) -> int:
    """The dial is turned before a short break, not in it."""
    return next((a for a, b in kitchen.nobody if free <= a < latest < b), latest)
