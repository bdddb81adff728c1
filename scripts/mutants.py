"""Small faults planted in the core, and which of them no test notices.

mutmut makes every mutant of the modules below and runs the core's tests against each of a seeded
sample, the same number from every area. Mutants of a sentence to the baker are left out: a test
that repeats a text would only be the text once more.

.venv/bin/python scripts/mutants.py                the sample, and an error where too many live
.venv/bin/python scripts/mutants.py --seed 7       another sample
.venv/bin/python scripts/mutants.py --all keeping  every mutant of one area
"""

import argparse
import ast
import json
import random
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parent.parent
COPY = ROOT / "mutants" / "src"
CORE = "finebatch/core"
AREAS = {
    "spread": ("piece/spread",),
    "thickness": ("piece/thickness",),
    "minutes": ("heat/minutes",),
    "chilling": ("heat/chilling",),
    "layout": ("piece/layout", "piece/rows"),
    "slab": ("piece/kinds/rolled", "piece/kinds/in_pan"),
    "scaling": ("formula/scaling",),
    "learning": ("book/learn",),
    "cautions": ("care/cautions",),
    "keeping": ("care/keeping",),
    "checker": ("plan/checker", "plan/checker_ovens"),
}
STRICT = ("cautions", "keeping", "checker")
"""Where no mutant may live: what can hurt someone, and what says whether a plan keeps its rules."""
WORDS = ("pan_says",)
"""Functions that put words together, and do nothing else."""
SAMPLE = 300
MOST_ALIVE = 0.2
CAUGHT = (1, 3, 24, -24, 36, 152)
"""What a run ends with when a test fails or does not come to an end."""


NONE = "none of them"


def mutmut(*args: str) -> None:
    subprocess.run([sys.executable, "-m", "mutmut", *args], cwd=ROOT, check=False)


class _Sentences(ast.NodeTransformer):
    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        sentence = isinstance(node.value, str) and " " in node.value
        return ast.Constant("a sentence") if sentence else node


def _functions(module: Path) -> dict[str, str]:
    """Every version of every function in a mutated module, less its sentences."""
    tree = ast.parse(module.read_text())
    found = (node for node in ast.walk(tree) if isinstance(node, ast.FunctionDef))
    return {node.name: ast.dump(_Sentences().visit(node)) for node in found}


def _mutants(area: str) -> Iterator[str]:
    """The names of an area's mutants that change more than a sentence."""
    for name in AREAS[area]:
        module = COPY / f"{CORE}/{name}.py"
        meta = json.loads(module.with_suffix(".py.meta").read_text())
        functions = _functions(module)
        for key in meta["exit_code_by_key"]:
            own = key.rsplit(".", 1)[1]
            base = own.rsplit("mutmut_", 1)[0]
            if any(word in base for word in WORDS):
                continue
            mutated = functions[own].replace(own, base)
            if mutated != functions[f"{base}mutmut_orig"].replace(f"{base}mutmut_orig", base):
                yield key


def sample(wanted: list[str], size: int | None, seed: int) -> dict[str, list[str]]:
    """Mutants by area: the same number of each, or all of them."""
    chance = random.Random(seed)
    picked = {}
    for n, area in enumerate(wanted):
        every = sorted(_mutants(area))
        share = len(every) if size is None else (size + n) // len(wanted)
        picked[area] = chance.sample(every, min(share, len(every)))
    return picked


def _alive(names: list[str]) -> list[str]:
    codes: dict[str, int | None] = {}
    for modules in AREAS.values():
        for name in modules:
            meta = COPY / f"{CORE}/{name}.py.meta"
            codes |= json.loads(meta.read_text())["exit_code_by_key"]
    return [name for name in names if codes[name] not in CAUGHT]


def main() -> int:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("areas", nargs="*", help="only these areas")
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--all", action="store_true", help="every mutant, not a sample")
    args = asked.parse_args()
    mutmut("run", NONE)  # makes them all, and learns which test reaches which function
    picked = sample(args.areas or list(AREAS), None if args.all else SAMPLE, args.seed)
    mutmut("run", *(name for names in picked.values() for name in names))
    alive = {area: _alive(names) for area, names in picked.items()}
    total, left = sum(map(len, picked.values())), sum(map(len, alive.values()))
    for area, names in picked.items():
        print(f"{area}: {len(alive[area])} of {len(names)} live", *alive[area], sep="\n  ")
    print(f"{left} of {total} live, {100 * left / total:.0f} %", f"(at most {MOST_ALIVE:.0%})")
    return int(left > MOST_ALIVE * total or any(alive[area] for area in STRICT if area in alive))


if __name__ == "__main__":
    raise SystemExit(main())
