"""Imports that must not be turn the check of the layers red."""

import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent
PLANTED = {
    "workflow asks the web": ("workflow/dough/doughs.py", "finebatch.web.wire"),
    "formats ask the workflow": ("formats/card_csv.py", "finebatch.workflow.errors"),
    "care asks the plan": ("core/care/keeping.py", "finebatch.core.plan.work"),
    "a dough asks its session": ("workflow/dough/study.py", "finebatch.workflow.session.plans"),
    "the core asks the tables": ("core/plan/quick.py", "finebatch.facts.tables"),
    "devices ask the data file": ("devices/readings.py", "finebatch.store.places"),
    "the data file asks a format": ("store/models.py", "finebatch.formats.unreadable"),
}


@pytest.fixture(scope="module")
def tree(tmp_path_factory: pytest.TempPathFactory) -> Path:
    copied = tmp_path_factory.mktemp("tree")
    ignored = shutil.ignore_patterns("static", "__pycache__", "data")
    shutil.copytree(ROOT / "src", copied / "src", ignore=ignored)
    shutil.copy(ROOT / "pyproject.toml", copied)
    return copied


def layers(tree: Path) -> subprocess.CompletedProcess[str]:
    command = [Path(sys.executable).parent / "lint-imports", "--no-cache"]
    path = {"PYTHONPATH": str(tree / "src")}
    return subprocess.run(command, check=False, cwd=tree, env=path, capture_output=True, text=True)


def test_the_tree_as_it_is_keeps_its_layers(tree: Path) -> None:
    found = layers(tree)
    assert found.returncode == 0, found.stdout


@pytest.mark.parametrize("what", PLANTED)
def test_a_planted_import_is_found(tree: Path, what: str) -> None:
    place, asked = PLANTED[what]
    file = tree / "src" / "finebatch" / place
    before = file.read_text()
    try:
        file.write_text(f"{before}\nimport {asked}\n")
        found = layers(tree)
    finally:
        file.write_text(before)
    assert found.returncode == 1
    assert f"-> {asked}" in found.stdout
