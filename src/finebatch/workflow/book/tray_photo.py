"""A tray measured by a photograph: what the camera saw beside what was foreseen for it.

Nothing of it is kept: the baker looks at it first, and writes down what holds.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from finebatch.core.book.oven_map import OvenMap, Tilt, oven_maps, tilt_of
from finebatch.core.book.pictured import MOST_PIECES, Pictured, PiecePictured
from finebatch.core.photo.names import place_names
from finebatch.core.photo.of_kind import mean_width, width_of
from finebatch.core.photo.raw import LoadedPiece, RawTray, look_at
from finebatch.core.photo.view import may_be_corners
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.lying import Lies
from finebatch.core.piece.portion import RawPiece
from finebatch.core.refusal import refuse
from finebatch.core.tray.question import Ground, TrayQuestion, answer
from finebatch.core.values import Point
from finebatch.facts import tables
from finebatch.workflow.book.photos import told_apart
from finebatch.workflow.book.tray_words import Answer, Asked, Found
from finebatch.workflow.dough.doughs import get_dough
from finebatch.workflow.dough.from_card import tray_question
from finebatch.workflow.errors import Missing
from finebatch.workflow.kitchen.equipment import change_kitchen, get_kitchen
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.kitchen.lessons import book_rows, lessons
from finebatch.workflow.session.session_rows import asked_of, find_session

Corners = tuple[Point, Point, Point, Point]
LINED = ("parchment", "silicone")
CORNERS = (
    "These corners are no sheet's. Put each where the flat bottom ends, in order around, on a "
    "photo that the sheet fills."
)


@dataclass(frozen=True, slots=True)
class TrayWanted:
    """Which tray a photograph is of: of a dough, of a session, before it is baked when `raw`; and
    the corners of the sheet's bottom where a hand put them, as shares of the photograph's width and
    height (upper left, upper right, lower right, lower left). Where pieces lie on a rack or table
    beside a white thing (`beside_mm`), its size (mm): the corners are its own."""

    dough_id: int
    session_id: int | None = None
    tray: str | None = None
    raw: bool = False
    corners: Corners | None = None
    beside_mm: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True)
class PieceMeasured:
    """A piece as it may be written down, its outline in the photograph (shares of its width and
    height), the names of those that it ran into, and how far the nearest is (mm)."""

    piece: PiecePictured
    outline: tuple[Point, ...]
    touches: tuple[str, ...]
    gap_mm: float | None


@dataclass(frozen=True, slots=True)
class TrayMeasured:
    """What a photograph shows: whether the sheet was `found`, for sure by the corners that were
    given; its inner size, the pieces, how many there should be, and how wide (mm); how it came out
    from side to side, or before it is baked how it is loaded (`raw`); circles in the photograph
    where a piece should lie and none is seen (`empty`)."""

    found: Found
    corners: tuple[Point, ...]
    wide_mm: float
    deep_mm: float
    pieces: tuple[PieceMeasured, ...]
    expected: int | None
    foreseen_mm: float
    low_mm: float
    high_mm: float
    tilt: Tilt | None
    raw: RawTray | None = None
    empty: tuple[tuple[Point, ...], ...] = ()


@dataclass(frozen=True, slots=True)
class Expected:
    """What should lie on a sheet: its question, the raw piece and how wide it bakes (mm)."""

    asked: TrayQuestion
    raw: RawPiece
    height_mm: float
    widths_mm: tuple[float, float, float]
    pieces: int | None
    layouts: tuple[tuple[Point, ...], ...]
    """Where the pieces of a full sheet may lie (mm)."""

    @property
    def places(self) -> tuple[Point, ...]:
        """Where its pieces were to lie (mm); none where it was not to be full."""
        full = (places for places in self.layouts if self.pieces in (None, len(places)))
        return next(full, ())

    @property
    def kind(self) -> Portioning:
        """How they are made."""
        return self.asked.setting.piece

    def mean_mm(self, raw: bool) -> float:
        """How wide one is in the mean of all directions, before it is baked when `raw` (mm)."""
        return mean_width(self.kind.lies(self.raw, self.widths_mm[1]), baked=not raw)


def expected(session: Session, wanted: TrayWanted) -> Expected:
    """What should lie on that tray; `Refusal` for what no photograph shows, `Missing` for a dough
    or session that is not there."""
    larder, count = get_larder(session), None
    if wanted.session_id is None:
        dough = get_dough(session, wanted.dough_id)
        asked = tray_question(dough.card, dough.weighed, dough.tray, get_kitchen(session), larder)
    else:
        row = find_session(session, wanted.session_id)
        asked = asked_of(row, wanted.dough_id, wanted.tray).question
        count = next((t.pieces for t in row.work.trays if t.name == wanted.tray), None)
    kind = asked.setting.piece
    if not kind.SAYS.by_photo:
        raise refuse(
            "photo", "A photo does not show these pieces one by one. Measure them by hand."
        )
    taught = lessons(session).of_dough(wanted.dough_id)
    ground = Ground(larder, tables.models(), taught)
    found = answer(asked, ground)
    foreseen = found.foreseen
    width = foreseen.width
    return Expected(
        asked,
        foreseen.raw,
        foreseen.raw.height_mm if wanted.raw else foreseen.thickness.height_mm,
        (width.low_mm, width.middle_mm, width.high_mm),
        count,
        tuple(layout.centres for layout in found.layouts),
    )


def measure(should: Expected, wanted: TrayWanted, sent: bytes) -> TrayMeasured:
    """What a photograph (JPEG or PNG) shows of a tray; `Refusal` for what is no photograph."""
    if wanted.corners is not None and not may_be_corners(wanted.corners):
        raise refuse("corners", CORNERS)
    sheet, surface = should.asked.kitchen.sheet, _surface(should.asked)
    size, colour = (sheet.width_mm, sheet.depth_mm), tables.sheet_colours()[surface]
    beside = wanted.beside_mm is not None
    if wanted.beside_mm is not None:
        size, colour = wanted.beside_mm, tables.sheet_colours()["paper"]

    def asked(photo: str) -> Asked:
        return {
            "photo": photo,
            "corners": None if wanted.corners is None else list(wanted.corners),
            "sheet_mm": size,
            "sheet_rgb": colour,
            "lined": beside or surface in LINED,
            "beside": beside,
            "height_mm": should.height_mm,
            "about_mm": should.mean_mm(wanted.raw),
            "places_mm": [] if beside else list(should.places),
        }

    seen: Answer = told_apart("finebatch.workflow.book.tray_apart", sent, asked, "measure")
    low, middle, high = should.widths_mm
    if wanted.raw:
        low = middle = high = should.raw.across_mm
    pieces = _measured(seen, should, wanted.raw, beside)
    pictured = Pictured(
        wide_mm=sheet.width_mm, deep_mm=sheet.depth_mm, pieces=tuple(one.piece for one in pieces)
    )
    return TrayMeasured(
        seen["found"],
        tuple(_point(corner) for corner in seen["corners"]),
        sheet.width_mm,
        sheet.depth_mm,
        pieces,
        should.pieces,
        middle,
        low,
        high,
        None if wanted.raw or beside else tilt_of(pictured),
        _loaded(pictured, should) if wanted.raw else None,
        tuple(tuple(_point(pair) for pair in circle) for circle in seen["empty"]),
    )


def _loaded(pictured: Pictured, should: Expected) -> RawTray | None:
    pieces = [
        LoadedPiece(piece.name, (piece.x_mm, piece.y_mm), piece.width_mm)
        for piece in pictured.pieces
    ]
    return look_at(pieces, should.raw.across_mm, should.widths_mm[1], should.raw.flat)


def ovens_by_photos(session: Session) -> list[OvenMap]:
    """The ovens' maps by all photographed trays of the book that are not left out."""
    seen = [row.seen.pictured for row in book_rows(session) if row.counts != "out"]
    return oven_maps([one for one in seen if one is not None])


