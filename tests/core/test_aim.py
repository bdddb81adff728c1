"""From the wanted piece back: a change is undone by no more, no wish is missed in silence."""

import functools
import math
import random
import re
from dataclasses import replace

import pytest

from finebatch.core.aim.distance import Stand, distance
from finebatch.core.aim.items import LineItem, items_of
from finebatch.core.aim.problem import Problem, Wanted
from finebatch.core.aim.trial import Dough
from finebatch.core.aim.variants import Facts
from finebatch.core.aim.ways import Ways, ways
from finebatch.core.aim.wish import Aim, Wished, beyond
from finebatch.core.care.cautions import allergens
from finebatch.core.formula.dough import Card, Line
from finebatch.core.formula.weigh import weigh_card
from finebatch.core.larder.measuring import USUAL
from finebatch.core.measures.amounts import parse_amount
from finebatch.core.measures.figures import read_in
from finebatch.core.piece.cases import Case
from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.every import AnyKind
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.core.piece.kinds.twice_baked import TwiceBaked
from finebatch.core.piece.portion import CutDisc, Log, LogSlice, MassPortion
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.question import Ground, question
from finebatch.core.tray.setting import TraySetting
from finebatch.facts import formula, tables
from finebatch.formats.cases import read_cases
from tests.chance import TIMES
from tests.conftest import CASES

FACTS = Facts(formula.swaps(), formula.keepings())
KITCHEN = KitchenSetting()


def _piece(case: Case) -> AnyKind | None:
    match case.portion:
        case MassPortion(grams, "ball"):
            return Drop(round(grams))
        case MassPortion(grams, "rough_mound"):
            return Drop(round(grams), "left")
        case CutDisc(across, thick):
            return Rolled(thick, Cutter(across_mm=across))
        case LogSlice(across, thick):
            return Sliced(across, thick)
        case Log(length, width, grams):
            return TwiceBaked(grams, length, width)
    return None


def _line(key: str, grams: float) -> Line:
    return Line(f"{grams:.0f}" if grams >= 10 else f"{max(grams, 0.1):.1f}", "g", key)


def dough_of(card: Card, setting: TraySetting) -> Dough:
    """A dough as answers are looked for from it."""
    larder = tables.larder()
    weighed = weigh_card(card, larder)
    asked = question(card, weighed, setting, KITCHEN)
    stand = Stand(asked.formula_g, card.family, card.mixing, setting, asked.lot(larder))
    ground = Ground(larder, tables.models())
    return Dough(card, weighed, asked, ground, formula.bands(), USUAL, stand)


@functools.cache
def doughs() -> tuple[Dough, ...]:
    """The doughs of the public cases, of each kind of portioning that they have."""
    found = []
    for case in read_cases(CASES):
        piece = _piece(case)
        if piece is None:
            continue
        lines = tuple(_line(key, grams) for key, grams in case.formula_g.items())
        card = Card(case.id, case.family, case.how.mixing, lines)
        setting = TraySetting(
            piece, "weighed", case.how.dough_temp_c, case.how.oven_c, "parchment", 0
        )
        found.append(dough_of(card, setting))
    return tuple(found)


def _changed_by(dough: Dough, rng: random.Random) -> Dough:
    """The dough with one thing changed, in steps that a kitchen measures."""
    items = [i for i in items_of(dough) if i.key != "handle:slice_mm"]
    item = rng.choice(items)
    by = rng.choice([0.75, 0.85, 1.15, 1.3]) if item.ratio else rng.choice([-15, -10, 10, 15])
    value = item.was * by if item.ratio else item.was + by
    low, high = item.range
    value = min(max(item.nearest(value)[0], low), high)
    changed = item.put(dough, dough.as_it_is(), value)
    if isinstance(item, LineItem):
        place = item.place
        lines = list(dough.card.lines)
        lines[place] = replace(lines[place], amount=f"{value:g}")
        return dough_of(replace(dough.card, lines=tuple(lines)), dough.asked.setting)
    return dough_of(dough.card, changed.setting)


def _stand(dough: Dough) -> Stand:
    return dough.origin


def _as(dough: Dough) -> Aim:
    """The wish for the piece as it is."""
    found = dough.outcome(dough.as_it_is())
    assert found is not None
    return Aim(
        width_mm=Wished(found.figure("width")),
        height_mm=Wished(found.figure("height")),
        minutes=Wished(found.figure("minutes")),
    )


def _sample(n: int, seed: int) -> list[tuple[Dough, random.Random]]:
    rng = random.Random(seed)
    return [(rng.choice(doughs()), random.Random(rng.random())) for _ in range(n * TIMES)]


