"""The law of spread by hand: widths, bands and what moves them, on a model of three effects."""

import math
from dataclasses import replace

import numpy as np
import pytest

from finebatch.core.piece.portion import CutDisc, MassPortion, RawPiece, shape_piece
from finebatch.core.piece.spread import (
    EDGE_SD,
    EIGHT_IN_TEN,
    LAW_SD,
    RULER_SD,
    UNSEEN_REACH,
    UNSEEN_SD,
    Effect,
    Offset,
    SpreadModel,
    Vector,
    Width,
    baked_width_mm,
    predict_width,
)

EFFECTS = (
    Effect("scale", "the flow", "", 1.6, 0.2, "by hand"),
    Effect("sugar", "sugar", "", 0.3, 0.4, "by hand"),
    Effect("log_scale", "a log's flow", "", 1.0, 0.2, "by hand"),
)
MODEL = SpreadModel(
    EFFECTS,
    np.array([1.6, 0.3, 1.0]),
    np.diag([0.0004, 0.0025, 0.0009]),
    noise_sd=0.03,
    measured=np.array([[1.0, 0.2, 0.0], [1.0, 0.6, 0.0]]),
)
BALL = shape_piece(MassPortion(30), 1.2)
DISC = shape_piece(CutDisc(60, 5), 1.2)
LOG = RawPiece(400.0, 330.0, 45.0, 25.0, False, length_mm=300.0, form="log")


class Taught:
    """Lessons that shift every width by so much."""

    def __init__(self, mean: float, bakes: int) -> None:
        self.offset = Offset(mean, 0.0001, 0.01, bakes, of_it=bakes > 0)

    def width_offset(self, row: Vector) -> Offset:
        return self.offset


def foreseen(raw: RawPiece = BALL, sugar: float = 0.2, **more: object) -> Width:
    return predict_width(MODEL, {"sugar": sugar}, raw, **more)  # type: ignore[arg-type]


def half(width: Width) -> float:
    """The band as a standard deviation of ln of width."""
    up, down = width.high_mm / width.middle_mm, width.middle_mm / width.low_mm
    assert up == pytest.approx(down)
    return math.log(up) / EIGHT_IN_TEN


def test_a_ball_and_a_log_flow_by_their_own_law() -> None:
    flow = math.exp(1.6 + 0.2 * 0.3) * BALL.volume_cm3**0.4
    assert foreseen().middle_mm == pytest.approx((BALL.width_mm**8 + flow**8) ** (1 / 8))
    along = math.exp(1.0 + 0.2 * 0.3) * LOG.section_cm2 ** (2 / 3)
    assert foreseen(LOG).middle_mm == pytest.approx((45**5 + along**5) ** (1 / 5))


@pytest.mark.parametrize("raw", [BALL, DISC, LOG])
def test_the_sensitivity_is_how_the_width_follows_the_flow(raw: RawPiece) -> None:
    width, sensitivity = baked_width_mm(raw, 1.7)
    more, less = (baked_width_mm(raw, 1.7 + by)[0] for by in (1e-5, -1e-5))
    assert sensitivity == pytest.approx(math.log(more / less) / 2e-5, rel=1e-4)
    assert width > raw.width_mm


def test_a_pan_is_as_wide_as_it_is() -> None:
    pan = replace(DISC, form="pan")
    assert baked_width_mm(pan, 5.0) == (pan.width_mm, 0.0)


def test_the_band_is_made_of_all_that_is_not_known() -> None:
    found = foreseen(portion_cv=0.1)
    _, sensitivity = baked_width_mm(BALL, 1.66)
    # At home at large: the law's own uncertainty, the noise from bake to bake, uneven hands.
    formula = sensitivity * math.sqrt(0.0004 + 0.2**2 * 0.0025 + LAW_SD**2)
    assert found.formula_sd == pytest.approx(formula)
    assert found.oven_sd == pytest.approx(sensitivity * 0.03)
    assert found.hands_sd == pytest.approx(0.04)
    edge = EDGE_SD * (1 - sensitivity)
    every = (found.formula_sd, found.oven_sd, found.hands_sd, edge, RULER_SD)
    assert half(found) == pytest.approx(math.hypot(*every))


def test_uneven_slices_differ_in_height_and_hardly_in_width() -> None:
    _, sensitivity = baked_width_mm(DISC, 1.66)
    assert foreseen(DISC, portion_cv=0.1).hands_sd == pytest.approx(0.04 * sensitivity)


def test_a_dough_far_from_every_measured_one_is_less_sure_until_it_was_baked() -> None:
    _, sensitivity = baked_width_mm(BALL, 1.6 + 0.4 * 0.3)
    between = foreseen(sugar=0.4)
    # 0.2 from both, at a reach of √(0.3² + 0.4²) for each unit of sugar.
    steps = 0.2 * 0.5 / UNSEEN_REACH
    unseen = math.hypot(LAW_SD, UNSEEN_SD * math.sqrt(1 - math.exp(-(steps**2) / 2)))
    law = 0.0004 + 0.4**2 * 0.0025
    assert between.formula_sd == pytest.approx(sensitivity * math.sqrt(law + unseen**2))
    # What has been baked here is not unseen any more.
    for bakes, variance in ((0, 0.0001 + unseen**2), (1, 0.0001)):
        taught = foreseen(sugar=0.4, learnt=Taught(0.0, bakes))
        assert taught.formula_sd == pytest.approx(sensitivity * math.sqrt(variance))
        assert taught.bakes == bakes


def test_a_model_without_any_measured_dough_knows_none() -> None:
    blank = replace(MODEL, measured=np.empty((0, 3)))
    assert blank.unseen_sd(np.array([1.0, 0.2, 0.0])) == math.hypot(LAW_SD, UNSEEN_SD)
    assert MODEL.unseen_sd(np.array([1.0, 0.6, 0.0])) == LAW_SD
    # The flow's own scale is no step: every piece has one.
    assert MODEL.unseen_sd(np.array([0.0, 0.6, 1.0])) == LAW_SD


def test_what_was_learnt_shifts_the_middle_and_is_told_in_mm() -> None:
    plain, taught = foreseen(), foreseen(learnt=Taught(0.05, 3))
    assert plain.learnt_mm == 0
    assert plain.bakes == 0
    assert taught.middle_mm == pytest.approx(baked_width_mm(BALL, 1.71)[0])
    assert taught.learnt_mm == pytest.approx(taught.middle_mm - plain.middle_mm)
    assert taught.oven_sd < plain.oven_sd


def test_a_mover_is_what_the_piece_would_lack_without_it() -> None:
    (mover,) = foreseen(sugar=0.2).movers
    assert mover.key == "sugar"
    assert mover.mm == pytest.approx(foreseen().middle_mm - foreseen(sugar=0.0).middle_mm)
    assert foreseen(sugar=0.0).movers == ()
