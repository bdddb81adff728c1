"""From the text of a card to its plan: nothing that the card says is lost, and nothing is moved."""

import json
from collections import Counter
from collections.abc import Iterator
from typing import Any

import pytest
from typer.testing import CliRunner

from finebatch.cli import app
from finebatch.core.formula.card_says import card_of
from finebatch.core.formula.card_text import read_card
from finebatch.core.method.clauses import clauses_of
from finebatch.core.plan.checker import find_faults
from finebatch.core.session.over_words import overs_said
from finebatch.facts import tables
from finebatch.formats.card_plan import write_card_plan
from finebatch.workflow.kitchen.equipment import usual_kitchen
from finebatch.workflow.session.card_plan import CardPlan, plan_cards
from tests.core.test_method import STARS
from tests.ordinary import CARDS

AT = 1_800_000_000_000
LOGS = """Sesame slices
250 g butter
150 g sugar
330 g flour

Cream, then add the flour.
Form into 2 logs about 5 cm across, wrap in film and chill for at least 2 hours or overnight.
Slice 6 mm thick and bake on parchment at 165 C for 15 minutes. Leave on the sheet 8 minutes.
Dip in the icing and leave to set for an hour.

Icing
100 g icing sugar
1 tbsp lemon juice
"""
TOLD = {"stars": STARS, "logs": LOGS, **{name: CARDS[name] for name in ("viennese", "biscotti")}}


def planned(text: str) -> CardPlan:
    return plan_cards([("card.txt", text)], usual_kitchen(), seconds=0.2, now=AT)


@pytest.fixture(scope="module")
def plans() -> dict[str, CardPlan]:
    return {name: planned(text) for name, text in TOLD.items()}


def written(plan: CardPlan) -> list[dict[str, Any]]:
    from datetime import UTC, datetime

    base = datetime.fromtimestamp(plan.start_at / 1000, UTC)
    found: list[dict[str, Any]] = write_card_plan(plan.work, plan.plan, plan.scene, base)[
        "activities"
    ]
    return found


def of_first_tray(activities: list[dict[str, Any]]) -> Iterator[tuple[str, dict[str, Any]]]:
    """The card's steps as they are told of the dough and of its first tray."""
    for activity in activities:
        if activity["tray"] in (None, "A1"):
            for step in activity["steps"]:
                if step["card_step"] is not None:
                    yield activity["stage"], step


@pytest.mark.parametrize("name", TOLD)
def test_each_instruction_is_a_step_once_and_in_order(
    plans: dict[str, CardPlan], name: str
) -> None:
    card = card_of(read_card(TOLD[name], tables.reader()), name)
    wanted = [(c.line, c.text) for c in clauses_of([step.text for step in card.steps])]
    told = [(s["card_step"], s["text"]) for _, s in of_first_tray(written(plans[name]))]
    assert Counter(told) == Counter(wanted)
    # What is toasted is toasted first; all else is done as the card has it.
    later = [step for step in told if step[0] > 1]
    assert [line for line, _ in later] == sorted(line for line, _ in later)
    assert find_faults(plans[name].plan, plans[name].work) == []


def minutes(plan: CardPlan, kind: str, tray: str | None = None, round_: int = 0) -> int:
    [found] = [
        a
        for a in plan.plan.activities
        if (a.kind, a.tray, a.id.round) == (kind, tray, round_) and a.dough in ("A", None)
    ]
    return found.end - found.start


def test_a_dough_is_chilled_as_its_card_says_from_fridge_in_to_fridge_out(
    plans: dict[str, CardPlan],
) -> None:
    assert 30 <= minutes(plans["stars"], "chill") <= 45
    assert minutes(plans["stars"], "temper") >= 10
    assert 120 <= minutes(plans["logs"], "chill") <= 720
    jobs = [a.kind for a in plans["logs"].plan.activities if a.tray is None and a.hands]
    assert [kind for kind in jobs if kind in ("mix", "form", "fetch")] == ["mix", "form", "fetch"]