def test_a_dough_that_is_as_wished_is_left_alone() -> None:
    for dough in doughs()[::6]:
        found = ways(dough, _as(dough), FACTS)
        assert found.met
        assert found.ways == ()


@pytest.mark.chance
def test_what_was_changed_is_undone_by_no_more_than_it_was_changed() -> None:
    for dough, rng in _sample(20, 1):
        other = _changed_by(dough, rng)
        if other.outcome(other.as_it_is()) is None:
            continue
        planted = distance(_stand(other), _stand(dough), other.share)
        found = ways(other, _as(dough), FACTS)
        assert found.met, (dough.card.name, found.why)
        least = found.ways[0].distance if found.ways else 0.0
        assert least <= planted + 1e-6, (dough.card.name, found.ways[0].changes, planted)


def _random_aim(dough: Dough, rng: random.Random) -> Aim:
    found = dough.outcome(dough.as_it_is())
    assert found is not None
    wish: dict[str, object] = {}
    for name in ("width_mm", "height_mm", "minutes"):
        if rng.random() < 0.5:
            figure = found.figure("width" if name == "width_mm" else name.removesuffix("_mm"))  # type: ignore[arg-type]
            sense = rng.choice(["about", "about", "at_most", "at_least"])
            wish[name] = Wished(round(figure * rng.uniform(0.75, 1.3), 1), sense)  # type: ignore[arg-type]
    if rng.random() < 0.3:
        wish["sugar_pct"] = round(found.sugar_pct * rng.uniform(0.75, 1.1))
    if rng.random() < 0.2:
        wish["keeps_days"] = rng.choice([3, 7, 14, 60])
    if rng.random() < 0.3:
        wish["without"] = rng.choice([("egg",), ("milk",), ("gluten",), ("egg", "milk")])
    if rng.random() < 0.2:
        wish["doneness"] = rng.choice(["chewy", "set", "crisp"])
    return Aim(**wish)  # type: ignore[arg-type]


UNWANTED = {"egg": {"eggs"}, "milk": {"milk"}, "gluten": {"wheat", "gluten"}}


@pytest.mark.chance
def test_every_answer_meets_the_wish_or_says_why_it_cannot() -> None:
    larder, bands = tables.larder(), formula.bands()
    for dough, rng in _sample(20, 2):
        aim = _random_aim(dough, rng)
        found = ways(dough, aim, FACTS)
        start = dough.outcome(dough.as_it_is())
        assert start is not None
        if not found.met:
            assert found.why, aim
        for way in found.ways:
            # Foreseen anew from the card that would be kept, not from what the search thought.
            made = dough_of(way.card, way.setting)
            came = made.outcome(made.as_it_is())
            assert came is not None
            if found.met:
                for figure, wanted in aim.ranges.items():
                    assert (
                        abs(beyond(came.figure(figure), wanted)) < 0.02 * came.figure(figure) ** 0.5
                    )
                brought = {a.name for a in allergens(way.card, larder) if a.surely}
                assert not brought & set().union(*(UNWANTED[f] for f in aim.without))
            for band in bands:
                if band.family == dough.family and band.figure in came.percents:
                    percent, was = came.percents[band.figure], start.percents.get(band.figure, 0)
                    if not aim.without:
                        assert min(band.least, was) - 0.5 <= percent <= max(band.most, was) + 0.5


@pytest.mark.chance
def test_no_single_change_that_gets_there_is_less_than_the_least() -> None:
    for dough, rng in _sample(6, 3):
        found = dough.outcome(dough.as_it_is())
        assert found is not None
        width = found.figure("width") * rng.uniform(0.9, 1.12)
        aim = Aim(width_mm=Wished(round(width, 1)))
        reached = ways(dough, aim, FACTS)
        least = reached.ways[0].distance if reached.ways else 0.0
        if not reached.met:
            continue
        search = Problem(dough, Wanted(aim.ranges))
        for item in items_of(dough):
            low, high = item.range
            span = math.log(high / low) if item.ratio else high - low
            for n in range(60):
                at = low * math.exp(span * n / 59) if item.ratio else low + span * n / 59
                answer = search.judge({item.key: item.nearest(at)[0]})
                if answer and answer.meets:
                    assert answer.outcome.distance >= least - 1e-6


def test_the_same_wish_has_the_same_answer() -> None:
    aim = Aim(width_mm=Wished(70), height_mm=Wished(11))
    dough = doughs()[3]
    one, other = (ways(dough_of(dough.card, dough.asked.setting), aim, FACTS) for _ in range(2))
    assert one == other


