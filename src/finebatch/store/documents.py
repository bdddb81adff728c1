"""The documents of the data file: each has a version, one reader and one writer.

A document says which version of its kind it is, and is read strictly: what its value does not know
is refused rather than lost without a word. Documents of the releases before there were versions are
taken as they are, and what nobody knows of them any more is let go.
"""

from collections.abc import Callable, Mapping, Sequence
from copy import deepcopy
from dataclasses import asdict, dataclass
from functools import cache
from typing import Any, Generic, TypeVar

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import JSON, Dialect
from sqlalchemy.types import TypeDecorator

from finebatch.core.book.record import Seen
from finebatch.core.formula.dough import Card
from finebatch.core.formula.limits import as_kept, brought_within, within
from finebatch.core.larder.ingredient import Ingredient
from finebatch.core.larder.stock import Pack
from finebatch.core.measures.faults import refusal_of
from finebatch.core.piece.portion import RawPiece
from finebatch.core.plan.keys import JobKind
from finebatch.core.plan.placed import Plan, PlanBefore
from finebatch.core.plan.work import Work
from finebatch.core.session.again import KeptSession
from finebatch.core.session.in_calendar import InCalendar
from finebatch.core.session.occasion import KeptOccasion
from finebatch.core.session.wish import Snapshot
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.setting import TraySetting
from finebatch.facts import tables

T = TypeVar("T")
Kept = Mapping[str, Any]
VERSION = "document"
"""The key under which a document says its version."""


def _as_it_was(document: Kept) -> Kept:
    return document


def _nearest(document: Kept, errors: Sequence[Mapping[str, Any]]) -> Kept:
    """The document with each figure, list or text that is beyond its limit at that limit."""
    mended = deepcopy(dict(document))
    for error in errors:
        limits, within, name = error.get("ctx", {}), mended, error["loc"][-1]
        for step in error["loc"][:-1]:
            # A place names the kind of what is there too, which is no step into it.
            if isinstance(within, list) or step in within:
                within = within[step]
        match error["type"]:
            case "greater_than_equal" | "less_than_equal":
                within[name] = limits.get("ge", limits.get("le"))
            case "greater_than":
                within[name] = limits["gt"] + 1
            case "too_long" | "string_too_long":
                within[name] = within[name][: limits["max_length"]]
            case "string_too_short" | "too_short":
                within[name] = "?"
            case "predicate_failed" | "string_unicode":
                within[name] = as_kept(within[name])
            case "finite_number":
                within[name] = 0
    return mended


@cache
def _adapter(kind: Any) -> TypeAdapter[Any]:
    """What reads and writes a kind of value. Built when the first one is read or written: all of
    them at every start are a tenth of it."""
    return TypeAdapter(kind)


@dataclass(frozen=True, slots=True)
class Document(Generic[T]):
    """A kind of document: what it holds, and how each earlier version becomes the next one.

    `upgrades` has one step for each version: the first from none to 1, and so on; so there are as
    many steps as the newest version's number. `mend` brings a value of before within what can
    be kept, `told` says in it which fields had to be.
    """

    holds: type[T]
    upgrades: tuple[Callable[[Kept], Kept], ...] = (_as_it_was,)
    mend: Callable[[T], T] | None = None
    told: Callable[[T, Sequence[str]], T] | None = None

    @property
    def _adapter(self) -> TypeAdapter[T]:
        kind: Any = self.holds
        return _adapter(kind)

    @property
    def version(self) -> int:
        """The version that is written."""
        return len(self.upgrades)

    def read(self, kept: Kept) -> T:
        """The value that a document holds. Raises a ``ValueError`` for what is no document of this
        kind, or one of a newer version."""
        version = int(kept.get(VERSION, 0))
        if version > self.version:
            raise ValueError(f"version {version} of this document is newer than the application")
        document: Kept = {key: value for key, value in kept.items() if key != VERSION}
        for upgrade in self.upgrades[version:]:
            document = upgrade(document)
        if version:
            found = self._adapter.validate_python(document, extra="forbid")
        else:
            found = self._read_without_version(document)
        return found if self.mend is None else self.mend(found)

    def _read_without_version(self, document: Kept) -> T:
        """What was kept when nobody looked: figures beyond what can be are put to the nearest."""
        try:
            return self._adapter.validate_python(document, extra="ignore")
        except ValidationError as error:
            nearest = _nearest(document, error.errors())
            found = self._adapter.validate_python(nearest, extra="ignore")
            if self.told is None:
                return found
            return self.told(found, [".".join(map(str, e["loc"])) for e in error.errors()])

    def write(self, value: T) -> dict[str, Any]:
        """The document that holds a value. `Refusal` for what could not be read again."""
        # What follows from the rest (`Tells`) is not kept.
        plain = self._adapter.dump_python(value, mode="json", exclude_computed_fields=True)
        try:
            self._adapter.validate_python(plain, extra="forbid")
        except ValidationError as error:
            raise refusal_of(error.errors()) from error
        return {VERSION: self.version, **plain}


