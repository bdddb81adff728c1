"""A bake in full: what was seen, its photo, what went wrong, what is learnt, files."""

import io
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from PIL import Image

from finebatch.core.book.learn import learn
from finebatch.workflow.kitchen import lessons
from tests.bakes import record, width
from tests.conftest import HandClock

SEEN = {
    "heights_mm": [12, 13],
    "oven_c": 172,
    "edges": "even",
    "texture": ["crisp", "sandy"],
    "tastes": ["buttery", "like the sea"],
    "verdict": "again",
    "troubles": ["pale"],
}


def picture(form: str = "JPEG", size: tuple[int, int] = (400, 300)) -> bytes:
    out = io.BytesIO()
    image = Image.new("RGB", size, (180, 140, 90))
    exif = image.getexif()
    exif[271] = "a camera that tells its name"
    image.save(out, form, exif=exif)
    return out.getvalue()


@pytest.fixture
def bake(demo: TestClient) -> Any:
    return record(demo, widths_mm=[60], minutes=16, colour=4, note="first", seen=SEEN).json()


def put(demo: TestClient, bake: Any, body: bytes) -> Any:
    return demo.put(f"/api/bakes/{bake['id']}/photo", content=body)


def test_what_was_seen_is_kept(demo: TestClient, bake: Any) -> None:
    [kept] = demo.get("/api/bakes", params={"dough_id": 3}).json()
    assert {key: kept["seen"][key] for key in SEEN} == SEEN
    assert kept["seen"]["version"] == 1


@pytest.mark.parametrize(
    ("seen", "field"),
    [
        ({"heights_mm": [-3]}, "seen.heights_mm.0"),
        ({"heights_mm": [3000]}, "seen.heights_mm.0"),
        ({"oven_c": 900}, "seen.oven_c"),
        ({"troubles": ["haunted"]}, "seen.troubles"),
        ({"texture": ["blue"]}, "seen.texture.0"),
        ({"tastes": ["x" * 99]}, "seen.tastes.0"),
        ({"verdict": "perhaps"}, "seen.verdict"),
    ],
)
def test_what_cannot_have_been_seen_is_named(
    demo: TestClient, seen: dict[str, Any], field: str
) -> None:
    answer = record(demo, widths_mm=[60], seen=seen)
    assert answer.status_code == 422
    assert field in [error["field"] for error in answer.json()["errors"]]
    assert demo.get("/api/bakes", params={"dough_id": 3}).json() == []


@pytest.mark.parametrize("form", ["JPEG", "PNG"])
def test_a_photo_is_kept_small_and_tells_nothing_else(
    demo: TestClient, bake: Any, form: str
) -> None:
    assert put(demo, bake, picture(form, (4000, 2000))).status_code == 200
    got = demo.get(f"/api/bakes/{bake['id']}/photo")
    assert got.headers["content-type"] == "image/jpeg"
    with Image.open(io.BytesIO(got.content)) as shown:
        assert shown.size == (1600, 800)
        assert not shown.getexif()
    assert b"camera" not in got.content


@pytest.mark.parametrize(
    "body",
    [
        b"",
        b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>",
        b"GIF89a" + bytes(100),
        picture()[:200],
        bytes(1000),
    ],
)
def test_what_is_no_photo_is_refused(demo: TestClient, bake: Any, body: bytes) -> None:
    answer = put(demo, bake, body)
    assert answer.status_code == 422
    assert "JPEG or PNG" in answer.json()["detail"]
    assert demo.get(f"/api/bakes/{bake['id']}/photo").status_code == 404
    measured = demo.post("/api/doughs/1/photo", content=body)
    assert measured.status_code == 422
    assert "JPEG or PNG" in measured.json()["detail"]


def test_fifty_megabytes_are_too_much(demo: TestClient, bake: Any) -> None:
    answer = put(demo, bake, bytes(50_000_000))
    assert answer.status_code == 413
    assert "15 MB" in answer.json()["detail"]
    assert demo.post("/api/doughs/1/photo", content=bytes(50_000_000)).status_code == 413


