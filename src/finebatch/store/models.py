"""The tables. Lengths in mm, masses in g, temperatures in °C, times as UTC milliseconds."""

from collections.abc import Mapping
from math import isfinite
from typing import Annotated, Any, Literal

from annotated_types import Interval, Predicate
from sqlalchemy import (
    JSON,
    CheckConstraint,
    ForeignKey,
    Index,
    Integer,
    MetaData,
    String,
    UniqueConstraint,
    false,
    text,
    true,
)
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

from finebatch.core.book.learn import Counts
from finebatch.core.book.record import Seen
from finebatch.core.care.keeping import KeptAs, KeptIn
from finebatch.core.formula.dough import Card, Family
from finebatch.core.larder.ingredient import Ingredient
from finebatch.core.larder.stock import Pack
from finebatch.core.piece.portion import RawPiece
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.placed import Plan, PlanBefore
from finebatch.core.plan.told import ToldKind
from finebatch.core.plan.work import Work
from finebatch.core.refusal import Refusal
from finebatch.core.session.again import KeptSession
from finebatch.core.session.in_calendar import InCalendar
from finebatch.core.session.occasion import KeptOccasion
from finebatch.core.session.wish import Snapshot
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import Moment, Text
from finebatch.facts import formula
from finebatch.store.documents import (
    BEFORE,
    CALENDAR,
    CARD,
    INGREDIENT,
    KEPT_SESSION,
    KITCHEN,
    OCCASION,
    PACK,
    PLAN,
    RAW,
    SEEN,
    SETTING,
    SNAPSHOT,
    WORK,
    Holds,
    Unreadable,
)


class Base(DeclarativeBase):
    """All tables, with names for their constraints so that migrations can refer to them."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_label)s",
            "uq": "uq_%(table_name)s_%(column_0_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {dict[str, Any]: JSON}


Number = Annotated[int, Interval(ge=0, le=1_000_000)]
"""A count of something."""
Figure = Annotated[float, Interval(ge=-1e6, le=1e6)]
Size = Annotated[float, Interval(ge=0, le=1e6)]


def is_kept_so(keeping: str) -> bool:
    """Whether the table of keeping has a row of that key."""
    return keeping in formula.keepings()


def are_effects(effects: Mapping[str, Any]) -> bool:
    """Whether all of a bake's effects are figures, but for the mark of the law."""
    figures = (figure for key, figure in effects.items() if key != LAW)
    return all(isinstance(figure, int | float) and isfinite(figure) for figure in figures)


def is_of_a_job(activity: str) -> bool:
    """Whether what an event says of a job can be read: nothing, a tray, or a job's key."""
    try:
        return "." not in activity or bool(JobKey.read(activity))
    except Refusal:
        return False


LAW = "law"
"""Among a bake's effects, the mark of the law that reckoned them."""
USED_ONCE = {"sqlite_autoincrement": True}
"""Numbers that are never used again, so that what comes back out of the bin has its own."""


