"""Fit the shipped models to the shipped cases and write `facts/data/fitted.json`.

python scripts/fit_models.py           writes the file
python scripts/fit_models.py --check   exits 1 when the file is not what the fit gives
"""

import json
import re
import sys
from dataclasses import asdict
from pathlib import Path

from finebatch.core.piece.cases import Case
from finebatch.core.piece.fit_models import Prior, Priors, fit_models
from finebatch.facts import tables
from finebatch.formats.cases import read_cases

DATA = Path(__file__).parent.parent / "src" / "finebatch" / "facts" / "data"
CASE_FILES = ("spread_cases.json", "other_kinds.json")


def fit_priors() -> Priors:
    """The shipped priors of lift and minutes, by model and figure."""
    priors: dict[str, dict[str, Prior]] = {"lift": {}, "heat": {}}
    for row in tables.prior_rows():
        priors[row.model][row.figure] = Prior(row.prior_mean, row.prior_sd)
    return priors


def fit_cases() -> list[Case]:
    """All cases that the models are fitted to."""
    return [case for file in CASE_FILES for case in read_cases(DATA / file)]


def fitted_text() -> str:
    """The file's text, the same on every run."""
    cases = fit_cases()
    models = fit_models(tables.effects(), fit_priors(), cases, tables.larder())
    spread = models.spread
    figures = {
        "note": "Fitted by scripts/fit_models.py to the cases beside it; do not edit by hand.",
        "spread": {
            "keys": [effect.key for effect in spread.effects],
            "mean": spread.mean.tolist(),
            "noise_sd": spread.noise_sd,
            "covariance": (spread.covariance + 0.0).tolist(),
            "measured": (spread.measured + 0.0).tolist(),
        },
        "lift": asdict(models.lift),
        "heat": asdict(models.heat),
    }
    text = json.dumps(figures, indent=1)
    # One line for each row of figures.
    return re.sub(r"\[[-\d.,e\s]+\]", lambda row: " ".join(row[0].split()), text) + "\n"


if __name__ == "__main__":
    target = DATA / "fitted.json"
    if "--check" in sys.argv:
        if target.read_text(encoding="utf-8") != fitted_text():
            sys.exit("fitted.json is stale: run `python scripts/fit_models.py` and commit it.")
        print("fitted.json is what the fit gives.")
    else:
        target.write_text(fitted_text(), encoding="utf-8")
        print(f"wrote {target.name}")
