"""What a session is asked for on the Plan screen, and what it was planned from."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Annotated

from annotated_types import Interval, Len, MaxLen, Predicate

from finebatch.core.book.hands import USUAL, USUAL_HANDS, Hands, Pace
from finebatch.core.care.keeping import KeptAs, RawAs, RawIn
from finebatch.core.method.programme import Programme
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.prepare import Joins
from finebatch.core.session.occasion import Occasion
from finebatch.core.tray.question import TrayQuestion
from finebatch.core.tray.scaled import LEAST_TIMES, MOST_TIMES
from finebatch.core.values import FromOutside, Id, Moment, Text

MINUTE = 60_000


_KEY = re.compile(r"[A-Za-z0-9.]*")


def _is_key(text: str) -> bool:
    return _KEY.fullmatch(text) is not None


JobText = Annotated[str, MaxLen(40), Predicate(_is_key)]
"""The key of a job, or the name of a tray."""
LETTERS = "ABCDEFGHIJKL"


@dataclass(frozen=True, slots=True)
class Item(FromOutside):
    """One dough of a session: so many of its pieces (all when none is given), the rest kept cold.

    `joins` says whether it is mixed in the session or comes out of the cold; there it was kept in
    that `form`, the usual one of its kind when none is given. So is the rest of one that is mixed
    kept, as `keep_as` and in `keep_in`: as is usual, in the freezer.

    The dough is made `times` over, in pieces of `each_g`, that bake `wide_mm` wide, or of which it
    gives `share_into`, where they are not as its Tray screen has them; none of them is portioned
    before `bake_from` (UTC ms).
    """

    dough_id: Id
    pieces: Annotated[int, Interval(ge=1, le=2000)] | None = None
    joins: Joins = "fresh"
    form: KeptAs | None = None
    keep_as: RawAs | None = None
    keep_in: RawIn | None = None
    times: Annotated[float, Interval(ge=LEAST_TIMES, le=MOST_TIMES)] = 1.0
    each_g: Annotated[float, Interval(ge=1, le=5000)] | None = None
    wide_mm: Annotated[float, Interval(ge=5, le=600)] | None = None
    share_into: Annotated[int, Interval(ge=1, le=2000)] | None = None
    bake_from: Moment | None = None


@dataclass(frozen=True, slots=True)
class TimedPin(FromOutside):
    """A job that the baker has put at a time (UTC ms)."""

    job: JobKey
    start_at: Moment


@dataclass(frozen=True, slots=True)
class ShelfPin(FromOutside):
    """A tray that the baker wants on a shelf, counted from the top."""

    tray: JobText
    shelf: Annotated[int, Interval(ge=1, le=8)]


@dataclass(frozen=True, slots=True)
class Away(FromOutside):
    """When the baker is away or asleep (UTC ms)."""

    from_at: Moment
    to_at: Moment


@dataclass(frozen=True, slots=True)
class Wish(FromOutside):
    """What shall be baked, with what, and either a start or a ready-by time (UTC ms); `calm` asks
    for the calmer plan rather than the soonest, `name` is what the baker calls the session, and
    `occasion` what it is for."""

    items: Annotated[tuple[Item, ...], MaxLen(40)]
    sheets: Annotated[int, Interval(ge=1, le=12)]
    shelves: Annotated[int, Interval(ge=1, le=4)]
    start_at: Moment | None = None
    ready_by: Moment | None = None
    away: Annotated[tuple[Away, ...], MaxLen(40)] = ()
    pins: Annotated[tuple[TimedPin, ...], MaxLen(40)] = ()
    shelf_pins: Annotated[tuple[ShelfPin, ...], MaxLen(60)] = ()
    first_c: Annotated[int, Interval(ge=50, le=350)] | None = None
    calm: bool = False
    name: Annotated[Text, Len(1, 120)] | None = None
    occasion: Occasion | None = None


def usual_name(doughs: Sequence[str]) -> str:
    """What a session is called that nobody has named."""
    return doughs[0] if len(doughs) == 1 else f"{doughs[0]} and {len(doughs) - 1} more"


@dataclass(frozen=True, slots=True)
class Asked:
    """One dough of a session as it was when it was planned. `kept` pieces are not baked; `laid`
    ones come out of the cold portioned. `timed` bakes of it taught its minutes; `programme` is its
    method by the job in which each step is done, none in sessions of before it was planned. What is
    not baked is kept as `keep_as` in `keep_in`; `waits`: the dough can be kept at all; each of what
    lies on a tray is cut into `each_gives` pieces once it is baked. The dough is made `times` over,
    which `question` has already."""

    letter: str
    dough_id: int | None
    name: str
    question: TrayQuestion
    joins: Joins = "fresh"
    kept: int = 0
    laid: bool = False
    timed: int = 0
    programme: Programme | None = None
    keep_as: KeptAs = "dough"
    keep_in: RawIn = "freezer"
    waits: bool = True
    each_gives: int = 1
    times: float = 1.0


@dataclass(frozen=True, slots=True)
class Snapshot:
    """What a session was planned from. `rests_on` is the fingerprint of it all (see
    `asking`), `hands` and `cold` the paces that were reckoned with."""

    name: str
    items: tuple[Asked, ...] = field(default_factory=tuple)
    wish: Wish | None = None
    rests_on: str = ""
    hands: Hands = USUAL_HANDS
    cold: Pace = USUAL


def programmes_of(snapshot: Snapshot) -> Mapping[str, Programme]:
    """The methods of a session's doughs, by letter."""
    told = ((asked.letter, asked.programme) for asked in snapshot.items)
    return {letter: programme for letter, programme in told if programme is not None}


def names_of(snapshot: Snapshot) -> Mapping[str, str]:
    """The names of a session's doughs, by letter."""
    return {asked.letter: asked.name for asked in snapshot.items}
