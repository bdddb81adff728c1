"""What has to be done: the trays of one dough, the kitchen, and what has happened so far.

All times are whole minutes after the session's start.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

from finebatch.core.refusal import refuse

MOST_TRAYS = 60
HORIZON_SLACK = 240


@dataclass(frozen=True, slots=True)
class Bake:
    """One stay in the oven. `turn_after` is when the tray is turned, none when it is too short.

    `extra` is what the baker added ("three more minutes").
    """

    minutes: int
    turn_after: int | None
    extra: int = 0

    @property
    def length(self) -> int:
        """Minutes in the oven in all."""
        return self.minutes + self.extra


@dataclass(frozen=True, slots=True)
class TrayWork:
    """One tray from portioning to the rack. Two bakes when its log is sliced and dried again."""

    name: str
    pieces: int
    portion_min: int
    bakes: tuple[Bake, ...]
    rest_min: int
    cool_min: int
    slice_min: int = 0


@dataclass(frozen=True, slots=True)
class DoughWork:
    """What comes before the first tray: mixing, then a rest in the cold (0 for none)."""

    mix_min: int
    chill_min: int


@dataclass(frozen=True, slots=True)
class Kitchen:
    """Sheets, shelves, and how long each small job takes, in minutes.

    `raw_wait_min` is how long a portioned tray may wait for the oven before it gets too warm;
    `rest_over_min` how much longer than its least rest a tray may stay on its sheet.
    """

    sheets: int
    shelves: int
    oven_heat_min: int
    sheet_ready_min: int = 8
    load_min: int = 1
    turn_min: int = 1
    out_min: int = 1
    rack_min: int = 1
    raw_wait_min: int = 45
    rest_over_min: int = 30


@dataclass(frozen=True, slots=True)
class Work:
    """One session's work: one dough, its trays in order, one kitchen, one pair of hands."""

    dough: DoughWork
    trays: tuple[TrayWork, ...]
    kitchen: Kitchen

    def __post_init__(self) -> None:
        if not self.trays:
            raise refuse("trays", "There is nothing to bake: make at least one tray.")
        if len(self.trays) > MOST_TRAYS:
            raise refuse("trays", f"At most {MOST_TRAYS} trays are planned at once.")
        if self.kitchen.sheets < 1:
            raise refuse("sheets", "At least one sheet is needed.")
        if self.kitchen.shelves < 1:
            raise refuse("shelves", "At least one oven shelf is needed.")

    @property
    def horizon(self) -> int:
        """A length in minutes that any sensible plan stays under."""
        total = self.dough.mix_min + self.dough.chill_min + self.kitchen.oven_heat_min
        for tray in self.trays:
            total += tray.portion_min + tray.slice_min + tray.cool_min
            total += sum(bake.length + tray.rest_min + 10 for bake in tray.bakes)
            total += self.kitchen.sheet_ready_min
        return total + HORIZON_SLACK


@dataclass(frozen=True, slots=True)
class Happened:
    """What is already so: minutes at which hand jobs ended, by activity id, and the time now.

    `begun` holds the start of a job that is in hand but not done; its end is still open.
    """

    now: int = 0
    done: Mapping[str, int] = field(default_factory=dict)
    begun: Mapping[str, int] = field(default_factory=dict)


NOTHING_YET = Happened()


def job_id(owner: str, kind: str, bake: int = 0) -> str:
    """The id of a hand job: ``A1.load``; a second bake's jobs end in 2: ``A1.load2``."""
    return f"{owner}.{kind}" + (str(bake + 1) if bake else "")
