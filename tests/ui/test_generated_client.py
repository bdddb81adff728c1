"""A client that a generator makes of the API's description: another program plans, bakes and
records a session with it, and knows of nothing else."""

import importlib
import json
import os
import subprocess
import sys
from collections.abc import Iterator
from io import BytesIO
from pathlib import Path
from types import ModuleType
from typing import Any

import pytest
from PIL import Image

from finebatch.web import guard
from tests.ui.conftest import TOKEN, Served

ROOT = Path(__file__).parents[2]
BINARY = ("application/pdf", "application/zip", "image/svg+xml", "image/jpeg")
"""Media types that the generator has to be told are bytes."""


@pytest.fixture(scope="module")
def generated(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The name of the package; a description that it cannot read whole makes it warn."""
    folder = tmp_path_factory.mktemp("client")
    overrides = dict.fromkeys(BINARY, "application/octet-stream")
    settings = folder / "settings.json"
    settings.write_text(json.dumps({"content_type_overrides": overrides, "post_hooks": []}))
    made = subprocess.run(
        [
            *(Path(sys.executable).parent / "openapi-python-client", "generate"),
            *("--path", ROOT / "docs" / "openapi.json", "--config", settings),
            *("--meta", "none", "--output-path", folder / "fine_batch_client"),
            "--fail-on-warning",
        ],
        capture_output=True,
        text=True,
        check=False,
        env={**os.environ, "COLUMNS": "200"},
    )
    assert made.returncode == 0, made.stdout
    assert "warning" not in made.stdout.lower()
    sys.path.insert(0, str(folder))
    yield "fine_batch_client"
    sys.path.remove(str(folder))


class Program:
    """Operations and models by their names."""

    def __init__(self, package: str, address: str) -> None:
        self.package = package
        self.client = self.module("client").Client(
            base_url=address, headers={guard.TOKEN: TOKEN}, raise_on_unexpected_status=True
        )
        self.models = self.module("models")

    def module(self, name: str) -> ModuleType:
        return importlib.import_module(f"{self.package}.{name}")

    def ask(self, operation: str, *of: Any, **sent: Any) -> Any:
        """The answer of an operation, as its model; a problem is one, too."""
        return self.module(f"api.{operation}").sync(*of, client=self.client, **sent)


@pytest.fixture
def program(generated: str, served: Served) -> Program:
    return Program(generated, served.address)


def test_a_program_plans_bakes_and_records(program: Program, served: Served) -> None:
    models = program.models
    dough = program.ask("dough.all_doughs").doughs[0]
    wish = models.Wish(items=[models.Item(dough_id=dough.id)], sheets=2, shelves=1)
    session = program.ask("plan.make_plan", body=wish)
    assert isinstance(session, models.ShownSession)
    assert session.doughs[0].name == dough.name
    while session.searching:
        session = program.ask("plan.get_plan")
    session = program.ask("bake.start_session", session.id, body=models.StartBody())
    assert session.state == "running"
    for _ in range(400):
        left = [job for job in session.activities if job.hands and job.done_at is None]
        if session.state != "running" or not left:
            break
        served.clock.at = max(served.clock.at, session.now) + 60_000
        job = min(left, key=lambda one: one.start_at)
        served.clock.at = max(served.clock.at, job.end_at)
        done = models.BakeEvent(kind=models.BakeEventKind.DONE, activity=job.key)
        session = program.ask("bake.record", session.id, body=done)
        assert isinstance(session, models.ShownSession), session
    assert session.state == "finished"
    seen = models.Record(
        dough_id=dough.id,
        session_id=session.id,
        tray=session.trays[0].name,
        widths_mm=[62.0, 64.0],
        minutes=12.0,
        seen=models.Seen.from_dict({"verdict": "again"}),
    )
    bake = program.ask("book.add_bake", body=seen)
    assert isinstance(bake, models.BakeOut), bake
    assert bake.widths_mm == [62.0, 64.0]
    assert bake.id in [one.id for one in program.ask("book.all_bakes")]


def test_a_program_keeps_and_gets_a_photo(program: Program) -> None:
    file = program.module("types").File
    drawn = BytesIO()
    Image.new("RGB", (40, 30), "tan").save(drawn, "PNG")
    bake = program.ask("book.all_bakes")[0]
    kept = program.ask("book.put_photo", bake.id, body=file(BytesIO(drawn.getvalue())))
    assert kept.photo
    found = program.ask("book.get_photo", bake.id)
    assert Image.open(found.payload).size == (40, 30)


def test_a_program_gets_files_of_each_kind(program: Program) -> None:
    models, dough = program.models, program.ask("dough.all_doughs").doughs[0]
    wish = models.Wish(items=[models.Item(dough_id=dough.id)], sheets=2, shelves=1)
    session = program.ask("plan.make_plan", body=wish)
    given = {
        form: program.ask("plan.give_out_session", session.id, form=form)
        for form in models.GiveOutSessionForm
    }
    assert "BEGIN:VCALENDAR" in given[models.GiveOutSessionForm.ICS]
    assert json.loads(given[models.GiveOutSessionForm.JSON])["finebatch"] == "session"
    assert "day,dough" in program.ask("book.book_file")


def test_what_a_program_does_wrong_is_told_as_a_problem(program: Program) -> None:
    models = program.models
    found = program.ask("dough.one_dough", 4711)
    assert isinstance(found, models.Problem)
    assert found.status == 404
    wish = models.Wish(items=[models.Item(dough_id=4711)], sheets=2, shelves=1)
    assert isinstance(program.ask("plan.make_plan", body=wish), models.Problem)
