"""Measured cases: foreseen beside observed, and the models fitted to them."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from statistics import median

from finebatch.core.formula.composition import Composition, compose
from finebatch.core.formula.dough import Doneness, Family
from finebatch.core.heat.minutes import SLICE_REFERENCE_MM, second_bake_minutes
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.foresee import Foreseen, Models, foresee
from finebatch.core.piece.portion import Portion

MINUTES_MARGIN = 0.15
USUAL_WIDTH_SD = 0.03
"""How surely a width is known of which nothing else is said: typical, rounded, to within 6 %."""


@dataclass(frozen=True, slots=True)
class Ladder:
    """A series in which one thing varies, and this case's `step` in it: `ratio_sd` is how surely
    its width against that of the base is known, in ln; 0 of the base itself."""

    name: str
    step: str
    ratio_sd: float


@dataclass(frozen=True, slots=True)
class Case:
    """A dough and a portion with the width, thickness and minutes that usually come out. `width_sd`
    is how surely the width is known, in ln; `group` what kind of dough it is."""

    id: str
    family: Family
    formula_g: Mapping[str, float]
    portion: Portion
    how: BakeConditions
    doneness: Doneness | None
    observed_mm: float
    observed_thickness_mm: float | None
    minutes: tuple[float, float]
    minutes_second: tuple[float, float] | None
    width_sd: float = USUAL_WIDTH_SD
    group: str = ""
    ladders: tuple[Ladder, ...] = ()

    def composition(self, larder: Larder) -> Composition:
        """What this case's dough is made of."""
        return compose(self.formula_g, larder)


@dataclass(frozen=True, slots=True)
class Judged:
    """One case with what was foreseen for it. Widths in mm, error in percent of the observed."""

    case: Case
    foreseen: Foreseen
    error_pct: float
    in_band: bool
    minutes_fit: bool
    minutes_second: float | None


@dataclass(frozen=True, slots=True)
class Summary:
    """How good the predictions are over all cases; shares are 0 to 1."""

    n: int
    median_abs_error_pct: float
    max_abs_error_pct: float
    band_share: float
    minutes_share: float


def judge(case: Case, models: Models, larder: Larder) -> Judged:
    """Foresee one case and set it beside what was observed: a piece of just the stated mass."""
    found = foresee(
        models,
        case.composition(larder),
        case.family,
        case.portion,
        case.how,
        doneness=case.doneness,
        portion_cv=0.0,
    )
    low, high = case.minutes
    twice = case.family == "twice_baked"
    return Judged(
        case=case,
        foreseen=found,
        error_pct=100 * (found.width.middle_mm / case.observed_mm - 1),
        in_band=found.width.low_mm <= case.observed_mm <= found.width.high_mm,
        minutes_fit=low * (1 - MINUTES_MARGIN) <= found.minutes <= high * (1 + MINUTES_MARGIN),
        minutes_second=second_bake_minutes(SLICE_REFERENCE_MM, case.how.oven_c) if twice else None,
    )


def summarise(judged: Sequence[Judged]) -> Summary:
    """Median and largest error, share inside the band and share of minutes that fit."""
    if not judged:
        return Summary(0, 0.0, 0.0, 0.0, 0.0)
    errors = [abs(j.error_pct) for j in judged]
    return Summary(
        n=len(judged),
        median_abs_error_pct=median(errors),
        max_abs_error_pct=max(errors),
        band_share=sum(j.in_band for j in judged) / len(judged),
        minutes_share=sum(j.minutes_fit for j in judged) / len(judged),
    )
