"""Doughs: keep what the baker wrote, exactly as written, and weigh it."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.formula.card_says import says_of
from finebatch.core.formula.dough import MOST_NAME, Card, WeighedDough
from finebatch.core.formula.limits import faults_of
from finebatch.core.formula.weigh import weigh_card
from finebatch.core.measures.kitchen_units import KitchenUnits
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.tray.from_card import followed, oven_of
from finebatch.core.tray.setting import TraySetting
from finebatch.store.bin import throw
from finebatch.store.database import Database
from finebatch.store.models import BinRow, DoughRow, TraySettingRow, VersionRow
from finebatch.store.readable import is_whole, put_aside
from finebatch.workflow.dough import versions
from finebatch.workflow.dough.from_card import started
from finebatch.workflow.errors import Conflict, Missing
from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.kitchen.larder import Pantry, get_pantry


@dataclass(frozen=True, slots=True)
class Marks:
    """What a baker keeps a dough by, beside its card: whether a favourite, and labels of one's
    own."""

    favourite: bool = False
    labels: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Dough:
    """A dough as kept. `changed_at` in UTC milliseconds."""

    id: int
    revision: int
    changed_at: int
    card: Card
    tray: TraySetting
    weighed: WeighedDough
    marks: Marks = Marks()


def dough_of(row: DoughRow, pantry: Pantry) -> Dough:
    """A row as it is used: weighed."""
    card = row.card
    return Dough(
        row.id,
        row.revision,
        row.changed_at,
        card,
        row.tray.setting,
        weigh_card(card, pantry.larder, pantry.measuring),
        Marks(row.favourite, tuple(row.labels.splitlines())),
    )


def find_row(session: Session, dough_id: int) -> DoughRow:
    """The row of a dough; `Missing` when there is none."""
    row = session.get(DoughRow, dough_id)
    if row is None:
        raise Missing("This dough")
    return row


def find_by_name(session: Session, name: str) -> int:
    """The id of the latest dough of that name; `Missing` when there is none."""
    query = select(DoughRow.id).where(DoughRow.name == name.strip())
    found = session.scalar(query.order_by(DoughRow.changed_at.desc()).limit(1))
    if found is None:
        raise Missing("A dough of that name")
    return found


def get_dough(session: Session, dough_id: int) -> Dough:
    """One dough, weighed."""
    return dough_of(find_row(session, dough_id), get_pantry(session))


def get_doughs(session: Session, dough_ids: Iterable[int]) -> dict[int, Dough]:
    """Several doughs by id, weighed; `Missing` when one is not there."""
    pantry = get_pantry(session)
    return {key: dough_of(find_row(session, key), pantry) for key in dough_ids}


def _check_name(name: str) -> str:
    cleaned = " ".join(name.split())
    if not cleaned:
        raise refuse("name", "Give the dough a name.")
    if len(cleaned) > MOST_NAME:
        raise refuse("name", f"A name has at most {MOST_NAME} letters.")
    return cleaned


def _checked(card: Card) -> Card:
    """The card with its name tidied; `Refusal` when it has too much of anything."""
    faults = faults_of(card)
    if faults:
        raise Refusal(*faults)
    return replace(card, name=_check_name(card.name))


def add_dough(
    session: Session, card: Card, now: int, tray: TraySetting | None = None, reason: str = ""
) -> Dough:
    """Keep a new dough, as its first version."""
    card, pantry = _checked(card), get_pantry(session)
    first = VersionRow(number=1, at=now, said="", reason=reason, card=card)
    row = DoughRow(
        name=card.name,
        family=card.family,
        card=card,
        changed_at=now,
        versions=[first],
        tray=TraySettingRow(setting=tray or _begun(session, card, pantry)),
    )
    session.add(row)
    session.flush()
    return dough_of(row, pantry)


def _begun(session: Session, card: Card, pantry: Pantry) -> TraySetting:
    """The tray setting that a card begins with in this kitchen."""
    weighed = weigh_card(card, pantry.larder, pantry.measuring)
    return started(card, weighed, get_kitchen(session), pantry.larder).setting


def change_dough(
    session: Session, dough_id: int, revision: int, card: Card, now: int, reason: str = ""
) -> Dough:
    """Write a dough anew; `Conflict` when it was changed elsewhere since that revision.

    A `reason` makes it a version of its own (see `versions.keep`). What of the tray stood as the
    card had it follows the card; of another family all of it begins anew.
    """
    row = find_row(session, dough_id)
    if row.revision != revision:
        raise Conflict(
            "This dough was changed in another window. Load it again; what you typed is still here."
        )
    card, pantry = _checked(card), get_pantry(session)
    begun = _begun(session, card, pantry)
    if row.family == card.family:
        begun = followed(row.tray.setting, _begun(session, row.card, pantry), begun)
    row.tray.setting = begun
    versions.keep(session, row, card, now, reason, pantry)
    row.name, row.family, row.card = card.name, card.family, card
    row.revision, row.changed_at = revision + 1, now
    session.flush()
    return dough_of(row, pantry)


def put_unreadable_aside(database: Database, now: int) -> list[str]:
    """Put what cannot be read into the bin, so that no screen falls over it; the names of what
    went. All is read before anybody is kept from writing. A dough whose tray setting went begins
    with that of its card."""
    with database.reading() as session:
        if is_whole(session):
            return []
    with database.writing() as session:
        went = put_aside(session, now)
        pantry = get_pantry(session)
        for row in session.scalars(select(DoughRow).where(~DoughRow.tray.has())):
            row.tray = TraySettingRow(setting=_begun(session, row.card, pantry))
        return went


def change_tray(session: Session, dough_id: int, tray: TraySetting) -> Dough:
    """Keep how a dough is portioned and baked."""
    row = find_row(session, dough_id)
    row.tray.setting = tray
    session.flush()
    return dough_of(row, get_pantry(session))


def follow_scale(session: Session, before: KitchenUnits, after: KitchenUnits) -> None:
    """Where a card says its oven in both scales and the tray stands as it does, set the tray by the
    scale that the kitchen reads now."""
    if before.temperature == after.temperature:
        return
    mode = get_kitchen(session).oven_mode
    for row in session.scalars(select(DoughRow)):
        says, tray = says_of(row.card), row.tray.setting
        was, now = (oven_of(says, mode, units) for units in (before, after))
        if now is not None and was == tray.oven_c != now:
            row.tray.setting = replace(tray, oven_c=now)
    session.flush()


def remove_dough(session: Session, dough_id: int, now: int) -> BinRow:
    """Throw a dough away, with its bakes and versions."""
    name = find_row(session, dough_id).name
    return throw(session, [("dough", "id", dough_id)], "dough", name, now)
