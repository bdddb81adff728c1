"""Calendars of any kind are read or refused, and none holds a core."""

import os
import random
import resource
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
import recurring_ical_events
from icalendar import Calendar, Event

from finebatch.core.refusal import Refusal
from finebatch.formats.apart import CPU_S
from finebatch.formats.busy_times import MOST_BUSY, BusyTimes, read_apart, read_calendar

NOW = datetime(2026, 11, 27, 12, tzinfo=UTC)
UNTIL = NOW + timedelta(days=14)


def calendar(*entries: str) -> str:
    return "\r\n".join(["BEGIN:VCALENDAR", "VERSION:2.0", *entries, "END:VCALENDAR", ""])


def entry(rule: str, start: str = "20200107T180000Z") -> str:
    return f"BEGIN:VEVENT\r\nDTSTART:{start}\r\nDURATION:PT1H\r\n{rule}\r\nEND:VEVENT"


def starts(found: BusyTimes) -> list[str]:
    return [f"{busy.start.astimezone(UTC):%d %H:%M}" for busy in found.times]


@pytest.mark.parametrize(
    ("rule", "start"),
    [
        ("RRULE:FREQ=DAILY;INTERVAL=0", "20200101T100000Z"),
        ("RRULE:FREQ=DAILY;INTERVAL=-1", "20200101T100000Z"),
        ("RRULE:FREQ=MINUTELY", "20200101T100000Z"),
        ("RRULE:FREQ=SECONDLY", "19700101T000000Z"),
        ("RRULE:FREQ=HOURLY;BYMONTH=2;BYMONTHDAY=30", "20200101T100000Z"),
        ("RRULE:FREQ=MINUTELY;COUNT=999999999", "20200101T100000Z"),
        (f"RRULE:FREQ=DAILY;BYHOUR={','.join(['1'] * 450_000)}", "20200101T100000Z"),
    ],
)
def test_repeats_without_end_are_refused_in_time(rule: str, start: str) -> None:
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    with pytest.raises(Refusal):
        read_apart(calendar(entry(rule, start)), NOW, UNTIL)
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    took = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
    assert took < CPU_S + 0.2


@pytest.mark.parametrize(
    ("rule", "days"),
    [
        ("RRULE:FREQ=WEEKLY", ["01 18:00", "08 18:00"]),
        ("RRULE:FREQ=WEEKLY;INTERVAL=2", ["01 18:00"]),
        ("RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SA", ["01 18:00", "05 18:00"]),
        ("RRULE:FREQ=DAILY;INTERVAL=5", ["01 18:00", "06 18:00"]),
        ("RRULE:FREQ=HOURLY;INTERVAL=120", ["01 18:00", "06 18:00"]),
        ("RRULE:FREQ=MONTHLY;BYMONTHDAY=3", ["03 18:00"]),
        ("RRULE:FREQ=DAILY;UNTIL=20261129T200000Z", ["27 18:00", "28 18:00", "29 18:00"]),
        ("RRULE:FREQ=WEEKLY;COUNT=361", ["01 18:00"]),
    ],
)
def test_old_repeats_come_on_their_days(rule: str, days: list[str]) -> None:
    """The years before are not counted out, and yet nothing is a day off."""
    assert sorted(starts(read_calendar(calendar(entry(rule)), NOW, UNTIL))) == days


def test_a_calendar_of_many_years_is_read() -> None:
    old = [
        f"BEGIN:VEVENT\r\nDTSTART;TZID=Europe/Berlin:{2010 + n % 16}0105T100000\r\n"
        f"DTEND;TZID=Europe/Berlin:{2010 + n % 16}0105T110000\r\nSUMMARY:{'x' * 300}\r\nEND:VEVENT"
        for n in range(2000)
    ]
    near = (
        "BEGIN:VEVENT\r\nDTSTART;TZID=Europe/Berlin:20261128T100000\r\n"
        "DTEND;TZID=Europe/Berlin:20261128T110000\r\nSUMMARY:Market\r\nEND:VEVENT"
    )
    found = read_apart(calendar(*old, near), NOW, UNTIL)
    assert [(busy.what, busy.start.hour) for busy in found.times] == [("Market", 10)]
    assert found.left_out == ("2000 in other days",)


