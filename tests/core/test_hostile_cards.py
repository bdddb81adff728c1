"""Whatever is pasted is read or refused, in a second or two: none of it holds a core."""

import random
import time

import pytest

from finebatch.core.refusal import Refusal
from finebatch.facts import tables
from finebatch.workflow.dough.from_card import understand
from finebatch.workflow.kitchen.equipment import usual_kitchen
from tests.chance import so_many
from tests.ordinary import CARDS

MOST_CPU_S = 4.0
"""About a second on a quiet machine; a processor that others share counts up to three times as much
(measured beside two busy browsers)."""
MOST_LETTERS = 1_000_000
ATOMS = [
    *("1 ", "/", "a ", "half ", "and ", "( ", "or ", "to ", "- ", ",", ".", "½", "cup ", "g "),
    *(
        "°C ",
        "  ",
        "\t",
        "for the ",
        "roll ",
        "bake ",
        "in ",
        "x ",
        "9" * 30,
        "e" * 40,
        "((((",
        "°",
    ),
    *(
        " of ",
        "eggs ",
        "\u200b",
        "🙂",
        "1 1/2 ",
        "–",
        "make ",
        "balls ",
        "cm ",
        "thick ",
        "½½½",
        "1-",
    ),
    *(
        "1 to ",
        "divide into ",
        "log ",
        "long ",
        "minutes ",
        "hour ",
        "overnight ",
        "weight of ",
        "\n",
    ),
]
WORDS = " ".join(CARDS.values()).split()


def drawn(rng: random.Random) -> str:
    """A text that is nothing, or a card gone wrong."""
    letters = rng.choice([100, 5_000, 100_000, MOST_LETTERS])
    kind = rng.randrange(4)
    if kind == 0:
        one = "".join(rng.sample(ATOMS, rng.randint(1, 3)))
        return one * (letters // len(one))
    if kind == 1:
        return "".join(rng.choice(ATOMS) for _ in range(letters // 4))
    if kind == 2:
        lines = min(letters // 60 + 1, 490)
        return "\n".join(" ".join(rng.choices(WORDS, k=rng.randint(1, 60))) for _ in range(lines))
    return "".join(chr(rng.randint(32, 0x2FFF)) for _ in range(letters // 2))


@pytest.fixture(scope="module", autouse=True)
def _warm() -> None:
    """What is looked up once is there already."""
    understand(next(iter(CARDS.values())), tables.reader(), usual_kitchen())


@pytest.mark.chance
@pytest.mark.parametrize("seed", range(so_many(12)))
def test_a_hostile_text_is_read_or_refused_at_once(seed: int) -> None:
    text = drawn(random.Random(seed))
    began = time.process_time()
    try:
        understand(text, tables.reader(), usual_kitchen())
    except Refusal as refusal:
        assert refusal.faults[0].message
    assert time.process_time() - began < MOST_CPU_S
