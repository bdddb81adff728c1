"""Sessions made of methods at random: whatever is written in whatever order, the plan keeps every
rule, and each step of a card is told once."""

import random
from collections import Counter
from dataclasses import replace

import pytest

from finebatch.core.formula.card_text import read_step
from finebatch.core.formula.dough import Card, Family, Line, Mixing
from finebatch.core.method.clauses import clauses_of
from finebatch.core.method.of_card import programme_of_card
from finebatch.core.method.programme import Programme
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.pan import Pan
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.rope import Roped as Rope
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.core.piece.kinds.twice_baked import TwiceBaked
from finebatch.core.piece.kinds.wafer import Wafer
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.habits import Planning
from finebatch.core.plan.prepare import Portioned, prepare
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import Work
from finebatch.core.session.job_steps import job_steps, oven_steps
from finebatch.facts import formula, tables
from tests.chance import so_many
from tests.core.test_session_work import portioned

PIECES: dict[Family, tuple[Portioning, ...]] = {
    "drop": (Drop(grams=28), Wafer(grams=8), Drop(grams=120)),
    "rolled": (Rolled(), Rope(grams=30, length_mm=180)),
    "shortbread": (Sliced(), Pan()),
    "twice_baked": (TwiceBaked(),),
}
SAYINGS = {
    "ready": (
        "Toast the {nut} for {m} minutes.",
        "Toast the {nut} for {m} minutes and let them cool.",
        "Melt the butter and let it cool for {m} minutes.",
        "Take the butter out {h} hours before.",
        "Chop the {nut}, zest the lemon.",
        "Line two sheets with parchment.",
    ),
    "mix": (
        "Cream butter and sugar for {s} minutes.",
        "Beat in the egg, then fold in the flour.",
        "Whisk eggs and sugar until pale, {s} min.",
        "Stir in the {nut}. Rest {m} minutes on the bench.",
        "Knead briefly and let it rest for {m} min.",
        "Rub the butter into the flour; bring together with the yolk.",
    ),
    "shape": (
        "Flatten to two discs, wrap and chill {m}-{n} minutes.",
        "Form 2 logs, wrap in film and chill at least {h} hours or overnight.",
        "Wrap the dough. Freeze for {m} minutes.",
        "Let it stand {s} minutes if it is too hard to roll.",
        "Chill.",
        "",
    ),
    "make": (
        "Roll {s} mm thick and cut. Prick with a fork.",
        "Scoop balls, roll them in sugar and press a {nut} into each.",
        "Dent each with a thumb, fill with jam. Chill the trays for {m} minutes.",
        "Brush with egg wash and sprinkle with sugar.",
        "Leave the shaped pieces to dry for {m} min.",
    ),
    "bake": (
        "Heat the oven to {c} C. Bake {m} minutes until golden.",
        "Bake at {c} °C for {m} min, turning the tray half way.",
        "Bake {m} to {n} minutes. Re-cut while hot.",
    ),
    "after": (
        "Leave on the sheet for {s} minutes, then move to a rack.",
        "Cool completely on the sheet.",
        "Do not touch for {m} minutes: they are fragile.",
        "Ice when cold and let it set for {h} hours.",
        "Dip in chocolate; dust with icing sugar.",
        "Wrap the rest of the dough and freeze it.",
        "Keep in a tin.",
    ),
}


def a_card(chance: random.Random, family: Family) -> Card:
    def said(text: str) -> str:
        return text.format(
            nut=chance.choice(["walnuts", "almonds", "hazelnuts"]),
            s=chance.randint(2, 9),
            m=chance.randint(5, 40),
            n=chance.randint(41, 90),
            h=chance.randint(1, 3),
            c=chance.randrange(150, 210, 5),
        )

    texts = [
        said(text)
        for sayings in SAYINGS.values()
        for text in chance.sample(sayings, chance.randint(0, 3))
        if text
    ]
    if chance.random() < 0.25:
        chance.shuffle(texts)
    mixing: Mixing = chance.choice(["creamed", "melted", "whisked", "rubbed_in"])
    lines = (Line("250", "g", "flour_ap"), Line("180", "g", "butter_unsalted"))
    without = tuple(chance.sample(["weigh", "soften"], chance.randint(0, 2)))
    return Card(
        "At random", family, mixing, lines, steps=tuple(map(read_step, texts)), without=without
    )


