"""A tray measured by a photograph."""

from typing import Annotated

from fastapi import Path, Query, Request
from starlette.concurrency import run_in_threadpool

from finebatch.core.book.oven_map import OvenMap
from finebatch.store.database import Database
from finebatch.web import routing
from finebatch.web.deps import Data
from finebatch.web.types import Id, Key
from finebatch.workflow.book import tray_photo
from finebatch.workflow.book.tray_photo import TrayMeasured, TrayWanted

router = routing.begin("book")

Side = Annotated[float, Query(ge=40, le=1000, allow_inf_nan=False)]
Share = Annotated[float, Query(ge=-0.5, le=1.5, allow_inf_nan=False)]


@router.post(
    "/doughs/{dough_id}/photo",
    openapi_extra={
        "requestBody": {
            "description": "The bytes of a JPEG or PNG, whatever it is called; at most 15 MB.",
            "required": True,
            "content": routing.contents("application/octet-stream"),
        }
    },
)
async def measure_photo(
    dough_id: Id,
    request: Request,
    data: Data,
    session_id: Id | None = None,
    tray: Key | None = None,
    raw: bool = False,
    beside_mm: Annotated[list[Side] | None, Query(min_length=2, max_length=2)] = None,
    corner: Annotated[list[Share] | None, Query(min_length=8, max_length=8)] = None,
) -> TrayMeasured:
    """Measure the pieces of a photographed tray; nothing is kept. `raw` before it is baked.

    `corner` is given eight times: across and down of the sheet's upper left, upper right, lower
    right and lower left corner, as shares of the photo's width and height. Without, they are looked
    for. Where pieces lie on a rack or table beside something white, `beside_mm` is given
    twice: its size, wide and deep; the corners are its own.
    """
    at = None
    if corner is not None:
        first, second, third, fourth = zip(corner[::2], corner[1::2], strict=True)
        at = (first, second, third, fourth)
    beside = None if beside_mm is None else (beside_mm[0], beside_mm[1])
    wanted = TrayWanted(dough_id, session_id, tray, raw, at, beside)
    return await run_in_threadpool(_measured, data, wanted, await request.body())


@router.get("/oven-maps")
def oven_maps(data: Data) -> list[OvenMap]:
    """Where each oven browns and spreads most, by the photographed trays of the book."""
    with data.reading() as session:
        return tray_photo.ovens_by_photos(session)


@router.post("/oven-maps/{oven}/take")
def take_oven_map(oven: Annotated[int, Path(ge=1, le=2)], data: Data) -> OvenMap:
    """Let the kitchen know where this oven browns first, as its map says."""
    with data.writing() as session:
        return tray_photo.take_map(session, oven)


def _measured(data: Database, wanted: TrayWanted, sent: bytes) -> TrayMeasured:
    with data.reading() as session:
        should = tray_photo.expected(session, wanted)
    return tray_photo.measure(should, wanted, sent)
