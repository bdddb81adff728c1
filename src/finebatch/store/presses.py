"""A press that is sent again, because its answer was lost, is kept once."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass

from sqlalchemy import delete
from sqlalchemy.orm import Session

from finebatch.core.care.keeping import DAY_MS
from finebatch.store.models import PressRow

KNOWN_MS = DAY_MS
"""For so long a press is known again."""


class KeptBefore(Exception):
    """What was pressed was kept when it was sent before."""


@dataclass
class Press:
    """What somebody pressed, by a key of its own, and when (UTC ms); `is_kept` once a transaction
    that it asked for is in the data file."""

    key: str
    at: int
    is_kept: bool = False


_pressed: ContextVar[Press | None] = ContextVar("pressed", default=None)


@contextmanager
def pressed(key: str, at: int) -> Iterator[Press]:
    """What is written meanwhile is what that press asked for."""
    press = Press(key, at)
    before = _pressed.set(press)
    try:
        yield press
    finally:
        _pressed.reset(before)


def write_down(session: Session) -> None:
    """The press stands beside what it asked for, in the same transaction.

    `KeptBefore` for one that is written down already.
    """
    press = _pressed.get()
    if press is None or press.is_kept:
        return
    if session.get(PressRow, press.key) is not None:
        raise KeptBefore
    session.add(PressRow(key=press.key, at=press.at))
    session.flush()


def was_kept() -> None:
    """The transaction is over: what was pressed is in the data file."""
    press = _pressed.get()
    if press is not None:
        press.is_kept = True


def forget_old(session: Session, now: int) -> None:
    """Nobody sends a press of so long ago again."""
    session.execute(delete(PressRow).where(PressRow.at < now - KNOWN_MS))
