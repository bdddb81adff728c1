"""Chilling: how long a dough's shape takes in the cold, and back on the bench."""

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.book.hands import Pace
from finebatch.core.care.cautions import DEFER
from finebatch.core.care.keeping import KeptAs
from finebatch.core.care.warm import KEEP_DOUGH
from finebatch.core.heat.chilling import Air, Chill, Curve, Purpose
from finebatch.core.tray import question as trays
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import part_of
from finebatch.web import routing
from finebatch.web.deps import Data
from finebatch.web.types import Id, Out
from finebatch.workflow.dough.doughs import get_dough
from finebatch.workflow.dough.study import get_bench
from finebatch.workflow.kitchen.fridge import cold_pace
from finebatch.workflow.tray import what_ifs

router = routing.begin("tray")


@dataclass(frozen=True, slots=True)
class ChillBody(TraySetting):
    """Where the dough is chilled, from what temperature in °C."""

    place: Literal["fridge", "freezer"] = "fridge"
    start_c: Annotated[float, Interval(ge=0, le=40)] = 23.0


class CurveOut(Out):
    """A temperature over time in one place: °C every `every_min` minutes."""

    place: Air
    air_c: float
    every_min: float
    temps_c: list[float]


class ChillWay(Out):
    """A shape in which this dough may be chilled, and the best minutes of it there (null where it
    never gets cold enough)."""

    form: KeptAs
    best_min: float | None


class ChillOut(Out):
    """How a shape chills for a job. Minutes; null where it never comes to that.

    `slower` times the usual minutes, as was learnt from `felt` doughs. `ways` are the shapes to
    choose from, where there is a choice.
    """

    shape: str
    job: Purpose
    from_c: float
    low_c: float
    high_c: float
    ready_min: float | None
    best_min: float | None
    hard_min: float | None
    bench_min: float | None
    temper_min: float | None
    slower: float
    felt: int
    caution: str
    cooling: CurveOut
    warming: CurveOut
    ways: list[ChillWay]


MOST_POINTS = 120


def _curve_out(curve: Curve, step_min: float) -> CurveOut:
    every = max(1, len(curve.temps_c) // MOST_POINTS)
    return CurveOut(
        place=curve.place,
        air_c=curve.air_c,
        every_min=every * step_min,
        temps_c=[round(t, 2) for t in curve.temps_c[::every]],
    )


def _chill_out(found: Chill, pace: Pace, ways: list[ChillWay]) -> ChillOut:
    names = ("job", "from_c", "ready_min", "best_min", "hard_min", "bench_min", "temper_min")
    plain = {name: getattr(found, name) for name in names}
    return ChillOut(
        **plain,
        shape=found.shape.words,
        slower=pace.times,
        felt=pace.jobs,
        caution=f"{KEEP_DOUGH} {DEFER}",
        low_c=found.to_c[0],
        high_c=found.to_c[1],
        cooling=_curve_out(found.cooling, found.cooling.step_min),
        warming=_curve_out(found.warming, found.warming.step_min),
        ways=ways,
    )


@router.post("/doughs/{dough_id}/chill")
def chill(dough_id: Id, body: ChillBody, data: Data) -> ChillOut:
    """How long this dough's shape takes in the cold, and back on the bench."""
    with data.reading() as session:
        dough, bench = get_dough(session, dough_id), get_bench(session)
        pace = cold_pace(session, bench.kitchen)
    asked = what_ifs.question_if(dough, part_of(TraySetting, body), [], bench)
    larder = bench.reader.larder

    def chilled(setting: TraySetting) -> Chill:
        as_set = replace(asked, setting=setting)
        return trays.chill_for(as_set, larder, body.place, body.start_c, pace.times)

    ways = [
        ChillWay(form=form, best_min=chilled(replace(asked.setting, chilled_as=form)).best_min)
        for form in asked.setting.piece.CHILLED_AS
    ]
    return _chill_out(chilled(asked.setting), pace, ways)
