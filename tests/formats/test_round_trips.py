"""Doughs, books and sessions at random: out and in again they are identical, but for
what docs/formats.md names."""

import random
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from finebatch.core.formula.dough import Card, Line, Part
from finebatch.core.formula.method import usual_steps
from finebatch.core.formula.weigh import weigh
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.placed import Placed
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.told import MOVING
from finebatch.core.session.wish import Item
from finebatch.facts import formula, tables
from finebatch.formats.book_csv import write_book
from finebatch.formats.card_csv import read_csv, write_csv
from finebatch.formats.card_words import lines_words
from finebatch.formats.jsonld import read_recipes, write_recipe
from finebatch.formats.planned import file_plan, read_plan
from finebatch.formats.session_file import (
    FileAway,
    FileEvent,
    FilePin,
    SessionFile,
    read_session,
)
from finebatch.formats.session_writing import file_dough, file_kitchen, write_session
from tests.books import lines_of
from tests.cards import cards
from tests.chance import so_many
from tests.core.test_random_methods import a_session

READER = tables.reader()
LARDER, NAMES = READER.larder, READER.names
MANY = so_many(120)
SLOW = [HealthCheck.too_slow, HealthCheck.filter_too_much, HealthCheck.data_too_large]


@given(cards(whole=False))
@settings(max_examples=MANY, suppress_health_check=SLOW)
def test_doughs_as_recipes(card: Card) -> None:
    texts = lines_words(card.lines, weigh(card.lines, LARDER), LARDER, NAMES)
    parts = [lines_words(p.lines, weigh(p.lines, LARDER), LARDER, NAMES) for p in card.parts]
    steps = usual_steps(card, formula.step_templates(), LARDER)
    text = write_recipe(card, texts, parts, steps, None)
    assert [read.card for read in read_recipes(text, READER)] == [card]


def in_a_table(card: Card) -> Card:
    """What a table has of a dough: its lines and those of its parts, with cup and egg."""

    def part(one: Part) -> Part:
        return replace(one, per_piece_g=float(f"{one.per_piece_g:g}"))

    return Card(
        card.name,
        card.family,
        card.mixing,
        card.lines,
        parts=tuple(part(one) for one in card.parts if one.lines),
        cup=card.cup,
        egg=card.egg,
    )


def for_a_table(card: Card) -> Card:
    """The same with every line known and no blanks at a cell's ends: neither is told there."""

    def line(one: Line) -> Line:
        known = (one.unit, one.ingredient) if one.ingredient else ("g", "flour_ap")
        return replace(
            one,
            amount=one.amount.strip() or "1",
            unit=known[0],
            ingredient=known[1],
            text=one.text.strip(),
        )

    def part(one: Part) -> Part:
        return replace(one, name=one.name.strip() or "x", lines=tuple(map(line, one.lines)))

    lines = tuple(map(line, card.lines)) or (Line("1", "g", "flour_ap"),)
    parts = tuple(map(part, card.parts))
    return replace(card, name=card.name.strip(), lines=lines, parts=parts)


@given(cards(whole=False).map(for_a_table))
@settings(max_examples=MANY, suppress_health_check=SLOW)
def test_doughs_as_tables(card: Card) -> None:
    parts = [weigh(part.lines, LARDER) for part in card.parts]
    (back,) = read_csv(write_csv(card, weigh(card.lines, LARDER), parts, LARDER), "file", READER)
    assert (back.card, back.left_out) == (in_a_table(card), ())


ONE_LINE = st.text(
    st.characters(codec="utf-8", exclude_categories=["Cc", "Zl", "Zp"]), min_size=1, max_size=20
).filter(lambda text: text == text.strip() != "")
FIGURES = st.lists(st.floats(0.5, 400).map(lambda n: round(n, 2)), max_size=6)
BAKES = st.fixed_dictionaries(
    {
        "day": st.datetimes(datetime(2000, 1, 1), datetime(2190, 1, 1)).map(
            lambda at: at.replace(microsecond=0, tzinfo=UTC)
        ),
        "dough": ONE_LINE,
    },
    optional={
        "tray": ONE_LINE,
        "widths_mm": FIGURES,
        "heights_mm": FIGURES,
        "minutes": st.floats(0.25, 240).map(lambda n: round(n, 2)),
        "oven_c": st.integers(100, 260).map(float),
        "tastes": st.lists(ONE_LINE, max_size=4),
        "troubles": st.lists(st.sampled_from(["too_wide", "pale", "dry"]), max_size=3),
        "note": st.text(
            st.characters(codec="utf-8", exclude_categories=["Cc"]), max_size=60
        ).filter(lambda text: text == text.strip()),
    },
)