def test_wishes_that_clash_are_named_with_how_near_one_gets() -> None:
    dough = next(d for d in doughs() if d.family == "drop")
    wide = ways(dough, Aim(width_mm=Wished(600), colour="golden"), FACTS)
    assert not wide.met
    assert wide.clash == ("width",)
    assert read_in(wide.why[0]).startswith("No change of this dough brings it to about 600 mm wide")
    both = ways(
        dough, Aim(width_mm=Wished(120, "at_least"), height_mm=Wished(25, "at_least")), FACTS
    )
    assert set(both.clash) == {"width", "height"}
    assert "do not go together; the nearest is" in read_in(both.why[0])


def test_what_takes_the_place_of_something_is_noted_with_its_caution() -> None:
    card = Card(
        "oats",
        "drop",
        lines=(
            _line("oats_rolled", 200),
            _line("flour_ap", 100),
            _line("butter_unsalted", 110),
            _line("sugar_white", 110),
            _line("egg_whole", 50),
        ),
    )
    dough = dough_of(card, replace(doughs()[0].asked.setting, piece=Drop(30)))
    found = ways(dough, Aim(without=("egg",)), FACTS)
    assert found.met
    assert "egg_whole" not in {line.ingredient for line in found.ways[0].card.lines}
    none = ways(dough, Aim(without=("gluten",)), FACTS)
    assert not none.met
    assert "Rolled oats brings gluten; nothing known here takes its place." in none.why


def test_only_what_is_in_the_house_is_used() -> None:
    dough = next(d for d in doughs() if "butter_unsalted" in d.origin.formula_g)
    there = dict(dough.origin.formula_g)
    wide = dough.outcome(dough.as_it_is())
    assert wide is not None
    aim = Aim(width_mm=Wished(1.1 * wide.figure("width")), from_house=True)
    facts = replace(FACTS, there_g=there)
    found = ways(dough, aim, facts)
    assert found.met
    for way in found.ways:
        used = weigh_card(way.card, tables.larder()).known_g()
        assert all(grams <= there[key] + 0.5 for key, grams in used.items())
    none = ways(
        dough, Aim(from_house=True), replace(facts, there_g={**there, "butter_unsalted": 0})
    )
    assert any("butter" in line for way in none.ways for line in way.changes) or not none.met


def test_a_piece_that_is_cold_is_chilled_for_as_long_as_it_takes() -> None:
    dough = next(d for d in doughs() if d.asked.setting.dough_temp_c > 18 and d.family == "drop")
    cold = Ways(dough, Aim(width_mm=Wished(1)), FACTS)
    answer = Problem(dough, Wanted({})).judge({"dough_temp": 10.0})
    assert answer is not None
    assert cold.way("least", answer, cold.reached(coarse=True).now).setting.chill_min > 10


def test_a_card_of_two_hundred_lines_is_answered() -> None:
    keys = [key for key, one in tables.larder().items() if one.role != "decoration"]
    lines = tuple(_line(keys[n % len(keys)], 40) for n in range(200))
    dough = dough_of(Card("long", "drop", lines=lines), doughs()[0].asked.setting)
    wide = ways(dough, Aim(width_mm=Wished(80), height_mm=Wished(9)), FACTS)
    assert wide.met
    free = ways(dough, Aim(without=("egg", "milk"), width_mm=Wished(60)), FACTS)
    assert "Cream cheese brings milk; nothing known here takes its place." in free.why


def test_answers_are_in_what_a_kitchen_measures() -> None:
    written = (
        ("2 1/4", "cup", "flour_ap"),
        ("1", "cup", "butter_unsalted"),
        ("1 1/2", "cup", "sugar_white"),
        ("2", "egg", "egg_whole"),
        ("1", "tsp", "baking_soda"),
    )
    lines = tuple(Line(amount, unit, key) for amount, unit, key in written)  # type: ignore[arg-type]
    setting = replace(doughs()[0].asked.setting, piece=Drop(30), oven_c=175.0)
    dough = dough_of(Card("cups", "drop", lines=lines), setting)
    steps = {"cup": 0.25, "egg": 1.0, "tsp": 0.25}
    told: set[str] = set()
    for width, height in ((90, 7), (70, 10), (100, 6)):
        wish = Aim(width_mm=Wished(width), height_mm=Wished(height))
        for way in ways(dough, wish, FACTS).ways:
            told |= set(way.changes)
            for line in way.card.lines:
                amount = float(parse_amount(line.amount).middle)
                if line.unit in steps:
                    assert amount / steps[line.unit] == pytest.approx(
                        round(amount / steps[line.unit])
                    )
            assert way.setting.oven_c % 5 == 0
    assert any(re.search(r"flour 2 1/4 → [\d /]+ cup$", change) for change in told), told