def test_what_began_long_ago_and_goes_on_is_busy() -> None:
    trip = (
        "BEGIN:VEVENT\r\nDTSTART:20261101T100000Z\r\nDTEND:20261130T110000Z\r\nEND:VEVENT\r\n"
        "BEGIN:VEVENT\r\nDTSTART:20261101T100000Z\r\nDTEND:20261102T110000Z\r\nEND:VEVENT"
    )
    found = read_calendar(calendar(trip), NOW, UNTIL)
    assert (len(found.times), found.left_out) == (1, ("1 in other days",))


def test_apart_it_is_read_the_same() -> None:
    text = calendar(entry("RRULE:FREQ=DAILY\r\nSUMMARY:Käse 🧀"), entry("STATUS:CANCELLED"))
    assert read_apart(text, NOW, UNTIL) == read_calendar(text, NOW, UNTIL)


BERLIN = "DTSTART;TZID=Europe/Berlin:202611{}T180000\r\nDTEND;TZID=Europe/Berlin:202611{}T190000"
"""Six in the evening there is five by UTC."""
SUPPER = "UID:s\r\nSUMMARY:Supper\r\nRRULE:FREQ=DAILY;COUNT=4\r\n" + BERLIN.format("27", "27")


def event(*lines: str) -> str:
    return "\r\n".join(["BEGIN:VEVENT", *lines, "END:VEVENT"])