class KitchenRow(Base):
    """The kitchen: one row; `described` once the baker has said what there is."""

    __tablename__ = "kitchen"
    __table_args__ = (CheckConstraint("id = 1", name="only_one"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    setting: Mapped[KitchenSetting] = mapped_column(Holds(KITCHEN), server_default="{}")
    described: Mapped[bool] = mapped_column(default=True, server_default=true())


class DoughRow(Base):
    """A dough as its card is written; `revision` counts its changes.

    `card` is the whole card as a document; `name` and `family` repeat it for lists and searches.
    `labels` are the baker's own words for it, one a line.
    """

    __tablename__ = "dough"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[Text]
    family: Mapped[Family] = mapped_column(String)
    card: Mapped[Card] = mapped_column(Holds(CARD), server_default="{}")
    revision: Mapped[Number] = mapped_column(default=1)
    changed_at: Mapped[Moment]
    favourite: Mapped[bool] = mapped_column(server_default=false(), default=False)
    labels: Mapped[Text] = mapped_column(server_default="", default="")
    tray: Mapped["TraySettingRow"] = relationship(cascade="all, delete-orphan")
    versions: Mapped[list["VersionRow"]] = relationship(
        order_by="VersionRow.number", cascade="all, delete-orphan"
    )


class VersionRow(Base):
    """A dough at one moment: what changed since the version before, and why."""

    __tablename__ = "dough_version"
    __table_args__ = (UniqueConstraint("dough_id", "number"), USED_ONCE)

    id: Mapped[int] = mapped_column(primary_key=True)
    dough_id: Mapped[int] = mapped_column(ForeignKey("dough.id", ondelete="CASCADE"))
    number: Mapped[Number]
    at: Mapped[Moment]
    said: Mapped[Text]
    reason: Mapped[Text]
    card: Mapped[Card] = mapped_column(Holds(CARD))


class OwnIngredientRow(Base):
    """An ingredient that the baker added, or one of the shipped ones as the baker changed it."""

    __tablename__ = "own_ingredient"

    key: Mapped[Text] = mapped_column(primary_key=True)
    facts: Mapped[Ingredient] = mapped_column(Holds(INGREDIENT))


class StockRow(Base):
    """A pack of an ingredient in the house, as a document."""

    __tablename__ = "stock"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    pack: Mapped[Pack] = mapped_column(Holds(PACK))


class StockTakenRow(Base):
    """What an event of a session took of a pack; put back when the event is taken back."""

    __tablename__ = "stock_taken"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    stock_id: Mapped[int] = mapped_column(ForeignKey("stock.id", ondelete="CASCADE"), index=True)
    event_id: Mapped[int] = mapped_column(ForeignKey("event.id", ondelete="CASCADE"), index=True)
    grams: Mapped[Size]


class OccasionRow(Base):
    """An occasion that comes again, with what was eaten and left each time."""

    __tablename__ = "occasion"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    kept: Mapped[KeptOccasion] = mapped_column(Holds(OCCASION))


class KeptSessionRow(Base):
    """A session that is kept under a name, to be planned again."""

    __tablename__ = "kept_session"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    kept: Mapped[KeptSession] = mapped_column(Holds(KEPT_SESSION))


class OwnNameRow(Base):
    """What this baker's cards call an ingredient."""

    __tablename__ = "own_name"

    words: Mapped[Text] = mapped_column(primary_key=True)
    ingredient: Mapped[Text]


class TraySettingRow(Base):
    """How a dough is portioned and baked, as a document."""

    __tablename__ = "tray_setting"

    dough_id: Mapped[int] = mapped_column(
        ForeignKey("dough.id", ondelete="CASCADE"), primary_key=True
    )
    setting: Mapped[TraySetting] = mapped_column(Holds(SETTING), server_default="{}")


class SessionRow(Base):
    """What is baked together: planned, then running, then finished.

    `snapshot` is what was asked for and each dough with its tray setting and kitchen as planned;
    `work` the doughs, trays and times that the planner was asked for, `plan` what it has placed;
    `start_at` is minute 0 of both. `dough_id` is that of a session of one dough alone.
    `planned_after` is how many of the events that move the plan it knows of; none of a plan made
    before that was kept. `calendar` is what a baker's calendar has of it, once it was given out.
    """

    __tablename__ = "session"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    dough_id: Mapped[int | None] = mapped_column(ForeignKey("dough.id", ondelete="SET NULL"))
    state: Mapped[Literal["planned", "running", "finished", "given_up"]] = mapped_column(String)
    start_at: Mapped[Moment]
    ready_by: Mapped[Moment | None]
    snapshot: Mapped[Snapshot] = mapped_column(Holds(SNAPSHOT))
    work: Mapped[Work] = mapped_column(Holds(WORK))
    plan: Mapped[Plan] = mapped_column(
        Holds(PLAN), server_default='{"activities": [], "finish": 0, "bound": 0}'
    )
    changed_at: Mapped[Moment]
    said: Mapped[Text | None]
    planned_after: Mapped[Number | None] = mapped_column(default=0)
    calendar: Mapped[InCalendar | None] = mapped_column(Holds(CALENDAR))
    events: Mapped[list["EventRow"]] = relationship(
        order_by="EventRow.id", cascade="all, delete-orphan"
    )


class EventRow(Base):
    """What happened while baking, in order. Nothing is counted down: all follows from these.

    `grams` and `what` are of something that was weighed. `by` is the device that said it, none
    where it was this machine. `before` is the plan as it stood, for the
    latest few events that moved it (see `workflow.plan_before`).
    """

    __tablename__ = "event"
    __table_args__ = (
        Index(
            "ux_event_done",
            "session_id",
            "activity",
            unique=True,
            sqlite_where=text("kind = 'done'"),
        ),
        USED_ONCE,
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    session_id: Mapped[int] = mapped_column(
        ForeignKey("session.id", ondelete="CASCADE"), index=True
    )
    at: Mapped[Moment]
    kind: Mapped[ToldKind] = mapped_column(String)
    activity: Mapped[Annotated[str, Predicate(is_of_a_job)]]
    minutes: Mapped[Annotated[int, Interval(ge=-10_000, le=10_000)] | None]
    grams: Mapped[Figure | None]
    what: Mapped[Text | None]
    by: Mapped[Text | None]
    before: Mapped[PlanBefore | None] = mapped_column(Holds(BEFORE), deferred=True)

    @property
    def job(self) -> JobKey | None:
        """The job that it is of; none of what is said of a whole tray or of nothing. `Unreadable`
        where it is written as no job is."""
        try:
            return JobKey.read(self.activity) if "." in self.activity else None
        except Refusal as refusal:
            raise Unreadable(str(refusal)) from refusal


class ProbeRow(Base):
    """What the oven's thermometer showed."""

    __tablename__ = "probe"

    at: Mapped[Moment] = mapped_column(primary_key=True)
    celsius: Mapped[Figure]


class OvenWatchRow(Base):
    """An oven watched at one setting of its dial, and once it is kept, what was judged of it.

    `oven` is 1 or 2; `mean_c` and `swing_c` are in °C, `ready_min` minutes from the beginning.
    """

    __tablename__ = "oven_watch"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    oven: Mapped[Literal[1, 2]] = mapped_column(Integer)
    dial_c: Mapped[Figure]
    began_at: Mapped[Moment]
    ended_at: Mapped[Moment | None]
    mean_c: Mapped[Figure | None]
    swing_c: Mapped[Figure | None]
    ready_min: Mapped[Figure | None]


class BakeRow(Base):
    """One entry of the book: what came out, beside what was foreseen when it was recorded.

    `raw` is the raw piece, `effects` the sizes of the effects by key, with the mark of the law that
    reckoned them (`law`); `plain_minutes` is what that law alone foresaw.
    Of what bakes whole and is `cut` the widths are sides of cut pieces, which teach nothing of how
    a dough flows. `seen` is what was seen and tasted; `photo` the name of its file; `counts` says
    whether anything is learnt from it: by how likely it is, fully, or not at all.
    """

    __tablename__ = "bake"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    dough_id: Mapped[int] = mapped_column(ForeignKey("dough.id", ondelete="CASCADE"), index=True)
    session_id: Mapped[int | None] = mapped_column(ForeignKey("session.id", ondelete="SET NULL"))
    tray: Mapped[Text | None]
    baked_at: Mapped[Moment]
    portion_cv: Mapped[Size]
    raw: Mapped[RawPiece] = mapped_column(Holds(RAW))
    effects: Mapped[Annotated[dict[str, Any], Predicate(are_effects)]] = mapped_column(JSON)
    plain_minutes: Mapped[Size]
    foreseen_mm: Mapped[Size]
    low_mm: Mapped[Size]
    high_mm: Mapped[Size]
    foreseen_minutes: Mapped[Size]
    foreseen_height_mm: Mapped[Figure | None]
    widths_mm: Mapped[list[Size]] = mapped_column(JSON)
    cut: Mapped[bool] = mapped_column(server_default=false(), default=False)
    minutes: Mapped[Figure | None]
    colour: Mapped[Annotated[int, Interval(ge=0, le=20)] | None]
    note: Mapped[Text]
    seen: Mapped[Seen] = mapped_column(Holds(SEEN), server_default="{}", default=Seen)
    photo: Mapped[Text | None]
    counts: Mapped[Counts] = mapped_column(String, server_default="auto", default="auto")


class ColdRow(Base):
    """Dough or baked pieces kept for another day; gone once no pieces are left.

    `form` is its shape, `keeping` the row of the keeping table; `due_before` is until when it was
    to be used before it was frozen at `frozen_at`.
    """

    __tablename__ = "cold_item"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    dough_id: Mapped[int | None] = mapped_column(ForeignKey("dough.id", ondelete="SET NULL"))
    name: Mapped[Text]
    version: Mapped[Number | None]
    form: Mapped[KeptAs] = mapped_column(String)
    place: Mapped[KeptIn] = mapped_column(String)
    keeping: Mapped[Annotated[str, Predicate(is_kept_so)]]
    pieces: Mapped[Number]
    since: Mapped[Moment]
    use_by: Mapped[Moment]
    due_before: Mapped[Moment | None]
    frozen_at: Mapped[Moment | None]
    note: Mapped[Text]
    events: Mapped[list["ColdEventRow"]] = relationship(
        order_by="ColdEventRow.id", cascade="all, delete-orphan"
    )


class ColdEventRow(Base):
    """What happened to something kept cold, in words."""

    __tablename__ = "cold_event"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    item_id: Mapped[int] = mapped_column(ForeignKey("cold_item.id", ondelete="CASCADE"), index=True)
    at: Mapped[Moment]
    said: Mapped[Text]


class BinRow(Base):
    """What was thrown away, or could not be read any more, as it was.

    Of `bundle` `rows` are the rows that went, each the name of its table and its cells as SQLite
    had them, those first that others point at; `links` are cells that pointed at one of them and
    were emptied: table, key, column, what it was; `fault` is why it cannot be read, or null.
    """

    __tablename__ = "bin"
    __table_args__ = USED_ONCE

    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[Moment]
    kind: Mapped[Text]
    name: Mapped[Text]
    bundle: Mapped[dict[str, Any]]


class PressRow(Base):
    """A press that was kept (see `presses`)."""

    __tablename__ = "press"

    key: Mapped[Text] = mapped_column(primary_key=True)
    at: Mapped[Moment]
