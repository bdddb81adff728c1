"""The study of a dough: all that the Dough screen shows of a card, worked out in one go."""

import math
import statistics
from dataclasses import dataclass, replace

from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.book.learn import Lessons
from finebatch.core.care.cautions import Allergen, allergens, cautions
from finebatch.core.formula.balance import Balance, balance
from finebatch.core.formula.checks.check import Check, Mend
from finebatch.core.formula.checks.method import ForeseenPiece
from finebatch.core.formula.checks.run import cross_check
from finebatch.core.formula.composition import compose
from finebatch.core.formula.dough import Card, Doneness, WeighedDough
from finebatch.core.formula.kitchen_amounts import KitchenAmount, UnitSystem, kitchen_amount
from finebatch.core.formula.method import method_of
from finebatch.core.formula.parts import PartNeed, part_needs
from finebatch.core.formula.reading import Reader
from finebatch.core.formula.step import Step
from finebatch.core.formula.weigh import weigh_card
from finebatch.core.measures.figures import dial
from finebatch.core.measures.rounding import whole_minutes
from finebatch.core.method.of_card import lies_as, programme_of_card
from finebatch.core.method.told import ToldStep, minutes_before_trays, told_steps
from finebatch.core.piece.effects import measure_effects
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.portion import RawPiece
from finebatch.core.piece.spread import Vector, Width
from finebatch.core.piece.thickness import Thickness
from finebatch.core.piece.tray import count
from finebatch.core.plan.prepare import bake_within
from finebatch.core.refusal import Refusal
from finebatch.core.tray.from_card import Started
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.question import Ground, TrayQuestion
from finebatch.core.tray.setting import TraySetting
from finebatch.facts import formula, tables
from finebatch.store.models import DoughRow
from finebatch.workflow.dough.from_card import started, tray_question
from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.kitchen.larder import get_reader
from finebatch.workflow.kitchen.lessons import lessons

MOST_OTHERS = 6
"""Doughs of the family that a new one is set beside, the latest ones."""

SAME_OVEN_C = 3.0


@dataclass(frozen=True, slots=True)
class PieceStudy:
    """One piece of the dough, raw and baked (g, mm, min), and how many there are.

    `wider_pct` is how much wider it bakes than the same piece of the `others`, the baker's other
    doughs of that family. `reckoned_min` are the minutes without what the card says of them.
    """

    raw: RawPiece
    width: Width
    thickness: Thickness
    minutes: int
    reckoned_min: int
    doneness: Doneness
    pieces: int
    leftover_g: float
    wider_pct: float | None
    others: int


@dataclass(frozen=True, slots=True)
class Study:
    """A card weighed, balanced, checked and foreseen. `piece_fault` says why there is no piece;
    `told` are its steps as the plan counts them, `method_min` the minutes until it can be
    portioned. It has to be in the oven `bake_within` minutes after it is mixed, as its card says
    (`bake_within_by_card`) or as is usual for such a batter; none where it may wait."""

    weighed: WeighedDough
    own_units: UnitSystem
    own: tuple[KitchenAmount | None, ...]
    balance: Balance | None
    checks: tuple[Check, ...]
    piece: PieceStudy | None
    piece_fault: str
    steps: tuple[Step, ...]
    told: tuple[ToldStep, ...]
    method_min: int
    bake_within: int | None
    bake_within_by_card: bool
    parts: tuple[PartNeed, ...]
    allergens: tuple[Allergen, ...]
    cautions: tuple[str, ...]
    begun: Started


@dataclass(frozen=True, slots=True)
class Bench:
    """What a dough is studied with: how this kitchen reads and measures, its oven, its book."""

    reader: Reader
    kitchen: KitchenSetting
    lessons: Lessons

    def weigh(self, card: Card) -> WeighedDough:
        """A card weighed as this kitchen measures."""
        return weigh_card(card, self.reader.larder, self.reader.measuring)

    def ground(self, dough_id: int | None) -> Ground:
        """What a tray of that dough is foreseen on; None for one that is not kept yet."""
        return Ground(self.reader.larder, tables.models(), self.lessons.of_dough(dough_id or 0))


def get_bench(session: Session) -> Bench:
    """The bench of this kitchen."""
    return Bench(get_reader(session), get_kitchen(session), lessons(session))


def _other_cards(session: Session, card: Card, dough_id: int | None) -> list[Card]:
    query = select(DoughRow.card).where(DoughRow.family == card.family, DoughRow.id != dough_id)
    latest = session.scalars(query.order_by(DoughRow.changed_at.desc()).limit(MOST_OTHERS))
    return list(latest)


def _rows(cards: list[Card], found: Foreseen, asked: TrayQuestion, bench: Bench) -> list[Vector]:
    """The spread model's rows of other doughs, baked as this piece is."""
    rows = []
    for card in cards:
        weighed = bench.weigh(card)
        if weighed.faults or weighed.base_g <= 0:
            continue
        how = replace(asked.conditions(), mixing=card.mixing)
        effects = measure_effects(compose(weighed.known_g(), bench.reader.larder), found.raw, how)
        rows.append(tables.models().spread.row(effects, found.raw))
    return rows


