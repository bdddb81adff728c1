"""Calendars of any kind are read or refused, and none holds a core."""

import resource
from datetime import UTC, datetime, timedelta

import pytest

from finebatch.core.refusal import Refusal
from finebatch.formats.apart import CPU_S
from finebatch.formats.busy_times import BusyTimes, read_apart, read_calendar

NOW = datetime(2026, 11, 27, 12, tzinfo=UTC)
UNTIL = NOW + timedelta(days=14)


def calendar(*entries: str) -> str:
    return "\r\n".join(["BEGIN:VCALENDAR", "VERSION:2.0", *entries, "END:VCALENDAR", ""])


def entry(rule: str, start: str = "20200107T180000Z") -> str:
    return f"BEGIN:VEVENT\r\nDTSTART:{start}\r\nDURATION:PT1H\r\n{rule}\r\nEND:VEVENT"


def starts(found: BusyTimes) -> list[str]:
    return [f"{busy.start:%d %H:%M}" for busy in found.times]


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
        (f"RRULE:FREQ=DAILY;INTERVAL={'9' * 5000}", "20200101T100000Z"),
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
    assert found.left_out == 2000


def test_what_began_long_ago_and_goes_on_is_busy() -> None:
    trip = (
        "BEGIN:VEVENT\r\nDTSTART:20261101T100000Z\r\nDTEND:20261130T110000Z\r\nEND:VEVENT\r\n"
        "BEGIN:VEVENT\r\nDTSTART:20261101T100000Z\r\nDTEND:20261102T110000Z\r\nEND:VEVENT"
    )
    found = read_calendar(calendar(trip), NOW, UNTIL)
    assert (len(found.times), found.left_out) == (1, 1)


def test_apart_it_is_read_the_same() -> None:
    text = calendar(entry("RRULE:FREQ=DAILY\r\nSUMMARY:Käse 🧀"), entry("STATUS:CANCELLED"))
    assert read_apart(text, NOW, UNTIL) == read_calendar(text, NOW, UNTIL)
