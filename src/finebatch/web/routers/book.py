"""The Book screen: what came out, measured beside foreseen."""

import math
from dataclasses import replace
from typing import Annotated, get_args

from fastapi import Path, Request, Response
from pydantic import Field
from starlette.concurrency import run_in_threadpool

from finebatch.core.book.learn import Counts, Lessons
from finebatch.core.book.record import (
    COLOURS,
    TASTES,
    Edges,
    Record,
    Seen,
    Texture,
)
from finebatch.core.piece.spread import EIGHT_IN_TEN
from finebatch.facts import formula
from finebatch.settings import Settings
from finebatch.store.database import Database
from finebatch.store.models import DoughRow
from finebatch.store.places import photos_of
from finebatch.web import routing
from finebatch.web.deps import Config, Data, Now
from finebatch.web.types import Body, Id, Out, Text
from finebatch.workflow.book import bakes as book
from finebatch.workflow.book import book_files, photos, troubles
from finebatch.workflow.book.chill_advice import ChillAdvice, advise
from finebatch.workflow.errors import Conflict, Missing
from finebatch.workflow.kitchen.equipment import change_kitchen, get_kitchen
from finebatch.workflow.kitchen.fridge import cold_pace
from finebatch.workflow.kitchen.hands import Learnt, hands_of, learnt_of
from finebatch.workflow.kitchen.lessons import book_rows, lessons
from finebatch.workflow.kitchen.thrown import Thrown, told

router = routing.begin("book")

Taste = Annotated[Text, Field(min_length=1, max_length=30)]


class BakeOut(Out):
    """One bake of the book. Widths in mm, of cut pieces where it is `cut`; `mean_mm` and `error_mm`
    when any was measured; `good` is how likely its widths are a good reading, 0 to 1,
    `minutes_good` its minutes."""

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
    foreseen_height_mm: float | None
    widths_mm: list[float]
    cut: bool
    mean_mm: float | None
    error_mm: float | None
    minutes: float | None
    colour: int | None
    note: str
    set_aside: bool
    minutes_aside: bool
    good: float | None
    minutes_good: float | None
    counts: Counts
    photo: str | None
    seen: Seen


OF_THE_READING = ("good", "minutes_good", "set_aside", "minutes_aside")


def _out(found: book.Entry) -> BakeOut:
    row = found.row
    mean = sum(row.widths_mm) / len(row.widths_mm) if row.widths_mm else None
    return BakeOut.model_validate(
        {
            **{name: getattr(row, name) for name in BakeOut.model_fields if hasattr(row, name)},
            "grams": row.raw.grams,
            "mean_mm": mean,
            "error_mm": None if mean is None else mean - row.foreseen_mm,
            **{name: getattr(found, name) for name in OF_THE_READING},
            "seen": row.seen,
        }
    )


class BookWordsOut(Out):
    """The words of the book: the colour strip, lightest first; texture, edges, tastes; troubles
    with their keys."""

    colours: list[str]
    textures: list[str]
    edges: list[str]
    tastes: list[str]
    troubles: dict[str, str]


class CountBody(Body):
    """Whether a bake counts: unless it is absurd, in any case, or not at all."""

    counts: Counts


class LearnsBody(Body):
    """Whether the book shifts what is foreseen."""

    learns: bool


class DoughLessonOut(Out):
    """What was learnt of one dough beside the kitchen's: percent of width, its 80 % band, and
    percent of minutes in all; from how many bakes."""

    dough_id: int
    name: str
    bakes: int
    width_pct: float
    band_pct: float
    minutes_pct: float


class LessonsOut(Out):
    """What the whole book has taught: percent of width and minutes in this kitchen, hands' and the
    fridge's paces (times the usual) with how many jobs and doughs felt taught them, and each
    dough's own."""

    learns: bool
    bakes: int
    kitchen_width_pct: float
    kitchen_band_pct: float
    kitchen_minutes_pct: float
    portion_times: float
    portion_jobs: int
    mix_times: float
    mix_jobs: int
    hands: list[Learnt]
    chill_times: float
    chill_felt: int
    chills: list[ChillAdvice]
    doughs: list[DoughLessonOut]


class BringBookBody(Body):
    """A book as CSV."""

    text: Annotated[Text, Field(min_length=1, max_length=900_000)]


class BroughtBookOut(Out):
    """How many bakes a file added, how many were there already, and the columns of it that have no
    place in a book."""

    added: int
    known: int
    left_out: list[str]


@router.get("/bakes")
def all_bakes(data: Data, dough_id: Id | None = None) -> list[BakeOut]:
    """The book, newest first."""
    with data.reading() as session:
        return [_out(found) for found in book.entries(session, dough_id)]


@router.get("/book/words")
def book_words() -> BookWordsOut:
    """The words of the book."""
    return BookWordsOut(
        colours=list(COLOURS),
        textures=list(get_args(Texture)),
        edges=list(get_args(Edges)),
        tastes=list(TASTES),
        troubles={key: found.words for key, found in formula.troubles().items()},
    )


@router.post("/bakes", status_code=201)
def add_bake(body: Record, data: Data, now: Now) -> BakeOut:
    """Write a bake into the book."""
    with data.writing() as session:
        return _out(book.entry(session, book.add_bake(session, body, now).id))


@router.put("/bakes/{bake_id}/counts")
def count_bake(bake_id: Id, body: CountBody, data: Data) -> BakeOut:
    """Learn from a bake unless it is absurd, in any case, or not at all."""
    with data.writing() as session:
        found = book.count_as(session, bake_id, body.counts)
        return _out(found)


