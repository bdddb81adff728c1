"""Times on the nights when clocks change, in files and on paper."""

import csv
import io
import json
import os
import re
import time
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

import pytest
from fastapi.testclient import TestClient

from finebatch.core.measures.figures import read_in
from finebatch.formats.moments import day_and_time, later, local, next_time, time_said
from tests.conftest import HandClock
from tests.plans import plan

AUTUMN = datetime(2026, 10, 24, 21, tzinfo=UTC)
"""23:00 in Berlin; at 01:00 UTC it is 03:00 there, and then 02:00 again."""
SPRING = datetime(2026, 3, 28, 21, tzinfo=UTC)
HOUR = 60


@pytest.fixture(params=["Europe/Berlin"])
def berlin(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    monkeypatch.setenv("TZ", request.param)
    time.tzset()
    yield
    monkeypatch.undo()
    time.tzset()


def said(moment: datetime) -> str:
    return read_in(time_said(moment))


@pytest.mark.usefixtures("berlin")
def test_each_moment_of_the_night_has_its_own_offset() -> None:
    base = local(AUTUMN.timestamp() * 1000)
    night = [later(base, n * HOUR) for n in range(7)]
    assert [m.isoformat()[11:] for m in night] == [
        "23:00:00+02:00",
        "00:00:00+02:00",
        "01:00:00+02:00",
        "02:00:00+02:00",
        "02:00:00+01:00",
        "03:00:00+01:00",
        "04:00:00+01:00",
    ]
    assert {b - a for a, b in pairwise(night)} == {timedelta(hours=1)}


@pytest.mark.usefixtures("berlin")
def test_what_the_clock_shows_twice_says_which_it_is() -> None:
    base = local(AUTUMN.timestamp() * 1000)
    night = [said(later(base, n * HOUR)) for n in range(2, 6)]
    assert night == ["01:00", "02:00 (UTC+2)", "02:00 (UTC+1)", "03:00"]
    assert read_in(day_and_time(later(base, 4 * HOUR))) == "Sun 02:00 (UTC+1)"


@pytest.mark.usefixtures("berlin")
def test_an_hour_that_is_left_out_is_never_said() -> None:
    base = local(SPRING.timestamp() * 1000)
    assert [said(later(base, n * HOUR)) for n in range(2, 6)] == [
        "00:00",
        "01:00",
        "03:00",
        "04:00",
    ]


@pytest.mark.usefixtures("berlin")
def test_a_moment_of_another_place_keeps_its_offset() -> None:
    there = datetime.fromisoformat("2026-10-24T20:00+09:00")
    assert later(there, 600).isoformat() == "2026-10-25T06:00:00+09:00"
    assert said(datetime.fromisoformat("2026-10-25T02:30+09:00")) == "02:30"


@pytest.mark.usefixtures("berlin")
def test_the_next_time_is_by_the_clock_of_then(monkeypatch: pytest.MonkeyPatch) -> None:
    found = next_time(15, 0)
    now = datetime.now().astimezone()
    assert now < found <= now + timedelta(hours=25)
    assert (found.hour, found.minute) == (15, 0)
    assert found.utcoffset() == found.astimezone(UTC).astimezone().utcoffset()


def offset_in_berlin(moment: datetime) -> timedelta | None:
    return moment.astimezone(ZoneInfo("Europe/Berlin")).utcoffset()


@pytest.mark.usefixtures("berlin")
def test_a_session_through_that_night_has_the_offset_of_each_moment(
    demo: TestClient, clock: HandClock
) -> None:
    clock.at = round(AUTUMN.timestamp() * 1000) + 2 * 3_600_000
    made = plan(demo, 1, 2, start_at=clock.at).json()
    assert made["finish_at"] > clock.at + 3 * 3_600_000

    def file(form: str) -> str:
        return demo.get(f"/api/sessions/{made['id']}/file", params={"form": form}).text

    planned = json.loads(file("json"))["plan"]["activities"]
    rows = list(csv.DictReader(io.StringIO(file("csv"))))
    moments = [one[end] for one in planned for end in ("start", "end")]
    moments += [row[end] for row in rows for end in ("from", "to")]
    found = [datetime.fromisoformat(moment) for moment in moments]
    assert {m.utcoffset() for m in found} == {timedelta(hours=1), timedelta(hours=2)}
    assert all(m.utcoffset() == offset_in_berlin(m) for m in found)
    assert "02:" not in re.sub(r"02:\d\d \(UTC\+[12]\)", "", file("md"))
    assert "(UTC+1)" in file("md")


def test_half_hours_are_told(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(os.environ, "TZ", "Australia/Adelaide")
    time.tzset()
    try:
        twice = datetime(2026, 4, 4, 17, tzinfo=UTC).astimezone()
        assert said(twice) == "02:30 (UTC+9:30)"
    finally:
        monkeypatch.undo()
        time.tzset()
