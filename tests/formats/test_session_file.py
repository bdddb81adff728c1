import json
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.method.steps import TypedStep
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.windows import windows
from finebatch.core.plan.work import COOL_JOBS
from finebatch.core.refusal import Refusal
from finebatch.core.session.in_calendar import InCalendar
from finebatch.core.session.words import Scene
from finebatch.formats.busy_times import read_calendar
from finebatch.formats.planned import file_plan
from finebatch.formats.run_sheet import tell, write_csv, write_markdown
from finebatch.formats.session_calendar import write_calendar
from finebatch.formats.session_file import SessionFile, read_session, schema
from finebatch.formats.session_writing import write_session

BASE = datetime(2026, 10, 10, 10, 30, tzinfo=UTC)
SESSION: dict[str, Any] = {
    "finebatch": "session",
    "name": "Supper",
    "start": "2026-10-10T10:30:00+00:00",
    "kitchen": {
        "sheets": 2,
        "ovens": [{"shelves": 1}],
        "workers": [
            {"name": "you", "away": [{"start": "2026-10-10T12:00Z", "end": "2026-10-10T12:30Z"}]},
            {"name": "Kim", "child": True},
        ],
    },
    "doughs": [
        {
            "letter": "A",
            "name": "=Drops | round",
            "makes": [{"hands_min": 12}],
            "trays": [
                {"name": f"A{n}", "portion_min": 5, "bakes": [{"minutes": 11, "turn_after": 5}]}
                for n in (1, 2)
            ],
        }
    ],
}


def changed(**parts: Any) -> str:
    return json.dumps({**SESSION, **parts})


def test_a_session_comes_back_as_it_was_given_out() -> None:
    file = read_session(json.dumps(SESSION))
    assert read_session(write_session(file)) == file
    work = file.work(BASE)
    assert [w.jobs for w in work.kitchen.workers][1] == COOL_JOBS
    assert work.kitchen.workers[0].away == ((90, 120),)


def test_a_plan_in_a_file_names_place_hands_and_window() -> None:
    file = read_session(json.dumps(SESSION))
    work = file.work(BASE)
    plan = best_plan(work, 1)
    assert find_faults(plan, work) == []
    found = file_plan(work, plan, BASE)
    whole = file.model_copy(update={"plan": found})
    assert read_session(write_session(whole)).plan == found
    load = next(a for a in found.activities if a.id == "A1.load")
    assert (load.who, load.place, load.shelf) == ("you", "oven", 1)
    assert load.window is not None
    assert load.window[0] <= load.start
    assert found.bound <= found.finish <= found.by_hand


def test_every_job_is_inside_its_window() -> None:
    work = read_session(json.dumps(SESSION)).work(BASE)
    plan = best_plan(work, 1)
    starts = {a.id: a.start for a in plan.activities}
    for key, window in windows(work, plan).items():
        assert window.earliest <= starts[key]
        assert window.latest is None or starts[key] <= window.latest


def test_the_schema_knows_every_part_of_a_session() -> None:
    made = schema()
    assert made["$schema"].endswith("2020-12/schema")
    assert set(made["properties"]) == set(SessionFile.model_fields)
    assert {"FileDough", "FileTray", "FileKitchen"} <= set(made["$defs"])


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("{", "no JSON"),
        ("[1]", "session"),
        (changed(finebatch="other"), "session"),
        (changed(doughs=[]), "at least 1"),
        (changed(kitchen={**SESSION["kitchen"], "sheets": 0}), "Give at least 1"),
        (changed(ready_by="2026-10-10T15:00Z"), "not both"),
        (changed(start="2026-10-10T10:30:00"), "offset"),
        (changed(doughs=SESSION["doughs"] * 2), "same name"),
        (changed(doughs=[{**SESSION["doughs"][0], "makes": []}]), "has no steps"),
        (
            changed(
                doughs=[{**SESSION["doughs"][0], "trays": SESSION["doughs"][0]["trays"] * 250}]
            ),
            "At most 60",
        ),
        (" " * 1_000_001, "1 MB"),
        ("[" * 200_000, "nested"),
    ],
)
def test_a_file_that_is_no_session_says_why(text: str, words: str) -> None:
    with pytest.raises(Refusal) as refused:
        read_session(text)
    assert words in " ".join(f"{f.field} {f.message}" for f in refused.value.faults)


def test_a_list_whose_items_are_wrong_is_not_called_too_short() -> None:
    kitchen = {**SESSION["kitchen"], "ovens": [{"shelves": 1, "room_c": 5}]}
    with pytest.raises(Refusal) as refused:
        read_session(changed(kitchen=kitchen))
    assert [fault.field for fault in refused.value.faults] == ["kitchen.ovens.0.room_c"]


