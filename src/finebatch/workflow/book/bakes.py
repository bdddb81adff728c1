"""The book: what came out, beside what was foreseen, and what that taught."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from statistics import fmean

from sqlalchemy.orm import Session

from finebatch.core.book.learn import (
    FEWEST_UNEVEN,
    Counts,
    Lessons,
    counts_little,
    portions_cv,
)
from finebatch.core.book.record import Record, Seen, check_record
from finebatch.core.piece.evenness import judge_portions
from finebatch.core.piece.tray import PORTION_CV
from finebatch.core.tray.question import Ground, TrayQuestion
from finebatch.facts import formula, tables
from finebatch.store.bin import throw
from finebatch.store.models import BakeRow, BinRow, SessionRow
from finebatch.workflow.book.reckon import reckoned
from finebatch.workflow.dough import versions
from finebatch.workflow.dough.doughs import find_row, get_dough
from finebatch.workflow.dough.from_card import tray_question
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.kitchen.larder import get_larder, get_pantry
from finebatch.workflow.kitchen.lessons import book_rows, lessons
from finebatch.workflow.session.baking import baked_minutes
from finebatch.workflow.session.session_rows import asked_of, find_session
from finebatch.workflow.session.weighing import FEW, portions_g, with_portions


@dataclass(frozen=True, slots=True)
class Entry:
    """One bake of the book, and how likely its widths and its minutes are a good reading, 0 to 1;
    None of what was not read, or is not learnt from. `set_aside` and `minutes_aside` say that they
    count little."""

    row: BakeRow
    good: float | None
    minutes_good: float | None

    @property
    def set_aside(self) -> bool:
        """Whether its widths count little."""
        return counts_little(self.good)

    @property
    def minutes_aside(self) -> bool:
        """Whether its minutes do."""
        return counts_little(self.minutes_good)


def _asked(session: Session, record: Record) -> tuple[TrayQuestion, SessionRow | None]:
    """The dough as it was planned when the tray is of a session, else as it is now."""
    dough = get_dough(session, record.dough_id)
    if record.session_id is None:
        kitchen, larder = get_kitchen(session), get_larder(session)
        return tray_question(dough.card, dough.weighed, dough.tray, kitchen, larder), None
    row = find_session(session, record.session_id)
    return asked_of(row, record.dough_id, record.tray).question, row


def add_bake(session: Session, record: Record, now: int, taught: Lessons | None = None) -> BakeRow:
    """Keep a bake beside what was foreseen for it at this moment, or once that was `taught`;
    `Refusal` for absurd figures."""
    check_record(record, formula.troubles())
    asked, row = _asked(session, record)
    minutes = record.minutes
    if minutes is None and row is not None and record.tray is not None:
        minutes = baked_minutes(row, record.tray)
    pantry = get_pantry(session)
    larder = pantry.larder
    portion_cv = PORTION_CV[asked.setting.evenness]
    weighed = portions_g(row, record.tray) if row is not None and record.tray else []
    if len(weighed) >= FEW:
        asked = with_portions(asked, weighed, asked.lot(larder))
        portion_cv = judge_portions(weighed, 1.0).cv or portion_cv
    if record.seen.pictured is not None and len(record.widths_mm) >= FEWEST_UNEVEN:
        portion_cv = portions_cv(record.widths_mm)
    ground = Ground(larder, tables.models(), (taught or lessons(session)).of_dough(record.dough_id))
    foreseen = asked.foresee(ground)
    cut_mm, width = asked.setting.piece.cut_mm(foreseen), foreseen.width
    of_width = 1.0 if cut_mm is None else cut_mm / width.middle_mm
    effects, plain_minutes = reckoned(asked, asked.conditions(), foreseen.raw, pantry)
    bake = BakeRow(
        dough_id=record.dough_id,
        session_id=record.session_id,
        tray=record.tray,
        baked_at=now,
        portion_cv=portion_cv,
        raw=foreseen.raw,
        effects=effects,
        plain_minutes=plain_minutes,
        foreseen_mm=of_width * width.middle_mm,
        low_mm=of_width * width.low_mm,
        high_mm=of_width * width.high_mm,
        foreseen_minutes=foreseen.minutes,
        foreseen_height_mm=foreseen.thickness.height_mm,
        widths_mm=list(record.widths_mm),
        cut=cut_mm is not None,
        minutes=minutes,
        colour=record.colour,
        note=record.note.strip(),
        seen=_with_version(session, record, now),
    )
    session.add(bake)
    session.flush()
    return bake


def _with_version(session: Session, record: Record, now: int) -> Seen:
    """What was seen, with the version of the dough as it was then when none was named."""
    if record.seen.version is not None:
        return record.seen
    kept = [v.number for v in versions.history(session, record.dough_id) if v.at <= now]
    return replace(record.seen, version=kept[0] if kept else None)


def _row(session: Session, bake_id: int) -> BakeRow:
    row = session.get(BakeRow, bake_id)
    if row is None:
        raise Missing("This bake")
    return row


def entry(session: Session, bake_id: int) -> Entry:
    """One bake."""
    row = _row(session, bake_id)
    return next(e for e in entries(session, row.dough_id) if e.row.id == bake_id)


def count_as(session: Session, bake_id: int, counts: Counts) -> Entry:
    """Learn from a bake by what is seen, in any case, or not at all."""
    _row(session, bake_id).counts = counts
    session.flush()
    return entry(session, bake_id)


def entries(session: Session, dough_id: int | None = None) -> list[Entry]:
    """The book, newest first; of one dough when named."""
    everything = book_rows(session)
    learnt = lessons(session)
    found = [
        Entry(row, learnt.weights.get(n), learnt.minutes_weights.get(n))
        for n, row in enumerate(everything)
        if dough_id is None or row.dough_id == dough_id
    ]
    return found[::-1]


@dataclass(frozen=True, slots=True)
class VersionBaked:
    """What the bakes of one version of a dough came to: how many, their mean width (mm) and
    minutes where any were taken, how many were to be baked again, and what went wrong."""

    bakes: int
    width_mm: float | None
    minutes: float | None
    again: int
    troubles: tuple[str, ...]


def by_version(session: Session, dough_id: int) -> dict[int, VersionBaked]:
    """The bakes of each version that was baked, without what was set aside or left out."""
    rows: dict[int, list[Entry]] = {}
    for found in entries(session, dough_id):
        version = found.row.seen.version
        if version is not None and not found.set_aside and found.row.counts != "out":
            rows.setdefault(version, []).append(found)
    return {version: _baked(own) for version, own in rows.items()}


def _baked(found: Sequence[Entry]) -> VersionBaked:
    rows = [one.row for one in found]
    seen = [row.seen for row in rows]
    timed = [one.row.minutes for one in found if not one.minutes_aside]
    troubles = dict.fromkeys(key for one in seen for key in one.troubles)
    known = formula.troubles()
    return VersionBaked(
        bakes=len(rows),
        width_mm=_mean([fmean(row.widths_mm) for row in rows if row.widths_mm and not row.cut]),
        minutes=_mean([minutes for minutes in timed if minutes is not None]),
        again=sum(one.verdict == "again" for one in seen),
        troubles=tuple(known[key].words for key in troubles if key in known),
    )


def _mean(values: Sequence[float]) -> float | None:
    return fmean(values) if values else None


def remove_bake(session: Session, bake_id: int, now: int) -> BinRow:
    """Take a bake out of the book; what it taught goes with it."""
    row = _row(session, bake_id)
    name = find_row(session, row.dough_id).name + (f", {row.tray}" if row.tray else "")
    return throw(session, [("bake", "id", bake_id)], "bake", name, now)
