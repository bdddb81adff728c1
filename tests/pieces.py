"""Random portionings, doughs and kitchens for the property tests."""

from hypothesis import strategies as st

from finebatch.core.formula.composition import Composition, compose
from finebatch.core.formula.dough import Family
from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.filled_pan import FilledPan
from finebatch.core.piece.kinds.on_paper import SlabOnPaper
from finebatch.core.piece.kinds.pan import Pan
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.rope import Roped
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.core.piece.kinds.twice_baked import TwiceBaked
from finebatch.core.piece.kinds.wafer import Wafer
from finebatch.core.piece.rows import Sheet
from finebatch.core.piece.tray import TrayBasis
from finebatch.facts import tables

PLAIN = {
    "flour_ap": 500.0,
    "butter_unsalted": 300.0,
    "sugar_white": 280.0,
    "egg_whole": 100.0,
    "baking_soda": 4.0,
}
HOW = BakeConditions(18, 180, "conventional", "parchment")

cutters = st.one_of(
    st.floats(35, 90).map(lambda w: Cutter("round", w)),
    st.floats(35, 80).map(lambda w: Cutter("square", w)),
    st.tuples(st.floats(30, 70), st.floats(30, 90)).map(lambda b: Cutter("rectangle", *b)),
    st.floats(35, 80).map(lambda w: Cutter("hexagon", w)),
    st.tuples(st.floats(40, 70), st.floats(40, 90)).map(
        lambda b: Cutter("own", *b, 0.6 * b[0] * b[1] / 100)
    ),
)
drops = st.builds(
    Drop,
    st.floats(8, 90),
    st.sampled_from(["ball", "left", "tapped", "dented"]),
    st.none() | st.floats(6, 60),
    st.booleans(),
)
rolled = st.builds(
    Rolled,
    st.floats(3, 9),
    cutters,
    st.floats(0, 6),
    st.integers(1, 4),
    st.booleans(),
    st.booleans(),
)
sliced = st.builds(
    Sliced, st.floats(35, 70), st.floats(4, 12), st.floats(0, 8), st.floats(150, 400)
)
on_paper = st.builds(
    SlabOnPaper,
    st.floats(120, 280),
    st.floats(120, 280),
    st.floats(4, 15),
    st.floats(0, 12),
    st.integers(1, 8),
    st.integers(1, 8),
)
pans = st.builds(
    Pan,
    st.sampled_from(["round", "square", "rectangle"]),
    st.floats(150, 300),
    st.floats(150, 300),
    st.just(60.0),
    st.integers(2, 6),
    st.integers(2, 6),
    st.integers(4, 12),
    st.floats(6, 20),
)
filled = st.builds(
    FilledPan,
    st.sampled_from(["round", "square", "rectangle"]),
    st.floats(180, 300),
    st.floats(180, 300),
    st.just(60.0),
    st.integers(2, 6),
    st.integers(2, 6),
    st.integers(4, 12),
    st.floats(40, 100),
    st.integers(1, 2),
)
ropes = st.builds(
    Roped, st.floats(12, 40), st.floats(160, 260), st.sampled_from(["straight", "ring", "twist"])
)
logs = st.builds(
    TwiceBaked,
    st.floats(200, 450),
    st.floats(220, 320),
    st.floats(45, 65),
    st.floats(8, 20),
    st.floats(0, 45),
)
wafers = st.builds(Wafer, st.floats(5, 12), st.floats(55, 90), st.floats(30, 90), st.floats(4, 20))
portionings: st.SearchStrategy[Portioning] = st.one_of(
    drops, rolled, sliced, on_paper, pans, filled, ropes, logs, wafers
)


def dough_of(change: dict[str, float] | None = None) -> Composition:
    """A plain butter dough, with some lines changed."""
    return compose({**PLAIN, **(change or {})}, tables.larder())


def basis_of(
    dough: Composition | None = None,
    how: BakeConditions = HOW,
    family: Family = "drop",
    sheet: Sheet | None = None,
) -> TrayBasis:
    """What a tray rests on: that dough in a usual kitchen."""
    room = sheet or Sheet(405, 360)
    return TrayBasis(tables.models(), dough or dough_of(), family, how, room, "weighed")
