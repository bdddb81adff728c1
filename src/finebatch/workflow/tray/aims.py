"""From the piece that is wanted back to the dough: ways there, and making one a version."""

from sqlalchemy.orm import Session

from finebatch.core.aim.distance import Stand
from finebatch.core.aim.trial import Dough as Aimed
from finebatch.core.aim.variants import Facts
from finebatch.core.aim.ways import Reached, ways
from finebatch.core.aim.wish import Aim
from finebatch.core.formula.dough import Card
from finebatch.core.tray.setting import TraySetting
from finebatch.facts import formula
from finebatch.workflow.dough import doughs
from finebatch.workflow.dough.doughs import Dough
from finebatch.workflow.dough.study import Bench
from finebatch.workflow.kitchen.stock import good_g
from finebatch.workflow.tray.what_ifs import question_if


def facts_here(session: Session, now: int) -> Facts:
    """What answers are looked for with in this house."""
    there = good_g(session, now)
    return Facts(formula.swaps(), formula.keepings(), there or None)


def aimed_at(
    dough: Dough, setting: TraySetting, aim: Aim, bench: Bench, facts: Facts, *, coarse: bool
) -> Reached:
    """The ways from a dough, portioned and baked so, to what is wished; `Refusal` for one of which
    no piece can be foreseen."""
    asked = question_if(dough, setting, [], bench)
    larder = bench.reader.larder
    origin = Stand(asked.formula_g, asked.family, asked.mixing, setting, asked.lot(larder))
    begun = Aimed(
        card=dough.card,
        weighed=dough.weighed,
        asked=asked,
        ground=bench.ground(dough.id),
        bands=formula.bands(),
        measuring=bench.reader.measuring.where(dough.card.cup, dough.card.egg),
        origin=origin,
    )
    return ways(begun, aim, facts, coarse=coarse)


def keep_way(
    session: Session,
    dough_id: int,
    revision: int,
    card: Card,
    setting: TraySetting,
    reason: str,
    now: int,
) -> Dough:
    """Make one way a version of the dough, and its tray's setting with it; `Conflict` when the
    dough was changed elsewhere since that revision."""
    kept = doughs.get_dough(session, dough_id)
    if card != kept.card or revision != kept.revision:
        doughs.change_dough(session, dough_id, revision, card, now, reason)
    return doughs.change_tray(session, dough_id, setting)
