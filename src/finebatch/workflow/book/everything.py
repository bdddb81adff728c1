"""Everything of a baker in open formats, in one file: for other programs to read, and for Fine
Batch to put in place again."""

import json
from collections.abc import Iterator, Mapping
from dataclasses import asdict
from pathlib import Path

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.formats.moments import local
from finebatch.formats.plain_csv import write_list
from finebatch.store import whole
from finebatch.store.backup import CONTENTS, COUNTED, new_zip, photo_files
from finebatch.store.database import Database, driver_of
from finebatch.store.health import versions
from finebatch.store.models import ColdRow, DoughRow, OwnNameRow, SessionRow
from finebatch.store.places import photos_of
from finebatch.store.restore import WHOLE
from finebatch.workflow.book.book_files import book_csv
from finebatch.workflow.dough import dough_files
from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.kitchen.larder import own_ingredients
from finebatch.workflow.kitchen.stock import packs
from finebatch.workflow.session import session_files

SAID = """Everything that Fine Batch keeps for you, in open formats.

doughs/          each dough as a recipe (schema.org, JSON-LD), with its last card
book.csv         the book, a line a bake
cold-store.csv   what lies in the cold
larder.csv       the ingredients that you added or changed; larder-names.csv what you call them
in-the-house.csv the packs in the house
kitchen.json     the kitchen
sessions/        each session as JSON (docs/session.schema.json of the source has its form)
photos/          the photos of the bakes, JPEG
tables/          all of it again, a row a line (JSON Lines), with every version, event and figure:
                 this is what Fine Batch reads when the file is put back

Put it back on the Kitchen screen, or with: finebatch restore THIS-FILE.zip
Times in tables/ are UTC milliseconds, lengths mm, masses g, temperatures degrees Celsius.
"""
_COLD = ("name", "form", "place", "pieces", "since", "use_by", "note")
_PACKS = ("ingredient", "grams", "pack_g", "price", "use_by")


def give_out_everything(database: Database, to: Path) -> None:
    """Write all that is kept to a new zip file. `OSError` when it cannot be written; then nothing
    is left of it."""
    photos = photos_of(database.file)
    with database.reading() as session, new_zip(to) as packed:
        for name, text in _files(session):
            packed.writestr(name, text)
        holds: dict[str, int] = {}
        counted = {table: called for called, table in COUNTED.items()}
        for table in whole.tables():
            with packed.open(f"{WHOLE}{table}.jsonl", "w") as writing:
                rows = 0
                for line in whole.lines_of(session, table):
                    writing.write(line.encode() + b"\n")
                    rows += 1
            if table in counted:
                holds[counted[table]] = rows
        numbers = "".join(f"{line}\n" for line in whole.numbers_of(session))
        packed.writestr(f"{WHOLE}{whole.NUMBERS}.jsonl", numbers)
        kept = photo_files(driver_of(session.connection()), photos)
        for photo in kept:
            packed.write(photo, f"photos/{photo.name}")
        packed.writestr(CONTENTS, json.dumps({**holds, "photos": len(kept)}))
        packed.writestr(f"{WHOLE}version.json", json.dumps({"version": versions()[0]}))


def _files(session: Session) -> Iterator[tuple[str, str | bytes]]:
    """What other programs read."""
    yield "README.txt", SAID
    for number in session.scalars(select(DoughRow.id).order_by(DoughRow.id)):
        yield f"doughs/{number:04}.jsonld", dough_files.give_out(session, number, "jsonld")[1]
    yield "book.csv", book_csv(session)
    cold = session.scalars(select(ColdRow).where(ColdRow.pieces > 0).order_by(ColdRow.id))
    yield "cold-store.csv", write_list(_COLD, map(_cold, cold))
    own = [asdict(ingredient) for ingredient in own_ingredients(session).values()]
    yield "larder.csv", write_list(list(own[0]) if own else ("key", "name"), own)
    named = session.scalars(select(OwnNameRow).order_by(OwnNameRow.words))
    words = ({"words": row.words, "ingredient": row.ingredient} for row in named)
    yield "larder-names.csv", write_list(("words", "ingredient"), words)
    house = ({**asdict(pack), "use_by": _day(pack.use_by)} for pack in packs(session))
    yield "in-the-house.csv", write_list(_PACKS, house)
    kitchen = TypeAdapter(KitchenSetting).dump_json(get_kitchen(session), indent=1)
    yield "kitchen.json", kitchen
    for row in session.scalars(select(SessionRow).order_by(SessionRow.id)):
        if row.plan.activities:
            _, contents = session_files.give_out(row, "json", row.changed_at)
            yield f"sessions/{row.id:04}.json", contents


def _cold(row: ColdRow) -> Mapping[str, object]:
    told = {name: getattr(row, name) for name in _COLD}
    return {**told, "since": _day(row.since), "use_by": _day(row.use_by)}


def _day(moment: int | None) -> str | None:
    return None if moment is None else local(moment).date().isoformat()