FOREIGN: dict[str, tuple[Sequence[str], Sequence[str], Sequence[str]]] = {
    "one instance is moved": (
        [
            event(SUPPER),
            event(
                "UID:s\r\nRECURRENCE-ID;TZID=Europe/Berlin:20261128T180000\r\nSUMMARY:Late supper",
                BERLIN.format("28", "28").replace("T18", "T20").replace("T19", "T21"),
            ),
        ],
        ["27 17:00", "28 19:00", "29 17:00", "30 17:00"],
        [],
    ),
    "one instance is cancelled": (
        [
            event(SUPPER),
            event(
                "UID:s\r\nRECURRENCE-ID:20261128T170000Z\r\nSTATUS:CANCELLED",
                BERLIN.format("28", "28"),
            ),
        ],
        ["27 17:00", "29 17:00", "30 17:00"],
        [],
    ),
    "one instance is moved out of the days": (
        [
            event(SUPPER),
            event(
                "UID:s\r\nRECURRENCE-ID:20261128T170000Z",
                "DTSTART:20280101T100000Z\r\nDTEND:20280101T110000Z",
            ),
        ],
        ["27 17:00", "29 17:00", "30 17:00"],
        [],
    ),
    "one instance is moved into the days": (
        [
            event("UID:s\r\nDTSTART:20250101T100000Z\r\nDURATION:PT1H\r\nRRULE:FREQ=YEARLY"),
            event(
                "UID:s\r\nRECURRENCE-ID:20260101T100000Z",
                "DTSTART:20261201T100000Z\r\nDTEND:20261201T120000Z",
            ),
        ],
        ["01 10:00"],
        [],
    ),
    "this instance and all that follow are moved": (
        [
            event(SUPPER),
            event(
                "UID:s\r\nRECURRENCE-ID;RANGE=THISANDFUTURE:20261129T170000Z",
                BERLIN.format("29", "29").replace("T19", "T21").replace("T18", "T20"),
            ),
        ],
        ["27 17:00", "28 17:00", "29 19:00", "30 19:00"],
        [],
    ),
    "dates are added": (
        [event(BERLIN.format("27", "27"), "RDATE:20261130T080000Z,20261202T080000Z")],
        ["27 17:00", "30 08:00", "02 08:00"],
        [],
    ),
    "periods are added": (
        [event(BERLIN.format("27", "27"), "RDATE;VALUE=PERIOD:20261130T080000Z/PT3H")],
        ["27 17:00", "30 08:00"],
        [],
    ),
    "dates are excepted": (
        [event(SUPPER, "EXDATE:20261128T170000Z", "EXDATE;TZID=Europe/Berlin:20261129T180000")],
        ["27 17:00", "30 17:00"],
        [],
    ),
    "an end in UTC": (
        [event(BERLIN.format("27", "27"), "RRULE:FREQ=DAILY;UNTIL=20261129T170000Z")],
        ["27 17:00", "28 17:00", "29 17:00"],
        [],
    ),
    "an end on a day": (
        [event(BERLIN.format("27", "27"), "RRULE:FREQ=DAILY;UNTIL=20261129")],
        ["27 17:00", "28 17:00"],
        [],
    ),
    "lines end as on any machine": (
        [event(SUPPER).replace("\r\n", "\n")],
        ["27 17:00", "28 17:00", "29 17:00", "30 17:00"],
        [],
    ),
    "a zone of its own": (
        [
            "BEGIN:VTIMEZONE\r\nTZID:Here\r\nBEGIN:STANDARD\r\nDTSTART:19700101T000000",
            "TZOFFSETFROM:+0200\r\nTZOFFSETTO:+0200\r\nEND:STANDARD\r\nEND:VTIMEZONE",
            event("DTSTART;TZID=Here:20261128T180000\r\nDTEND;TZID=Here:20261128T190000"),
        ],
        ["28 16:00"],
        [],
    ),
    "the calendar's zone": (
        ["X-WR-TIMEZONE:America/New_York", event("DTSTART:20261128T180000\r\nDURATION:PT1H")],
        ["28 23:00"],
        [],
    ),
    "what is busy, and no more": (
        [
            "BEGIN:VFREEBUSY\r\nFREEBUSY:20261128T100000Z/PT1H,20261129T100000Z/20261129T120000Z",
            "FREEBUSY;FBTYPE=FREE:20261130T100000Z/PT1H\r\nEND:VFREEBUSY",
        ],
        ["28 10:00", "29 10:00"],
        [],
    ),
    "whole days": (
        [event("SUMMARY:Fair\r\nDTSTART;VALUE=DATE:20261128\r\nDTEND;VALUE=DATE:20261130")],
        [],
        ["1 of whole days (Fair)"],
    ),
    "free, cancelled, without a length, elsewhere": (
        [
            event("SUMMARY:Tea\r\nTRANSP:TRANSPARENT", BERLIN.format("28", "28")),
            event("SUMMARY:Ball\r\nSTATUS:CANCELLED", BERLIN.format("28", "28")),
            event("SUMMARY:Bell\r\nDTSTART:20261128T180000Z"),
            event("SUMMARY:Past\r\nDTSTART:20251128T180000Z\r\nDURATION:PT1H"),
        ],
        [],
        [
            "1 in other days",
            "1 marked as free (Tea)",
            "1 cancelled (Ball)",
            "1 that take no time (Bell)",
        ],
    ),
    "all of it is called off": (["METHOD:CANCEL", event(SUPPER)], [], ["1 cancelled (Supper)"]),
    "one entry cannot be read": (
        [
            event("SUMMARY:Odd\r\nDTSTART:2026"),
            event("SUMMARY:Odder\r\nRRULE:FREQ=FORTNIGHTLY", BERLIN.format("28", "28")),
            event("SUMMARY:Oddest", BERLIN.format("28", "27")),
            event(BERLIN.format("29", "29")),
        ],
        ["29 17:00"],
        ["3 that cannot be read (Odd, Odder, Oddest)"],
    ),
    "alarms, to-dos and letters beside it": (
        [
            "BEGIN:VTODO\r\nUID:t\r\nSUMMARY:Flour\r\nDUE:20261128T100000Z\r\nEND:VTODO",
            event(
                "SUMMARY:Ch\r\n oir\\, then tea\r\nX-SOMETHING;X-A=b:c",
                BERLIN.format("28", "28"),
                "BEGIN:VALARM\r\nACTION:AUDIO\r\nTRIGGER:-PT15M\r\nEND:VALARM",
            ),
        ],
        ["28 17:00"],
        [],
    ),
    "the night when clocks change": (
        [
            event("RRULE:FREQ=MONTHLY;BYDAY=-1SU\r\nDTSTART;TZID=Europe/Berlin:20260329T010000"),
            event(BERLIN.format("27", "28").replace("T18", "T23").replace("T19", "T06")),
        ],
        ["27 22:00"],
        ["1 that take no time"],
    ),
}