def a_session(chance: random.Random) -> tuple[Work, dict[str, Card], dict[str, Programme]]:
    kitchen = Planning(
        wash_min=chance.choice([0, 4]),
        clear_min=chance.choice([0, 10]),
        fridge_places=chance.randint(1, 4),
        cold_on_sheet=chance.random() < 0.2,
    ).kitchen((chance.randint(1, 4), 4), chance.randint(1, 2), "conventional", ())
    doughs: list[Portioned] = []
    cards: dict[str, Card] = {}
    programmes: dict[str, Programme] = {}
    for letter in "ABC"[: chance.randint(1, 3)]:
        family = chance.choice(list(PIECES))
        piece = chance.choice(PIECES[family])
        card = a_card(chance, family)
        programme = programme_of_card(
            card,
            formula.usual_method(),
            tables.larder(),
            kg=0.6,
            chill_min=chance.choice([0, 30, 60, 120]),
            kept_as="log" if family == "shortbread" else "lump",
        )
        cards[letter], programmes[letter] = card, programme
        doughs.append(
            portioned(
                piece,
                letter,
                habits=tables.families()[family],
                programme=programme,
                mixing=card.mixing,
                parts=chance.sample([("icing", ""), ("wash", ""), ("filling", "")], 1)
                if chance.random() < 0.4
                else (),
                pool=int(isinstance(piece, Pan)),
                oven_c=float(chance.choice([150, 175, 190])),
                kept=chance.choice([0, 0, 6]),
            )
        )
    return prepare(doughs, kitchen, tables.part_habits(), formula.step_habits()), cards, programmes


@pytest.mark.parametrize("seed", range(so_many(25)))
def test_a_session_of_random_methods_keeps_every_rule(seed: int) -> None:
    work, cards, programmes = a_session(random.Random(seed))
    plans = [quick_plan(work)]
    if seed % 5 == 0:
        plans.append(best_plan(work, 0.2))
    for found in plans:
        assert find_faults(found, work) == []
    there = {a.id for a in plans[0].activities}
    told = {key: own for key, own in job_steps(work, programmes).items() if key in there}
    for letter, card in cards.items():
        first = work.trays_of(letter)[0].name
        steps = [
            (step.card_step, step.text)
            for key, own in told.items()
            if key.whose in (letter, first)
            for step in own
            if step.origin == "card"
        ]
        wanted = {(one.line, one.text) for one in clauses_of([step.text for step in card.steps])}
        oven = {(step.card_step, step.text) for step in oven_steps(programmes)}
        assert wanted <= {*steps, *oven, *every_other(work, letter, told)}
        if len(work.dough(letter).made) <= 3 and work.dough(letter).lots == 1:
            assert max(Counter(steps).values(), default=1) == 1


def every_other(work: Work, letter: str, told: object) -> set[tuple[int | None, str]]:
    """Steps that are told of later trays only: what is done with scraps or with what is kept."""
    assert isinstance(told, dict)
    return {
        (step.card_step, step.text)
        for tray in work.trays_of(letter)[1:]
        for key, own in told.items()
        if key.whose == tray.name
        for step in own
    }


@pytest.mark.parametrize("seed", range(so_many(8)))
def test_a_dough_of_another_day_is_baked_then_and_the_rest_before(seed: int) -> None:
    chance = random.Random(seed)
    work, _, _ = a_session(chance)
    morning = 1320 + chance.randint(0, 90)
    letter = chance.choice(work.doughs).letter
    you = replace(work.kitchen.workers[0], away=((600, 1320),))
    doughs = tuple(
        replace(dough, bake_from=morning) if dough.letter == letter else dough
        for dough in work.doughs
    )
    work = replace(work, doughs=doughs, kitchen=replace(work.kitchen, workers=(you,)))
    found = best_plan(work, 0.2)
    assert find_faults(found, work) == []
    assert found.bound <= found.finish
    # What is not held back is out of the way before the night, where it fits.
    others = [a.end for a in found.activities if a.hands and a.dough not in (letter, None)]
    assert max(others, default=0) <= 600 or len(work.trays) > 6
    held = [a.start for a in found.activities if a.dough == letter and a.kind == "portion"]
    assert min(held) >= morning