def test_a_bomb_of_pixels_is_refused(demo: TestClient, bake: Any) -> None:
    out = io.BytesIO()
    Image.new("1", (30_000, 30_000)).save(out, "PNG")
    assert put(demo, bake, out.getvalue()).status_code == 422
    assert demo.post("/api/doughs/1/photo", content=out.getvalue()).status_code == 422


def test_a_photo_of_nothing_but_noise_or_a_pattern_holds_no_core(demo: TestClient) -> None:
    rng = np.random.default_rng(3)
    noise = Image.fromarray(rng.integers(0, 255, (900, 1200, 3), np.uint8))
    chequered = (np.indices((900, 1200)).sum(axis=0) // 40 % 2 * 200 + 30).astype(np.uint8)
    colours = np.dstack((chequered, 255 - chequered, np.full_like(chequered, 90)))
    for drawn in (noise, Image.fromarray(colours)):
        out = io.BytesIO()
        drawn.save(out, "JPEG")
        for corners in ({}, {"corner": [0.1, 0.1, 0.9, 0.1, 0.9, 0.9, 0.1, 0.9]}):
            answer = demo.post("/api/doughs/1/photo", content=out.getvalue(), params=corners)
            assert answer.status_code == 200, answer.text


def test_a_photo_goes_with_its_bake_and_with_the_next_one(
    app: FastAPI, demo: TestClient, bake: Any
) -> None:
    folder = Path(str(app.state.settings.data_file) + ".photos")
    put(demo, bake, picture())
    put(demo, bake, picture(size=(500, 100)))
    assert len(list(folder.iterdir())) == 1
    thrown = demo.delete(f"/api/bakes/{bake['id']}").json()
    assert demo.delete(f"/api/bin/{thrown['id']}").status_code == 204
    assert list(folder.iterdir()) == []
    assert demo.get(f"/api/bakes/{bake['id']}/photo").status_code == 404


def test_a_bake_is_left_out_and_taken_in_again(demo: TestClient) -> None:
    before = width(demo)["middle_mm"]
    kept = record(demo, widths_mm=[before * 1.06] * 3).json()
    learnt = width(demo)["middle_mm"]
    counts = f"/api/bakes/{kept['id']}/counts"
    demo.put(counts, json={"counts": "out"})
    assert width(demo)["middle_mm"] == pytest.approx(before)
    demo.put(counts, json={"counts": "auto"})
    assert width(demo)["middle_mm"] == pytest.approx(learnt)


def test_a_reading_that_was_set_aside_can_be_put_back(demo: TestClient) -> None:
    before = width(demo)["middle_mm"]
    kept = record(demo, widths_mm=[before * 2]).json()
    assert width(demo)["middle_mm"] == pytest.approx(before, rel=2e-3)
    after = demo.put(f"/api/bakes/{kept['id']}/counts", json={"counts": "in"}).json()
    assert not after["set_aside"]
    assert width(demo)["middle_mm"] > before * 1.03


def test_learning_is_read_and_switched_off(demo: TestClient) -> None:
    told = demo.get("/api/lessons").json()
    assert told["learns"]
    assert told["bakes"] == 4
    own = next(d for d in told["doughs"] if d["dough_id"] == 1)
    assert own["bakes"] == 2
    with_book = width(demo, 1)
    demo.put("/api/lessons", json={"learns": False})
    without = width(demo, 1)
    assert without["bakes"] == 0
    assert without["middle_mm"] != pytest.approx(with_book["middle_mm"], abs=0.5)
    assert demo.get("/api/lessons").json()["learns"] is False
    demo.put("/api/lessons", json={"learns": True})
    assert width(demo, 1) == with_book


def test_a_trouble_is_explained_and_its_remedy_made(demo: TestClient) -> None:
    kept = record(demo, dough_id=1, widths_mm=[95], minutes=14, seen={"troubles": ["hard_dry"]})
    found = demo.get(
        "/api/doughs/1/troubles/hard_dry", params={"bake_id": kept.json()["id"]}
    ).json()
    first = found["causes"][0]
    assert "too long" in first["words"]
    assert "14.0 min" in first["evidence"]
    assert found["certain"]
    assert first["remedy"]["minutes"] < found["minutes"]
    dough = demo.get("/api/doughs/1").json()
    made = demo.post(
        "/api/doughs/1/keep-tried", json={**dough["tray"], "tried": [first["remedy"]["key"]]}
    )
    assert made.status_code == 200, made.text
    again = demo.get("/api/doughs/1/troubles/hard_dry").json()
    assert again["minutes"] == pytest.approx(first["remedy"]["minutes"])


def test_changes_are_ranked_by_what_they_do_of_what_is_needed(demo: TestClient) -> None:
    ran = {"dough_id": 1, "widths_mm": [95, 96], "minutes": 12, "seen": {"troubles": []}}
    bake = record(demo, **ran).json()["id"]
    ask = {"params": {"bake_id": bake}}
    found = demo.get("/api/doughs/1/troubles/ran_together", **ask).json()
    shares = [round(min(one["share"], 1), 1) for one in found["helps"]]
    assert shares == sorted(shares, reverse=True)
    assert all(share >= 0.1 for share in shares)
    assert all(cause["remedy"] is None for cause in found["causes"])
    keys = [one["remedy"]["key"] for one in found["helps"]]
    assert "room" in keys[:2]
    for one in found["helps"]:
        by = found["width_mm"] - one["remedy"]["width_mm"]
        gap = one["remedy"]["gap_mm"] - demo.get("/api/kitchen").json()["gap_mm"]
        assert one["share"] * found["needed_mm"] == pytest.approx(by + gap)
    dough = demo.get("/api/doughs/1").json()
    made = demo.post("/api/doughs/1/keep-tried", json={**dough["tray"], "tried": ["room"]})
    assert made.status_code == 200, made.text
    assert made.json()["card"] == dough["card"]
    kitchen = demo.get("/api/kitchen").json()
    assert kitchen["gap_mm"] == found["helps"][keys.index("room")]["remedy"]["gap_mm"]


def test_every_trouble_of_every_demo_dough_is_answered(demo: TestClient) -> None:
    words = demo.get("/api/book/words").json()
    for dough in (1, 2, 3, 4):
        for key in words["troubles"]:
            answer = demo.get(f"/api/doughs/{dough}/troubles/{key}")
            assert answer.status_code == 200, (dough, key, answer.text)
            assert answer.json()["causes"]
    assert demo.get("/api/doughs/1/troubles/haunted").status_code == 422
    other = demo.get("/api/bakes", params={"dough_id": 2}).json()[0]["id"]
    wrong = demo.get("/api/doughs/1/troubles/pale", params={"bake_id": other})
    assert wrong.status_code == 422


def test_the_book_goes_out_and_comes_in_again(demo: TestClient, bake: Any) -> None:
    text = demo.get("/api/book/file").text
    assert text.splitlines()[0].startswith("day,dough,tray,piece_g,widths_mm")
    before = demo.get("/api/bakes").json()
    known = demo.post("/api/book/bring-in", json={"text": text}).json()
    assert known == {"added": 0, "known": len(before), "left_out": []}
    for kept in before:
        demo.delete(f"/api/bakes/{kept['id']}")
    added = demo.post("/api/book/bring-in", json={"text": text}).json()
    assert added == {"added": len(before), "known": 0, "left_out": []}
    after = demo.get("/api/bakes").json()
    for a, b in zip(before, after, strict=True):
        for field in ("dough_id", "baked_at", "widths_mm", "minutes", "colour", "note"):
            assert a[field] == b[field]
        assert a["seen"]["tastes"] == b["seen"]["tastes"]


@pytest.mark.parametrize(
    ("lines", "words"),
    [
        ("", "names the columns|name the columns"),
        ("dough,minutes\nx,3", "day is missing"),
        ("day,dough\n2026-10-24,Nobody’s", "Line 2: no dough is called"),
        ("day,dough,widths_mm\nsoon,{d},60", "Line 2: “soon” in|is no day"),
        ("day,dough,widths_mm\n2026-10-24,{d},60\n2026-10-25,{d},wide", "Line 3: “wide”"),
        ("day,dough,widths_mm\n2026-10-24,{d},60\n2026-10-25,{d},-4", "Line 3: −4 mm"),
        ("day,dough,colour,minutes\n2026-10-24,{d},puce,9", "colour cannot be “puce”"),
    ],
)
def test_a_bad_file_brings_nothing_in(demo: TestClient, lines: str, words: str) -> None:
    import re

    before = demo.get("/api/bakes").json()
    text = lines.replace("{d}", "Black-sesame shortbread") or " "
    answer = demo.post("/api/book/bring-in", json={"text": text})
    assert answer.status_code == 422
    assert re.search(words, answer.json()["detail"]), answer.json()["detail"]
    assert demo.get("/api/bakes").json() == before


def test_a_note_that_a_spreadsheet_would_run_is_harmless(
    demo: TestClient, clock: HandClock
) -> None:
    record(demo, widths_mm=[60], note="=HYPERLINK(1)")
    text = demo.get("/api/book/file").text
    assert "'=HYPERLINK" in text
    [kept] = demo.get("/api/bakes", params={"dough_id": 3}).json()
    demo.delete(f"/api/bakes/{kept['id']}")
    demo.post("/api/book/bring-in", json={"text": text})
    [again] = demo.get("/api/bakes", params={"dough_id": 3}).json()
    assert again["note"] == "=HYPERLINK(1)"


def test_a_version_says_how_it_was_baked(demo: TestClient) -> None:
    def baked(number: int) -> Any:
        kept = demo.get("/api/doughs/1/versions").json()
        return next(v["baked"] for v in kept if v["number"] == number)

    assert baked(1)["bakes"] == 2
    assert baked(2) is None
    seen = {"verdict": "again", "version": 2, "troubles": ["pale"]}
    for mm in (64.0, 66.0):
        body = {"dough_id": 1, "widths_mm": [mm], "minutes": 12, "seen": seen}
        assert demo.post("/api/bakes", json=body).status_code == 201
    found = baked(2)
    assert (found["bakes"], found["width_mm"], found["minutes"]) == (2, 65, 12)
    assert (found["again"], len(found["troubles"])) == (2, 1)
    newest = demo.get("/api/bakes", params={"dough_id": 1}).json()[0]
    demo.put(f"/api/bakes/{newest['id']}/counts", json={"counts": "out"})
    assert (baked(2)["bakes"], baked(2)["width_mm"]) == (1, 64)


def test_minutes_that_were_set_aside_say_so_and_can_be_put_back(demo: TestClient) -> None:
    usual = demo.get("/api/doughs/3").json()["tray"]
    minutes = demo.post("/api/doughs/3/foresee", json=usual).json()["minutes"]
    kept = record(demo, widths_mm=[], minutes=minutes * 3).json()
    shown = demo.get("/api/bakes", params={"dough_id": 3}).json()[0]
    assert (shown["set_aside"], shown["minutes_aside"]) == (False, True)
    now = demo.post("/api/doughs/3/foresee", json=usual).json()["minutes"]
    assert now == pytest.approx(minutes, rel=2e-3)
    after = demo.put(f"/api/bakes/{kept['id']}/counts", json={"counts": "in"}).json()
    assert not after["minutes_aside"]
    assert demo.post("/api/doughs/3/foresee", json=usual).json()["minutes"] > minutes


def test_the_book_is_learnt_from_once_for_each_change_of_it(
    demo: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    learnt: list[int] = []

    def counted(*args: Any) -> Any:
        learnt.append(len(args[1]))
        return learn(*args)

    monkeypatch.setattr(lessons, "learn", counted)
    lessons._kept.clear()
    first = width(demo)
    assert width(demo) == first
    assert len(learnt) == 1
    kept = record(demo, widths_mm=[first["middle_mm"] * 1.05] * 3).json()
    changed = width(demo)
    assert changed != first
    demo.put(f"/api/bakes/{kept['id']}/counts", json={"counts": "out"})
    assert width(demo)["middle_mm"] == pytest.approx(first["middle_mm"])
    demo.delete(f"/api/bakes/{kept['id']}")
    # What is the very book from before has been learnt from already.
    assert width(demo) == first
    assert learnt == sorted(learnt)
    assert len(learnt) == 3
