"""Load the demo scenario into an empty data file."""

from dataclasses import dataclass, replace
from importlib.resources import files
from pathlib import Path
from typing import Annotated, Any

from pydantic import BaseModel, BeforeValidator, Field, TypeAdapter

from finebatch.core.book.record import Record
from finebatch.core.care.keeping import KeptAs, KeptIn
from finebatch.core.formula.dough import Card
from finebatch.core.piece.kinds.every import AnyKind, over_usual
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import part_of
from finebatch.demo import photos
from finebatch.demo.photos import Looks
from finebatch.store.database import Database
from finebatch.store.documents import SEEN
from finebatch.store.models import BakeRow
from finebatch.workflow.book import bakes as book
from finebatch.workflow.book.photos import keep
from finebatch.workflow.cold import cold_store as cold
from finebatch.workflow.dough import doughs
from finebatch.workflow.dough.drawer import list_doughs
from finebatch.workflow.dough.from_card import usual_tray
from finebatch.workflow.kitchen import equipment as kitchen

DAY = 24 * 60 * 60 * 1000


class DemoBake(BaseModel):
    """An earlier bake of a demo dough."""

    days_ago: Annotated[float, Field(ge=0)]
    widths_mm: tuple[float, ...]
    minutes: float
    colour: int
    note: str
    seen: dict[str, Any] = {}
    photo: Looks | None = None


class DemoKept(BaseModel):
    """Some of a demo dough that is kept for another day."""

    form: KeptAs
    pieces: int
    place: KeptIn
    days_ago: Annotated[float, Field(ge=0)]
    note: str


class DemoTray(BaseModel):
    """What differs from the family's usual tray setting."""

    piece: Annotated[AnyKind, BeforeValidator(over_usual)]
    dough_temp_c: float | None = None
    oven_c: float | None = None
    chill_min: int | None = None

    def setting(self, usual: TraySetting) -> TraySetting:
        """The family's usual setting with these figures in."""
        given = self.model_dump(exclude_none=True, exclude={"piece"})
        return replace(usual, piece=self.piece, **given)


class DemoEarlier(BaseModel):
    """How the card was first written: another amount in one line, and why it was changed."""

    days_ago: Annotated[float, Field(ge=0)]
    line: int
    amount: str
    reason: str

    def card(self, later: Card) -> Card:
        """The card as it was."""
        lines = list(later.lines)
        lines[self.line] = replace(lines[self.line], amount=self.amount)
        return replace(later, lines=tuple(lines))


@dataclass(frozen=True, slots=True, kw_only=True)
class DemoDough(Card):
    """A demo dough: its card, how it was first written, its tray, its earlier bakes."""

    earlier: DemoEarlier | None = None
    tray: DemoTray
    bakes: tuple[DemoBake, ...] = ()
    kept: tuple[DemoKept, ...] = ()


def _photograph(row: BakeRow, bake: DemoBake, piece: AnyKind, folder: Path) -> None:
    """Draw the bake's pieces as a photo, where it has one."""
    if bake.photo is None:
        return
    size, lines = piece.outlines(row.raw, row.foreseen_mm)["baked"]
    # Of a log its width is measured, and it lies along the sheet.
    measured = min(size, key=lambda mm: abs(mm - row.foreseen_mm))
    of_one = tuple(tuple((x / measured, y / measured) for x, y in line) for line in lines)
    jpeg = photos.draw(bake.widths_mm, of_one, bake.colour, bake.photo)
    row.photo = keep(folder, row.id, jpeg)


def load(database: Database, now: int, pictures: Path | None = None) -> int:
    """Add the demo doughs and bakes when the file holds no dough; how many doughs were added.
    Photos of the bakes are drawn into that folder."""
    text = files("finebatch.demo").joinpath("data", "harvest_supper.json").read_text("utf-8")
    scenario = TypeAdapter(list[DemoDough]).validate_json(text)
    with database.writing() as session:
        if list_doughs(session, most=1)[1]:
            return 0
        kitchen.change_kitchen(session, kitchen.get_kitchen(session))
        for place, dough in enumerate(scenario):
            setting = dough.tray.setting(usual_tray(dough.family))
            # The first of the list is the one that was changed last.
            card, at, earlier = part_of(Card, dough), now - place * DAY, dough.earlier
            if earlier is None:
                kept = doughs.add_dough(session, card, at, setting)
            else:
                then = at - round(earlier.days_ago * DAY)
                kept = doughs.add_dough(session, earlier.card(card), then, setting)
                kept = doughs.change_dough(session, kept.id, 1, card, at, earlier.reason)
            for bake in dough.bakes:
                record = Record(
                    kept.id,
                    None,
                    None,
                    bake.widths_mm,
                    bake.minutes,
                    bake.colour,
                    bake.note,
                    SEEN.read(bake.seen),
                )
                row = book.add_bake(session, record, now - round(bake.days_ago * DAY))
                if pictures is not None:
                    _photograph(row, bake, setting.piece, pictures)
            for kept_cold in dough.kept:
                since = now - round(kept_cold.days_ago * DAY)
                put = cold.Put(
                    kept.id,
                    kept_cold.form,
                    kept_cold.pieces,
                    kept_cold.place,
                    since,
                    kept_cold.note,
                )
                cold.put_away(session, put, now)
    return len(scenario)