def test_trays_rest_set_and_stand_as_the_card_says(plans: dict[str, CardPlan]) -> None:
    assert minutes(plans["stars"], "rest", "A1") >= 4
    assert minutes(plans["logs"], "rest", "A1") >= 8
    assert minutes(plans["logs"], "set", "A1") == 60
    assert minutes(plans["viennese"], "stand", "A1") == 30
    assert minutes(plans["biscotti"], "rest", "A1") >= 15
    # What the cards say, and what is reckoned, put together: within what they say.
    assert 14 <= minutes(plans["logs"], "bake", "A1") <= 16
    assert 10 <= minutes(plans["stars"], "bake", "A1") <= 12


def test_stages_and_whose_each_job_is_are_told(plans: dict[str, CardPlan]) -> None:
    of = {a["id"]: a for a in written(plans["stars"])}
    stages = {key: of[key]["stage"] for key in ("A.ready", "A.mix", "A.form", "A.chill", "A.fetch")}
    assert list(stages.values()) == ["get_ready", "mix", "shape", "chill", "chill"]
    assert of["A1.portion"]["stage"] == "make"
    assert of["A1.bake"]["stage"] == "bake"
    assert of["A1.rest"]["stage"] == of["A1.rack"]["stage"] == "after"
    assert (of["A.mix"]["from"], of["A1.out"]["from"]) == ("card", "usual")
    assert all(a["steps"] and a["title"] and a["says"] for a in of.values())
    portion = [step["kind"] for step in of["A1.portion"]["steps"]]
    assert portion == ["roll", "cut", "wash"]


def test_the_command_plans_cards_and_says_what_cannot_be(tmp_path: Any) -> None:
    card = tmp_path / "stars.txt"
    card.write_text(STARS)
    run = CliRunner().invoke
    asked = ["plan", "--card", str(card), "--seconds", "0.2"]
    told = run(app, [*asked, "--start", "2026-12-01T09:00", "--sheets", "3", "--json"])
    assert told.exit_code == 0, told.output
    plan = json.loads(told.stdout)
    assert plan["start"].startswith("2026-12-01T09:00")
    assert max(a["sheet"] or 0 for a in plan["activities"]) <= 3
    assert "Flatten to two discs" in run(app, asked).stdout
    kitchen = tmp_path / "kitchen.json"
    for text, status in (
        ('{"sheets": 2, "room_c": 24}', 0),
        ('{"sheets": 2, "ovens": [{"shelves": 2}]}', 0),
        ('{"sheets": 0}', 2),
        ("[1]", 2),
        ("no", 2),
    ):
        kitchen.write_text(text)
        assert run(app, [*asked, "--kitchen", str(kitchen)]).exit_code == status, text
    empty = tmp_path / "empty.txt"
    empty.write_text("?")
    for wrong in (
        ["plan"],
        ["plan", str(card), "--card", str(card)],
        [*asked, "--start", "noon"],
        [*asked, "--start", "9", "--ready-by", "10"],
        [*asked, "--ready-by", "2020-01-01T10:00"],
        ["plan", "--card", str(tmp_path / "none.txt")],
        ["plan", "--card", str(empty)],
    ):
        answer = run(app, wrong)
        assert answer.exit_code == 2, (wrong, answer.output)


SODA = """Quick soda drops
300 g flour
200 g sugar
180 g butter, melted
3 eggs
1 tsp baking soda

Stir all together. The batter must be baked within {within} minutes.
Drop teaspoons of 6 g on lined sheets. Bake at 180 C for 10 minutes.
Makes 120.
"""


@pytest.mark.parametrize("within", [45, 30, 6])
def test_a_batter_is_in_the_oven_as_soon_as_its_card_says_or_it_is_told(within: int) -> None:
    """Each tray by the bowl that was mixed for it; where one tray takes longer than that to fill,
    how few pieces on it would do."""
    plan = planned(SODA.format(within=within))
    assert find_faults(plan.plan, plan.work) == []
    at = {str(a.id): a for a in plan.plan.activities}
    late = []
    for tray in plan.work.trays:
        mixed = plan.work.dough("A").lot(tray.lot)[-1][1]
        waits = at[f"{tray.name}.load"].start - at[str(mixed)].end
        if waits > within:
            late.append(waits - within)
    said = overs_said(plan.work, plan.plan, {"A": "Quick soda drops"})
    assert bool(late) == bool(said) == (within == 6)
    if late:
        assert f"{max(late)} more than the 6 that it keeps" in said[0]
        assert "pieces on a tray it would do" in said[0]
