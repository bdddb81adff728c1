"""A loaded tray before it is baked: even portions, odd ones, and those that will touch."""

import pytest

from finebatch.core.photo.raw import LoadedPiece, OddPortion, look_at


def loaded(*widths: float, apart: float = 90.0) -> list[LoadedPiece]:
    return [LoadedPiece(f"A{n + 1}", (50 + apart * n, 60), wide) for n, wide in enumerate(widths)]


def test_even_portions_far_apart_say_nothing_more() -> None:
    found = look_at(loaded(36, 36.5, 35.8, 36.2), 36, 70, flat=False)
    assert found is not None
    assert (found.heavier, found.odd, found.will_touch) == (None, (), ())
    assert found.cv < 0.03
    assert look_at(loaded(36), 36, 70, flat=False) is None


def test_one_that_is_far_heavier_is_odd_and_makes_no_other_odd() -> None:
    found = look_at(loaded(36, 36, 40, 36, 36), 36, 70, flat=False)
    assert found is not None
    assert found.odd == (OddPortion("A3", pytest.approx(0.37, abs=0.01)),)
    flat = look_at(loaded(36, 36, 40, 36, 36), 36, 40, flat=True)
    assert flat is not None and flat.odd[0].share == pytest.approx(0.23, abs=0.01)


def test_heavier_ones_bake_wider_and_touch_sooner() -> None:
    assert look_at(loaded(36, 36, apart=72), 36, 70, flat=False).will_touch == ()  # type: ignore[union-attr]
    found = look_at(loaded(40, 40, apart=72), 36, 70, flat=False)
    assert found is not None
    assert found.heavier == pytest.approx(0.37, abs=0.01)
    assert found.will_touch == (("A1", "A2"),)
