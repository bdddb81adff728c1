"""Minutes that the baker says of a step on the trays: of the dough, of a tray, or of a piece."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from finebatch.core.formula.card_text import read_step
from finebatch.core.formula.step import Step, StepKind
from finebatch.core.method.steps import TypedStep, step_of
from finebatch.core.method.typed import typed_steps
from finebatch.core.plan.gestures import OnTray
from finebatch.facts import formula

HABITS = formula.step_habits()
TRAY = OnTray(12, 36, HABITS, {})
FAMILY_S = 10.0


def typed(kind: StepKind, **said: object) -> TypedStep:
    return typed_steps([Step("As it is done.", kind=kind, **said)])[0]  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("step", "seconds"),
    [
        (typed("dent"), 12 * HABITS["dent"].each_s),
        (typed("dent", each_s=7), 12 * 7),
        (typed("dent", hands_min=6), 6 * 60 / 3),
        (typed("dent", hands_min=6, per="tray"), 6 * 60),
        (typed("score"), HABITS["score"].hands_min * 60),
        (typed("score", each_s=3, per="piece"), 12 * 3),
        (typed("score", hands_min=9, per="dough"), 9 * 60 / 3),
        (typed("ice", hands_min=30, per="dough"), 30 * 60 / 3),
    ],
)
def test_a_step_takes_what_is_said_of_the_dough_a_tray_or_a_piece(
    step: TypedStep, seconds: float
) -> None:
    assert TRAY.seconds(step) == pytest.approx(seconds)
    paced = replace(TRAY, paces={step_of(step.kind): 1.5})
    assert paced.seconds(step) == pytest.approx(1.5 * seconds)


@given(st.integers(1, 40), st.integers(1, 60))
def test_minutes_of_the_dough_are_shared_over_its_trays(pieces: int, minutes: int) -> None:
    step = typed("roll", hands_min=minutes, per="dough")
    halves = [OnTray(pieces, 2 * pieces, HABITS, {}).seconds(step) for _ in range(2)]
    assert sum(halves) == pytest.approx(60 * minutes)


def test_what_makes_the_pieces_is_the_familys_until_its_steps_say_otherwise() -> None:
    usual = [typed("roll"), typed("cut"), typed("dent")]
    dent = TRAY.seconds(usual[2])
    assert TRAY.portioning_s(usual, FAMILY_S) == pytest.approx(12 * FAMILY_S + dent)
    rolled = [typed("roll", hands_min=12, per="tray"), *usual[1:]]
    # Cutting is still half of what the family usually takes.
    assert TRAY.portioning_s(rolled, FAMILY_S) == pytest.approx(720 + 6 * FAMILY_S + dent)
    both = [rolled[0], typed("cut", each_s=4, per="piece")]
    assert TRAY.portioning_s(both, FAMILY_S) == pytest.approx(720 + 48)
    assert TRAY.portioning_s([], FAMILY_S) == pytest.approx(12 * FAMILY_S)


def test_what_lies_somewhere_is_called_by_where_it_lies() -> None:
    assert typed("chill", where="freezer").kind == "freeze"
    assert typed("rest_bench", where="fridge").kind == "chill"
    assert typed("chill", where="bench").kind == "rest_bench"
    assert typed("melt", where="bowl").kind == "melt"
    assert (typed("chill").where, typed("melt", where="bowl").where) == (None, "bowl")


def test_a_time_named_with_what_is_done_to_pieces_is_no_work_of_hands() -> None:
    read = read_step("Fill them, 8 min more.")
    [step] = typed_steps([read])
    assert (step.kind, step.hands_min) == ("fill", None)
    [said] = typed_steps([replace(read, hands_min=5)])
    assert said.hands_min == 5
