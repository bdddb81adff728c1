"""A job's key as it is written, and a job in words."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from finebatch.core.measures.figures import read_in
from finebatch.core.method.steps import TypedStep
from finebatch.core.piece.kinds.every import PieceKind
from finebatch.core.plan.keys import JobKey, JobKind, oven_key
from finebatch.core.plan.placed import Placed
from finebatch.core.refusal import Refusal
from finebatch.core.session.words import DoughSaid, Scene, TraySaid, length, line, place_of, say
from finebatch.facts import tables

CUES = tables.cues()["drop", "chewy"]
ROUNDS = DoughSaid("A", "Rye rounds", "drop", 28.04, 180.0, CUES, "chewy")
LOGS = DoughSaid(
    "B", "Almond logs", "twice_baked", 340.0, 170.0, CUES, "set", slice_mm=12.5, kept=4
)
TRAYS = {
    "A1": TraySaid("A1", 12, (11,)),
    "A2": TraySaid("A2", 5, (11,), scraps=True, size="large"),
    "B1": TraySaid("B1", 2, (25, 18)),
}
ONE = Scene({"A": ROUNDS}, TRAYS, sheet_names=("sheet 1", "sheet 2"), hot_sides=("left",))
TWO = Scene({"A": ROUNDS, "B": LOGS}, TRAYS, sheet_names=("sheet 1", "sheet 2"), ovens=2)


def job(text: str, **more: object) -> Placed:
    key = JobKey.read(text)
    tray = key.whose if len(key.whose) == 2 else None
    whole: dict[str, object] = {"dough": key.whose[0], **more}
    return Placed(key, tray, "bench", 0, 15, **whole)  # type: ignore[arg-type]


TOASTED = TypedStep("toast", "Toast the nuts.", 2.0, wait_min=15, caution="Hot.", card_step=1)
STEPS = {JobKey("A", "ready"): (TOASTED,), JobKey("A1", "bake"): (TypedStep("bake", "Bake it."),)}


def test_a_job_is_told_with_its_steps_and_those_of_the_wait_after_it() -> None:
    scene = replace(ONE, steps=STEPS)
    ready = say(job("A.ready", what="Weigh and toast"), scene)
    [step] = ready.steps
    assert (step.text, step.hands_min, step.wait_min, step.card_step) == (
        "Toast the nuts.",
        2,
        15,
        1,
    )
    assert ready.caution == "Hot."
    assert [s.text for s in say(job("A1.load"), scene).steps] == ["Bake it."]
    assert say(job("A.ready", what="Toast the nuts"), scene).steps == ()
    assert say(job("A.mix"), scene).steps == ()


@pytest.mark.parametrize(
    ("kind", "title", "detail"),
    [
        ("sliced", "Slice logs for tray A1", "12 pieces of 28 g, to 7 mm on sheet 1"),
        ("rolled", "Roll and cut tray A1", "12 pieces of 28 g, to 7 mm on sheet 1"),
        ("drop", "Portion tray A1", "12 pieces of 28 g, to 7 mm on sheet 1"),
    ],
)
def test_a_tray_is_made_as_its_kind_is(kind: PieceKind, title: str, detail: str) -> None:
    scene = replace(ONE, doughs={"A": replace(ROUNDS, kind=kind, worked="to 7 mm")})
    found = say(job("A1.portion", sheet=1), scene)
    assert (read_in(found.title), read_in(found.detail)) == (title, detail)


@pytest.mark.parametrize(
    ("placed", "title"),
    [
        (job("A.form", what="Flatten to two discs"), "Flatten to two discs"),
        (job("A.form"), "Wrap the dough"),
        (job("A.fetch"), "Take the dough out of the fridge"),
        (job("A.ready"), "Get ready"),
    ],
)
def test_what_comes_before_the_trays_is_told(placed: Placed, title: str) -> None:
    found = say(placed, ONE)
    assert found.title == title
    assert found.cue


@given(
    st.from_regex(r"\A[A-Z][0-9]{0,2}\Z"),
    st.sampled_from(["mix", "load", "out", "turn", "part", "heat"]),
    st.integers(0, 400),
)
def test_a_key_is_read_as_it_is_written(whose: str, step: JobKind, number: int) -> None:
    key = JobKey(whose, step, number)
    assert JobKey.read(f"{key}") == key
    assert TypeAdapter(JobKey).dump_json(key) == f'"{key}"'.encode()


@pytest.mark.parametrize(
    "text",
    ["", "A1", "A1.sing", "A1.load0", "A1.load-1", ".load", "A1.load.2", "Ä.mix", "A1.load\n"],
)
def test_what_is_no_key_is_refused(text: str) -> None:
    with pytest.raises(Refusal):
        JobKey.read(text)
    with pytest.raises(ValidationError):
        TypeAdapter(JobKey).validate_python(text)


def test_the_keys_of_version_1_are_the_same() -> None:
    keys = [JobKey("A1", "load"), JobKey("A1", "load", 1), JobKey("A", "mix", 2), oven_key(1, 0)]
    assert [f"{key}" for key in [*keys, oven_key(2, 1)]] == [
        "A1.load",
        "A1.load2",
        "A.mix3",
        "oven.heat",
        "oven2.heat2",
    ]
    assert JobKey("A1", "load", 1).to("out") == JobKey("A1", "out", 1)
    assert JobKey("A1", "load", 1).said == "A1, load 2"


@pytest.mark.parametrize(
    ("placed", "title", "detail"),
    [
        (job("A.mix", what="Mix the dough"), "Mix the dough", "Rye rounds, about 15 min"),
        (job("A.mix2", what="Fold the nuts in"), "Fold the nuts in", "Rye rounds, about 15 min"),
        (job("A1.portion", sheet=2), "Portion tray A1", "12 pieces of 28 g on sheet 2"),
        (job("A2.portion"), "Portion tray A2", "5 pieces, the large ones, from the scraps"),
        (
            job("A1.load", shelf=2, dial_c=172),
            "Tray A1 into the oven",
            "shelf 2, 11 min, dial at 172 °C",
        ),
        (job("A1.load"), "Tray A1 into the oven", "shelf 1, 11 min, dial at 180 °C"),
        (job("A1.turn"), "Turn tray A1", "front to back: the left is hotter"),
        (
            job("A1.turn", to_shelf=1, partner="A2"),
            "Swap tray A1 with A2",
            "to shelf 1, front to back",
        ),
        (job("A1.out"), "Take tray A1 out", "12 pieces, 11 min in all"),
        (job("A1.rack"), "Tray A1 to the rack", "12 pieces; then cool, wipe and line the sheet"),
        (job("A1.finish"), "Finish tray A1", "12 pieces, cold all through"),
        (job("A.part", what="lemon icing"), "Make the lemon icing", "for Rye rounds, about 15 min"),
    ],
)
def test_a_job_of_one_dough_in_words(placed: Placed, title: str, detail: str) -> None:
    found = say(placed, ONE)
    assert (read_in(found.title), read_in(found.detail)) == (title, detail)
    assert found.short
    assert found.cue


@pytest.mark.parametrize(
    ("placed", "title", "detail"),
    [
        (job("B.mix"), "Mix dough B", "Almond logs, about 15 min"),
        (
            job("B.freeze"),
            "Wrap the rest of dough B",
            "Almond logs: 4 pieces for another day, into the freezer",
        ),
        (
            job("B.take", what="Take it out of the fridge"),
            "Take dough B out of the fridge",
            "Almond logs",
        ),
        (job("B1.slice"), "Slice tray B1", "2 logs, slices of 12.5 mm, laid flat"),
        (
            job("B1.load2", shelf=1, dial_c=150),
            "Tray B1 into the oven",
            "shelf 1, 18 min, dial at 150 °C",
        ),
        (job("B1.turn2"), "Turn tray B1", "turn each slice over"),
    ],
)
def test_a_job_of_several_doughs_in_words(placed: Placed, title: str, detail: str) -> None:
    found = say(placed, TWO)
    assert (read_in(found.title), read_in(found.detail)) == (title, detail)


def test_a_second_bake_is_told_by_touch() -> None:
    assert say(job("B1.out2"), TWO).cue.startswith("Dry to the touch")
    assert say(job("A1.out"), TWO).cue.startswith("Edges ")
    assert say(job("A1.out"), TWO).colour_from == CUES.colour_from


def test_what_thaws_is_told_otherwise_than_what_is_worked() -> None:
    thaws = job("B.take", what="Move it from the freezer to the fridge", cold="thaws")
    assert "thaws there" in say(thaws, TWO).cue
    assert "no water settles" in say(job("B.take2", what="Take it out of the fridge"), TWO).cue


def test_hot_sharp_and_raw_jobs_carry_their_caution() -> None:
    for text in ("A1.load", "A1.turn", "A1.out"):
        assert "gloves" in (say(job(text), ONE).caution or "")
    assert "knife" in (say(job("B1.slice"), TWO).caution or "")
    assert "do not taste" in (say(job("A.mix"), ONE).caution or "")
    assert "burn" in (say(job("A1.shape"), ONE).caution or "")


def test_the_oven_is_turned_on_once_and_then_to_another_heat() -> None:
    heats = [
        Placed(oven_key(1, n), None, "oven", 20 * n, 20 * n + 20, oven=1, dial_c=dial)
        for n, dial in enumerate((180, 150))
    ]
    scene = Scene(heats=heats)
    on, change = (say(heat, scene) for heat in heats)
    assert (on.title, read_in(on.detail)) == ("Turn the oven on", "dial at 180 °C; ready in 20 min")
    assert "Look inside" in (on.caution or "")
    assert (read_in(change.title), change.caution) == ("Turn the oven to 150 °C", None)
    assert say(heats[0], Scene(heats=heats, ovens=2)).title == "Turn oven 1 on"


def test_a_line_of_a_list_goes_by_letters() -> None:
    assert line(job("A1.load")) == "Tray A1 into the oven"
    assert line(job("A.mix", what="Fold the nuts in")) == "Dough A: Fold the nuts in"
    assert line(job("A.mix")) == "Dough A: mix"
    assert line(job("A.part", what="glaze")) == "Dough A: make the glaze"
    heat = Placed(oven_key(2, 0), None, "oven", 0, 20, oven=2, dial_c=160)
    assert read_in(line(heat)) == "Turn oven 2 to 160 °C on its dial"
    assert place_of(job("A1.load", shelf=2, oven=2, sheet=1)) == "oven 2, shelf 2, sheet 1"
    assert place_of(job("A.mix")) == "bench"


@pytest.mark.parametrize(
    ("minutes", "words"),
    [(0, "0 min"), (59, "59 min"), (60, "1 h"), (65, "1 h 05"), (200, "3 h 20")],
)
def test_minutes_as_one_says_them(minutes: int, words: str) -> None:
    assert length(minutes) == words
