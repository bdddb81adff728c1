"""The doughs as they last came out: what is drawn of each, to one scale."""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean

from sqlalchemy import func, select
from sqlalchemy.orm import Session, aliased

from finebatch.core.book.record import Verdict
from finebatch.core.formula.dough import Family
from finebatch.core.refusal import Refusal
from finebatch.facts import tables
from finebatch.store.models import BakeRow
from finebatch.workflow.dough.base_doughs import as_dough
from finebatch.workflow.dough.doughs import Dough
from finebatch.workflow.dough.drawer import list_doughs
from finebatch.workflow.dough.from_card import tray_question
from finebatch.workflow.dough.study import Bench, get_bench

MOST_DRAWN = 24


@dataclass(frozen=True, slots=True)
class FromTheSide:
    """A piece in mm as it was `measured` last, or as it is foreseen; `flat` with upright edges."""

    width_mm: float
    height_mm: float
    flat: bool
    measured: bool


@dataclass(frozen=True, slots=True)
class LastBake:
    """What came out last: when (UTC ms), the colour's step, what was said of it."""

    at: int
    colour: int | None
    verdict: Verdict | None
    troubles: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class DrawnDough:
    """A dough in the drawer; `piece` is None where none can be foreseen yet."""

    id: int
    name: str
    family: Family
    piece: FromTheSide | None
    last: LastBake | None
    bakes: int


@dataclass(frozen=True, slots=True)
class DrawnBase:
    """A dough to begin from, by its key, as it is foreseen in this kitchen."""

    key: str
    drawn: DrawnDough


def drawn_bases(session: Session) -> list[DrawnBase]:
    """The doughs that ship, in the order in which they are listed."""
    bench = get_bench(session)
    found = [(base, as_dough(base, bench)) for base in tables.base_doughs().values()]
    return [
        DrawnBase(
            base.key,
            DrawnDough(0, dough.card.name, base.family, _foreseen(dough, bench), None, 0),
        )
        for base, dough in found
    ]


def drawn_doughs(session: Session, search: str, most: int) -> tuple[list[DrawnDough], int]:
    """Doughs, the one changed last first, at most so many; and how many there are in all. Of the
    first `MOST_DRAWN` the piece is drawn, of the others where it was measured."""
    found, total = list_doughs(session, search, most)
    ids = [dough.id for dough in found]
    bench, last, bakes = get_bench(session), _last(session, ids), _bakes(session, ids)
    drawn = [
        DrawnDough(
            dough.id,
            dough.card.name,
            dough.card.family,
            _measured(last.get(dough.id)) or (_foreseen(dough, bench) if n < MOST_DRAWN else None),
            _told(last.get(dough.id)),
            bakes.get(dough.id, 0),
        )
        for n, dough in enumerate(found)
    ]
    return drawn, total


def _last(session: Session, ids: Sequence[int]) -> dict[int, BakeRow]:
    """The latest bake of each of those doughs."""
    newest = (BakeRow.baked_at.desc(), BakeRow.id.desc())
    place = func.row_number().over(partition_by=BakeRow.dough_id, order_by=newest).label("place")
    ranked = select(BakeRow, place).where(BakeRow.dough_id.in_(ids)).subquery()
    row = aliased(BakeRow, ranked)
    return {bake.dough_id: bake for bake in session.scalars(select(row).where(ranked.c.place == 1))}


def _bakes(session: Session, ids: Sequence[int]) -> dict[int, int]:
    counted = select(BakeRow.dough_id, func.count()).where(BakeRow.dough_id.in_(ids))
    return {
        int(of): int(bakes) for of, bakes in session.execute(counted.group_by(BakeRow.dough_id))
    }


def _told(bake: BakeRow | None) -> LastBake | None:
    if bake is None:
        return None
    return LastBake(bake.baked_at, bake.colour, bake.seen.verdict, bake.seen.troubles)


def _measured(bake: BakeRow | None) -> FromTheSide | None:
    """As it was measured: a height that was not is the one that was foreseen then."""
    if bake is None or not bake.widths_mm:
        return None
    heights = bake.seen.heights_mm
    height = fmean(heights) if heights else bake.foreseen_height_mm
    if height is None:
        return None
    return FromTheSide(fmean(bake.widths_mm), height, bake.raw.flat, measured=True)


def _foreseen(dough: Dough, bench: Bench) -> FromTheSide | None:
    larder = bench.reader.larder
    try:
        asked = tray_question(dough.card, dough.weighed, dough.tray, bench.kitchen, larder)
        found = asked.foresee(bench.ground(dough.id))
    except Refusal:
        return None
    cut_mm = asked.setting.piece.cut_mm(found)
    width = found.width.middle_mm if cut_mm is None else cut_mm
    return FromTheSide(width, found.thickness.height_mm, found.raw.flat, measured=False)
