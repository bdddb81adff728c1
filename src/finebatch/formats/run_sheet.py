"""The run sheet: a session's hand jobs by the clock, in words, as CSV and Markdown."""

import csv
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from finebatch.core.plan.schedule import Placed
from finebatch.core.plan.work import Kind, Work
from finebatch.formats.card_csv import safe_cell


@dataclass(frozen=True, slots=True)
class Told:
    """One job of the run sheet, in words. Times carry their zone."""

    key: str
    kind: Kind
    start: datetime
    end: datetime
    what: str
    who: str
    dough: str
    place: str


_WORDS: Mapping[Kind, str] = {
    "portion": "Portion tray {tray}",
    "load": "Tray {tray} into the oven",
    "turn": "Turn tray {tray}",
    "out": "Take tray {tray} out",
    "shape": "Shape or re-cut tray {tray}",
    "slice": "Slice tray {tray}",
    "rack": "Tray {tray} to the rack",
    "finish": "Finish tray {tray}",
    "freeze": "Wrap the rest of dough {dough}",
}


def words(job: Placed) -> str:
    """A job in a baker's words."""
    if job.kind == "heat":
        oven = f"oven {job.oven}" if job.oven and job.oven > 1 else "the oven"
        return f"Turn {oven} to {job.label} °C on its dial"
    if job.kind in ("mix", "take"):
        return f"Dough {job.dough}: {job.label or 'mix'}"
    if job.kind == "part":
        return f"Dough {job.dough}: make the {job.label}"
    return _WORDS[job.kind].format(tray=job.tray, dough=job.dough)


def place_of(job: Placed) -> str:
    """Where a job is done: the sheet, and the shelf of the oven."""
    parts = []
    if job.shelf is not None:
        oven = f"oven {job.oven}, " if job.oven and job.oven > 1 else ""
        parts.append(f"{oven}shelf {job.shelf}")
    if job.sheet is not None:
        parts.append(f"sheet {job.sheet}")
    return ", ".join(parts) or job.place


def tell(
    activities: Sequence[Placed], work: Work, names: Mapping[str, str], at: Mapping[int, datetime]
) -> list[Told]:
    """The jobs of the hands, and when to turn the oven's dial, in order. `names` are the doughs' by
    letter, `at` moments by minute."""
    workers = work.kitchen.workers
    return [
        Told(
            job.id,
            job.kind,
            at[job.start],
            at[job.end],
            words(job),
            workers[job.who or 0].name if (job.who or 0) < len(workers) else "",
            names.get(job.dough or "", ""),
            place_of(job),
        )
        for job in sorted(activities, key=lambda a: (a.start, a.end, a.id))
        if job.told
    ]


def write_csv(told: Sequence[Told]) -> str:
    """The run sheet as a table; no cell is a formula to a spreadsheet."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\r\n")
    table.writerow(["from", "to", "who", "job", "dough", "place"])
    for job in told:
        cells = [
            job.start.isoformat(timespec="minutes"),
            job.end.isoformat(timespec="minutes"),
            job.who,
            job.what,
            job.dough,
            job.place,
        ]
        table.writerow([safe_cell(cell) for cell in cells])
    return out.getvalue()


def write_markdown(name: str, told: Sequence[Told]) -> str:
    """The run sheet for a notebook or the fridge door."""
    lines = [
        f"# {_plain(name)}",
        "",
        "| from | to | who | job | dough | place |",
        "|---|---|---|---|---|---|",
    ]
    for job in told:
        cells = [
            f"{job.start:%a %H:%M}",
            f"{job.end:%H:%M}",
            job.who,
            job.what,
            job.dough,
            job.place,
        ]
        lines.append("| " + " | ".join(map(_plain, cells)) + " |")
    lines += ["", "Follow your local food authority, the labels and the appliances' manuals.", ""]
    return "\n".join(lines)


def _plain(text: str) -> str:
    return " ".join(text.replace("|", "/").split())
