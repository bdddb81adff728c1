"""The oven's map: what photographed trays say of its sides."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest

from finebatch.core.book.oven_map import oven_maps, tilt_of
from finebatch.core.book.pictured import Pictured, PiecePictured, SheetSide


def _place(x: int, y: int) -> tuple[float, float]:
    return 2 * (45 + 79 * x) / 405 - 1, 2 * (38 + 76 * y) / 305 - 1


def tray(
    seed: int, darker: Callable[[float, float], float], back: SheetSide = "far", noise: float = 0.3
) -> Pictured:
    """Twenty pieces; `darker` in steps at places from −1 to 1, as the photograph shows them."""
    rng = np.random.default_rng(seed)
    pieces = [
        PiecePictured(
            name=f"{'ABCD'[y]}{x + 1}",
            x_mm=45 + 79 * x,
            y_mm=38 + 76 * y,
            width_mm=66 * float(np.exp(rng.normal(0, 0.03))),
            length_mm=66,
            step=float(np.clip(4 + darker(*_place(x, y)) + rng.normal(0, noise), 1, 7)),
        )
        for y in range(4)
        for x in range(5)
    ]
    return Pictured(wide_mm=405, deep_mm=305, pieces=tuple(pieces), back=back)


@pytest.mark.parametrize(
    ("back", "seen", "hot"),
    [
        ("far", lambda x, y: 0.5 * x, "right"),
        ("near", lambda x, y: 0.5 * x, "left"),
        ("far", lambda x, y: -0.5 * y, "back"),
        ("near", lambda x, y: -0.5 * y, "front"),
        ("right", lambda x, y: 0.5 * x, "back"),
        ("left", lambda x, y: 0.5 * x, "front"),
        ("right", lambda x, y: 0.5 * y, "right"),
    ],
)
def test_the_side_that_browns_first_is_told_whichever_way_the_sheet_lay(
    back: SheetSide, seen: Callable[[float, float], float], hot: str
) -> None:
    (found,) = oven_maps([tray(n, seen, back) for n in range(3)])
    assert found.hot_side == hot
    assert found.hot_side_steps == pytest.approx(1.0, abs=0.3)
    assert (found.trays, found.hot_corners) == (3, False)


def test_an_even_oven_has_no_hot_side() -> None:
    told = [oven_maps([tray(n, lambda _x, _y: 0.0)])[0].hot_side for n in range(20)]
    assert told.count("even") >= 19


def test_corners_that_brown_first_are_told_and_fields_without_pieces_say_so() -> None:
    (found,) = oven_maps([tray(n, lambda x, y: 5 * abs(x * y)) for n in range(4)])
    assert found.hot_corners and found.hot_side == "even"
    assert sum(field.pieces for row in found.fields for field in row) == 80
    left = [piece for piece in tray(1, lambda _x, _y: 0.0).pieces if piece.x_mm < 150]
    (half,) = oven_maps([replace(tray(1, lambda _x, _y: 0.0), pieces=tuple(left))])
    assert [row[2].pieces for row in half.fields] == [0, 0, 0]


def test_turned_trays_few_pieces_and_the_other_oven_are_told_apart() -> None:
    hot = tray(1, lambda x, _y: x)
    assert oven_maps([replace(hot, turned=True), replace(hot, pieces=hot.pieces[:5])]) == []
    second = replace(tray(2, lambda x, _y: -x), oven=2)
    assert [(one.oven, one.hot_side) for one in oven_maps([hot, second])] == [
        (1, "right"),
        (2, "left"),
    ]


def test_one_sheet_tells_how_it_tilts() -> None:
    found = tilt_of(tray(3, lambda x, y: 0.5 * x - 0.3 * y, noise=0.1))
    assert found is not None
    assert (found.right_steps, found.near_steps) == pytest.approx((1.0, -0.6), abs=0.2)
    assert tilt_of(Pictured(wide_mm=405, deep_mm=305, pieces=())) is None
