"""What a fridge does, learnt from how the dough felt."""

import random

import pytest

from finebatch.core.book.firmness import Felt, Firmness, learn_cold
from finebatch.core.heat.chilling import chill, disc_shape

DISC = disc_shape(180, 25)
FOUND = chill(DISC, "roll", "fridge", start_c=23, air_c=4, room_c=21)


def felt(minutes: float, firmness: Firmness) -> Felt:
    return Felt(minutes, firmness, FOUND.cooling, FOUND.to_c)


def in_truth(minutes: float, slower: float) -> Firmness:
    truth = chill(DISC, "roll", "fridge", start_c=23, air_c=4, room_c=21, slower=slower)
    assert truth.ready_min is not None
    assert truth.hard_min is not None
    if minutes < truth.ready_min:
        return "soft"
    return "hard" if minutes > truth.hard_min else "right"


def test_nothing_felt_is_the_usual_fridge() -> None:
    assert learn_cold([]).times == pytest.approx(1.0)
    assert learn_cold([]).jobs == 0


@pytest.mark.parametrize("slower", [0.75, 1.0, 1.4])
def test_a_dozen_doughs_tell_a_slow_fridge_from_a_fast_one(slower: float) -> None:
    assert FOUND.best_min is not None
    chance = random.Random(3)
    minutes = [FOUND.best_min * chance.uniform(0.6, 1.8) for _ in range(12)]
    learnt = learn_cold([felt(m, in_truth(m, slower)) for m in minutes])
    assert learnt.jobs == 12
    assert learnt.times == pytest.approx(slower, rel=0.12)


def test_one_slip_does_not_turn_it_round() -> None:
    assert FOUND.best_min is not None
    right = [felt(FOUND.best_min, "right")] * 4
    slip = learn_cold([*right, felt(FOUND.best_min * 3, "soft")])
    assert slip.times == pytest.approx(learn_cold(right).times, rel=0.1)


def test_too_soft_asks_for_longer_and_too_hard_for_less() -> None:
    assert FOUND.best_min is not None
    soft, hard = (learn_cold([felt(FOUND.best_min, how)]) for how in ("soft", "hard"))
    assert hard.times < 1 < soft.times
