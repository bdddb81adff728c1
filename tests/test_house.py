"""The house is counted: what makes it heavy turns the check red, and nothing else does."""

import importlib.util
import sys
from collections.abc import Callable
from pathlib import Path
from types import ModuleType

import pytest

ROOT = Path(__file__).parent.parent
MIRRORED = "class {name}:\n    one: int\n    two: int\n    three: int\n    four: int\n"
Plant = Callable[[str, str], None]


@pytest.fixture
def house(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> ModuleType:
    spec = importlib.util.spec_from_file_location("house", ROOT / "scripts" / "house.py")
    assert spec is not None and spec.loader is not None
    made = importlib.util.module_from_spec(spec)
    monkeypatch.setitem(sys.modules, "house", made)
    spec.loader.exec_module(made)
    monkeypatch.setattr(made, "ROOT", tmp_path)
    monkeypatch.setattr(made, "SOURCE", tmp_path / "src" / "finebatch")
    monkeypatch.setattr(sys, "argv", ["house", "--check"])
    return made


@pytest.fixture
def plant(tmp_path: Path) -> Plant:
    def planted(place: str, text: str) -> None:
        file = tmp_path / place
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_text(text)

    planted("src/finebatch/core/plan/keys.py", 'whose, step = text.split(".")\n' * 40)
    planted("src/finebatch/core/piece/kinds/drop.py", 'kind == "drop"\n')
    planted("ui/src/parts/making/Making.tsx", 'piece.kind === "pan"\n')
    planted("tests/test_it.py", "assert True\n" * 18)
    return planted


def test_a_kept_house_passes(house: ModuleType, plant: Plant) -> None:
    plant("src/finebatch/workflow/session/shown.py", "key = job.id\n")
    assert house.main() == 0


@pytest.mark.parametrize(
    ("place", "text"),
    [
        ("src/finebatch/workflow/session/shown.py", 'tray = key.split(".")[0]\n'),
        ("src/finebatch/formats/run_sheet.py", 'key = f"{tray}.load"\n'),
        ("ui/src/views/bake/jobs.ts", 'const tray = job.key.split(".")[0];\n'),
        ("ui/src/views/bake/jobs.ts", 'if (next.title.startsWith("Turn")) turn();\n'),
        ("src/finebatch/core/plan/prepare.py", 'batter = piece.kind == "wafer"\n'),
        (
            "src/finebatch/core/plan/prepare.py",
            "from finebatch.core.piece.kinds.wafer import Wafer\n",
        ),
        ("ui/src/views/tray/Figures.tsx", 'if (making.kind === "rope") rows();\n'),
        ("ui/src/views/tray/Figures.tsx", "<p>{width.toFixed(1)} cm</p>\n"),
        ("ui/src/views/kitchen/Room.tsx", '<Figure label="Room" unit="°C" />\n'),
        ("ui/src/parts/Field.tsx", '<input type="time" />\n'),
        ("ui/src/parts/oven/OvenTrace.tsx", "<text>dial {watch.dial_c.toFixed(0)}</text>\n"),
        ("src/finebatch/core/piece/rows.py", 'words = f"The sheet is {across:.0f} mm wide."\n'),
        ("src/finebatch/web/routers/tray.py", "x = 1\n" * 20),
        ("src/finebatch/core/heat/oven.py", "x = (1,  2)  # fmt: skip\n" * 20),
    ],
)
def test_what_makes_it_heavy_is_found(
    house: ModuleType, plant: Plant, place: str, text: str
) -> None:
    plant(place, text)
    assert house.main() == 1


@pytest.mark.parametrize(
    ("place", "text"),
    [
        ("views/plan/Day.tsx", 'import { Live } from "../bake/Live";\n'),
        ("views/plan/Day.tsx", 'import { Shell } from "../../app/Shell";\n'),
        ("parts/Ruler.tsx", 'import type { Wish } from "../views/plan/changes";\n'),
        ("app/Shell.tsx", 'const Larder = lazy(() => import("../views/larder/LarderView"));\n'),
        ("logic/jobs.ts", 'import { Ruler } from "../parts/Ruler";\n'),
        ("logic/jobs.ts", 'import { useState } from "react";\n'),
        ("api/client.ts", 'export { wordsOf } from "../logic/jobs";\n'),
        ("views/larder/Form.tsx", 'queries.setQueryData(["larder"], kept);\n'),
        ("parts/Ruler.tsx", 'useQuery({\n  queryKey: [\n    "larder"],\n});\n'),
    ],
)
def test_an_interface_that_knows_what_it_may_not_is_found(
    house: ModuleType, plant: Plant, place: str, text: str
) -> None:
    plant(f"ui/src/{place}", text)
    assert house.main() == 1


def test_an_interface_that_goes_down_only_passes(house: ModuleType, plant: Plant) -> None:
    plant("ui/src/app/App.tsx", 'const Plan = lazy(() => import("../views/plan/Day"));\n')
    plant("ui/src/views/plan/Day.tsx", 'import { Ruler } from "../../parts/Ruler";\n')
    plant("ui/src/parts/Ruler.tsx", 'import { cm } from "../logic/format";\n')
    plant("ui/src/logic/format.ts", 'import type { Dough } from "../api/client";\n')
    plant("ui/src/logic/queries/doughs.ts", 'const query = { queryKey: ["doughs"] };\n')
    assert house.main() == 0


def test_a_circle_in_the_interface_is_found(house: ModuleType, plant: Plant) -> None:
    plant("ui/src/logic/day.ts", 'import { jobs } from "./jobs";\n')
    plant("ui/src/logic/jobs/index.ts", 'export * from "./order";\n')
    assert house.main() == 0
    plant("ui/src/logic/jobs/order.ts", 'import { layDay } from "../day";\n')
    assert house.main() == 1


@pytest.mark.parametrize("lines", [0, 60])
def test_too_few_tests_and_too_many_are_found(house: ModuleType, plant: Plant, lines: int) -> None:
    plant("tests/test_it.py", "assert True\n" * lines)
    assert house.main() == 1


def test_too_many_concepts_declared_twice_are_found(house: ModuleType, plant: Plant) -> None:
    for n in range(8):  # 28 pairs of eight that are alike
        plant(f"src/finebatch/core/room{n}/thing.py", MIRRORED.format(name=f"Thing{n}"))
    assert house.main() == 1
