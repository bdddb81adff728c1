"""Measured cases: foreseen beside observed, and the models fitted to them."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from statistics import median

from finebatch.core.formula.composition import Composition, compose
from finebatch.core.formula.dough import Doneness, Family
from finebatch.core.heat.minutes import SLICE_REFERENCE_MM, Lying, second_bake_minutes
from finebatch.core.heat.oven import conventional_c
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
class DriedSlice:
    """A slice of a baked log in its second bake."""

    thickness_mm: float
    lying: Lying = "flat"
    turned: bool = True


@dataclass(frozen=True, slots=True)
class Case:
    """A dough and a portion with the width, thickness and minutes that usually come out, None where
    not known. `width_sd` is how surely the width is known, in ln; `group` what kind of dough it is.
    """

    id: str
    family: Family
    formula_g: Mapping[str, float]
    portion: Portion | DriedSlice
    how: BakeConditions
    doneness: Doneness | None
    observed_mm: float | None
    observed_thickness_mm: float | None
    minutes: tuple[float, float] | None
    minutes_second: tuple[float, float] | None
    width_sd: float = USUAL_WIDTH_SD
    group: str = ""
    ladders: tuple[Ladder, ...] = ()

    @property
    def of_dough(self) -> Portion:
        """The portion of dough; `TypeError` for a slice of what was baked."""
        if isinstance(self.portion, DriedSlice):
            raise TypeError("a slice of a baked log is no portion of dough")
        return self.portion

    def composition(self, larder: Larder) -> Composition:
        """What this case's dough is made of."""
        return compose(self.formula_g, larder)


@dataclass(frozen=True, slots=True)
class Judged:
    """One case with what was foreseen for it, None where there is nothing to foresee or to set it
    beside. Widths in mm, error in percent of the observed."""

    case: Case
    foreseen: Foreseen | None
    error_pct: float | None
    in_band: bool | None
    minutes: float
    minutes_fit: bool | None
    minutes_second: float | None


@dataclass(frozen=True, slots=True)
class Summary:
    """How good the predictions are over all cases that say what came out; shares are 0 to 1."""

    n: int
    median_abs_error_pct: float
    max_abs_error_pct: float
    band_share: float
    minutes_share: float


def _fits(minutes: float, usual: tuple[float, float] | None) -> bool | None:
    if usual is None:
        return None
    low, high = usual
    return low * (1 - MINUTES_MARGIN) <= minutes <= high * (1 + MINUTES_MARGIN)


def judge(case: Case, models: Models, larder: Larder) -> Judged:
    """Foresee one case and set it beside what was observed: a piece of just the stated mass."""
    still_c = conventional_c(case.how.oven_c, case.how.oven_mode)
    if isinstance(case.portion, DriedSlice):
        of = case.portion
        took = second_bake_minutes(of.thickness_mm, still_c, of.lying, turned=of.turned)
        return Judged(case, None, None, None, took, _fits(took, case.minutes), took)
    found = foresee(
        models,
        case.composition(larder),
        case.family,
        case.of_dough,
        case.how,
        doneness=case.doneness,
        portion_cv=0.0,
    )
    twice = case.family == "twice_baked"
    width, seen = found.width, case.observed_mm
    return Judged(
        case=case,
        foreseen=found,
        error_pct=None if seen is None else 100 * (width.middle_mm / seen - 1),
        in_band=None if seen is None else width.low_mm <= seen <= width.high_mm,
        minutes=found.minutes,
        minutes_fit=_fits(found.minutes, case.minutes),
        minutes_second=second_bake_minutes(SLICE_REFERENCE_MM, still_c) if twice else None,
    )


def _share(found: Sequence[bool | None]) -> float:
    known = [one for one in found if one is not None]
    return sum(known) / len(known) if known else 0.0


def summarise(judged: Sequence[Judged]) -> Summary:
    """Median and largest error, share inside the band and share of minutes that fit."""
    errors = [abs(j.error_pct) for j in judged if j.error_pct is not None]
    return Summary(
        n=len(judged),
        median_abs_error_pct=median(errors) if errors else 0.0,
        max_abs_error_pct=max(errors, default=0.0),
        band_share=_share([j.in_band for j in judged]),
        minutes_share=_share([j.minutes_fit for j in judged]),
    )
