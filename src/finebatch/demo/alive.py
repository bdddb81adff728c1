"""The demo as a kitchen in use: an oven was watched, a session baked, and a supper is planned."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from random import Random

from sqlalchemy.orm import Session

from finebatch.core.book.pictured import Pictured, PiecePictured
from finebatch.core.book.record import Record, Seen
from finebatch.core.photo.names import place_names
from finebatch.core.session.wish import MINUTE, Item, Wish
from finebatch.demo.photos import Looks, draw_tray
from finebatch.devices.stand_in_oven import OvenKnobs, StandInOven
from finebatch.formats.moments import days_on, local
from finebatch.store.database import Database
from finebatch.workflow.book.bakes import add_bake
from finebatch.workflow.book.photos import keep
from finebatch.workflow.book.tray_photo import TrayWanted, expected
from finebatch.workflow.devices import oven_watch
from finebatch.workflow.kitchen.thrown import put_back
from finebatch.workflow.session import live, session_rows
from finebatch.workflow.session.baking import BakeEvent, check_free
from finebatch.workflow.session.plans import plan_quick, throw_plan
from finebatch.workflow.session.shown import ShownJob, show

SATURDAY, READY_HOUR, BAKED_HOUR = 5, 15, 10
SUPPER = "The harvest supper"
FOR_SUPPER = ((1, 24), (2, 20), (3, 18), (4, 38))
"""Doughs of the demo, and how many pieces of each: a hundred."""
LAST_WEEK = ((1, 14), (3, 14))
UNDER_WAY = (1, 2)
OVEN = OvenKnobs(dial_c=180.0, offset_c=6.0, swing_c=14.0)
WATCHED_MIN, READ_MS = 60, 20_000
IN_OVEN_MS = 4 * 60_000
WIDTH_MM, COLOUR, HOTTER_BACK = 66.2, 4, 0.9
"""How wide and dark pieces of it came out, and how many steps darker at the back of the oven."""
LOOKS = Looks(bits=(58, 32, 22), bit_mm=7, many=16, uneven=0.025)
CAME_OUT = Record(
    dough_id=1,
    tray="A1",
    colour=COLOUR,
    note="As the time before. The lower sheet browned a little more.",
    seen=Seen(heights_mm=(13.0, 12.5), edges="even", texture=("chewy", "tender"), verdict="again"),
)


def bring_to_life(database: Database, now: int, pictures: Path | None = None) -> int:
    """Watch the oven with a thermometer, bake a session of the last week, of which one dough is
    written down by a photo, and plan the supper of the coming Saturday; the plan's id. Times by the
    clock of this machine. The photo is drawn into that folder."""
    _watch_oven(database, _at(now, -8, BAKED_HOUR))
    baked = _bake(database, _at(now, -6, BAKED_HOUR))
    with database.writing() as session:
        _write_down(session, baked, pictures)
    return _plan_supper(database, now)


def _write_down(session: Session, baked: int, pictures: Path | None) -> None:
    """What came out of one tray of that session, measured by its photo."""
    should = expected(session, TrayWanted(CAME_OUT.dough_id, baked, CAME_OUT.tray))
    sheet, chance = should.asked.kitchen.sheet, Random(SUPPER)
    places = should.layouts[0][: should.pieces]
    names = place_names(places, WIDTH_MM)
    pieces = []
    for name, (x, y) in zip(names, places, strict=True):
        back = 1 - 2 * y / sheet.depth_mm
        width = WIDTH_MM * (1 + 0.012 * back) * chance.gauss(1, 0.025)
        pieces.append(
            PiecePictured(
                name=name,
                x_mm=round(x + chance.gauss(0, 3), 1),
                y_mm=round(y + chance.gauss(0, 3), 1),
                width_mm=round(width, 1),
                length_mm=round(width * chance.uniform(1.0, 1.04), 1),
                step=round(COLOUR + HOTTER_BACK * back / 2 + chance.gauss(0, 0.2), 2),
            )
        )
    pictured = Pictured(wide_mm=sheet.width_mm, deep_mm=sheet.depth_mm, pieces=tuple(pieces))
    record = replace(
        CAME_OUT,
        session_id=baked,
        widths_mm=tuple(piece.width_mm for piece in pieces),
        seen=replace(CAME_OUT.seen, pictured=pictured),
    )
    row = add_bake(session, record, session_rows.find_session(session, baked).changed_at)
    if pictures is not None:
        row.photo = keep(pictures, row.id, draw_tray(pictured, (), LOOKS))


def bake_under_way(database: Database, now: int) -> tuple[int, int]:
    """Begin to bake two doughs now, and do all until the first tray has been in the oven for some
    minutes: the session's id, and when that is (UTC ms). What is planned stays so. `Conflict` while
    another is baked."""
    with database.writing() as session:
        check_free(session)
        thrown = throw_plan(session, now)
        aside = None if thrown is None else thrown.id
    items = tuple(Item(dough_id=dough) for dough in UNDER_WAY)
    begun = plan_quick(database, Wish(items=items, sheets=3, shelves=2, name="Two at once"), now)
    with database.writing() as session:
        live.start(session, begun, now)
        if aside is not None:
            session.flush()
            put_back(session, aside)
    loaded = _go_on(database, begun, now, lambda job: job.kind == "load")
    return begun, _go_on(database, begun, loaded, lambda job: job.end_at > loaded + IN_OVEN_MS)


def _at(now: int, days: int, hour: int) -> int:
    """That hour, so many days from now."""
    today = local(now).replace(hour=hour, minute=0, second=0, microsecond=0, tzinfo=None)
    return days_on(today.astimezone().timestamp() * 1000, days)


def _watch_oven(database: Database, begin: int) -> None:
    """Leave the record of an oven that is a little hotter than its dial says."""
    at = begin
    oven = StandInOven(lambda: at)
    oven.play(OVEN)
    with database.writing() as session:
        oven_watch.begin(session, 1, OVEN.dial_c, begin)
        for at in range(begin, begin + WATCHED_MIN * MINUTE, READ_MS):
            oven_watch.note_probe(session, oven.read(), at)
        oven_watch.keep(session, at)


def _plan_supper(database: Database, now: int) -> int:
    # One of today would leave no time for it.
    days = (SATURDAY - local(now).weekday()) % 7 or 7
    items = tuple(Item(dough_id=dough, pieces=pieces) for dough, pieces in FOR_SUPPER)
    ready = _at(now, days, READY_HOUR)
    wish = Wish(items=items, sheets=3, shelves=2, ready_by=ready, name=SUPPER)
    return plan_quick(database, wish, now)


def _bake(database: Database, begin: int) -> int:
    items = tuple(Item(dough_id=dough, pieces=pieces) for dough, pieces in LAST_WEEK)
    baked = plan_quick(
        database, Wish(items=items, sheets=3, shelves=2, name="Two for the tin"), begin
    )
    with database.writing() as session:
        live.start(session, baked, begin)
    _go_on(database, baked, begin, lambda _: False)
    return baked


def _go_on(database: Database, session_id: int, at: int, until: Callable[[ShownJob], bool]) -> int:
    """Do one job after the other, each at its time, up to and with the first that it goes on
    `until`; when that is."""
    while (job := _next(database, session_id, at)) is not None:
        # A dial is turned at once; that the oven gets hot takes no hands.
        at = max(at, job.start_at if job.kind == "heat" else job.end_at)
        live.say(database, session_id, BakeEvent("done", str(job.key)), at, lambda: None)
        if until(job):
            break
    return at


def _next(database: Database, baked: int, at: int) -> ShownJob | None:
    """The job that is due first."""
    with database.reading() as session:
        shown = show(session, session_rows.find_session(session, baked), at)
    left = [a for a in shown.activities if (a.hands or a.kind == "heat") and a.done_at is None]
    return min(left, key=lambda a: (a.due_at, a.start_at), default=None)
