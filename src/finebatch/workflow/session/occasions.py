"""From the occasion to the wish: how large each dough is made, and on which day it is baked."""

from dataclasses import dataclass, replace
from functools import cache
from itertools import pairwise

from sqlalchemy.orm import Session

from finebatch.core.care.keeping import Keeping, KeptIn, is_filled, keeping_of
from finebatch.core.plan.network import network
from finebatch.core.plan.quick import quick_times
from finebatch.core.plan.schedule import finish_of
from finebatch.core.plan.work import LONG_CHILL_MIN, Work
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.session.bowls import bowl_shares
from finebatch.core.session.occasion import (
    KEPT_OVER,
    Batch,
    EggUnit,
    FreeTime,
    Occasion,
    OccasionKind,
    ToBake,
    batch_for,
    counts,
    days_for,
    too_many,
)
from finebatch.core.session.wish import LETTERS, MINUTE, Away, Item, Wish
from finebatch.core.tray.question import TrayQuestion, sizes
from finebatch.core.tray.scaled import MOST_TIMES, eaten, eaten_of_all
from finebatch.facts import formula
from finebatch.workflow.dough.doughs import Dough, get_doughs
from finebatch.workflow.session.asking import A_FORTNIGHT, Known, ask, known_of, resized, some_of

LEAST_KEPT = 6
"""Fewer pieces over are baked with the rest."""
SPARE_MIN, NEAR_MIN = 30, 15
"""Minutes that are left before the hour, and how near the latest begin is looked for."""
STRETCH_MIN = 60
"""The least free time in which anything is baked."""


@dataclass(frozen=True, slots=True)
class KindFigures:
    """One kind of an occasion: the pieces that are wanted and baked, and those that its dough gives
    beside, which are kept; how often its card is made, with how many eggs (whites, yolks),
    in how many bowls; how
    long it keeps (days, from and to) and where; and in which hours it is baked (UTC ms)."""

    dough_id: int
    name: str
    wanted: int
    baked: int
    kept: int
    times: float
    eggs: float | None
    eggs_of: EggUnit | None
    bowls: int
    keeps_from_days: float
    keeps_to_days: float
    keeps_in: str
    from_at: int
    to_at: int


@dataclass(frozen=True, slots=True)
class Proposal:
    """What to plan for an occasion, and how each kind comes to be as it is."""

    wish: Wish
    kinds: tuple[KindFigures, ...]


@dataclass(frozen=True, slots=True)
class _Sized:
    """A kind with the dough that it takes."""

    item: Item
    wanted: int
    baked: int
    batch: Batch
    keeping: Keeping
    eggs_of: EggUnit | None


def propose(session: Session, occasion: Occasion, now: int) -> Proposal:
    """The wish that serves an occasion; nothing is kept.

    Raises `Refusal` for what cannot be: no hours left, counts that do not go together, a kind that
    gives no such pieces.
    """
    free = _free(occasion, now)
    known = known_of(session)
    doughs = get_doughs(session, [kind.dough_id for kind in occasion.kinds])
    sized = [
        _sized(kind, wanted, doughs[kind.dough_id], known)
        for kind, wanted in zip(occasion.kinds, counts(occasion), strict=True)
    ]
    kitchen = known.kitchen
    sized = _with_room(sized, kitchen.planning.freezer_places)
    wish = Wish(
        tuple(one.item for one in sized),
        kitchen.sheets,
        kitchen.shelves,
        name=occasion.name,
        occasion=occasion,
    )
    _, work = ask(session, wish, free[0].from_at)
    days = days_for(
        [
            ToBake(one.keeping.from_days, _minutes(work, letter))
            for letter, one in zip(LETTERS, sized, strict=False)
        ],
        free,
        occasion.at,
    )
    wish = _on_days(session, wish, work, free, days, now)
    return Proposal(
        wish,
        tuple(
            KindFigures(
                dough_id=one.item.dough_id,
                name=doughs[one.item.dough_id].card.name,
                wanted=one.wanted,
                baked=one.baked,
                kept=one.batch.pieces - one.baked,
                times=one.batch.times,
                eggs=one.batch.eggs,
                eggs_of=one.eggs_of,
                bowls=len(bowl_shares(work.dough(letter), work.trays_of(letter))),
                keeps_from_days=one.keeping.from_days,
                keeps_to_days=one.keeping.to_days,
                keeps_in=one.keeping.place,
                from_at=free[day].from_at,
                to_at=free[day].to_at,
            )
            for letter, one, day in zip(LETTERS, sized, days, strict=False)
        ),
    )