def _wider(
    session: Session,
    card: Card,
    dough_id: int | None,
    found: Foreseen,
    asked: TrayQuestion,
    bench: Bench,
) -> tuple[float | None, int]:
    """How much more or less this dough flows than the baker's others, in percent of width."""
    others = _rows(_other_cards(session, card, dough_id), found, asked, bench)
    if not others:
        return None, 0
    model = tables.models().spread
    larder = bench.reader.larder
    own = measure_effects(asked.composition(larder), found.raw, asked.conditions())
    flow = float(model.row(own, found.raw) @ model.mean)
    usual = statistics.fmean(float(row @ model.mean) for row in others)
    return 100 * (math.exp(flow - usual) - 1), len(others)


def _piece(
    session: Session,
    card: Card,
    weighed: WeighedDough,
    tray: TraySetting,
    bench: Bench,
    dough_id: int | None,
) -> tuple[PieceStudy | None, str]:
    try:
        asked = tray_question(card, weighed, tray, bench.kitchen, bench.reader.larder)
        basis = asked.basis(bench.ground(dough_id))
        found = basis.foresee(tray.piece)
        made = count(basis, tray.piece, found)
    except Refusal as refusal:
        return None, "" if weighed.faults else refusal.faults[0].message
    wider, others = _wider(session, card, dough_id, found, asked, bench)
    studied = PieceStudy(
        raw=found.raw,
        width=found.width,
        thickness=found.thickness,
        minutes=whole_minutes(found.minutes),
        reckoned_min=whole_minutes(found.sources.reckoned),
        doneness=found.doneness,
        pieces=made.pieces,
        leftover_g=made.left_g,
        wider_pct=wider,
        others=others,
    )
    return studied, ""


def _follows(
    session: Session, card: Card, tray: TraySetting, bench: Bench, dough_id: int | None
) -> bool:
    """Whether the tray's oven stands as the kept card began it, and so moves with what is typed."""
    row = session.get(DoughRow, dough_id or 0)
    if row is None or row.card == card:
        return False
    kept = started(row.card, bench.weigh(row.card), bench.kitchen, bench.reader.larder).setting
    return row.family != card.family or kept.oven_c == tray.oven_c


def _tray_checks(
    session: Session,
    card: Card,
    tray: TraySetting,
    begun: Started,
    bench: Bench,
    dough_id: int | None,
) -> list[Check]:
    """The card's oven against the tray's, where that was set by hand: else it follows the card."""
    stated = begun.setting.oven_c
    key = f"tray-oven:{stated:g}:{tray.oven_c:g}"
    if "oven_c" not in begun.said or abs(stated - tray.oven_c) <= SAME_OVEN_C:
        return []
    if key in card.settled or _follows(session, card, tray, bench, dough_id):
        return []
    return [
        Check(
            key,
            "tray",
            "The tray is set to another oven",
            f"The card says {begun.says.oven}, about {dial(stated)} on your oven; the tray is set "
            "to "
            f"{dial(tray.oven_c)}.",
            "The card's, unless you changed it on purpose.",
            Mend(f"Set the tray to {dial(stated)}", oven_c=stated),
        )
    ]


def _card_checks(
    card: Card, weighed: WeighedDough, bench: Bench, piece: PieceStudy | None
) -> list[Check]:
    facts = formula.checking(bench.reader)
    known = None
    if piece is not None:
        known = ForeseenPiece(piece.raw.grams, piece.reckoned_min, piece.pieces)
    return cross_check(card, weighed, facts, known)


def study(
    session: Session, card: Card, tray: TraySetting, bench: Bench, dough_id: int | None = None
) -> Study:
    """Everything about a card. A card with faulty lines is studied as far as it goes."""
    larder = bench.reader.larder
    measuring = bench.reader.measuring.where(card.cup, card.egg)
    weighed = bench.weigh(card)
    known = weighed.known_g()
    piece, fault = _piece(session, card, weighed, tray, bench, dough_id)
    own = tuple(
        kitchen_amount(w.grams, larder[w.ingredient], bench.kitchen.amounts, measuring)
        if w.grams is not None and w.ingredient
        else None
        for w in weighed.lines
    )
    steps = method_of(card, formula.step_templates(), larder)
    kg = max(weighed.total_g, 1) / 1000
    programme = programme_of_card(
        card,
        formula.usual_method(),
        larder,
        kg=kg,
        chill_min=tray.chill_min,
        kept_as=lies_as(tray.cold_as),
    )
    begun = started(card, weighed, bench.kitchen, larder)
    return Study(
        weighed=weighed,
        own_units=bench.kitchen.amounts,
        own=own,
        balance=balance(known, card.family, larder, formula.bands(), formula.soda_per_g())
        if known
        else None,
        checks=(
            *_card_checks(card, weighed, bench, piece),
            *_tray_checks(session, card, tray, begun, bench, dough_id),
        ),
        piece=piece,
        piece_fault=fault,
        steps=steps,
        told=told_steps(programme, formula.step_habits(), kg),
        method_min=minutes_before_trays(programme),
        bake_within=bake_within(card.mixing, tray.piece, programme, card.family),
        bake_within_by_card=programme.bake_within is not None,
        parts=tuple(part_needs(card.parts, piece.pieces if piece else 0, larder, measuring)),
        allergens=tuple(allergens(card, larder)),
        cautions=tuple(cautions(card, larder, formula.caution_texts())),
        begun=begun,
    )
