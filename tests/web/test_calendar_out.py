"""A session's calendar, read by a library that did not write it and kept as a calendar keeps it."""

import warnings
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
import vobject
from fastapi.testclient import TestClient
from icalendar import Calendar

from tests.conftest import HandClock
from tests.plans import plan

HOUR = 3_600_000
Kept = dict[str, Any]


def calendar_of(client: TestClient, session: Any) -> str:
    answer = client.get(f"/api/sessions/{session['id']}/file", params={"form": "ics"})
    assert answer.status_code == 200
    return answer.text


def bring_in(kept: Kept, text: str) -> None:
    """As calendars do it: an entry takes the place of the one of its UID, unless it is older."""
    for event in vobject.readOne(text).vevent_list:
        before = kept.get(event.uid.value)
        if before is None or int(event.sequence.value) >= int(before.sequence.value):
            kept[event.uid.value] = event


def shown(kept: Kept) -> set[tuple[str, int]]:
    """What a baker sees: when each entry begins that is not cancelled."""
    return {
        (uid, round(event.dtstart.value.timestamp() * 1000))
        for uid, event in kept.items()
        if getattr(event, "status", None) is None or event.status.value != "CANCELLED"
    }


def starts(found: set[tuple[str, int]]) -> list[int]:
    return sorted(at for _, at in found)


def told(session: Any) -> list[int]:
    return sorted(a["start_at"] for a in session["activities"] if a["hands"] or a["kind"] == "heat")


def test_a_plan_made_anew_mends_what_the_calendar_has(demo: TestClient, clock: HandClock) -> None:
    kept: Kept = {}
    first = plan(demo, 1, 3, start_at=clock() + HOUR).json()
    bring_in(kept, calendar_of(demo, first))
    assert starts(shown(kept)) == told(first)
    before = shown(kept)
    # Other trays, another hour, one dough less: some jobs move, some are there no more.
    clock.pass_minutes(1)
    second = plan(demo, 1, start_at=clock() + 3 * HOUR, sheets=1).json()
    bring_in(kept, calendar_of(demo, second))
    assert starts(shown(kept)) == told(second)
    assert {uid for uid, _ in before} & {uid for uid, _ in shown(kept)}
    # And once more what was there: called off is not for ever.
    clock.pass_minutes(1)
    third = plan(demo, 1, 3, start_at=clock() + HOUR).json()
    bring_in(kept, calendar_of(demo, third))
    assert starts(shown(kept)) == told(third)


def test_the_same_plan_is_the_same_calendar(demo: TestClient, clock: HandClock) -> None:
    made = plan(demo, 1, start_at=clock() + HOUR).json()
    assert calendar_of(demo, made) == calendar_of(demo, made)


def test_another_session_has_other_names(demo: TestClient, clock: HandClock) -> None:
    kept: Kept = {}
    one = plan(demo, 1, start_at=clock() + HOUR).json()
    bring_in(kept, calendar_of(demo, one))
    demo.delete("/api/plan")
    other = plan(demo, 1, start_at=clock() + 30 * HOUR).json()
    bring_in(kept, calendar_of(demo, other))
    assert starts(shown(kept)) == sorted(told(one) + told(other))


def test_what_is_given_up_is_called_off(demo: TestClient, clock: HandClock) -> None:
    kept: Kept = {}
    made = plan(demo, 1).json()
    path = f"/api/sessions/{made['id']}"
    bring_in(kept, calendar_of(demo, demo.post(f"{path}/start", json={}).json()))
    clock.pass_minutes(1)
    demo.post(f"{path}/give-up")
    bring_in(kept, calendar_of(demo, made))
    assert all(at <= clock() for at in starts(shown(kept)))
    assert len(kept) > len(shown(kept))


@pytest.mark.parametrize("name", ["A, B; C\\D", "Ünïts 🍪 “x”", "n" * 60, "a:b=c;d"])
def test_names_are_read_as_they_are(demo: TestClient, clock: HandClock, name: str) -> None:
    made = plan(demo, 1, start_at=clock() + HOUR, name=name).json()
    assert made["name"] == name
    text = calendar_of(demo, made)
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        read = vobject.readOne(text)
        assert read.validate(raiseException=True)
        strict = Calendar.from_ical(text)
    assert str(strict["NAME"]) == str(strict["X-WR-CALNAME"]) == name
    assert [error for part in strict.walk() for error in part.errors] == []
    assert all(len(line.encode()) <= 75 for line in text.split("\r\n"))
    for event in strict.walk("VEVENT"):
        stamp = event.decoded("LAST-MODIFIED")
        assert stamp.tzinfo is not None
        assert abs(stamp - datetime.fromtimestamp(clock() / 1000, UTC)) < timedelta(hours=1)
