"""The work that follows from a wish: its doughs foreseen, in this kitchen, by these hands."""

import hashlib
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from sqlalchemy import Executable, String, select, type_coerce
from sqlalchemy.orm import Session

from finebatch.core.book.hands import Hands, Pace
from finebatch.core.book.learn import Lessons
from finebatch.core.care.warm import warm_most_min
from finebatch.core.heat.oven import conventional_c
from finebatch.core.larder.ingredient import Larder
from finebatch.core.method.of_card import lies_as, programme_of_card
from finebatch.core.method.programme import Programme
from finebatch.core.piece.layout import Shared
from finebatch.core.piece.sizes import Sizes
from finebatch.core.piece.tray import TrayAnswer
from finebatch.core.plan.prepare import Portioned, bake_within, prepare
from finebatch.core.plan.work import LONG_CHILL_MIN, MOST_DOUGHS, Kitchen, Make, Pin, Work
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.session.bowls import shares_of
from finebatch.core.session.occasion import EggShare, egg_share
from finebatch.core.session.wish import LETTERS, MINUTE, Asked, Item, Snapshot, Wish, usual_name
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.out_of_cold import night_temper_min, out_of_cold
from finebatch.core.tray.question import Ground, TrayQuestion, chill_for, sizes
from finebatch.core.tray.scaled import MOST_TIMES, in_pieces, times_over
from finebatch.core.tray.setting import TraySetting
from finebatch.facts import formula, tables
from finebatch.store.documents import SETTING
from finebatch.store.models import (
    BakeRow,
    DoughRow,
    KitchenRow,
    OwnIngredientRow,
    SessionRow,
    TraySettingRow,
)
from finebatch.workflow.dough.doughs import Dough, get_doughs
from finebatch.workflow.dough.from_card import tray_question
from finebatch.workflow.kitchen.equipment import get_kitchen, measuring_of
from finebatch.workflow.kitchen.fridge import cold_pace
from finebatch.workflow.kitchen.hands import hands_of
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.kitchen.lessons import lessons

A_YEAR = 366 * 24 * 60 * MINUTE
A_FORTNIGHT = 14 * 24 * 60 * MINUTE


@dataclass(frozen=True, slots=True)
class Known:
    """What all doughs of a session are foreseen with."""

    kitchen: KitchenSetting
    larder: Larder
    lessons: Lessons
    hands: Hands
    cold: Pace

    def ground(self, dough_id: int) -> Ground:
        """What a tray of that dough is foreseen on."""
        return Ground(self.larder, tables.models(), self.lessons.of_dough(dough_id))

    def question(self, dough: Dough) -> TrayQuestion:
        """What a tray of that dough is foreseen by, as its card and its Tray screen have it."""
        return tray_question(dough.card, dough.weighed, dough.tray, self.kitchen, self.larder)

    def programme(self, dough: Dough, asked: TrayQuestion) -> Programme:
        """Its method, at these hands' pace."""
        return programme_of_card(
            dough.card,
            formula.usual_method(),
            self.larder,
            kg=asked.composition(self.larder).total_g / 1000,
            chill_min=asked.setting.chill_min,
            kept_as=lies_as(asked.setting.cold_as),
            paces={"mix": self.hands.mix.times}
            | {job: self.hands.times(job) for job in ("ready", "form")}
            | dict(self.hands.steps()),
        )

    def egg(self, dough: Dough, asked: TrayQuestion) -> EggShare | None:
        """What counts in a dough, made as `asked` has it; None of one without eggs."""
        here = measuring_of(self.kitchen).where(dough.card.cup, dough.card.egg)
        return egg_share(asked, self.larder, here)

    def waits(self, dough: Dough) -> bool:
        """Whether what is not baked of a dough can be kept."""
        asked = self.question(dough)
        programme = self.programme(dough, asked)
        return bake_within(asked.mixing, asked.setting.piece, programme, asked.family) is None


def known_of(session: Session, sheets: int | None = None, shelves: int | None = None) -> Known:
    """What doughs are foreseen with in this kitchen, with other sheets and shelves where told."""
    there = get_kitchen(session)
    kitchen = replace(there, sheets=sheets or there.sheets, shelves=shelves or there.shelves)
    hands, cold = hands_of(session, kitchen), cold_pace(session, kitchen)
    return Known(kitchen, get_larder(session), lessons(session), hands, cold)