@router.delete("/bakes/{bake_id}")
def remove_bake(bake_id: Id, data: Data, now: Now) -> Thrown:
    """Throw a bake away: out of the book, and what it taught with it, into the bin."""
    with data.writing() as session:
        return told(book.remove_bake(session, bake_id, now))


@router.put(
    "/bakes/{bake_id}/photo",
    openapi_extra={
        "requestBody": {
            "description": "The bytes of a JPEG or PNG, whatever it is called; at most 15 MB.",
            "required": True,
            "content": routing.contents("application/octet-stream"),
        }
    },
)
async def put_photo(bake_id: Id, request: Request, data: Data, config: Config) -> BakeOut:
    """Keep a photo of a bake: the body is the JPEG or PNG itself."""
    sent = await request.body()
    return await run_in_threadpool(_keep_photo, bake_id, sent, data, config)


def _keep_photo(bake_id: int, sent: bytes, data: Database, config: Settings) -> BakeOut:
    with data.reading() as session:
        before = book.entry(session, bake_id).row.photo
    jpeg = photos.small_jpeg(sent)
    folder = photos_of(config.data_file)
    try:
        name = photos.keep(folder, bake_id, jpeg)
    except OSError as error:
        raise Conflict(
            f"The photo could not be kept ({error.strerror}). Check that the disk has room."
        ) from error
    with data.writing() as session:
        found = book.entry(session, bake_id)
        found.row.photo = name
    if before != name:
        photos.drop(folder, before)
    return _out(found)


@router.get(
    "/bakes/{bake_id}/photo",
    response_class=Response,
    responses=routing.files("image/jpeg"),
)
def get_photo(bake_id: Id, data: Data, config: Config) -> Response:
    """The photo of a bake, a JPEG."""
    with data.reading() as session:
        name = book.entry(session, bake_id).row.photo
    file = photos_of(config.data_file) / name if name else None
    if file is None or not file.is_file():
        raise Missing("A photo of this bake")
    return Response(
        file.read_bytes(), media_type="image/jpeg", headers={"cache-control": "no-cache"}
    )


@router.delete("/bakes/{bake_id}/photo", status_code=204, response_class=Response)
def remove_photo(bake_id: Id, data: Data, config: Config) -> None:
    """Take the photo of a bake away."""
    with data.writing() as session:
        row = book.entry(session, bake_id).row
        name, row.photo = row.photo, None
    photos.drop(photos_of(config.data_file), name)


@router.get("/lessons")
def read_lessons(data: Data) -> LessonsOut:
    """What the whole book has taught, to be read."""
    with data.reading() as session:
        kitchen = get_kitchen(session)
        learnt, hands = lessons(session), hands_of(session, kitchen)
        cold = cold_pace(session, kitchen)
        chills = advise(session, kitchen, cold)
        names = {row.id: row.name for row in session.query(DoughRow)}
        known = {row.dough_id for row in book_rows(session)}
    width, width_sd = learnt.kitchen_width()
    return LessonsOut(
        learns=kitchen.learns,
        bakes=learnt.bakes,
        kitchen_width_pct=100 * width,
        kitchen_band_pct=100 * EIGHT_IN_TEN * width_sd,
        kitchen_minutes_pct=100 * math.expm1(learnt.kitchen_minutes()),
        portion_times=hands.portion.times,
        portion_jobs=hands.portion.jobs,
        mix_times=hands.mix.times,
        mix_jobs=hands.mix.jobs,
        hands=learnt_of(hands),
        chill_times=cold.times,
        chill_felt=cold.jobs,
        chills=chills,
        doughs=[_lesson(learnt, key, names[key]) for key in sorted(known) if key in names],
    )


def _lesson(learnt: Lessons, dough_id: int, name: str) -> DoughLessonOut:
    own, sd = learnt.dough_width(dough_id)
    of = learnt.of_dough(dough_id)
    return DoughLessonOut(
        dough_id=dough_id,
        name=name,
        bakes=of.bakes,
        width_pct=100 * own,
        band_pct=100 * EIGHT_IN_TEN * sd,
        minutes_pct=100 * math.expm1(of.minutes.shift),
    )


@router.put("/lessons")
def switch_learning(body: LearnsBody, data: Data) -> None:
    """Let the book shift what is foreseen, or not."""
    with data.writing() as session:
        change_kitchen(session, replace(get_kitchen(session), learns=body.learns))


@router.get("/doughs/{dough_id}/troubles/{trouble}")
def find_trouble(
    dough_id: Id,
    trouble: Annotated[str, Path(max_length=40, pattern="^[a-z_]+$")],
    data: Data,
    bake_id: Id | None = None,
) -> troubles.Diagnosis:
    """Why that went wrong with a dough, by one of its bakes when named, and what to try."""
    with data.reading() as session:
        return troubles.diagnose(session, dough_id, trouble, bake_id)


@router.get("/book/file", response_class=Response, responses=routing.files("text/csv"))
def book_file(data: Data, dough_id: Id | None = None) -> Response:
    """The book as CSV; of one dough when named."""
    with data.reading() as session:
        text = book_files.book_csv(session, dough_id)
    headers = {"content-disposition": 'attachment; filename="book.csv"'}
    return Response(text, media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/book/bring-in")
def bring_book(body: BringBookBody, data: Data) -> BroughtBookOut:
    """Bring the bakes of a CSV file in: all of them, or none."""
    with data.writing() as session:
        brought = book_files.bring_in(session, body.text)
    return BroughtBookOut(added=brought.added, known=brought.known, left_out=list(brought.left_out))
