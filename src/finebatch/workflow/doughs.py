"""Doughs: keep what the baker wrote, exactly as written, and weigh it."""

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from finebatch.core.formula.dough import Family, Line, Mixing, WeighedDough
from finebatch.core.formula.weigh import MAX_LINES, weigh
from finebatch.core.measures.units import Unit
from finebatch.core.piece.effects import Surface
from finebatch.core.piece.tray import Evenness, PieceSetting
from finebatch.core.refusal import refuse
from finebatch.facts import tables
from finebatch.store.models import DoughRow, LineRow, TraySettingRow
from finebatch.workflow.errors import Conflict, Missing

MOST_NAME = 80


@dataclass(frozen=True, slots=True)
class Card:
    """A dough as written."""

    name: str
    family: Family
    mixing: Mixing
    lines: tuple[Line, ...]


@dataclass(frozen=True, slots=True)
class TraySetting:
    """How a dough is portioned, chilled and baked. g, mm, °C and minutes."""

    piece: PieceSetting
    evenness: Evenness
    dough_temp_c: float
    oven_c: float
    surface: Surface
    chill_min: int


@dataclass(frozen=True, slots=True)
class Dough:
    """A dough as kept. `changed_at` in UTC milliseconds."""

    id: int
    revision: int
    changed_at: int
    card: Card
    tray: TraySetting
    weighed: WeighedDough


def usual_tray(family: Family) -> TraySetting:
    """The tray setting that a new dough of that family starts with."""
    habits = tables.families()[family]
    piece = PieceSetting(
        habits.grams, habits.thickness_mm, habits.log_diameter_mm, habits.log_length_mm,
        habits.log_width_mm,
    )  # fmt: skip
    return TraySetting(
        piece, "weighed", habits.dough_temp_c, habits.oven_c, "parchment", habits.chill_min
    )


def card_of(row: DoughRow) -> Card:
    """The card that a row holds."""
    lines = tuple(Line(r.amount, _unit(r.unit), r.ingredient) for r in row.lines)
    return Card(row.name, _family(row.family), _mixing(row.mixing), lines)


# The tables keep words as text; the API's types let no other words in.
def _unit(word: str) -> Unit:
    return word  # type: ignore[return-value]


def _family(word: str) -> Family:
    return word  # type: ignore[return-value]


def _mixing(word: str) -> Mixing:
    return word  # type: ignore[return-value]


def tray_of(row: TraySettingRow) -> TraySetting:
    """The tray setting that a row holds."""
    piece = PieceSetting(
        row.grams, row.thickness_mm, row.log_diameter_mm, row.log_length_mm, row.log_width_mm
    )
    evenness: Evenness = row.evenness  # type: ignore[assignment]
    surface: Surface = row.surface  # type: ignore[assignment]
    return TraySetting(piece, evenness, row.dough_temp_c, row.oven_c, surface, row.chill_min)


def _dough(row: DoughRow) -> Dough:
    card = card_of(row)
    return Dough(
        row.id, row.revision, row.changed_at, card, tray_of(row.tray),
        weigh(card.lines, tables.larder()),
    )  # fmt: skip


def find_row(session: Session, dough_id: int) -> DoughRow:
    """The row of a dough; `Missing` when there is none."""
    row = session.get(DoughRow, dough_id)
    if row is None:
        raise Missing("This dough")
    return row


def get_dough(session: Session, dough_id: int) -> Dough:
    """One dough, weighed."""
    return _dough(find_row(session, dough_id))


def list_doughs(session: Session) -> list[Dough]:
    """All doughs, the one changed last first."""
    rows = session.scalars(
        select(DoughRow)
        .options(selectinload(DoughRow.lines), selectinload(DoughRow.tray))
        .order_by(DoughRow.changed_at.desc(), DoughRow.id.desc())
    )
    return [_dough(row) for row in rows]


def _check_name(name: str) -> str:
    cleaned = " ".join(name.split())
    if not cleaned:
        raise refuse("name", "Give the dough a name.")
    if len(cleaned) > MOST_NAME:
        raise refuse("name", f"A name has at most {MOST_NAME} letters.")
    return cleaned


def _rows(lines: Sequence[Line]) -> list[LineRow]:
    if len(lines) > MAX_LINES:
        raise refuse(
            "lines", f"A dough has at most {MAX_LINES} lines; this one has {len(lines):,}."
        )
    return [
        LineRow(position=n, amount=line.amount, unit=line.unit, ingredient=line.ingredient)
        for n, line in enumerate(lines)
    ]


def _fill_tray(row: TraySettingRow, tray: TraySetting) -> None:
    row.grams = tray.piece.grams
    row.thickness_mm = tray.piece.thickness_mm
    row.log_diameter_mm = tray.piece.log_diameter_mm
    row.log_length_mm = tray.piece.log_length_mm
    row.log_width_mm = tray.piece.log_width_mm
    row.evenness, row.surface = tray.evenness, tray.surface
    row.dough_temp_c, row.oven_c, row.chill_min = tray.dough_temp_c, tray.oven_c, tray.chill_min


def add_dough(session: Session, card: Card, now: int, tray: TraySetting | None = None) -> Dough:
    """Keep a new dough."""
    row = DoughRow(
        name=_check_name(card.name), family=card.family, mixing=card.mixing, changed_at=now,
        lines=_rows(card.lines), tray=TraySettingRow(),
    )  # fmt: skip
    _fill_tray(row.tray, tray or usual_tray(card.family))
    session.add(row)
    session.flush()
    return _dough(row)


def change_dough(session: Session, dough_id: int, revision: int, card: Card, now: int) -> Dough:
    """Write a dough anew; `Conflict` when it was changed elsewhere since that revision."""
    row = find_row(session, dough_id)
    if row.revision != revision:
        raise Conflict(
            "This dough was changed in another window. Load it again; what you typed is still here."
        )
    if row.family != card.family:
        _fill_tray(row.tray, usual_tray(card.family))
    row.name, row.family, row.mixing = _check_name(card.name), card.family, card.mixing
    row.lines = _rows(card.lines)
    row.revision, row.changed_at = revision + 1, now
    session.flush()
    return _dough(row)


def change_tray(session: Session, dough_id: int, tray: TraySetting) -> Dough:
    """Keep how a dough is portioned and baked."""
    row = find_row(session, dough_id)
    _fill_tray(row.tray, tray)
    session.flush()
    return _dough(row)


def remove_dough(session: Session, dough_id: int) -> None:
    """Take a dough out, with its bakes."""
    session.delete(find_row(session, dough_id))