def _names(wish: Wish, doughs: Mapping[int, Dough]) -> list[str]:
    """What each dough of a session is called; one that comes again is numbered."""
    ids = [item.dough_id for item in wish.items]
    found = []
    for n, dough_id in enumerate(ids):
        again = ids[:n].count(dough_id)
        name = doughs[dough_id].card.name
        found.append(f"{name} ({again + 1})" if again else name)
    return found


def _portioned(
    letter: str, name: str, item: Item, dough: Dough, known: Known, base: int
) -> tuple[Asked, Portioned]:
    kitchen, larder = known.kitchen, known.larder
    planning = kitchen.planning
    asked = _as_wished(item, dough, known)
    out: tuple[Make, ...] = ()
    temper, laid = 0, False
    if item.joins != "fresh":
        cold = out_of_cold(asked, larder, item.joins, item.form, known.cold.times)
        asked, out, temper, laid = cold.question, cold.out, cold.temper_min, cold.laid
    found = sizes(asked, known.ground(item.dough_id))
    if item.joins == "fresh" and asked.setting.chill_min >= LONG_CHILL_MIN:
        warm = chill_for(asked, larder, "fridge", start_c=kitchen.room_c).temper_min
        temper = round(warm or 0)
    total_g = asked.composition(larder).total_g
    programme, egg = known.programme(dough, asked), known.egg(dough, asked)
    waits = bake_within(asked.mixing, asked.setting.piece, programme, asked.family) is None
    trays, kept = _some(dough, asked, found, item, waits=waits)
    keep_as = item.keep_as or asked.setting.piece.KEPT_AS
    portioned = Portioned(
        letter=letter,
        answer=found.usual,
        piece=asked.setting.piece,
        habits=tables.families()[asked.family],
        programme=programme,
        mixing=asked.mixing,
        parts=[(p.kind, p.name) for p in dough.card.parts if p.kind != "bench"],
        oven_c=conventional_c(asked.setting.oven_c, kitchen.oven_mode),
        joins=item.joins,
        out=out,
        temper_min=temper,
        night_temper_min=night_temper_min(asked, larder) if item.joins == "fresh" else 0,
        laid=laid,
        trays=trays,
        kept=kept,
        pace=known.hands.portioning(asked.setting.piece.kind).times,
        paces={job: pace.times for job, pace in known.hands.others.items()},
        also=found.others if item.pieces is None else (),
        shares=shares_of(total_g, planning.mixer_g, None if egg is None else 1 / egg.share),
        pool=_pool(kitchen, asked.setting),
        turns=planning.turning != "leave",
        warm_most=warm_most_min(kitchen.room_c),
        cold_on_sheet=planning.cold_on_sheet,
        keep_as=keep_as,
        bake_from=0 if item.bake_from is None else max((item.bake_from - base) // MINUTE, 0),
    )
    timed = found.usual.foreseen.sources.timed
    told = Asked(
        letter,
        item.dough_id,
        name,
        asked,
        item.joins,
        kept,
        laid,
        timed,
        programme,
        keep_as,
        item.keep_in or "freezer",
        waits,
        _each_gives(found.usual),
        item.times,
    )
    return told, portioned


def resized(as_written: TrayQuestion, item: Item, known: Known) -> TrayQuestion:
    """The tray question of a dough made so many times over, in pieces of that size; `Refusal` where
    a figure of them would be beyond what their kind takes."""
    ground = known.ground(item.dough_id)
    scaled = times_over(as_written, item.times)
    asked = in_pieces(scaled, ground, item.each_g, item.wide_mm, item.share_into)
    if asked is not scaled:
        try:
            SETTING.write(asked.setting)
        except Refusal as refusal:
            fault = refusal.faults[0]
            said = f"So many or so large cannot be made: {fault.message}"
            raise refuse(fault.field, said) from refusal
    return asked


def _as_wished(item: Item, dough: Dough, known: Known) -> TrayQuestion:
    """The tray question of a dough, made as many times over and in such pieces as are wished."""
    as_written = known.question(dough)
    try:
        return resized(as_written, item, known)
    except Refusal as refusal:
        said = refusal.faults[0].message
        raise refuse("items", f"“{dough.card.name}”: {said}") from refusal


def pools_of(kitchen: KitchenSetting) -> tuple[int, ...]:
    """How many there are of each kind of sheet and pan: the usual sheets, the others, the pans, and
    one more pan for a dough whose pan the kitchen does not list."""
    others = [own.number for own in kitchen.other_sheets]
    return (kitchen.sheets, *others, *(pan.number for pan in kitchen.pans), 1)


def pool_names(kitchen: KitchenSetting) -> tuple[str, ...]:
    """What each of those is called."""
    others = [own.name for own in kitchen.other_sheets]
    return ("sheet", *others, *(pan.name for pan in kitchen.pans), "pan")


def _pool(kitchen: KitchenSetting, setting: TraySetting) -> int:
    sheets = [own.name for own in kitchen.other_sheets]
    in_pan = setting.piece.pan
    if in_pan is not None:
        fits = [pan.holds(in_pan) for pan in kitchen.pans]
        return 1 + len(sheets) + (fits.index(True) if True in fits else len(fits))
    return 1 + sheets.index(setting.sheet) if setting.sheet in sheets else 0


def _each_gives(found: TrayAnswer) -> int:
    """Into how many pieces one is cut once it is baked; 1 where it is not, or is in a pan."""
    return found.making.each_gives if found.making and found.layouts else 1


def _times_for(item: Item, share: float) -> float:
    """How often a dough is to be made for that share of what it gives now, in quarters."""
    return min(max(math.ceil(4 * item.times * share), 1) / 4, MOST_TIMES)


def _some(
    dough: Dough, asked: TrayQuestion, sized: Sizes, item: Item, *, waits: bool
) -> tuple[Sequence[int] | None, int]:
    """The trays of the pieces that are wanted, and how many pieces are left for another day."""
    found = sized.usual
    if item.pieces is None:
        return None, 0
    there, each = found.yields.pieces, _each_gives(found)
    wanted = _as_laid(item.pieces, there, each)
    if wanted > there:
        raise refuse(
            "items",
            f"“{dough.card.name}” gives {there * each}, not {item.pieces}. Ask for fewer, or make "
            f"it × {_times_for(item, wanted / there):g} in its row.",
        )
    if not found.layouts:
        raise refuse("items", f"“{dough.card.name}” is baked by the pan: take all of it.")
    if item.joins == "fresh" and wanted < there and not waits:
        raise refuse(
            "items",
            f"“{dough.card.name}” is a batter and cannot wait: bake all {there} of it, or make it "
            f"× {_times_for(item, wanted / there):g} in its row, and bake all of that.",
        )
    shared = some_of(found, asked, item.pieces)
    others = sum(other.answer.yields.pieces for other in sized.others)
    # What was not taken out stays in the cold; it is not left over.
    return shared.trays, there - wanted + others if item.joins == "fresh" else 0


def _as_laid(pieces: int, there: int, each: int) -> int:
    """How many lie on trays for so many pieces: of what is cut after it is baked, more than there
    are logs are the slices that are wanted."""
    return pieces if pieces <= there else -(-pieces // each)


def some_of(found: TrayAnswer, asked: TrayQuestion, pieces: int) -> Shared:
    """So many of a dough's pieces on trays; `Refusal` for what is only baked whole."""
    wanted = _as_laid(pieces, found.yields.pieces, _each_gives(found))
    piece, sheet = asked.setting.piece, asked.kitchen.sheet
    return piece.share(sheet, found.foreseen, wanted, found.making)


def check_times(wish: Wish, now: int) -> None:
    """`Refusal` where a wished time cannot be."""
    if wish.start_at is not None and wish.ready_by is not None:
        raise refuse("ready_by", "Give a start or a ready-by time, not both.")
    for name, at in (("start_at", wish.start_at), ("ready_by", wish.ready_by)):
        # One that has passed is no reason to refuse what else is asked for (see `passed`).
        if at is not None and at > now + A_YEAR:
            raise refuse(name, "That is more than a year away. Choose a nearer day.")
    for span in wish.away:
        if span.to_at <= span.from_at:
            raise refuse("away", "A time away ends after it begins. Change one of the two.")
        if span.to_at - span.from_at > A_FORTNIGHT:
            raise refuse("away", "Nobody is away for more than a fortnight in a session.")
    for item in wish.items:
        if item.bake_from is not None and item.bake_from > now + A_FORTNIGHT:
            raise refuse("items", "A session is planned over a fortnight at most. Bake sooner.")
    for name, moments in (
        ("away", [at for span in wish.away for at in (span.from_at, span.to_at)]),
        ("pins", [pin.start_at for pin in wish.pins]),
    ):
        if any(abs(at - now) > A_YEAR for at in moments):
            raise refuse(name, "That is more than a year away. Choose a nearer day.")


def passed(wish: Wish, now: int) -> str | None:
    """What to say where the wished start lies behind us; a ready-by that does is said with how late
    it gets."""
    if wish.start_at is None or wish.start_at >= now - MINUTE:
        return None
    return "The start that was asked for has passed, so the plan begins now. Choose another one."


def base_of(wish: Wish, now: int) -> int:
    """Minute 0 of the planning: the wanted start, or the next whole minute."""
    soonest = -(-now // MINUTE) * MINUTE
    if wish.start_at is not None:
        return soonest if passed(wish, now) else wish.start_at
    if wish.ready_by is not None and wish.ready_by - soonest > A_FORTNIGHT:
        return wish.ready_by - A_FORTNIGHT
    return soonest


def kitchen_of(wish: Wish, kitchen: KitchenSetting, base: int) -> Kitchen:
    """The kitchen with the baker away as wished, minute 0 at `base`."""
    spans = []
    for away in wish.away:
        start, end = (away.from_at - base) // MINUTE, -(-(away.to_at - base) // MINUTE)
        if end > 0 and start < 2 * A_FORTNIGHT // MINUTE:
            spans.append((max(start, 0), end))
    pools = (wish.sheets, *pools_of(kitchen)[1:])
    return kitchen.planning.kitchen(pools, wish.shelves, kitchen.oven_mode, spans)


def _check_freezer(wish: Wish, kitchen: KitchenSetting) -> None:
    """What is left of a dough needs a place in the freezer."""
    kept = sum(
        item.pieces is not None and item.joins == "fresh" and item.keep_in != "fridge"
        for item in wish.items
    )
    if kept > kitchen.planning.freezer_places:
        raise refuse(
            "items",
            f"The rest of {kept} doughs is to be kept, and the freezer holds "
            f"{kitchen.planning.freezer_places}. Bake all of one, or make room (Kitchen).",
        )


def ask(session: Session, wish: Wish, base: int) -> tuple[Snapshot, Work]:
    """The work of a wish, with minute 0 at `base`; `Refusal` where something cannot be."""
    if not wish.items:
        raise refuse("items", "There is nothing to bake yet: add a dough.")
    if len(wish.items) > MOST_DOUGHS:
        raise refuse("items", f"At most {MOST_DOUGHS} doughs are planned at once.")
    known = known_of(session, wish.sheets, wish.shelves)
    kitchen = known.kitchen
    _check_freezer(wish, kitchen)
    doughs = get_doughs(session, [item.dough_id for item in wish.items])
    found = [
        _portioned(letter, name, item, doughs[item.dough_id], known, base)
        for letter, name, item in zip(LETTERS, _names(wish, doughs), wish.items, strict=False)
    ]
    work = prepare(
        [p for _, p in found],
        kitchen_of(wish, kitchen, base),
        tables.part_habits(),
        formula.step_habits(),
    )
    shelf_of = {pin.tray: pin.shelf for pin in wish.shelf_pins}
    trays = tuple(
        replace(tray, shelf=shelf_of[tray.name])
        if shelf_of.get(tray.name, 0) in range(1, wish.shelves + 1)
        else tray
        for tray in work.trays
    )
    pins = tuple(Pin(pin.job, max((pin.start_at - base) // MINUTE, 0)) for pin in wish.pins)
    ready = None if wish.ready_by is None else (wish.ready_by - base) // MINUTE
    work = replace(work, trays=trays, pins=pins, ready_by=ready, first_c=wish.first_c)
    names = [asked.name for asked, _ in found]
    name = (wish.name or "").strip() or usual_name(names)
    items = tuple(asked for asked, _ in found)
    return Snapshot(name, items, wish, hands=known.hands, cold=known.cold), work


def rests_on(session: Session, wish: Wish) -> str:
    """A fingerprint of all that the work of a wish follows from, but the times in the wish.

    As long as it is the same nothing has to be foreseen again to know that the work is.
    """
    doughs = select(
        DoughRow.id, type_coerce(DoughRow.card, String), type_coerce(TraySettingRow.setting, String)
    ).join(DoughRow.tray)
    wanted = doughs.where(DoughRow.id.in_([item.dough_id for item in wish.items]))
    asked: list[Executable] = [wanted.order_by(DoughRow.id)]
    for model in (KitchenRow, OwnIngredientRow, BakeRow):
        columns = [type_coerce(column, String) for column in model.__table__.columns]
        asked.append(select(*columns).order_by(*model.__table__.primary_key))
    asked.append(select(SessionRow.id).where(SessionRow.state == "finished"))
    digest = hashlib.sha256(repr((wish.sheets, wish.shelves, wish.items)).encode())
    for query in asked:
        for found in session.execute(query):
            digest.update(repr(tuple(found)).encode())
    return digest.hexdigest()
