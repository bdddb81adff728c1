"""Forms of a rope: as long as it was rolled, on its own room, thicker where two strands lie."""

from itertools import pairwise

import pytest

from finebatch.core.piece.kinds.rope import Roped
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.rope_line import RopeForm, box_of, length_of, rope_line

LOT = Lot(1000.0, 1.2)
BENT: list[RopeForm] = ["ring", "spiral", "bow", "s", "crossed"]


@pytest.mark.parametrize("form", BENT)
@pytest.mark.parametrize("half", [False, True])
def test_a_rope_keeps_its_length_whatever_it_is_bent_to(form: RopeForm, half: bool) -> None:
    line = rope_line(form, 200, 12, half=half)
    assert length_of(line) == pytest.approx(200, rel=0.03)
    across, down = box_of(line, 12)
    # From its own corner, the thickness included.
    assert min(x for x, _ in line) == pytest.approx(6)
    assert min(y for _, y in line) == pytest.approx(6)
    assert across < 212
    assert down < 212


def test_coils_touch_and_do_not_lie_on_each_other() -> None:
    line = rope_line("spiral", 300, 10)
    across, down = box_of(line, 10)
    # A rope of that length and thickness fills about that disc.
    assert 0.7 < 300 * 10 / (3.1416 / 4 * across * down) < 1.1


def test_an_s_turns_one_way_and_then_the_other() -> None:
    line = rope_line("s", 200, 12)
    turns = [
        (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])
        for (a, b), (_, c) in zip(pairwise(line), pairwise(line[1:]), strict=False)
    ]
    half = len(turns) // 2
    assert all(turn > 0 for turn in turns[: half - 1])
    assert all(turn < 0 for turn in turns[half + 1 :])


@pytest.mark.parametrize("form", ["straight", *BENT, "twist"])
def test_each_form_has_room_of_its_own_and_is_drawn(form: RopeForm) -> None:
    piece = Roped(grams=25, length_mm=180, form=form)
    raw = piece.raw(LOT)
    assert raw.grams == pytest.approx(25)
    made = piece.close(raw, raw.width_mm * 1.2)
    lies = piece.lies(raw, raw.width_mm * 1.2)
    assert lies.baked_mm == (made.across_mm, made.down_mm)
    assert all(baked > before for baked, before in zip(lies.baked_mm, lies.raw_mm, strict=True))
    assert made.baked_mm > made.rope_mm
    assert len(made.line) > 1


def test_a_twist_is_thicker_and_a_spiral_flatter_than_the_rope() -> None:
    rope, twist, spiral = (
        Roped(grams=25, length_mm=180, form=form).raw(LOT)
        for form in ("straight", "twist", "spiral")
    )
    assert twist.height_mm > 1.3 * rope.height_mm
    assert spiral.height_mm < rope.height_mm
    assert spiral.across_mm > 2.5 * rope.width_mm