def _free(occasion: Occasion, now: int) -> list[FreeTime]:
    """The hours that are left to bake in, in order; `Refusal` where there are none."""
    if occasion.at <= now + STRETCH_MIN * MINUTE:
        raise refuse("at", "That hour is over, or as good as. Choose a later one.")
    if occasion.at > now + A_FORTNIGHT:
        raise refuse("at", "A session is planned over a fortnight at most. Choose a nearer day.")
    if not occasion.free:
        return [FreeTime(now, occasion.at)]
    if any(span.to_at <= span.from_at for span in occasion.free):
        raise refuse("free", "Free hours end after they begin. Change one of the two.")
    found: list[FreeTime] = []
    for span in sorted(occasion.free, key=lambda span: span.from_at):
        begin, end = max(span.from_at, now), min(span.to_at, occasion.at)
        if found and begin <= found[-1].to_at:
            found[-1] = FreeTime(found[-1].from_at, max(found[-1].to_at, end))
        elif end - begin >= STRETCH_MIN * MINUTE:
            found.append(FreeTime(begin, end))
    if not found:
        raise refuse("free", "None of these hours lies ahead, before that hour. Add some.")
    return found


def _sized(kind: OccasionKind, wanted: int, dough: Dough, known: Known) -> _Sized:
    """A kind with its dough as large as its count wants."""
    larder, card = known.larder, dough.card
    as_written = known.question(dough)
    egg = known.egg(dough, as_written)
    share = None if egg is None else egg.share
    try:
        if kind.whole_cards:
            item, batch = _whole_cards(wanted, dough.id, as_written, known, share)
        else:
            item, batch = _as_large(kind, wanted, as_written, known, share)
    except Refusal as refusal:
        said = refusal.faults[0].message
        raise refuse("kinds", f"“{card.name}”: {said}") from refusal
    baked = batch.pieces
    if batch.pieces - wanted > max(wanted * KEPT_OVER, LEAST_KEPT) and known.waits(dough):
        baked = _some_baked(item, batch, wanted, as_written, known)
    place: KeptIn = "fridge" if is_filled(card) else "tin"
    return _Sized(
        replace(item, pieces=wanted if baked < batch.pieces else None),
        wanted,
        baked,
        batch,
        formula.keepings()[keeping_of(card, larder, "baked", place, dough.tray.doneness)],
        None if egg is None else egg.of,
    )


def _whole_cards(
    wanted: int, dough_id: int, as_written: TrayQuestion, known: Known, egg: float | None
) -> tuple[Item, Batch]:
    """The card once or several times, in as many pieces as are wanted."""
    times = float(max(round(wanted / max(_pieces(Item(dough_id), as_written, known), 1)), 1))
    if times > MOST_TIMES:
        raise too_many(wanted)
    item = Item(dough_id, times=times, share_into=wanted)
    made = _pieces(item, as_written, known)
    return item, Batch(times, None if egg is None else times / egg, made)


def _as_large(
    kind: OccasionKind, wanted: int, as_written: TrayQuestion, known: Known, egg: float | None
) -> tuple[Item, Batch]:
    """The smallest dough in whole eggs that gives as many pieces of that size."""
    once = Item(kind.dough_id, each_g=kind.each_g, wide_mm=kind.wide_mm)

    @cache
    def gives(times: float) -> int:
        try:
            return _pieces(replace(once, times=times), as_written, known)
        except Refusal:
            if times == 1.0:
                raise
            return 0

    batch = batch_for(wanted, gives, egg, as_written.setting.piece.least_times)
    return replace(once, times=batch.times), batch


def _pieces(item: Item, as_written: TrayQuestion, known: Known) -> int:
    """How many pieces, as they are eaten, a dough gives so."""
    asked = resized(as_written, item, known)
    return eaten_of_all(sizes(asked, known.ground(item.dough_id)))


