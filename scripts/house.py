"""How the house is kept: one declaration a concept, the formatter obeyed, a job's key a value, a
kind of portioning in its own room.

.venv/bin/python scripts/house.py           what is found
.venv/bin/python scripts/house.py --check   and an error where a limit is passed
"""

import ast
import re
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from graphlib import CycleError, TopologicalSorter
from itertools import combinations
from pathlib import Path

ROOT = Path(__file__).parent.parent
SOURCE = ROOT / "src" / "finebatch"
WEB_SHARE = 0.15
LEAST_TESTS, MOST_TESTS = 0.25, 0.33
MOST_PAIRS = 24
MOST_SKIPS = 19
LEAST_FIELDS, ALIKE = 4, 0.6

KEYS = "core/plan/keys.py"
WORDS = "core/session/words.py"
STEPS = (
    "mix|take|part|freeze|portion|load|bake|turn|out|shape|slice|rack|cool|finish|set|sheet|heat"
)
CUT_IN_PYTHON = (
    r"\.r?(?:split|partition)\(\"\.\"",
    rf"f\"\{{[^}}\"]*\}}\.(?:{STEPS})\b",
    rf"\.replace\(\"(?:{STEPS})\"",
    rf"\"\.(?:{STEPS})\" (?:not )?in\b",
    r"\.label\.|\.what\.(?:startswith|replace|lower)|\.what ==",
)
CUT_IN_THE_INTERFACE = (
    r"\.key\.(?:split|replace|startsWith|endsWith|includes|slice)",
    rf"\.replace\(\"(?:{STEPS})\"",
    r"\.(?:label|what|title|short)\.(?:startsWith|endsWith|includes|replace)",
    r"\b(?:a|job|next|activity|load)\.(?:label|what) [!=]==",
)
OF_JOBS = (
    *("core/plan", "core/session", "workflow/session", "workflow/kitchen", "web", "cli"),
    *("formats/run_sheet", "formats/planned", "formats/session"),
)

KINDS_ROOM = "core/piece/kinds/"
KIND = "drop|rolled|sliced|pan|filled_pan|rope|twice_baked|wafer"
KIND_NAMED = (
    r"core\.piece\.kinds\.(?!every\b|from_card\b|portioning\b|says\b)\w+ import",
    rf"\bkind (?:==|!=|in) .*\"(?:{KIND})\"",
)
KIND_NAMED_IN_THE_INTERFACE = (rf"\.kind [!=]== \"(?:{KIND})\"",)
DRAWINGS = "Making.tsx"

MAY_ASK = {
    "api": {"api"},
    "logic": {"api", "logic"},
    "parts": {"api", "logic", "parts"},
    "views": {"api", "logic", "parts"},
    "app": {"api", "logic", "parts", "app"},
}
"""Which rooms of the interface each room may import; a view may import what is in its own folder,
and those that put views together, the routes and the print of a whole session, all views."""
ROUTES = ("app/App.tsx", "app/PrintSession.tsx")
WITHOUT_REACT = ("react", "react-dom", "react-router", "radix-ui")
MODULES = (".ts", ".tsx", "/index.ts")
QUERIES = "logic/queries/"
LITERAL_KEY = (r"queryKey: \[\s*\"", r"QueryData(?:<[^>]*>)?\(\s*\[\s*\"")

UNIT = "mm|cm|cm²|ml|kg|g|oz|lb"
UNIT_WRITTEN = (
    rf"\}} ?(?:{UNIT})\b(?![\w:=.,(-]* ?[=:({{])",
    rf"\d ?(?:{UNIT})\b(?!-)",
    rf"\b(?:unit|measure)=\"(?:{UNIT}|°[CF])\"",
    r"^\s+(?:mm|cm|ml|kg|oz|lb)\b(?! ?[:=(,?])",
    r"_(?:c|mm|g|ml)\)?\.toFixed\(",
    r"°[CF]\b",
    r"\btype=\"(?:date|time|datetime-local)\"",
)
SCREENS = ("views", "parts", "app")
NAMES_UNITS = "UnitsFields.tsx"
"""Where a baker chooses among units."""
NO_FIGURE = r"^\s*(?:/\*\*|\*|//)|`(?:scoop|\$\{(?:shape|cutter))"
"""Comments, and the names of cutters and scoops, which are named as the shipped ones are."""
UNIT_IN_WORDS = (rf"\}} ?(?:{UNIT})\b[^=(]*\"", r"\} ?°[CF]")
SAYS_BOTH_SCALES = (
    *("core/measures/", "core/formula/checks/oven.py", "core/formula/kitchen_amounts.py"),
    "formats/template_svg.py",
    *("facts/", "store/", "cli", "demo/", "devices/"),
)
"""Rooms that write figures for others than a baker, or tell one scale from the other."""