@given(
    st.recursive(
        st.none() | st.integers() | st.text(),
        lambda c: (
            st.lists(c)
            | st.dictionaries(st.sampled_from(["finebatch", "doughs", "kitchen", "start"]), c)
        ),
        max_leaves=8,
    )
)
def test_any_json_is_a_session_or_refused(value: Any) -> None:
    with pytest.raises(Refusal):
        read_session(json.dumps(value))


STIRRED = TypedStep("cream", "Cream it well.", card_step=1)
SCENE = Scene(steps={JobKey("A", "mix"): (STIRRED,)})


def told() -> Any:
    work = read_session(json.dumps(SESSION)).work(BASE)
    plan = best_plan(work, 1)
    at = {m: BASE + timedelta(minutes=m) for a in plan.activities for m in (a.start, a.end)}
    return tell(plan.activities, work, {"A": "=Drops | round"}, at, SCENE)


def test_the_run_sheet_as_csv_and_markdown() -> None:
    jobs = told()
    rows = write_csv(jobs).splitlines()
    assert len(rows) == 1 + len(jobs)
    assert "'=Drops" in rows[1]
    text = write_markdown("Supper", jobs)
    assert text.count("\n| ") == 1 + len(jobs)
    assert "=Drops / round" in text
    assert "Cream it well" in rows[1] + rows[2]
    assert ": Cream it well |" in text


def test_the_run_sheet_is_a_calendar_with_alarms_and_is_read_back() -> None:
    jobs = told()
    text = write_calendar("Supper", jobs, InCalendar(f"{uuid4()}"), BASE).decode()
    assert text.count("BEGIN:VEVENT") == text.count("BEGIN:VALARM") == len(jobs)
    assert "TRIGGER:-PT1M" in text
    busy = read_calendar(text, BASE - timedelta(hours=1), BASE + timedelta(days=1))
    # An oven that gets hot keeps nobody busy.
    hands = [job for job in jobs if job.kind != "heat"]
    assert [(b.start, b.what) for b in busy.times] == [(j.start, j.what) for j in hands]
    assert len(jobs) - len(hands) == 1
    (left,) = busy.left_out
    assert left.startswith("1 marked as free (Turn the oven to")


def calendar(*events: str) -> str:
    body = "".join(f"BEGIN:VEVENT\r\nUID:{n}\r\n{e}END:VEVENT\r\n" for n, e in enumerate(events))
    return f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n{body}END:VCALENDAR\r\n"


def test_repeats_are_counted_out_and_whole_days_and_free_times_left_out() -> None:
    text = calendar(
        "DTSTART:20261001T170000Z\r\nDTEND:20261001T180000Z\r\nRRULE:FREQ=DAILY\r\n"
        "EXDATE:20261012T170000Z\r\nSUMMARY:Walk\r\n",
        "DTSTART;VALUE=DATE:20261011\r\nSUMMARY:Holiday\r\n",
        "DTSTART:20261011T090000Z\r\nDTEND:20261011T100000Z\r\nTRANSP:TRANSPARENT\r\n",
        "DTSTART:20261011T110000Z\r\nDURATION:PT30M\r\nSUMMARY:Call\r\n",
    )
    found = read_calendar(text, BASE, BASE + timedelta(days=3))
    days = [(b.start.day, b.what) for b in found.times]
    assert days == [(10, "Walk"), (11, "Call"), (11, "Walk")]
    assert found.times[1].end - found.times[1].start == timedelta(minutes=30)
    assert found.left_out == ("1 of whole days (Holiday)", "1 marked as free")


def test_a_daily_time_stays_on_the_wall_clock_when_the_clocks_change() -> None:
    text = calendar(
        "DTSTART;TZID=Europe/Berlin:20261024T180000\r\nDTEND;TZID=Europe/Berlin:20261024T190000\r\n"
        "RRULE:FREQ=DAILY;COUNT=3\r\n"
    )
    start = datetime(2026, 10, 24, 0, 0, tzinfo=UTC)
    found = read_calendar(text, start, start + timedelta(days=5))
    assert [b.start.astimezone(UTC).hour for b in found.times] == [16, 17, 17]


@pytest.mark.parametrize(
    "text", ["", "hello", "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n", "x" * 1_000_001]
)
def test_what_is_no_calendar_says_so(text: str) -> None:
    with pytest.raises(Refusal, match="calendar"):
        read_calendar(text, BASE, BASE + timedelta(days=14))
