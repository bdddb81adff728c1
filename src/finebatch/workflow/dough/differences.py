"""Two cards beside each other as a baker would judge them; and what scaling and swaps lead to."""

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Annotated

from annotated_types import Interval, MaxLen

from finebatch.core.care.cautions import allergens
from finebatch.core.formula.card_says import says_of
from finebatch.core.formula.compare import ComparedLine, changes, compare_lines
from finebatch.core.formula.composition import compose
from finebatch.core.formula.dough import Card, Line, WeighedDough
from finebatch.core.formula.scaling import (
    Limit,
    Scaling,
    factor_to_mass,
    limits_of,
    parse_factor,
    scale,
)
from finebatch.core.formula.swaps import Offer, offers
from finebatch.core.formula.weigh import weigh
from finebatch.core.piece.character import QUALITIES, Quality, difference, score
from finebatch.core.piece.effects import measure_effects
from finebatch.core.piece.lot import BOWL_LOSS
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.tray.question import TrayQuestion
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import FromOutside, Text
from finebatch.facts import formula
from finebatch.workflow.dough.from_card import tray_question
from finebatch.workflow.dough.study import Bench

CM3_IN_LITRE = 1000.0


@dataclass(frozen=True, slots=True)
class Side:
    """One of the two: its weight, composition in percent of the flour, and its baked piece."""

    total_g: float
    sugar_pct: float | None
    fat_pct: float | None
    water_pct: float | None
    width_mm: float | None
    height_mm: float | None
    minutes: float | None


@dataclass(frozen=True, slots=True)
class QualitySaid:
    """What a baker would notice of one quality."""

    quality: Quality
    words: str


@dataclass(frozen=True, slots=True)
class _Judged:
    """A side with what its qualities and allergens are told by."""

    side: Side
    effects: Mapping[str, float]
    allergens: frozenset[str]
    asked: TrayQuestion | None = None


@dataclass(frozen=True, slots=True)
class Difference:
    """Two cards: line by line, piece by piece, and in a baker's words by quality."""

    before: Side
    after: Side
    lines: tuple[ComparedLine, ...]
    said: tuple[str, ...]
    qualities: tuple[QualitySaid, ...]
    allergens_added: tuple[str, ...]
    allergens_gone: tuple[str, ...]


def _side(
    card: Card,
    tray: TraySetting,
    bench: Bench,
    dough_id: int | None,
    said: TrayQuestion | None = None,
) -> _Judged:
    """One of the two; `said` is the question of the card before it, whose minutes hold for both."""
    larder = bench.reader.larder
    weighed = bench.weigh(card)
    made = compose(weighed.known_g(), larder)
    base = made.base_g or made.structure_g
    sugar, fat, water = (
        100 * g / base if base else None for g in (made.sugar_g, made.fat_g, made.water_added_g)
    )
    names = frozenset(a.name for a in allergens(card, larder))
    try:
        asked = tray_question(card, weighed, tray, bench.kitchen, larder, said)
        found = asked.foresee(bench.ground(dough_id))
    except Refusal:
        return _Judged(Side(weighed.total_g, sugar, fat, water, None, None, None), {}, names)
    effects = measure_effects(made, found.raw, asked.conditions())
    side = Side(
        weighed.total_g,
        sugar,
        fat,
        water,
        found.width.middle_mm,
        found.thickness.height_mm,
        found.minutes,
    )
    return _Judged(side, effects, names, asked)


def _qualities(before: _Judged, after: _Judged) -> tuple[QualitySaid, ...]:
    if not before.effects or not after.effects:
        return ()
    weights = formula.character_weights()
    return tuple(
        QualitySaid(
            q, difference(q, score(q, before.effects, weights), score(q, after.effects, weights))
        )
        for q in QUALITIES
    )