@pytest.mark.parametrize("name", FOREIGN)
def test_calendars_of_other_programs(name: str) -> None:
    entries, times, left = FOREIGN[name]
    found = read_calendar(calendar(*entries), NOW, UNTIL)
    assert starts(found) == times
    assert set(found.left_out) == set(left)


def test_several_calendars_in_one_file_and_its_mark() -> None:
    one, other = (calendar(event(BERLIN.format(day, day))) for day in ("28", "29"))
    found = read_calendar(f"\ufeff{one}\ufeff{other}", NOW, UNTIL)
    assert starts(found) == ["28 17:00", "29 17:00"]


RULES = (
    "FREQ=DAILY",
    "FREQ=DAILY;INTERVAL=3",
    "FREQ=WEEKLY;BYDAY=MO,TH,SA",
    "FREQ=WEEKLY;UNTIL=20261206T120000Z",
    "FREQ=MONTHLY;BYDAY=1TU,-1FR",
    "FREQ=DAILY;COUNT=30",
    "FREQ=YEARLY;BYMONTH=12;BYMONTHDAY=6",
)


def random_event(chance: random.Random, number: int) -> list[Event]:
    """An event as the calendar library writes it, with some of its instances moved."""
    zone = chance.choice([UTC, ZoneInfo("Europe/Berlin"), ZoneInfo("America/New_York")])
    start = datetime(2026, 11, 1, 10, tzinfo=zone) + timedelta(hours=chance.randrange(24 * 45))
    made = Event.new(uid=f"e{number}", start=start, end=start + timedelta(minutes=90))
    if chance.random() < 0.6:
        made.add("RRULE", made.types_factory["recur"].from_ical(chance.choice(RULES)))
    if chance.random() < 0.3:
        made.add("RDATE", [start + timedelta(days=3, hours=2)])
    if chance.random() < 0.3:
        made.add("EXDATE", [start + timedelta(days=7)])
    if "RRULE" not in made or chance.random() < 0.5:
        return [made]
    place = start + timedelta(days=chance.randrange(0, 21))
    moved = place + timedelta(days=chance.choice([0, 0, 1, -30, 30]), hours=3)
    other = Event.new(uid=f"e{number}", start=moved, end=moved + timedelta(minutes=30))
    other.add("RECURRENCE-ID", place)
    return [made, other]


@pytest.mark.parametrize("seed", range(30 * int(os.environ.get("TORTURE", "1"))))
def test_the_spans_are_those_of_a_recurrence_library(seed: int) -> None:
    chance = random.Random(seed)
    whole = Calendar.new()
    for number in range(4):
        for each in random_event(chance, number):
            whole.add_component(each)
    wanted = {
        (each.start, each.end)
        for each in recurring_ical_events.of(whole).between(NOW, UNTIL)
        if each.end > NOW and each.start < UNTIL
    }
    if len(wanted) > MOST_BUSY:
        return
    found = read_calendar(whole.to_ical().decode(), NOW, UNTIL)
    assert {(busy.start, busy.end) for busy in found.times} == wanted
