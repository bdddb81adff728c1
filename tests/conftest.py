"""Fixtures that all tests share: a data file of its own, a clock that the test moves, a client."""

import shutil
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from hypothesis import is_hypothesis_test, settings

from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.cases import Case
from finebatch.core.piece.foresee import Models
from finebatch.demo.load import load
from finebatch.facts import tables
from finebatch.formats.cases import read_cases
from finebatch.settings import Settings
from finebatch.store.database import Database
from finebatch.web.app import create_app
from tests.chance import TIMES, so_many

# Machines are noisy: speed is for the benchmarks, not for the tests.
# The same examples each time, so that a red run is red again; `make torture` looks further.
settings.register_profile("steady", deadline=None, derandomize=True, max_examples=40)
settings.register_profile(
    "torture", deadline=None, derandomize=False, max_examples=so_many(100), print_blob=True
)
settings.load_profile("steady" if TIMES == 1 else "torture")

CASES = Path(tables.__file__).parent / "data" / "spread_cases.json"
NOON = 1_800_000_000_000


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Mark what is left to chance: `make torture` runs that alone."""
    for item in items:
        drawn = is_hypothesis_test(getattr(item, "obj", None))
        seeds = "seed" in getattr(getattr(item, "callspec", None), "params", {})
        if drawn or seeds:
            item.add_marker(pytest.mark.chance)


class HandClock:
    """A clock that stands still until the test moves it."""

    def __init__(self, at: int = NOON) -> None:
        self.at = at

    def __call__(self) -> int:
        return self.at

    def pass_minutes(self, minutes: float) -> None:
        self.at += round(minutes * 60_000)


@pytest.fixture
def clock() -> HandClock:
    return HandClock()


@pytest.fixture(scope="session")
def larder() -> Larder:
    return tables.larder()


@pytest.fixture(scope="session")
def models() -> Models:
    return tables.models()


@pytest.fixture(scope="session")
def cases() -> dict[str, Case]:
    return {case.id: case for case in read_cases(CASES)}


@dataclass(frozen=True)
class DataFiles:
    """Data files to copy: making them anew for each test takes a third of its time. `at` is the
    moment for which the demo data were made."""

    empty: Path
    demo: Path
    at: int


def make_data_files(folder: Path, at: int) -> DataFiles:
    empty, demo = folder / "empty.sqlite3", folder / "demo.sqlite3"
    for file in (empty, demo):
        database = Database(file)
        if file == demo:
            load(database, at)
        database.close()
    return DataFiles(empty, demo, at)


@pytest.fixture(scope="session")
def data_files(tmp_path_factory: pytest.TempPathFactory) -> DataFiles:
    return make_data_files(tmp_path_factory.mktemp("noon"), NOON)


@pytest.fixture
def app(
    tmp_path: Path, clock: HandClock, data_files: DataFiles, request: pytest.FixtureRequest
) -> Iterator[FastAPI]:
    file = tmp_path / "test.sqlite3"
    shutil.copy(data_files.demo if "demo" in request.fixturenames else data_files.empty, file)
    made = create_app(Settings(data_file=file, plan_seconds=0.5), clock)
    yield made
    made.state.searches.close()
    made.state.database.close()


def own_page(app: FastAPI, *, raises: bool = True) -> TestClient:
    """A client that asks as a page of the app does."""
    at = "http://127.0.0.1:8765"
    return TestClient(app, base_url=at, headers={"origin": at}, raise_server_exceptions=raises)


@pytest.fixture
def client(app: FastAPI) -> TestClient:
    return own_page(app)


@pytest.fixture
def demo(client: TestClient) -> TestClient:
    """The client on the demo data."""
    return client
