"""The run sheet: a session's hand jobs by the clock, in words, as CSV and Markdown."""

import csv
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from finebatch.core.plan.keys import JobKind
from finebatch.core.plan.placed import Placed
from finebatch.core.plan.work import Work
from finebatch.core.session.words import Scene, line, place_of, steps_along
from finebatch.formats.card_words import in_markdown
from finebatch.formats.moments import day_and_time, time_said
from finebatch.formats.spreadsheet import safe_cell


@dataclass(frozen=True, slots=True)
class RunSheetJob:
    """One job of the run sheet, in words, with the steps of the method that are done in it. Times
    carry their zone."""

    key: str
    kind: JobKind
    start: datetime
    end: datetime
    what: str
    who: str
    dough: str
    place: str
    steps: tuple[str, ...] = ()


def tell(
    activities: Sequence[Placed],
    work: Work,
    names: Mapping[str, str],
    at: Mapping[int, datetime],
    scene: Scene,
) -> list[RunSheetJob]:
    """The jobs of the hands, and when to turn the oven's dial, in order. `names` are the doughs' by
    letter, `at` moments by minute, `scene` what is done in which job."""
    workers = work.kitchen.workers
    return [
        RunSheetJob(
            f"{job.id}",
            job.kind,
            at[job.start],
            at[job.end],
            line(job),
            workers[job.who or 0].name if (job.who or 0) < len(workers) else "",
            names.get(job.dough or "", ""),
            place_of(job),
            tuple(
                step.text
                for step in steps_along(job, scene)
                if _closed(step.text).casefold() != _closed(job.what).casefold()
            ),
        )
        for job in sorted(activities, key=lambda a: (a.start, a.end, a.id))
        if job.told
    ]


def write_csv(told: Sequence[RunSheetJob]) -> str:
    """The run sheet as a table; no cell is a formula to a spreadsheet."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\r\n")
    table.writerow(["from", "to", "who", "job", "dough", "place", "steps"])
    for job in told:
        cells = [
            job.start.isoformat(timespec="minutes"),
            job.end.isoformat(timespec="minutes"),
            job.who,
            job.what,
            job.dough,
            job.place,
            "; ".join(map(_closed, job.steps)),
        ]
        table.writerow([safe_cell(cell) for cell in cells])
    return out.getvalue()


def write_markdown(name: str, told: Sequence[RunSheetJob]) -> str:
    """The run sheet for a notebook or the fridge door."""
    lines = [
        f"# {_plain(name)}",
        "",
        "| from | to | who | job | dough | place |",
        "|---|---|---|---|---|---|",
    ]
    for job in told:
        cells = [
            day_and_time(job.start),
            time_said(job.end),
            job.who,
            f"{job.what}: {'; '.join(map(_closed, job.steps))}" if job.steps else job.what,
            job.dough,
            job.place,
        ]
        lines.append("| " + " | ".join(map(_plain, cells)) + " |")
    lines += ["", "Follow your local food authority, the labels and the appliances' manuals.", ""]
    return "\n".join(lines)


def _closed(step: str) -> str:
    """A step within a list of them."""
    return step.rstrip(" .;,")


def _plain(text: str) -> str:
    return in_markdown(" ".join(text.replace("|", "/").split()))