@given(st.lists(BAKES, max_size=12))
@settings(max_examples=MANY, suppress_health_check=SLOW)
def test_books(bakes: list[dict[str, object]]) -> None:
    book = write_book([{**bake, "day": f"{bake['day']:%Y-%m-%dT%H:%M:%S%z}"} for bake in bakes])
    found = lines_of(book)
    assert len(found) == len(bakes)
    for line, bake in zip(found, bakes, strict=True):
        day = bake["day"]
        assert isinstance(day, datetime)
        assert line.at == round(day.timestamp() * 1000)
        for name in ("dough", "tray", "note"):
            assert line.cells.get(name, "") == bake.get(name, "")
        for name in ("widths_mm", "heights_mm"):
            assert line.numbers(name) == tuple(bake.get(name, ()))  # type: ignore[arg-type]
        for name in ("minutes", "oven_c"):
            assert line.number_in(name) == bake.get(name)
        for name in ("tastes", "troubles"):
            assert line.words(name) == tuple(bake.get(name, ()))  # type: ignore[arg-type]


def a_file(chance: random.Random) -> SessionFile:
    """A session of random doughs with its plan, its pins, times away and what happened."""
    work, _, _ = a_session(chance)
    plan = quick_plan(work)
    zone = chance.choice([UTC, datetime.now().astimezone().tzinfo])
    base = datetime(2026, 10, 24, chance.randrange(24), chance.randrange(60), tzinfo=zone)

    def at(minute: int) -> datetime:
        return base + timedelta(minutes=minute)

    hands = [job for job in plan.activities if job.hands]
    events = [
        FileEvent(at=at(job.end), kind=chance.choice(["done", "felt"]), activity=f"{job.id}")
        for job in hands[: chance.randrange(4)]
    ]
    events += [FileEvent(at=at(plan.finish), kind="away", minutes=chance.randint(1, 90))]
    return SessionFile(
        finebatch="session",
        name=chance.choice(["Advent, “the long one”", "Käse 🧀", "A | B", "-1"]),
        start=base if chance.random() < 0.5 else None,
        kitchen=file_kitchen(work.kitchen, [FileAway(start=at(5), end=at(40))]),
        doughs=[
            file_dough(
                work,
                dough.letter,
                chance.choice(["Rounds", "=Rye; dates", "ビスケット"]) + dough.letter,
                "fresh",
                Item(1, pieces=chance.choice([None, 12]), times=chance.choice([1.0, 0.5])),
            )
            for dough in work.doughs
        ],
        pins=[FilePin(job=f"{job.id}", start=at(job.start)) for job in hands[:2]],
        plan=file_plan(work, plan, base),
        events=events if chance.random() < 0.5 else [],
    )


def where_and_when(a: Placed) -> tuple[object, ...]:
    return a.id, a.start, a.end, a.sheet, a.oven, a.shelf, a.to_shelf, a.dial_c


@pytest.mark.parametrize("seed", range(MANY // 20))
def test_sessions(seed: int) -> None:
    chance = random.Random(seed)
    for _ in range(20):
        file = a_file(chance)
        text = write_session(file)
        back = read_session(text)
        assert back == file
        assert write_session(back) == text
        assert file.plan is not None
        base = min(a.start for a in file.plan.activities)
        again = read_plan(file.plan, back.work(base), base)
        assert list(map(where_and_when, again.activities)) == [
            (
                JobKey.read(a.id),
                *(round((at - base).total_seconds() / 60) for at in (a.start, a.end)),
                *(a.sheet, a.oven, a.shelf, a.to_shelf, a.dial_c),
            )
            for a in file.plan.activities
        ]
        assert {event.kind for event in back.events} <= {*MOVING, "felt"}
