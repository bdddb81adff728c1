"""From the wanted piece back to the dough."""

from dataclasses import dataclass, field

from finebatch.core.aim.ways import Reached
from finebatch.core.aim.wish import Aim
from finebatch.core.aim.words import aim_words
from finebatch.core.formula.dough import Card
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import part_of
from finebatch.web import routing
from finebatch.web.deps import Data, Now
from finebatch.web.types import Body, Id
from finebatch.workflow.dough.doughs import Dough, get_dough
from finebatch.workflow.dough.study import get_bench
from finebatch.workflow.tray import aims

router = routing.begin("tray")


@dataclass(frozen=True, slots=True)
class AimBody(TraySetting):
    """How a dough is portioned and baked now, and what is wished of it; `coarse` asks for a quick
    first answer without reasons."""

    aim: Aim = field(default_factory=Aim)
    coarse: bool = False


@router.post("/doughs/{dough_id}/aim")
def aim(dough_id: Id, body: AimBody, data: Data, now: Now) -> Reached:
    """Ways from this dough to what is wished, or why there is none; nothing is kept."""
    with data.reading() as session:
        dough, bench = get_dough(session, dough_id), get_bench(session)
        facts = aims.facts_here(session, now)
    setting = part_of(TraySetting, body)
    return aims.aimed_at(dough, setting, body.aim, bench, facts, coarse=body.coarse)


class KeepWayBody(Body):
    """One way as it was answered, on top of the revision that it was looked for from, and the wish
    that it is for."""

    revision: Id
    card: Card
    setting: TraySetting
    aim: Aim


@router.post("/doughs/{dough_id}/keep-way")
def keep_way(dough_id: Id, body: KeepWayBody, data: Data, now: Now) -> Dough:
    """Make a way a version of the dough, and its tray's setting with it."""
    with data.writing() as session:
        reason = aim_words(body.aim)
        return aims.keep_way(session, dough_id, body.revision, body.card, body.setting, reason, now)
