"""Cards at random for the property tests: only what the types allow, and all of that."""

from hypothesis import strategies as st

from finebatch.core.formula.dough import Card, Line, Part
from finebatch.core.formula.step import Step
from finebatch.facts import tables

LARDER = tables.larder()
KEYS = sorted(LARDER)
EGGS = sorted(tables.egg_sizes())

texts = st.text(st.characters(codec="utf-8", exclude_characters="\0"), max_size=40)
amounts = st.one_of(
    st.integers(1, 900).map(str),
    st.decimals("0.1", "900", places=1).map(str),
    st.builds(
        lambda whole, part: f"{whole or ''} {part}".strip(),
        st.integers(0, 9),
        st.sampled_from(["1/4", "1/3", "1/2", "2/3", "3/4", "1/8"]),
    ),
)


@st.composite
def lines(draw: st.DrawFn, *, whole: bool = True) -> Line:
    """A line; a `whole` one can be weighed."""
    key = draw(st.sampled_from(KEYS))
    unit = draw(st.sampled_from(LARDER[key].units))
    if whole:
        return Line(draw(amounts), unit, key)
    return Line(
        draw(st.one_of(amounts, texts)),
        unit,
        draw(st.sampled_from([key, None])),
        text=draw(texts),
        chosen=draw(st.one_of(st.just(""), amounts)),
        cup=draw(st.sampled_from([None, "spooned", "sifted", "dipped"])),
        egg=draw(st.sampled_from([None, *EGGS])),
    )


steps = st.builds(Step, texts, st.integers(0, 240), st.integers(0, 2880), cue=texts, caution=texts)
parts = st.builds(
    Part,
    st.sampled_from(["wash", "filling", "coating", "topping", "icing", "dip", "dusting"]),
    texts.filter(bool),
    st.lists(lines(whole=False), max_size=4).map(tuple),
    st.floats(0, 500).map(lambda g: round(g, 2)),
)


@st.composite
def cards(draw: st.DrawFn, *, whole: bool = True) -> Card:
    """A card; a `whole` one has flour and only lines that can be weighed."""
    written = draw(st.lists(lines(whole=whole), max_size=12))
    if whole:
        written = [Line("250", "g", "flour_ap"), *written]
    return Card(
        name=draw(texts.filter(lambda name: bool(name.strip()))),
        family=draw(st.sampled_from(["drop", "rolled", "shortbread", "twice_baked"])),
        mixing=draw(st.sampled_from(["creamed", "rubbed_in", "melted", "oil", "whisked"])),
        lines=tuple(written),
        steps=tuple(draw(st.lists(steps, max_size=4))),
        parts=() if whole else tuple(draw(st.lists(parts, max_size=2, unique_by=lambda p: p.name))),
        stated_pieces=draw(st.one_of(st.none(), st.integers(1, 999))),
        stated_oven="" if whole else draw(texts),
        note="" if whole else draw(texts),
        cup=None if whole else draw(st.sampled_from([None, "sifted", "dipped"])),
        egg=None if whole else draw(st.sampled_from([None, *EGGS])),
        settled=() if whole else tuple(draw(st.lists(texts, max_size=2))),
    )
