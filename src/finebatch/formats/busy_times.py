"""A calendar (iCalendar, RFC 5545) read in as busy times.

What a calendar may say of repeats has no end: every minute for ever, an hour of 30 February. It is
read in a process of its own, which is ended when it has taken its time.
"""

import re
from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from icalendar import Calendar, Component
from recurring_ical_events import CalendarQuery, InvalidCalendar
from x_wr_timezone import to_standard

from finebatch.core.refusal import Refusal, refuse
from finebatch.formats.apart import TooMuchError, answer_apart, ask_apart

MOST_LETTERS = 1_000_000
MOST_BUSY = 40
MOST_NAMES = 5
"""Of what is left out for one reason, so many are named."""
BESIDE = timedelta(days=2)
"""An entry so far from the days that are asked for is in none of them, in whatever zone."""

_ENTRY = re.compile(r"^BEGIN:VEVENT\s.*?^END:VEVENT\s", re.DOTALL | re.MULTILINE | re.IGNORECASE)
_DATED = re.compile(r"^(?:DTSTART|DTEND|RECURRENCE-ID)\b.*", re.MULTILINE | re.IGNORECASE)
_DATE = re.compile(r":(\d{8})(?:T\d{6}Z?)?\s*$")
_GOES_ON = re.compile(r"^(?:RRULE|RDATE|DURATION)\b|THISANDFUTURE", re.MULTILINE | re.IGNORECASE)
_NEVER = re.compile(r"^RRULE:.*\bINTERVAL=[-0]", re.MULTILINE | re.IGNORECASE)

ELSEWHERE = "in other days"
UNREADABLE = "that cannot be read"


@dataclass(frozen=True, slots=True)
class BusyTime:
    """A time that a calendar says is taken."""

    start: datetime
    end: datetime
    what: str


@dataclass(frozen=True, slots=True)
class BusyTimes:
    """The busy times of a calendar, soonest first, and in words what else is in it."""

    times: tuple[BusyTime, ...]
    left_out: tuple[str, ...]


def read_calendar(text: str, now: datetime, until: datetime) -> BusyTimes:
    """Read what lies between two moments as times away: events, also moved and repeated ones, of
    every calendar in the file, and what is only said to be busy.

    Whole days and free or cancelled entries are left out. `Refusal` for what is no calendar.
    """
    text = text.replace("\ufeff", "")
    if len(text) > MOST_LETTERS:
        raise refuse("text", "That calendar is larger than 1 MB. Give out fewer days of it.")
    if _NEVER.search(text):
        raise refuse("text", "An entry of that calendar repeats every 0 days. Mend it there.")
    near, far = _near(text, now, until)
    try:
        calendars = [to_standard(c) for c in Calendar.from_ical(near, multiple=True)]
    except (ValueError, TypeError, KeyError, IndexError, AttributeError) as error:
        raise _no_calendar() from error
    if not any(calendar.name == "VCALENDAR" for calendar in calendars):
        raise _no_calendar()
    found: list[BusyTime] = []
    left: defaultdict[str, list[str]] = defaultdict(list, {ELSEWHERE: [""] * far} if far else {})
    for entry in (each for calendar in calendars for each in _entries(calendar)):
        times = entry.between(now, until)
        if isinstance(times, str):
            left[times].append(entry.what)
        else:
            found += times
    found.sort(key=lambda busy: (busy.start, busy.end))
    if len(found) > MOST_BUSY:
        raise refuse(
            "text",
            f"There are {len(found)} busy times in the next days; at most {MOST_BUSY} are planned "
            "around. Give out fewer days.",
        )
    return BusyTimes(tuple(found), tuple(_named(why, names) for why, names in left.items()))


def _no_calendar() -> Refusal:
    return refuse(
        "text", "That is no calendar that can be read. Give it out again as iCalendar (.ics)."
    )


def _near(text: str, now: datetime, until: datetime) -> tuple[str, int]:
    """The calendar without the entries that plainly lie elsewhere, and how many those are: most of
    one that was kept for years, and each takes a millisecond to read."""
    first = f"{now - BESIDE:%Y%m%d}"
    last = f"{until + BESIDE:%Y%m%d}"
    far = 0

    def kept(entry: re.Match[str]) -> str:
        nonlocal far
        found = [_DATE.search(line) for line in _DATED.findall(entry[0])]
        dates = [date[1] for date in found if date]
        plain = bool(dates) and len(dates) == len(found) and not _GOES_ON.search(entry[0])
        if not plain or (first <= max(dates) and min(dates) <= last):
            return entry[0]
        far += 1
        return ""

    return _ENTRY.sub(kept, text), far


