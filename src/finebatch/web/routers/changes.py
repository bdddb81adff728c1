"""What a change would lead to, before it is made: scaled, swapped, or beside another version."""

from dataclasses import dataclass

from finebatch.core.formula.dough import Card
from finebatch.core.formula.scaling import EggAdvice, Limit
from finebatch.core.measures.units import Unit
from finebatch.core.tray.setting import TraySetting
from finebatch.web import routing
from finebatch.web.deps import Data
from finebatch.web.types import Body, Id, Out
from finebatch.workflow.dough import differences as work
from finebatch.workflow.dough.study import get_bench

router = routing.begin("changes")


class CompareBody(Body):
    """Two cards, and the tray on which both are foreseen."""

    before: Card
    after: Card
    tray: TraySetting
    dough_id: Id | None = None


@router.post("/compare")
def compare(body: CompareBody, data: Data) -> work.Difference:
    """Two versions of a dough side by side; keeps nothing."""
    with data.reading() as session:
        bench = get_bench(session)
    return work.compare(body.before, body.after, body.tray, bench, body.dough_id)


class SwapsBody(Body):
    """A card and its tray as they are on the screen."""

    card: Card
    tray: TraySetting
    dough_id: Id | None = None


class SwapOut(Out):
    """A swap that applies: for which line, the card as it would be, before and after."""

    key: str
    label: str
    line: int | None
    takes: str
    note: str
    said: str
    caution: str
    card: Card
    difference: work.Difference


@router.post("/swaps")
def swaps(body: SwapsBody, data: Data) -> list[SwapOut]:
    """The swaps that apply to a card, each before and after; keeps nothing."""
    with data.reading() as session:
        bench = get_bench(session)
    found = work.swap_offers(body.card, body.tray, bench, body.dough_id)
    larder = bench.reader.larder
    out = []
    for one in found:
        swap, line = one.offer.swap, one.offer.line
        key = body.card.lines[line].ingredient if line is not None else None
        out.append(
            SwapOut(
                key=swap.key,
                label=swap.label,
                line=line,
                takes=larder[key].name if key else "",
                note=swap.note,
                said=one.offer.said,
                caution=swap.caution,
                card=one.offer.card,
                difference=one.difference,
            )
        )
    return out


@dataclass(frozen=True, slots=True, kw_only=True)
class ScaleBody(work.ScaleWish):
    """How much is wanted of a card: a factor, pieces of a mass, a total, or what there is."""

    card: Card


class NearFactorOut(Out):
    """A factor at which whole eggs go in."""

    factor: float
    text: str
    eggs: int
    total_g: float


class ScaledLineOut(Out):
    """A line scaled: as written, in grams, in kitchen amounts with their rounding error."""

    amount: str
    unit: Unit
    ingredient: str | None
    grams: float | None
    kitchen: str
    error_pct: float
    noted: bool


class ScalingOut(Out):
    """A scaled card and what the cook has to know."""

    factor: float
    total_g: float
    lines: list[ScaledLineOut]
    limits: list[Limit]
    eggs: EggAdvice | None
    near: list[NearFactorOut]
    mixes: int
    mix_g: float
    card: Card


@router.post("/scale")
def scale(body: ScaleBody, data: Data) -> ScalingOut:
    """A card scaled; keeps nothing."""
    with data.reading() as session:
        bench = get_bench(session)
    found = work.scale_to(body.card, body, bench)
    return ScalingOut(
        factor=float(found.factor),
        total_g=found.total_g,
        lines=[
            ScaledLineOut(
                amount=x.line.amount,
                unit=x.line.unit,
                ingredient=x.line.ingredient,
                grams=x.grams,
                kitchen=x.kitchen,
                error_pct=x.error_pct,
                noted=x.noted,
            )
            for x in found.lines
        ],
        limits=list(found.limits),
        eggs=found.eggs,
        near=[
            NearFactorOut(
                factor=float(n.factor), text=str(n.factor), eggs=n.eggs, total_g=n.total_g
            )
            for n in found.near
        ],
        mixes=found.mixes,
        mix_g=found.mix_g,
        card=found.card,
    )
