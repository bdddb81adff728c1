"""Doughs out as files and in from files: looked at first, and kept all or none."""

from dataclasses import dataclass
from typing import Literal, get_args

from sqlalchemy.orm import Session

from finebatch.core.formula.dough import Card, WeighedDough
from finebatch.core.formula.limits import as_kept, faults_of
from finebatch.core.formula.method import method_of
from finebatch.core.formula.weigh import weigh, weigh_card
from finebatch.core.larder.ingredient import Larder
from finebatch.core.measures.rounding import whole_minutes
from finebatch.core.piece.tray import foresee_tray
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.question import Ground
from finebatch.core.tray.setting import TraySetting
from finebatch.facts import formula, tables
from finebatch.formats.card_csv import write_csv
from finebatch.formats.card_markdown import as_card
from finebatch.formats.card_words import lines_words, write_markdown, write_text
from finebatch.formats.incoming import read_doughs
from finebatch.formats.jsonld import Bakes, first_recipe, write_recipe
from finebatch.formats.linked import may_be_linked
from finebatch.formats.unreadable import UnreadableFile
from finebatch.store.models import DoughRow
from finebatch.workflow.dough.doughs import Dough, add_dough, get_dough
from finebatch.workflow.dough.from_card import tray_question
from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.kitchen.larder import get_reader

Format = Literal["jsonld", "csv", "txt", "md"]
FORMATS: tuple[Format, ...] = get_args(Format)
MEDIA: dict[Format, str] = {
    "jsonld": "application/ld+json",
    "csv": "text/csv; charset=utf-8",
    "txt": "text/plain; charset=utf-8",
    "md": "text/markdown; charset=utf-8",
}


@dataclass(frozen=True, slots=True)
class Brought:
    """A dough of a file as understood: its card, its grams, what is unsure of it, and the names of
    what the file says that has no place on a card."""

    card: Card
    total_g: float
    asks: tuple[str, ...]
    left_out: tuple[str, ...] = ()


def give_out(session: Session, dough_id: int, form: Format) -> tuple[str, str]:
    """A dough in an open format: its name and the file's text."""
    card = get_dough(session, dough_id).card
    reader = get_reader(session)
    larder, measuring = reader.larder, reader.measuring.where(card.cup, card.egg)
    weighed = weigh_card(card, larder, reader.measuring)
    parts = [weigh(part.lines, larder, measuring) for part in card.parts]
    if form == "csv":
        return card.name, write_csv(card, weighed, parts, larder)
    texts = lines_words(card.lines, weighed, larder, reader.names)
    part_texts = [
        lines_words(part.lines, found, larder, reader.names)
        for part, found in zip(card.parts, parts, strict=True)
    ]
    steps = method_of(card, formula.step_templates(), larder)
    if form == "jsonld":
        row = session.get_one(DoughRow, dough_id)
        bakes = _bakes(card, weighed, row.tray.setting, get_kitchen(session), larder)
        return card.name, write_recipe(card, texts, part_texts, steps, bakes)
    if form == "md":
        return card.name, write_markdown(card, weighed, texts, part_texts, steps)
    return card.name, write_text(card, texts, part_texts, steps)


def _bakes(
    card: Card,
    weighed: WeighedDough,
    setting: TraySetting,
    kitchen: KitchenSetting,
    larder: Larder,
) -> Bakes | None:
    """How a dough bakes on its tray in this kitchen; None where that cannot be foreseen."""
    try:
        asked = tray_question(card, weighed, setting, kitchen, larder)
        basis = asked.basis(Ground(larder, tables.models()))
        found = foresee_tray(basis, setting.piece)
    except Refusal:
        return None
    piece = found.foreseen
    return Bakes(
        oven_c=setting.oven_c,
        minutes=whole_minutes(piece.minutes),
        second_min=whole_minutes(found.second.minutes) if found.second else None,
        piece_g=piece.raw.grams,
        wide_mm=None if piece.raw.form == "pan" else piece.width.middle_mm,
        pieces=found.yields.pieces,
        each_gives=found.making.each_gives if found.making else 1,
    )


def look(session: Session, name: str, text: str) -> list[Brought]:
    """What a file holds, before any of it is kept. `Refusal` when it cannot be read."""
    reader = get_reader(session)
    try:
        doughs = read_doughs(text, name, reader)
    except UnreadableFile as error:
        raise refuse("text", str(error)) from error
    found = []
    for dough in doughs:
        card = dough.card
        faults = faults_of(card)
        if faults:
            named = f"“{as_kept(card.name)[:60]}”, {faults[0].field}"
            raise refuse("text", f"{named}: {faults[0].message}")
        weighed = weigh_card(card, reader.larder, reader.measuring)
        asks = []
        for line, w in zip(card.lines, weighed.lines, strict=True):
            written = line.text or f"{line.amount} {line.unit}"
            if line.ingredient not in reader.larder:
                asks.append(f"“{written}”: which ingredient is this?")
            elif w.grams is None:
                asks.append(f"“{written}”: how much of it?")
        found.append(Brought(card, weighed.total_g, tuple(asks), dough.left_out))
    return found


def card_text(text: str) -> tuple[str, tuple[str, ...]]:
    """The card of a file, a recipe of a web page or of JSON-LD as text, any other as it is; and the
    names of what has no place on it."""
    if not may_be_linked(text):
        return as_card(text), ()
    try:
        found = first_recipe(text)
        return found.text(), found.left_out
    except UnreadableFile as error:
        raise refuse("text", str(error)) from error


def bring_in(session: Session, name: str, text: str, now: int) -> list[Dough]:
    """Keep every dough of a file; in one transaction, so all or none."""
    return [
        add_dough(
            session, brought.card, now - place, reason=f"Brought in from {as_kept(name)}"[:200]
        )
        for place, brought in enumerate(look(session, name, text))
    ]
