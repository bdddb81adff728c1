"""The calmer plan: pauses and meals free, settings grouped, every window kept."""

import random

import pytest

from finebatch.core.plan.calmer import EVERY_MIN, calm_of, calmer_plan, with_pauses
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.solver import best_plan
from tests.chance import so_many
from tests.core.test_plan import two_doughs
from tests.core.test_played import a_small_session

MEAL = (100, 125)


@pytest.mark.parametrize("seed", range(so_many(3)))
def test_a_calmer_plan_keeps_every_rule_around_its_pauses(seed: int) -> None:
    work = a_small_session(random.Random(seed))
    found = calmer_plan(work, (MEAL,))
    if found is None:
        return
    quiet, plan = found
    assert find_faults(plan, quiet) == []
    away = quiet.kitchen.workers[0].away
    assert any(a <= MEAL[0] and b >= MEAL[1] for a, b in away)
    mine = [(a.start, a.end) for a in plan.activities if a.hands and not a.who]
    assert all(end <= a or start >= b for start, end in mine for a, b in away)
    longest = max(
        b - a for a, b in zip([0, *(b for _, b in away)], (a for a, _ in away), strict=False)
    )
    assert longest <= EVERY_MIN


def test_it_turns_the_dial_and_changes_doughs_less_often_and_takes_longer() -> None:
    work = two_doughs(180, 160)
    soonest = best_plan(work, 1)
    found = calmer_plan(work, (), 0.05)
    assert found is not None
    calm, hurried = calm_of(found[1]), calm_of(soonest)
    assert found[1].finish >= soonest.finish
    assert (calm.heat_changes, calm.dough_changes) <= (hurried.heat_changes, hurried.dough_changes)


def test_effort_brings_it_sooner_and_not_less_calm() -> None:
    work = two_doughs(180, 160)
    plain, sought = calmer_plan(work), calmer_plan(work, (), 0.1)
    assert plain is not None
    assert sought is not None
    assert sought[1].finish <= plain[1].finish
    assert find_faults(sought[1], sought[0]) == []


def test_a_pause_gives_way_to_a_meal_at_the_same_time() -> None:
    quiet = with_pauses(two_doughs(), 110, (MEAL,))
    (_, first), *_ = quiet.kitchen.workers[0].away
    assert quiet.kitchen.workers[0].away[0] == MEAL
    assert first == MEAL[1]
