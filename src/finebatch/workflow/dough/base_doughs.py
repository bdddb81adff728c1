"""The doughs that ship, for a baker to begin from one."""

from dataclasses import replace

from sqlalchemy.orm import Session

from finebatch.core.tray.base_dough import BaseDough
from finebatch.facts import tables
from finebatch.workflow.dough.doughs import Dough, add_dough
from finebatch.workflow.dough.from_card import started, understand
from finebatch.workflow.dough.study import Bench, get_bench
from finebatch.workflow.errors import Missing


def as_dough(base: BaseDough, bench: Bench) -> Dough:
    """A base dough as this kitchen would make it: its text read as a card that is pasted, in the
    portion that it is meant for; kept nowhere."""
    read = understand(base.text, bench.reader, bench.kitchen)
    card = replace(read.card, family=base.family, mixing=base.mixing)
    weighed = bench.weigh(card)
    begun = started(card, weighed, bench.kitchen, bench.reader.larder)
    return Dough(0, 0, 0, card, replace(begun.setting, piece=base.piece), weighed)


def begin_from(session: Session, key: str, now: int) -> Dough:
    """Keep a base dough as one's own; `Missing` where there is none of that key."""
    base = tables.base_doughs().get(key)
    if base is None:
        raise Missing("A base dough of that name")
    dough = as_dough(base, get_bench(session))
    return add_dough(session, dough.card, now, dough.tray, reason="Begun from a base dough")