class Unreadable(Exception):
    """A document in the data file cannot be read."""


class Holds(TypeDecorator[Any]):
    """A column that holds one kind of document: in a row it is the value."""

    impl = JSON
    cache_ok = True

    def __init__(self, document: Document[Any]) -> None:
        super().__init__(none_as_null=True)
        self.document = document

    def process_bind_param(self, value: Any, _dialect: Dialect) -> Any:
        """The document to keep."""
        return None if value is None else self.document.write(value)

    def process_result_value(self, value: Any, _dialect: Dialect) -> Any:
        """The value that was kept."""
        return None if value is None else self.document.read(value)

    def result_processor(self, dialect: Dialect, coltype: object) -> Callable[[Any], Any] | None:
        """What makes the value of what stands in the file. It raises `Unreadable`."""
        read = super().result_processor(dialect, coltype)

        def processor(found: Any) -> Any:
            try:
                return found if read is None else read(found)
            # What stands there instead of a document can be anything, and fail in any way.
            except Exception as error:
                raise Unreadable(str(error)) from error

        return processor


def _with_usual_tools(document: Kept) -> Kept:
    """A kitchen whose lists of tools were never touched has the usual ones."""
    usual = {
        "scoops": [asdict(scoop) for scoop in tables.scoops()],
        "cutters": [asdict(cutter) for cutter in tables.cutters()],
    }
    return {**usual, **document}


def _with_units(document: Kept) -> Kept:
    """Kitchens were metric but for the amounts of ingredients; those stay as they were read."""
    before = document.get("own_units", "grams")
    units = {
        "mass": "ounces" if before == "ounces" else "metric",
        "volume": "cups" if before == "cups" else "metric",
    }
    return {**{key: told for key, told in document.items() if key != "own_units"}, "units": units}


def _in_each_question(field: str, upgrade: Callable[[Kept], Kept]) -> Callable[[Kept], Kept]:
    """A session with that field upgraded in what each of its doughs was foreseen by."""

    def of(item: Kept) -> Kept:
        asked = item.get("question")
        if not asked or field not in asked:
            return item
        return {**item, "question": {**asked, field: upgrade(asked[field])}}

    return lambda snapshot: {**snapshot, "items": [of(item) for item in snapshot["items"]]}


def _who_mixes_also(*jobs: JobKind) -> Callable[[Kept], Kept]:
    """Work of before some jobs were jobs of their own: whoever mixes does them as well."""

    def upgrade(document: Kept) -> Kept:
        kitchen = document["kitchen"]
        workers = [
            {**worker, "jobs": [*worker["jobs"], *jobs]} if "mix" in worker["jobs"] else worker
            for worker in kitchen.get("workers", ())
        ]
        return {**document, "kitchen": {**kitchen, **({"workers": workers} if workers else {})}}

    return upgrade