def _named(why: str, names: list[str]) -> str:
    """How many are left out for this reason, and which."""
    known = list(dict.fromkeys(name for name in names if name)) if why != ELSEWHERE else []
    more = ["more"] if len(known) > MOST_NAMES else []
    listed = f" ({', '.join(known[:MOST_NAMES] + more)})" if known else ""
    return f"{len(names)} {why}{listed}"


class _Entry:
    """An event with its moved and cancelled instances, or a list of what is busy."""

    def __init__(self, parts: list[Component], cancelled: bool) -> None:
        self.parts = parts
        self.cancelled = cancelled
        self.what = _summary(parts[0])

    def between(self, now: datetime, until: datetime) -> list[BusyTime] | str:
        """Its busy times that reach into this one, or why there are none."""
        if self.parts[0].name != "VEVENT":
            spans: Iterable[tuple[Component, object, object]] = _said_busy(self.parts[0])
        elif any(_is_spoilt(part) for part in self.parts):
            return UNREADABLE
        else:
            try:
                spans = _instances(self.parts, now - BESIDE, until + BESIDE)
            except (InvalidCalendar, ValueError, TypeError, KeyError, OverflowError):
                return UNREADABLE
        busy: list[BusyTime] = []
        why = ELSEWHERE
        for part, starts, ends in spans:
            if not (isinstance(starts, datetime) and isinstance(ends, datetime)):
                why = "of whole days"
                continue
            start, end = _aware(starts), _aware(ends)
            if end <= now or start >= until:
                continue
            if self.cancelled or _says(part, "STATUS") == "CANCELLED":
                why = "cancelled"
            elif _says(part, "TRANSP") == "TRANSPARENT":
                why = "marked as free"
            elif end == start:
                why = "that take no time"
            else:
                busy.append(BusyTime(start, end, _summary(part)))
        return busy or why


def _says(component: Component, name: str) -> str:
    """One of the words of a property, in capitals; nothing where it is not there."""
    return str(component.get(name, "")).upper()


def _summary(component: Component) -> str:
    """What it is called, in one line."""
    return " ".join(str(component.get("SUMMARY", "")).split())


def _entries(calendar: Component) -> Iterator[_Entry]:
    """What may be busy in a calendar; an event's instances stand under its UID."""
    gone = _says(calendar, "METHOD") == "CANCEL"
    by_uid: dict[str, list[Component]] = {}
    for number, event in enumerate(calendar.walk("VEVENT")):
        by_uid.setdefault(str(event.get("UID", f" {number}")), []).append(event)
    for parts in by_uid.values():
        yield _Entry(sorted(parts, key=lambda part: "RECURRENCE-ID" in part), gone)
    for busy in calendar.walk("VFREEBUSY"):
        yield _Entry([busy], gone)


def _is_spoilt(part: Component) -> bool:
    """It has lost a property, has no start, or ends before it starts."""
    if part.errors or "DTSTART" not in part:
        return True
    starts, ends = part.decoded("DTSTART"), part.decoded("DTEND", None)
    if not (isinstance(starts, datetime) and isinstance(ends, datetime)):
        return False
    return _aware(ends) < _aware(starts)


def _instances(
    parts: list[Component], first: datetime, last: datetime
) -> list[tuple[Component, object, object]]:
    alone = Calendar()
    for part in parts:
        alone.add_component(part)
    found = CalendarQuery(alone).between(first, last)
    return [(each, each.decoded("DTSTART"), each.decoded("DTEND")) for each in found]


def _said_busy(component: Component) -> Iterator[tuple[Component, object, object]]:
    """The spans of a list of what is busy."""
    lists: Any = component.get("FREEBUSY", [])
    for each in lists if isinstance(lists, list) else [lists]:
        if str(each.params.get("FBTYPE", "BUSY")).upper() != "FREE":
            yield component, each.start, each.end


def _aware(moment: datetime) -> datetime:
    """A floating time is the kitchen's own."""
    return moment.astimezone() if moment.tzinfo is None else moment


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
    return BusyTimes(tuple(times), tuple(found["left_out"]))


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