def take_map(session: Session, oven: int) -> OvenMap:
    """The kitchen's oven as its map says: where it browns first, and for the first oven whether the
    sheets' corners stay free. `Missing` while it has no map."""
    found = next((one for one in ovens_by_photos(session) if one.oven == oven), None)
    if found is None:
        raise Missing("A map of this oven")
    kitchen = get_kitchen(session)
    planning = kitchen.planning
    if oven == 1:
        nature = replace(planning.oven, hot_side=found.hot_side)
        kitchen = replace(
            kitchen,
            planning=replace(planning, oven=nature),
            hot_corners=kitchen.hot_corners or found.hot_corners,
        )
    elif planning.second is not None:
        nature = replace(planning.second.nature, hot_side=found.hot_side)
        second = replace(planning.second, nature=nature)
        kitchen = replace(kitchen, planning=replace(planning, second=second))
    change_kitchen(session, kitchen)
    return found


def _surface(asked: TrayQuestion) -> str:
    """What is seen between the pieces: what the sheet is lined with, or the sheet."""
    if asked.setting.surface in ("bare", "greased") and asked.kitchen.sheet_kind != "plain":
        return asked.kitchen.sheet_kind
    return asked.setting.surface


def _point(pair: Sequence[float]) -> Point:
    return float(pair[0]), float(pair[1])


def _measured(
    answer: Answer, should: Expected, raw: bool, beside: bool
) -> tuple[PieceMeasured, ...]:
    seen = answer["pieces"][:MOST_PIECES]
    middles = [_point(one["middle_mm"]) for one in seen]
    if beside and middles:
        # They lie around the thing: where they begin is no side of a sheet.
        left, far = (min(values) for values in zip(*middles, strict=True))
        middles = [(x - left, y - far) for x, y in middles]
    names = place_names(middles, should.mean_mm(raw))

    def lying(mm: float) -> Lies:
        return should.kind.lies(should.raw, mm)

    found = []
    for name, middle, one in zip(names, middles, seen, strict=True):
        mean_mm, least_mm, across_mm = one["sizes_mm"]
        if raw:
            width = should.raw.across_mm * mean_mm / should.mean_mm(raw=True)
        else:
            width = width_of(mean_mm, least_mm, lying, should.widths_mm[1])
        length = across_mm * width / max(least_mm, 1e-9)
        found.append(
            PieceMeasured(
                PiecePictured(
                    name=name,
                    x_mm=round(middle[0], 1),
                    y_mm=round(middle[1], 1),
                    width_mm=round(width, 1),
                    length_mm=round(length, 1),
                    step=round(one["step"], 2),
                ),
                tuple(_point(pair) for pair in one["outline"]),
                tuple(names[k] for k in one["touches"] if k < len(names)),
                None if one["gap_mm"] is None else round(one["gap_mm"], 1),
            )
        )
    return tuple(found)