def _typed_jobs(plan: Kept) -> Kept:
    """What hid in a job's label has fields of its own, and its kind stands in its key."""
    return {**plan, "activities": [_typed(dict(job)) for job in plan["activities"]]}


def _typed(job: dict[str, Any]) -> Kept:
    kind, label = job.pop("kind"), job.pop("label", "")
    if not label:
        return job
    match kind:
        case "heat" | "load":
            return {**job, "dial_c": int(label)}
        case "turn":
            return {**job, "partner": label}
        case "chill":
            return {**job, "cold": "thaws" if label.startswith("thaws") else "waits"}
        case _:
            return {**job, "what": label}


def _typed_before(before: Kept) -> Kept:
    return {**before, "plan": _typed_jobs(before["plan"])}


def _minutes_by_all(setting: Kept) -> Kept:
    """Minutes went by the card until that was turned off."""
    by_card = setting.get("by_card", True)
    kept = {key: value for key, value in setting.items() if key != "by_card"}
    return {**kept, "minutes_by": "all" if by_card else "reckoned"}


def _also_as_list(setting: Kept) -> Kept:
    """There was one other size at most."""
    also = setting.get("also")
    if also is not None and not isinstance(also, Mapping):
        return setting
    return {**setting, "also": [] if also is None else [also]}


# Version 2 of a card has steps that say what they are, version 3 of what their minutes are and
# where they are done, version 4 how wide it says that a piece bakes.
CARD = Document(
    Card,
    (_as_it_was, _as_it_was, _as_it_was, _as_it_was),
    mend=within,
    told=brought_within,
)
# Version 2 of a setting says whether a dough bakes as its card says, that of a session's doughs
# what that is as well; what was kept before goes by the card. Version 3 may have pieces of
# several other sizes and forms, version 4 what its minutes go by, version 5 what its width does.
SETTING = Document(
    TraySetting, (_as_it_was, _as_it_was, _also_as_list, _minutes_by_all, _as_it_was)
)
# Version 2 of a kitchen has units for each kind of figure, version 3 its habits of washing up.
KITCHEN = Document(KitchenSetting, (_with_usual_tools, _with_units, _as_it_was))
INGREDIENT = Document(Ingredient)
# Version 3 of that has its kitchen's units, version 4 each dough's method, version 5 its habits and
# pieces of several sizes, version 6 what its minutes go by, version 7 how wide its cards say that
# pieces bake, version 8 whether the calmer plan was asked for, version 9 how often each dough is
# made, in pieces of what size, and from when on it is baked, version 10 how soon after mixing its
# card wants it in the oven.
SNAPSHOT = Document(
    Snapshot,
    (
        _as_it_was,
        _as_it_was,
        _in_each_question("kitchen", _with_units),
        _as_it_was,
        _in_each_question("setting", _also_as_list),
        _in_each_question("setting", _minutes_by_all),
        _as_it_was,
        _as_it_was,
        _as_it_was,
        _as_it_was,
    ),
)
# Version 1 of the work takes doughs out of the cold, version 2 gets ready, forms and fetches them,
# version 3 washes and clears up, version 4 says from when on a dough is baked, version 5 how soon a
# batter sinks where no tray of it can be in the oven by then.
WORK = Document(
    Work,
    (
        _who_mixes_also("take"),
        _who_mixes_also("ready", "form", "fetch"),
        _who_mixes_also("wash", "clear"),
        _as_it_was,
        _as_it_was,
    ),
)
# Version 2 of a plan says when an oven is turned off while it stands empty.
PLAN = Document(Plan, (_typed_jobs, _as_it_was))
BEFORE = Document(PlanBefore, (_typed_before, _as_it_was))
# Version 2 of a raw piece says whether a rope is bent.
RAW = Document(RawPiece, (_as_it_was, _as_it_was))
SEEN = Document(Seen, (_as_it_was,) * 2)
OCCASION = Document(KeptOccasion)
KEPT_SESSION = Document(KeptSession)
PACK = Document(Pack)
CALENDAR = Document(InCalendar)
