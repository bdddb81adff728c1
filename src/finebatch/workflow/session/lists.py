"""The lists of a session: what to buy, what to weigh for which dough, what leaves the cold when."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session

from finebatch.core.formula.kitchen_amounts import kitchen_amount
from finebatch.core.larder.stock import to_buy
from finebatch.core.session.bowls import bowl_shares
from finebatch.core.session.wish import MINUTE, Asked, Snapshot
from finebatch.store.models import SessionRow
from finebatch.workflow.kitchen.equipment import get_kitchen, measuring_of
from finebatch.workflow.kitchen.larder import get_larder
from finebatch.workflow.kitchen.stock import packs_of_each
from finebatch.workflow.session.taken_off import parts_g

SOFTEN_MIN = 60
"""How long butter stands out before it is creamed (household practice)."""


@dataclass(frozen=True, slots=True)
class ForDough:
    """What one dough takes of an ingredient: g into each of its bowls, g for its parts."""

    letter: str
    bowls_g: tuple[float, ...]
    parts_g: float = 0.0


@dataclass(frozen=True, slots=True)
class Needed:
    """One ingredient of a session: grams in all, in the baker's units, and for which doughs.

    `there_g` of it is in the house and still good when the session begins, `buy_g` is not: that
    many `packs` of `pack_g` at that `price` in all where its packs are known. `cost` is what all
    of it costs, by the mass, in the baker's own money.
    """

    key: str
    name: str
    grams: float
    own: str
    letters: tuple[str, ...]
    each: tuple[ForDough, ...]
    there_g: float
    buy_g: float
    packs: int | None
    pack_g: float | None
    price: float | None
    cost: float | None


@dataclass(frozen=True, slots=True)
class TakeOut:
    """What leaves the cold, and when (UTC ms)."""

    at: int
    what: str


@dataclass(frozen=True, slots=True)
class DoughCost:
    """What a dough's ingredients and those of its parts cost in all, and for a piece, in the
    baker's own money; `unpriced` are ingredients without a price, which are not in it."""

    letter: str
    cost: float
    each: float | None
    unpriced: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Shelf:
    """What a session needs: to buy and weigh, and to take out of the cold in time."""

    needed: tuple[Needed, ...]
    take_out: tuple[TakeOut, ...]
    costs: tuple[DoughCost, ...] = ()


@dataclass(frozen=True, slots=True)
class _Use:
    """What a dough takes (g), the share of it in each bowl, and what its parts take (g)."""

    asked: Asked
    shares: tuple[float, ...]
    formula_g: Mapping[str, float]
    parts_g: Mapping[str, float]


def shelf_of(session: Session, row: SessionRow) -> Shelf:
    """Everything that the doughs of a session and their parts need, summed, and the cold things."""
    larder, kitchen = get_larder(session), get_kitchen(session)
    stock = packs_of_each(session)
    uses = [_use(session, row, asked) for asked in row.snapshot.items if asked.joins == "fresh"]
    keys = dict.fromkeys(key for use in uses for key in (*use.formula_g, *use.parts_g))
    needed = []
    for key in keys:
        own = [use for use in uses if key in use.formula_g or key in use.parts_g]
        each = [
            ForDough(
                use.asked.letter,
                tuple(use.formula_g.get(key, 0.0) * share for share in use.shares),
                use.parts_g.get(key, 0.0),
            )
            for use in own
        ]
        grams = sum(sum(one.bowls_g) + one.parts_g for one in each)
        if key not in larder or grams <= 0:
            continue
        buy = to_buy(grams, stock.get(key, []), row.start_at)
        needed.append(
            Needed(
                key,
                larder[key].name,
                grams,
                kitchen_amount(grams, larder[key], kitchen.amounts, measuring_of(kitchen)).text,
                tuple(use.asked.letter for use in own),
                tuple(each),
                buy.there_g,
                buy.buy_g,
                buy.packs,
                buy.pack_g,
                buy.price,
                buy.cost,
            )
        )
    needed.sort(key=lambda n: (-n.grams, n.key))
    buttered = {n for one in needed if one.key.startswith("butter_") for n in one.letters}
    costs = tuple(_cost(row, use, needed) for use in uses) if stock else ()
    return Shelf(tuple(needed), tuple(_take_out(row, row.snapshot, buttered)), costs)


def _use(session: Session, row: SessionRow, asked: Asked) -> _Use:
    parts: dict[str, float] = {}
    for part in parts_g(session, row, asked):
        for key, grams in part.items():
            parts[key] = parts.get(key, 0.0) + grams
    shares = bowl_shares(row.work.dough(asked.letter), row.work.trays_of(asked.letter))
    return _Use(asked, shares, asked.question.formula_g, parts)


def _cost(row: SessionRow, use: _Use, needed: Sequence[Needed]) -> DoughCost:
    """What a dough costs, of the ingredients that have a price."""
    cost, unpriced = 0.0, []
    for one in needed:
        grams = use.formula_g.get(one.key, 0.0) + use.parts_g.get(one.key, 0.0)
        if not grams:
            continue
        if one.cost is None:
            unpriced.append(one.name)
        else:
            cost += one.cost * grams / one.grams
    asked = use.asked
    trays = row.work.trays_of(asked.letter)
    pieces = sum(tray.pieces for tray in trays) * asked.each_gives + asked.kept
    each = cost / pieces if pieces and asked.question.setting.piece.pan is None else None
    return DoughCost(asked.letter, cost, each, tuple(unpriced))


def _take_out(row: SessionRow, snapshot: Snapshot, buttered: set[str]) -> list[TakeOut]:
    first: dict[str, int] = {}
    for a in row.plan.activities:
        if a.dough is not None and a.kind in ("ready", "mix", "take", "portion"):
            first[a.dough] = min(first.get(a.dough, a.start), a.start)
    found = []
    for asked in snapshot.items:
        start = row.start_at + first.get(asked.letter, 0) * MINUTE
        if asked.joins != "fresh":
            place = "fridge" if asked.joins == "fridge" else "freezer"
            found.append(TakeOut(start, f"{asked.name}, out of the {place}"))
        elif asked.question.mixing == "creamed" and asked.letter in buttered:
            soft = start - SOFTEN_MIN * MINUTE
            found.append(TakeOut(soft, f"butter and eggs for {asked.name}, to soften"))
    return sorted(found, key=lambda t: (t.at, t.what))
