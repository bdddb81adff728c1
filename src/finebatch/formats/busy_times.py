"""A calendar (iCalendar, RFC 5545) read in as busy times.

What a calendar may say of repeats has no end: every minute for ever, an hour of 30 February. It is
read in a process of its own, which is ended when it has taken its time.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from dateutil.rrule import rrulebase, rrulestr
from icalendar import Calendar, Component

from finebatch.core.refusal import Refusal, refuse
from finebatch.formats.apart import TooMuchError, answer_apart, ask_apart

MOST_LETTERS = 1_000_000
MOST_BUSY = 40
MOST_REPEATS = 400
PERIODS = {
    "WEEKLY": timedelta(weeks=1),
    "DAILY": timedelta(days=1),
    "HOURLY": timedelta(hours=1),
    "MINUTELY": timedelta(minutes=1),
    "SECONDLY": timedelta(seconds=1),
}
"""Repeats that go on in equal steps."""

_ENTRY = re.compile(r"^BEGIN:VEVENT\s.*?^END:VEVENT\s", re.DOTALL | re.MULTILINE | re.IGNORECASE)
_DATE = re.compile(r"^(?:DTSTART|DTEND)\b[^:\n]*:(\d{8})", re.MULTILINE | re.IGNORECASE)
_GOES_ON = re.compile(r"^(?:RRULE|RDATE|DURATION)\b", re.MULTILINE | re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class BusyTime:
    """A time that a calendar says is taken."""

    start: datetime
    end: datetime
    what: str


@dataclass(frozen=True, slots=True)
class BusyTimes:
    """The busy times of a calendar, soonest first, and how many entries are no such times."""

    times: tuple[BusyTime, ...]
    left_out: int


def read_calendar(text: str, now: datetime, until: datetime) -> BusyTimes:
    """Read a calendar's events between two moments as times away; repeats are counted out.

    Whole days and free or cancelled entries are left out. `Refusal` for what is no calendar.
    """
    if len(text) > MOST_LETTERS:
        raise refuse("text", "That calendar is larger than 1 MB. Give out fewer days of it.")
    try:
        near, left = _near(text, now, until)
        calendar = Calendar.from_ical(near)
        found: list[BusyTime] = []
        for event in calendar.walk("VEVENT"):
            spans = list(_spans(event, now, until))
            found += spans
            left += not spans
    except Refusal:
        raise
    except (ValueError, TypeError, KeyError, IndexError, AttributeError, OverflowError) as error:
        raise refuse(
            "text", "That is no calendar that can be read. Give it out again as iCalendar (.ics)."
        ) from error
    found.sort(key=lambda busy: (busy.start, busy.end))
    if len(found) > MOST_BUSY:
        raise refuse(
            "text",
            f"There are {len(found)} busy times in the next days; at most {MOST_BUSY} are planned "
            "around. Give out fewer days.",
        )
    return BusyTimes(tuple(found), left)


def _near(text: str, now: datetime, until: datetime) -> tuple[str, int]:
    """The calendar without the entries that plainly lie elsewhere, and how many those are: most of
    one that was kept for years, and each takes a millisecond to read."""
    first = f"{now - timedelta(days=2):%Y%m%d}"
    last = f"{until + timedelta(days=2):%Y%m%d}"
    far = 0

    def kept(entry: re.Match[str]) -> str:
        nonlocal far
        dates = _DATE.findall(entry[0])
        if not dates or _GOES_ON.search(entry[0]) or (first <= max(dates) and min(dates) <= last):
            return entry[0]
        far += 1
        return ""

    return _ENTRY.sub(kept, text), far


def _spans(event: Component, now: datetime, until: datetime) -> Iterator[BusyTime]:
    free = str(event.get("TRANSP", "")).upper() == "TRANSPARENT"
    gone = str(event.get("STATUS", "")).upper() == "CANCELLED"
    start = event.decoded("DTSTART", None)
    if free or gone or not isinstance(start, datetime):
        return
    length = _length(event, start)
    for begin in _repeats(event, start, now - length, until):
        end = begin + length
        if end > now and begin < until and length > timedelta(0):
            yield BusyTime(begin, end, str(event.get("SUMMARY", "")))


def _aware(moment: datetime) -> datetime:
    """A floating time is the kitchen's own."""
    return moment.astimezone() if moment.tzinfo is None else moment