def _differ(
    before: Card, after: Card, one: _Judged, other: _Judged, weighed: WeighedDough, bench: Bench
) -> Difference:
    reader = bench.reader
    return Difference(
        before=one.side,
        after=other.side,
        lines=tuple(compare_lines(weighed, bench.weigh(after))),
        said=changes(before, after, reader.larder, reader.measuring),
        qualities=_qualities(one, other),
        allergens_added=tuple(sorted(other.allergens - one.allergens)),
        allergens_gone=tuple(sorted(one.allergens - other.allergens)),
    )


def compare(
    before: Card, after: Card, tray: TraySetting, bench: Bench, dough_id: int | None = None
) -> Difference:
    """Two cards beside each other, each baked as the tray has it."""
    one = _side(before, tray, bench, dough_id)
    same = says_of(before).minutes == says_of(after).minutes
    other = _side(after, tray, bench, dough_id, one.asked if same else None)
    return _differ(before, after, one, other, bench.weigh(before), bench)


@dataclass(frozen=True, slots=True)
class OfferStudy:
    """A swap that applies, and what it would change."""

    offer: Offer
    difference: Difference


def swap_offers(
    card: Card, tray: TraySetting, bench: Bench, dough_id: int | None = None
) -> list[OfferStudy]:
    """Every swap that applies to a card, each before and after."""
    weighed = bench.weigh(card)
    before = _side(card, tray, bench, dough_id)
    return [
        OfferStudy(
            offer,
            _differ(
                card,
                offer.card,
                before,
                _side(offer.card, tray, bench, dough_id, before.asked),
                weighed,
                bench,
            ),
        )
        for offer in offers(card, weighed, formula.swaps(), bench.reader.larder)
    ]


@dataclass(frozen=True, slots=True)
class ScaleWish(FromOutside):
    """How much is wanted: one of a factor, pieces of a mass, a total in grams, or what there is.

    `bowl_l` is what the bowl or mixer holds, in litres.
    """

    factor: Annotated[Text, MaxLen(20)] | None = None
    pieces: Annotated[int, Interval(ge=1, le=100_000)] | None = None
    piece_g: Annotated[float, Interval(gt=0, le=5000)] | None = None
    total_g: Annotated[float, Interval(gt=0, le=1_000_000)] | None = None
    have: Annotated[tuple[Line, ...], MaxLen(50)] = ()
    bowl_l: Annotated[float, Interval(gt=0, le=100)] | None = None
    rounded: bool = False


def _factor(
    wish: ScaleWish, weighed: WeighedDough, bench: Bench
) -> tuple[Fraction, tuple[Limit, ...]]:
    if wish.factor is not None:
        return parse_factor(wish.factor), ()
    if wish.have:
        reader = bench.reader
        have = weigh(wish.have, reader.larder, reader.measuring)
        limits = limits_of(weighed, have, reader.larder)
        return Fraction(limits[0].factor).limit_denominator(10_000), limits
    if wish.pieces is not None and wish.piece_g is not None:
        wanted = wish.pieces * wish.piece_g / (1 - BOWL_LOSS)
        return factor_to_mass(weighed.total_g, wanted), ()
    if wish.total_g is not None:
        return factor_to_mass(weighed.total_g, wish.total_g), ()
    raise refuse("factor", "Say how much: a factor, pieces, a total, or what there is.")


def scale_to(card: Card, wish: ScaleWish, bench: Bench) -> Scaling:
    """A card scaled to a wish. `Refusal` where that is absurd."""
    weighed = bench.weigh(card)
    weighed.formula_g()
    factor, limits = _factor(wish, weighed, bench)
    if not 0.005 < factor < 200:
        raise refuse("have", "That is under a hundredth or over a hundred times the card.")
    reader = bench.reader
    return scale(
        card,
        factor,
        reader.larder,
        reader.measuring,
        bench.kitchen.amounts,
        rounded=wish.rounded,
        limits=limits,
        bowl_cm3=wish.bowl_l * CM3_IN_LITRE if wish.bowl_l else None,
        density_g_cm3=compose(weighed.known_g(), reader.larder).density_g_cm3,
    )