@dataclass(frozen=True)
class Shape:
    """A class by its fields."""

    file: str
    name: str
    fields: frozenset[str]


def python_files() -> list[Path]:
    return [p for p in sorted(SOURCE.rglob("*.py")) if "migrations" not in p.parts]


def shapes() -> Iterator[Shape]:
    for path in python_files():
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.ClassDef):
                named = (s.target for s in node.body if isinstance(s, ast.AnnAssign))
                fields = frozenset(t.id for t in named if isinstance(t, ast.Name))
                yield Shape(str(path.relative_to(SOURCE)), node.name, fields)


def mirrors() -> list[tuple[Shape, Shape]]:
    """Pairs of classes of different modules that declare the same concept twice."""
    large = [shape for shape in shapes() if len(shape.fields) >= LEAST_FIELDS]
    return [
        (one, other)
        for one, other in combinations(large, 2)
        if one.file != other.file
        and len(one.fields & other.fields) >= ALIKE * max(len(one.fields), len(other.fields))
    ]


def lines(paths: list[Path]) -> int:
    return sum(len(path.read_text().splitlines()) for path in paths)


def web_share() -> float:
    """The share of `web/` in the Python source, by lines."""
    files = python_files()
    return lines([p for p in files if "web" in p.relative_to(SOURCE).parts[:1]]) / lines(files)


def skips() -> list[str]:
    """Where the formatter is overruled."""
    found = []
    for folder in ("src", "tests", "scripts"):
        for path in (ROOT / folder).rglob("*.py"):
            for number, line in enumerate(path.read_text().splitlines(), 1):
                if re.search(r"#\s*fmt:\s*(skip|off)\b", line):
                    found.append(f"{path.relative_to(ROOT)}:{number}")
    return found


def _matches(path: Path, patterns: tuple[str, ...], but: str = "$^") -> Iterator[str]:
    for number, line in enumerate(path.read_text().splitlines(), 1):
        if any(re.search(pattern, line) for pattern in patterns) and not re.search(but, line):
            yield f"{path.relative_to(ROOT)}:{number}: {line.strip()}"


def cuts() -> list[str]:
    """Where a job's key is cut or built as text, or its words are compared."""
    found: list[str] = []
    for path in python_files():
        place = str(path.relative_to(SOURCE))
        if place not in (KEYS, WORDS) and place.startswith(OF_JOBS):
            found += _matches(path, CUT_IN_PYTHON)
    for path in interface_files():
        found += _matches(path, CUT_IN_THE_INTERFACE)
    return found


def kinds_named() -> list[str]:
    """Where a kind of portioning is told apart outside its room and its drawing."""
    found: list[str] = []
    for path in python_files():
        if not str(path.relative_to(SOURCE)).startswith(KINDS_ROOM):
            found += _matches(path, KIND_NAMED)
    for path in interface_files():
        if path.name != DRAWINGS:
            found += _matches(path, KIND_NAMED_IN_THE_INTERFACE)
    return found


def interface_files() -> list[Path]:
    found = sorted((ROOT / "ui" / "src").rglob("*.ts*"))
    return [path for path in found if path.name != "schema.d.ts"]


def _asked(path: Path) -> Iterator[str]:
    """The modules that a file of the interface imports, as it writes them."""
    return iter(re.findall(r"(?:from|import\()\s*\"([^\"]+)\"", path.read_text()))


