"""The Book screen: what came out, measured beside foreseen."""

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import Field

from finebatch.store.models import BakeRow
from finebatch.web.deps import Data, Now
from finebatch.web.types import Body, Id, Out, Text
from finebatch.workflow import book

router = APIRouter(prefix="/api", tags=["book"])

Measured = Annotated[float, Field(ge=-1e6, le=1e6)]


class RecordBody(Body):
    """What a baker writes down after a bake: widths in mm, minutes, colour step 1 to 7, a note."""

    dough_id: Id
    session_id: Id | None = None
    tray: Annotated[Text, Field(max_length=8)] | None = None
    widths_mm: Annotated[list[Measured], Field(max_length=24)]
    minutes: Measured | None = None
    colour: Annotated[int, Field(ge=1, le=len(book.COLOURS))] | None = None
    note: Annotated[Text, Field(max_length=book.MOST_NOTE)] = ""

    def record(self) -> book.Record:
        """The workflow's record."""
        fields = self.model_dump()
        return book.Record(**{**fields, "widths_mm": tuple(self.widths_mm)})


class BakeOut(Out):
    """One bake of the book. Widths in mm; `mean_mm` and `error_mm` when any was measured."""

    id: int
    dough_id: int
    session_id: int | None
    tray: str | None
    baked_at: int
    grams: float
    foreseen_mm: float
    low_mm: float
    high_mm: float
    foreseen_minutes: float
    widths_mm: list[float]
    mean_mm: float | None
    error_mm: float | None
    minutes: float | None
    colour: int | None
    note: str
    set_aside: bool


def _out(row: BakeRow, set_aside: bool = False) -> BakeOut:
    mean = sum(row.widths_mm) / len(row.widths_mm) if row.widths_mm else None
    return BakeOut.model_validate(
        {
            **{name: getattr(row, name) for name in BakeOut.model_fields if hasattr(row, name)},
            "grams": row.raw["grams"],
            "mean_mm": mean,
            "error_mm": None if mean is None else mean - row.foreseen_mm,
            "set_aside": set_aside,
        }
    )


@router.get("/bakes")
def all_bakes(data: Data, dough_id: Id | None = None) -> list[BakeOut]:
    """The book, newest first."""
    with data.reading() as session:
        return [_out(e.row, e.set_aside) for e in book.entries(session, dough_id)]


@router.get("/colours")
def colours() -> list[str]:
    """The colour strip's words, lightest first."""
    return list(book.COLOURS)


@router.post("/bakes", status_code=201)
def add_bake(body: RecordBody, data: Data, now: Now) -> BakeOut:
    """Write a bake into the book."""
    with data.writing() as session:
        return _out(book.add_bake(session, body.record(), now))


@router.delete("/bakes/{bake_id}", status_code=204, response_class=Response)
def remove_bake(bake_id: Id, data: Data) -> None:
    """Take a bake out of the book; what it taught goes with it."""
    with data.writing() as session:
        book.remove_bake(session, bake_id)
