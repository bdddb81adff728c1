"""The kitchen: what there is to bake with."""

from collections.abc import Callable
from dataclasses import dataclass, field
from importlib.metadata import version
from typing import Annotated

from annotated_types import MaxLen
from fastapi import Request
from sqlalchemy.orm import Session

from finebatch.core.book.hands import Pace
from finebatch.core.measures.kitchen_units import KitchenUnits
from finebatch.core.piece.tools import NamedCutter, NamedSheet, Scoop
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.facts import tables
from finebatch.facts.regions import Region, regions
from finebatch.store.database import Database
from finebatch.web import routing
from finebatch.web.deps import Config, Data, Now
from finebatch.web.types import Out
from finebatch.workflow.dough.doughs import follow_scale
from finebatch.workflow.kitchen import equipment as kitchen
from finebatch.workflow.kitchen.hands import Learnt, hands_of, learnt_of

router = routing.begin("kitchen")


@dataclass(frozen=True, slots=True)
class KitchenBody(KitchenSetting):
    """What there is to bake with; tools that are not named are the usual ones."""

    scoops: Annotated[tuple[Scoop, ...], MaxLen(40)] = field(default_factory=tables.scoops)
    cutters: Annotated[tuple[NamedCutter, ...], MaxLen(40)] = field(default_factory=tables.cutters)


class AboutOut(Out):
    """What this is, whether it is the demo, and what its clock shows (UTC ms). A demo that was
    opened from a kitchen of one's own says where that is (`back_to`)."""

    version: str
    demo: bool
    now: int
    back_to: str | None


@router.get("/about")
def about(request: Request, now: Now, config: Config) -> AboutOut:
    """The version of the app."""
    demo = request.app.state.show_bake is not None
    back_to = config.back_to or None
    return AboutOut(version=version("finebatch"), demo=demo, now=now, back_to=back_to)


@router.get("/sheets")
def list_sheets() -> list[NamedSheet]:
    """Sheets that bakers have."""
    return list(tables.sheets())


@router.get("/regions")
def list_regions() -> list[Region]:
    """What kitchens usually have, by region."""
    return list(regions())


@router.get("/kitchen")
def get_kitchen(data: Data) -> KitchenSetting:
    """What there is to bake with."""
    with data.reading() as session:
        return kitchen.get_kitchen(session)


@router.put("/kitchen")
def change_kitchen(body: KitchenBody, data: Data) -> KitchenSetting:
    """Keep what there is to bake with."""
    return _keep(data, lambda session: kitchen.change_kitchen(session, body))


@router.put("/kitchen/units")
def choose_units(body: KitchenUnits, data: Data) -> KitchenSetting:
    """Keep the units in which figures are read."""
    return _keep(data, lambda session: kitchen.choose_units(session, body))


def _keep(data: Database, change: Callable[[Session], KitchenSetting]) -> KitchenSetting:
    """Keep a changed kitchen; the trays follow where another scale of temperatures is read."""
    with data.writing() as session:
        before = kitchen.get_kitchen(session)
        after = change(session)
        follow_scale(session, before.reads, after.reads)
        return after


class KnownKitchenOut(Out):
    """Whether the kitchen was ever described; what bakes have taught of these hands."""

    described: bool
    portion: Pace
    mix: Pace
    others: list[Learnt]


@router.get("/kitchen/known")
def known_kitchen(data: Data) -> KnownKitchenOut:
    """What is known of the kitchen that nobody typed in."""
    with data.reading() as session:
        hands = hands_of(session, kitchen.get_kitchen(session))
        return KnownKitchenOut(
            described=kitchen.is_described(session),
            portion=hands.portion,
            mix=hands.mix,
            others=learnt_of(hands),
        )
