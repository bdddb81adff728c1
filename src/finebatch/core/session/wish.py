"""What a session is asked for on the Plan screen, and what it was planned from."""

from dataclasses import dataclass, field

from finebatch.core.book.hands import USUAL, USUAL_HANDS, Hands, Pace
from finebatch.core.care.keeping import Form
from finebatch.core.plan.prepare import Joins
from finebatch.core.tray.question import TrayQuestion

MINUTE = 60_000
LETTERS = "ABCDEFGHIJKL"


@dataclass(frozen=True, slots=True)
class Item:
    """One dough of a session: so many of its pieces (all when none is given), the rest kept cold.

    `joins` says whether it is mixed in the session or comes out of the cold; there it was kept in
    that `form`, the usual one of its kind when none is given.
    """

    dough_id: int
    pieces: int | None = None
    joins: Joins = "fresh"
    form: Form | None = None


@dataclass(frozen=True, slots=True)
class TimedPin:
    """A job that the baker has put at a time (UTC ms)."""

    job: str
    start_at: int


@dataclass(frozen=True, slots=True)
class ShelfPin:
    """A tray that the baker wants on a shelf, counted from the top."""

    tray: str
    shelf: int


@dataclass(frozen=True, slots=True)
class Away:
    """When the baker is away or asleep (UTC ms)."""

    from_at: int
    to_at: int


@dataclass(frozen=True, slots=True)
class Wish:
    """What shall be baked, with what, and either a start or a ready-by time (UTC ms)."""

    items: tuple[Item, ...]
    sheets: int
    shelves: int
    start_at: int | None = None
    ready_by: int | None = None
    away: tuple[Away, ...] = ()
    pins: tuple[TimedPin, ...] = ()
    shelf_pins: tuple[ShelfPin, ...] = ()
    first_c: int | None = None


@dataclass(frozen=True, slots=True)
class Asked:
    """One dough of a session as it was when it was planned. `kept` pieces are not baked; `laid`
    ones come out of the cold portioned. `timed` bakes of it taught its minutes."""

    letter: str
    dough_id: int | None
    name: str
    question: TrayQuestion
    joins: Joins = "fresh"
    kept: int = 0
    laid: bool = False
    timed: int = 0


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
