"""Documents of the data file: strict from their first version on, lenient to what came before."""

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from pydantic import ValidationError

from finebatch.core.formula.dough import Card
from finebatch.core.measures.kitchen_units import METRIC, KitchenUnits
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.every import KINDS
from finebatch.core.plan.habits import Helper, Planning
from finebatch.core.refusal import Refusal
from finebatch.core.tray.setting import TraySetting
from finebatch.store.database import Database
from finebatch.store.documents import (
    BEFORE,
    CALENDAR,
    CARD,
    INGREDIENT,
    KEPT_SESSION,
    KITCHEN,
    OCCASION,
    PACK,
    PLAN,
    RAW,
    SEEN,
    SETTING,
    SNAPSHOT,
    VERSION,
    WORK,
    Document,
)
from finebatch.workflow.dough.doughs import add_dough, change_tray
from finebatch.workflow.kitchen.equipment import usual_kitchen

USUAL = TraySetting(Drop(grams=28), "weighed", 20.0, 180.0, "parchment", 30)


def kept(**changes: Any) -> dict[str, Any]:
    document = SETTING.write(USUAL)
    del document[VERSION]
    return {**document, **changes}


def test_what_is_written_is_read_again() -> None:
    assert SETTING.read(SETTING.write(USUAL)) == USUAL
    assert KITCHEN.read(KITCHEN.write(usual_kitchen())) == usual_kitchen()


def test_a_field_that_nobody_knows_is_refused_rather_than_lost() -> None:
    document = {**kept(), "oven_degrees": 180, VERSION: 1}
    with pytest.raises(ValidationError, match="oven_degrees"):
        SETTING.read(document)


def test_a_document_of_before_lets_go_of_what_nobody_knows_any_more() -> None:
    assert SETTING.read(kept(steam=True)) == USUAL


def test_a_newer_document_is_not_guessed_at() -> None:
    with pytest.raises(ValueError, match="newer than the application"):
        SETTING.read({**kept(), VERSION: SETTING.version + 1})


@pytest.mark.parametrize(
    ("change", "found"),
    [
        ({"oven_c": 900}, replace(USUAL, oven_c=300)),
        ({"dough_temp_c": -200}, replace(USUAL, dough_temp_c=-25)),
        ({"sheet": "x" * 99}, replace(USUAL, sheet="x" * 40)),
        (
            {"piece": {"kind": "drop", "grams": 9999, "press_mm": 1}},
            replace(USUAL, piece=Drop(grams=5000, press_mm=3)),
        ),
        ({"piece": {"kind": "drop", "grams": 0}}, replace(USUAL, piece=Drop(grams=1))),
    ],
)
def test_figures_of_before_beyond_what_can_be_open_at_the_nearest(
    change: dict[str, Any], found: TraySetting
) -> None:
    assert SETTING.read(kept(**change)) == found


def test_what_could_not_be_read_again_is_not_kept() -> None:
    with pytest.raises(Refusal, match="oven_c: Give at most"):
        SETTING.write(replace(USUAL, oven_c=301))


def test_a_transaction_says_what_could_not_be_read_again(tmp_path: Path) -> None:
    database = Database(tmp_path / "mine.sqlite3")
    with database.writing() as session:
        dough = add_dough(session, Card("Rounds", "drop", "creamed", ()), 0)
    with pytest.raises(Refusal, match="oven_c"), database.writing() as session:
        change_tray(session, dough.id, replace(dough.tray, oven_c=999.0))


def test_a_kitchen_whose_tools_were_never_touched_has_the_usual_ones() -> None:
    document = KITCHEN.write(usual_kitchen())
    for name in (VERSION, "scoops", "cutters"):
        del document[name]
    assert KITCHEN.read(document) == replace(usual_kitchen(), units=METRIC)


@pytest.mark.parametrize(
    ("before", "units"),
    [
        ({}, METRIC),
        ({"own_units": "ounces"}, KitchenUnits(mass="ounces")),
        ({"own_units": "cups"}, KitchenUnits(volume="cups")),
    ],
)
def test_a_kitchen_of_before_reads_as_it_did(before: dict[str, Any], units: KitchenUnits) -> None:
    document = {key: told for key, told in KITCHEN.write(usual_kitchen()).items() if key != "units"}
    assert KITCHEN.read({**document, **before, VERSION: 1}).units == units


GOLDEN = sorted((Path(__file__).parent / "golden").glob("*.json"))
KINDS_OF_DOCUMENT = {
    "card": CARD,
    "setting": SETTING,
    "kitchen": KITCHEN,
    "ingredient": INGREDIENT,
    "snapshot": SNAPSHOT,
    "work": WORK,
    "plan": PLAN,
    "before": BEFORE,
    "raw": RAW,
    "seen": SEEN,
    "occasion": OCCASION,
    "keptsession": KEPT_SESSION,
    "pack": PACK,
    "calendar": CALENDAR,
}


def kind_of(file: Path) -> Document[Any]:
    return KINDS_OF_DOCUMENT[file.name.split(".")[0].split("_")[0]]


@pytest.mark.parametrize("file", GOLDEN, ids=lambda file: file.stem)
def test_a_golden_document_is_read_and_written_as_it_was(file: Path) -> None:
    """A field renamed or left out without an upgrade turns this red."""
    kept = json.loads(file.read_text())
    document = kind_of(file)
    again = json.loads(json.dumps(document.write(document.read(kept))))
    assert document.read(again) == document.read(kept)
    if kept[VERSION] == document.version:
        assert without_order(again) == without_order(kept)


def without_order(kept: Any) -> Any:
    """A document whose sets are in no order."""
    if isinstance(kept, dict):
        return {key: without_order(value) for key, value in kept.items()}
    if isinstance(kept, list):
        inner = [without_order(value) for value in kept]
        return sorted(inner) if all(isinstance(one, str) for one in inner) else inner
    return kept


def test_each_kind_of_document_has_a_golden_one_of_its_newest_version() -> None:
    there = {file.name for file in GOLDEN}
    wanted = {f"{name}.v{kind.version}.json" for name, kind in KINDS_OF_DOCUMENT.items()}
    assert wanted <= there
    assert all(f"setting_{kind}.v1.json" in there for kind in KINDS)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"sheet": "x" * 41}, "sheet: Write at most 40 letters"),
        ({"sheet": "half \ud800"}, "sheet: There is a broken character"),
        ({"oven_c": float("nan")}, "oven_c: Give a number"),
        ({"piece": Drop(grams=28, topping_g=999)}, "piece.drop.topping_g: Give at most"),
    ],
)
def test_a_limit_is_said_in_a_bakers_words(change: dict[str, Any], words: str) -> None:
    with pytest.raises(Refusal, match=words):
        SETTING.write(replace(USUAL, **change))


def test_too_many_of_something_is_said_as_such() -> None:
    helpers = tuple(Helper(f"Kim {n}") for n in range(5))
    crowded = replace(usual_kitchen(), planning=Planning(helpers=helpers))
    with pytest.raises(Refusal, match=r"planning\.helpers: At most 4 of these"):
        KITCHEN.write(crowded)
    nameless = replace(usual_kitchen(), planning=Planning(helpers=(Helper(""),)))
    with pytest.raises(Refusal, match=r"helpers\.0\.name: Write something here"):
        KITCHEN.write(nameless)