def _some_baked(
    item: Item, batch: Batch, wanted: int, as_written: TrayQuestion, known: Known
) -> int:
    """How many of a dough's pieces are baked where no more than are wanted have to be: all of what
    is baked whole, and of logs as many as give so many slices."""
    setting = as_written.setting
    if item.share_into is not None or setting.piece.pan is not None or setting.also:
        return batch.pieces
    asked = resized(as_written, item, known)
    found = sizes(asked, known.ground(item.dough_id)).usual
    try:
        laid = sum(some_of(found, asked, wanted).trays)
    except Refusal:
        return batch.pieces
    return laid * (eaten(found) // found.yields.pieces)


def _with_room(sized: list[_Sized], places: int) -> list[_Sized]:
    """The same where of no more doughs is something kept than there is room for: of the others all
    is baked."""
    over = sorted(
        (one for one in sized if one.item.pieces is not None),
        key=lambda one: one.wanted - one.batch.pieces,
    )
    all_of_it = [id(one) for one in over[places:]]
    return [
        replace(one, item=replace(one.item, pieces=None), baked=one.batch.pieces)
        if id(one) in all_of_it
        else one
        for one in sized
    ]


def _minutes(work: Work, letter: str) -> float:
    """How much work a dough is: of the hands, or of the oven where that is more."""
    hands = sum(job.minutes for job in network(work).jobs.values() if job.dough == letter)
    oven = sum(bake.length for tray in work.trays_of(letter) for bake in tray.bakes)
    return max(hands, oven / work.kitchen.shelves)


def _on_days(
    session: Session, wish: Wish, work: Work, free: list[FreeTime], days: list[int], now: int
) -> Wish:
    """The wish with each kind on its day; what lies between free hours is time away.

    All on one day is ready by that hour, begun as late as can be. Of several days the first is
    begun with its free hours, and the last as late as will do: what is best fresh is fresh.
    """
    assert wish.occasion is not None
    at, last = wish.occasion.at, max(days)
    if min(days) == last:
        away = _away([FreeTime(now, now), *free[: last + 1]])
        return replace(wish, away=away, ready_by=at)
    long = [
        day
        for day, letter in zip(days, LETTERS, strict=False)
        if work.dough(letter).chill_min >= LONG_CHILL_MIN
    ]
    # What lies in the cold for hours is mixed in the free hours before.
    first = min([*days, *(max(day - 1, 0) for day in long)])
    start = free[first].from_at
    wish = replace(
        wish,
        items=tuple(
            replace(item, bake_from=free[day].from_at if day > first else None)
            for item, day in zip(wish.items, days, strict=True)
        ),
        away=_away(free[first:]),
        start_at=start if start > now else None,
    )
    own = {letter for day, letter in zip(days, LETTERS, strict=False) if day == last}
    later = _late(session, wish, own, start, free[last])
    return replace(
        wish,
        items=tuple(
            replace(item, bake_from=later) if letter in own else item
            for item, letter in zip(wish.items, LETTERS, strict=False)
        ),
    )


def _away(free: list[FreeTime]) -> tuple[Away, ...]:
    """The times between free hours."""
    return tuple(
        Away(span.to_at, then.from_at) for span, then in pairwise(free) if then.from_at > span.to_at
    )


def _late(session: Session, wish: Wish, own: set[str], base: int, day: FreeTime) -> int:
    """The latest moment in those hours from which the doughs `own` of that day are ready in time by
    a quick plan, with a little to spare."""
    assert wish.occasion is not None
    _, work = ask(session, wish, base)
    until = (wish.occasion.at - base) // MINUTE - SPARE_MIN

    def in_time(minute: int) -> bool:
        doughs = tuple(
            replace(dough, bake_from=minute) if dough.letter in own else dough
            for dough in work.doughs
        )
        later = replace(work, doughs=doughs)
        return finish_of(later, quick_times(later).jobs) <= until

    low, high = (day.from_at - base) // MINUTE, until
    while high - low > NEAR_MIN:
        middle = (low + high) // 2
        low, high = (middle, high) if in_time(middle) else (low, middle)
    return base + low * MINUTE