def crossings() -> list[str]:
    """Imports of the interface that go from one room to another that it may not know."""
    source = ROOT / "ui" / "src"
    found = []
    for path in interface_files():
        here = path.relative_to(source).parts
        for spec in _asked(path):
            if here[0] == "logic" and spec in WITHOUT_REACT:
                found.append(f"{'/'.join(here)} -> {spec}")
            if not spec.startswith(".") or len(here) < 2:
                continue
            there = (path.parent / spec).resolve().relative_to(source.resolve()).parts
            own_view = there[0] == here[0] == "views" and there[1] == here[1]
            routes = "/".join(here) in ROUTES and there[0] == "views"
            if there[0] not in MAY_ASK.get(here[0], set()) and not own_view and not routes:
                found.append(f"{'/'.join(here)} -> {'/'.join(there)}")
    return found


def circles() -> list[str]:
    """Modules of the interface that import themselves by way of others."""
    source = ROOT / "ui" / "src"
    asks: dict[Path, set[Path]] = {}
    for path in interface_files():
        bases = ((path.parent / spec).resolve() for spec in _asked(path) if spec.startswith("."))
        tried = (Path(f"{base}{end}") for base in bases for end in MODULES)
        asks[path.resolve()] = {module for module in tried if module.is_file()}
    try:
        list(TopologicalSorter(asks).static_order())
    except CycleError as circle:
        return [" -> ".join(str(path.relative_to(source.resolve())) for path in circle.args[1])]
    return []


def literal_keys() -> list[str]:
    """Where a query's key is written out beside the one place that knows them all."""
    found: list[str] = []
    for path in interface_files():
        if QUERIES not in path.as_posix():
            text = path.read_text()
            for pattern in LITERAL_KEY:
                for at in re.finditer(pattern, text):
                    line = text.count("\n", 0, at.start()) + 1
                    found.append(f"{path.relative_to(ROOT)}:{line}: {at[0]}")
    return found


def literal_units() -> list[str]:
    """Where a screen or a sentence writes a unit out that the kitchen may read otherwise."""
    found: list[str] = []
    for path in interface_files():
        room = path.relative_to(ROOT / "ui" / "src").parts[0]
        if room in SCREENS and path.name != NAMES_UNITS:
            found += _matches(path, UNIT_WRITTEN, but=NO_FIGURE)
    for path in python_files():
        if not str(path.relative_to(SOURCE)).startswith(SAYS_BOTH_SCALES):
            found += _matches(path, UNIT_IN_WORDS)
    return found


def tests_share() -> float:
    """The share of tests in all code by lines, Python and TypeScript."""
    interface, scripts = interface_files(), sorted((ROOT / "scripts").glob("*.py"))
    tests = sorted((ROOT / "tests").rglob("*.py")) + sorted((ROOT / "ui" / "tests").rglob("*.ts"))
    tested = python_files() + interface + scripts
    return lines(tests) / lines(tests + tested)


def main() -> int:
    share, pairs, overruled, cut = web_share(), mirrors(), skips(), cuts()
    named, crossed = kinds_named(), crossings() + circles()
    keys, units = literal_keys(), literal_units()
    print(f"web/ is {100 * share:.1f} % of the Python source (at most {100 * WEB_SHARE:.0f} %)")
    tests = tests_share()
    print(f"tests are {100 * tests:.1f} % of the code ({LEAST_TESTS:.0%} to {MOST_TESTS:.0%})")
    print(f"{len(pairs)} pairs of mirror classes (at most {MOST_PAIRS})")
    print(f"{len(overruled)} times the formatter is overruled (at most {MOST_SKIPS})")
    print(f"{len(cut)} places cut a job's key or compare its words (none)")
    print(f"{len(named)} places tell kinds of portioning apart outside their room (none)")
    print(f"{len(crossed)} imports cross the rooms of the interface, or go in a circle (none)")
    print(f"{len(keys)} keys of queries are written out beside `{QUERIES}` (none)")
    print(f"{len(units)} units are written out instead of read in the kitchen's (none)")
    wrong = [f"{a.file} {a.name} ~ {b.file} {b.name}" for a, b in pairs] * (len(pairs) > MOST_PAIRS)
    wrong += overruled * (len(overruled) > MOST_SKIPS) + cut + named
    wrong += crossed + keys + units
    print(*wrong, sep="\n", end="\n" if wrong else "")
    kept = share <= WEB_SHARE and LEAST_TESTS <= tests <= MOST_TESTS and not wrong
    return int("--check" in sys.argv and not kept)


if __name__ == "__main__":
    raise SystemExit(main())
