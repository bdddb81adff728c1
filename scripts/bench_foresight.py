"""How good the foresight is on cases whose formula it has not seen: twenty folds by formula.

python scripts/bench_foresight.py             the folds
python scripts/bench_foresight.py --groups    and each whole group left out of the fit
"""

import hashlib
import math
import sys
from collections import defaultdict
from collections.abc import Mapping, Sequence
from statistics import mean, median
from typing import TypeVar

from bench_rows import row
from fit_models import fit_cases, fit_priors

from finebatch.core.piece.cases import Case, Judged, judge
from finebatch.core.piece.fit_models import fit_models, ladder_steps
from finebatch.core.piece.foresee import Models
from finebatch.facts import tables

FOLDS = 20
FEW = 4
"""Of a group with fewer cases no bias is told."""


def formula_key(case: Case) -> str:
    """The proportions of a formula: the same of one dough, however much of it there is."""
    total = sum(case.formula_g.values())
    return repr(sorted((key, round(grams / total, 3)) for key, grams in case.formula_g.items()))


def folds_of(cases: Sequence[Case]) -> Mapping[str, int]:
    """The fold of each case by its id: that of its formula, the same on every run."""
    keys = {formula_key(case) for case in cases}
    by_chance = sorted(keys, key=lambda key: hashlib.sha256(key.encode()).hexdigest())
    fold = {key: n % FOLDS for n, key in enumerate(by_chance)}
    return {case.id: fold[formula_key(case)] for case in cases}


Part = TypeVar("Part", int, str)


def fitted_without(cases: Sequence[Case], part_of: Mapping[str, Part]) -> dict[Part, Models]:
    """Models that were fitted to all parts but one, by that part; `part_of` by a case's id."""
    priors, larder, effects = fit_priors(), tables.larder(), tables.effects()
    return {
        part: fit_models(effects, priors, [c for c in cases if part_of[c.id] != part], larder)
        for part in sorted(set(part_of.values()))
    }


def judged_without(cases: Sequence[Case], part_of: Mapping[str, Part]) -> list[Judged]:
    """Each case foreseen by models that were fitted to all parts but its own."""
    models = fitted_without(cases, part_of)
    return [judge(case, models[part_of[case.id]], tables.larder()) for case in cases]


def by_group(judged: Sequence[Judged]) -> Mapping[str, list[float]]:
    """The errors of each group, in percent."""
    found: dict[str, list[float]] = defaultdict(list)
    for one in judged:
        if one.case.group and one.error_pct is not None:
            found[one.case.group].append(one.error_pct)
    return {group: errors for group, errors in sorted(found.items()) if len(errors) >= FEW}


def ladder_rms_pct(cases: Sequence[Case]) -> float:
    """How far the steps of the ladders are off against their bases, in percent: step and base
    foreseen by one model that was fitted to neither's fold."""
    folds, larder = folds_of(cases), tables.larder()
    misses = []
    without: dict[frozenset[int], Models] = {}
    for n, base, _ in ladder_steps(cases):
        unseen = frozenset((folds[cases[n].id], folds[cases[base].id]))
        if unseen not in without:
            seen = [case for case in cases if folds[case.id] not in unseen]
            without[unseen] = fit_models(tables.effects(), fit_priors(), seen, larder)
        step, of = (judge(cases[at], without[unseen], larder).error_pct or 0 for at in (n, base))
        misses.append(math.log1p(step / 100) - math.log1p(of / 100))
    return 100 * math.sqrt(mean(miss**2 for miss in misses))


def pieces(judged: Sequence[Judged]) -> list[Judged]:
    """Those of which a width is judged: pieces that lie on a sheet for themselves."""
    return [one for one in judged if one.case.group]


def measure_foresight(*, groups: bool = False) -> None:
    """Print the figures of cases whose formula was not in the fit."""
    every = fit_cases()
    both = judged_without(every, folds_of(every))
    found = pieces(both)
    others = [one for one in both if not one.case.group]
    errors = [abs(one.error_pct) for one in found if one.error_pct is not None]
    formulas = len({formula_key(case) for case in every})
    print(f"{len(every)} cases of {formulas} formulas, each foreseen from the others:")
    row("width: median error", f"{median(errors):.1f} %", "<= 5 %", median(errors) <= 5)
    far = sum(error > 15 for error in errors) / len(errors)
    row("width: over 15 % off", f"{far:.1%} of cases", "<= 5 %", far <= 0.05)
    row("width: largest error", f"{max(errors):.0f} %")
    biases = {group: mean(of) for group, of in by_group(found).items()}
    worst = max(biases, key=lambda group: abs(biases[group]))
    bias = f"{biases[worst]:+.0f} %, {worst}"
    row("width: largest bias of a group", bias, "<= 6 %", abs(biases[worst]) <= 6)
    held = mean(bool(one.in_band) for one in found)
    row("inside the 80 % band", f"{held:.0%}", "75 to 88 %", 0.75 <= held <= 0.88)
    widths = [one.foreseen.width for one in found if one.foreseen]
    half = mean(math.log(width.high_mm / width.low_mm) / 2 for width in widths)
    row("half of the band, in the mean", f"{half:.1%}", "<= 11 %", half <= 0.11)
    fits = mean(bool(one.minutes_fit) for one in found)
    row("minutes inside the stated range, 15 % either way", f"{fits:.0%}", ">= 90 %", fits >= 0.9)
    of_others = mean(bool(one.minutes_fit) for one in others)
    row("  of pans, ropes, second bakes", f"{of_others:.0%}", ">= 85 %", of_others >= 0.85)
    heights = [
        abs(one.foreseen.thickness.height_mm / one.case.observed_thickness_mm - 1)
        for one in found
        if one.case.observed_thickness_mm is not None and one.foreseen
    ]
    row("heights: median error", f"{median(heights):.0%}", "<= 10 %", median(heights) <= 0.1)
    rms = ladder_rms_pct(every)
    row("steps of ladders against their base, rms", f"{rms:.1f} %", "<= 4 %", rms <= 4)
    if groups:
        alone = pieces(judged_without(every, {case.id: case.group for case in every}))
        print("each whole group left out of the fit:")
        for group, of in by_group(alone).items():
            row(f"  {group}: bias, median error", f"{mean(of):+.0f}, {median(map(abs, of)):.0f} %")


if __name__ == "__main__":
    measure_foresight(groups="--groups" in sys.argv)