def _length(event: Component, start: datetime) -> timedelta:
    end = event.decoded("DTEND", None)
    if isinstance(end, datetime):
        return _aware(end) - _aware(start)
    length = event.decoded("DURATION", None)
    return length if isinstance(length, timedelta) else timedelta(0)


def _repeats(
    event: Component, start: datetime, after: datetime, until: datetime
) -> Iterator[datetime]:
    rule = event.get("RRULE")
    if rule is None:
        yield _aware(start)
        return
    without = {_aware(d) for d in _excluded(event)}
    # Counted out by the wall clock, so that a daily supper stays at six when the clocks change.
    wall = start.replace(tzinfo=None)
    zone = start.tzinfo
    low = after.astimezone(zone).replace(tzinfo=None)
    times = _times(rule.to_ical().decode().replace("Z", ""), wall, low)
    for number, moment in enumerate(times.xafter(low, inc=True)):
        begin = _aware(moment.replace(tzinfo=zone))
        if begin >= until or number >= MOST_REPEATS:
            return
        if begin not in without:
            yield begin


def _times(written: str, start: datetime, low: datetime) -> rrulebase:
    """A rule's times. One that goes on in equal steps and is not counted begins shortly before
    `low`: nobody waits for the years before it to be counted out."""
    parts = dict(part.split("=", 1) for part in written.upper().split(";") if "=" in part)
    every = int(parts.get("INTERVAL", "1"))
    if every < 1:
        raise refuse("text", "An entry of that calendar repeats every 0 days. Mend it there.")
    step = PERIODS.get(parts.get("FREQ", ""), timedelta(0)) * every
    if step and "COUNT" not in parts and low > start:
        start += step * max((low - start) // step - 1, 0)
    times: rrulebase = rrulestr(written, dtstart=start)
    return times


def _excluded(event: Component) -> Iterator[datetime]:
    lists = event.get("EXDATE", [])
    for each in lists if isinstance(lists, list) else [lists]:
        for value in each.dts:
            if isinstance(value.dt, datetime):
                yield value.dt
            elif isinstance(value.dt, date):
                yield datetime(value.dt.year, value.dt.month, value.dt.day, tzinfo=UTC)


def read_apart(text: str, now: datetime, until: datetime) -> BusyTimes:
    """The same as `read_calendar`, in a process of its own. `Refusal` also for a calendar that
    takes more than its time or memory."""
    asked = {"text": text, "now": now.isoformat(), "until": until.isoformat()}
    try:
        found = ask_apart(__name__, asked)
    except TooMuchError:
        raise _too_much() from None
    if "refused" in found:
        raise refuse("text", found["refused"])
    times = (
        BusyTime(datetime.fromisoformat(start), datetime.fromisoformat(end), what)
        for start, end, what in found["times"]
    )
    return BusyTimes(tuple(times), found["left_out"])


def _too_much() -> Refusal:
    return refuse(
        "text",
        "That calendar takes too long to read: there is too much in it, or an entry repeats "
        "without end. Give out fewer days of it, or take that entry out.",
    )


def _answer(asked: dict[str, str]) -> object:
    now, until = (datetime.fromisoformat(asked[name]) for name in ("now", "until"))
    try:
        found = read_calendar(asked["text"], now, until)
    except Refusal as refusal:
        return {"refused": refusal.faults[0].message}
    times = [(busy.start.isoformat(), busy.end.isoformat(), busy.what) for busy in found.times]
    return {"times": times, "left_out": found.left_out}


if __name__ == "__main__":
    answer_apart(_answer)
