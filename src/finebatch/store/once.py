"""What a transaction reads once, however often it is asked for."""

from collections.abc import Callable
from typing import TypeVar

from sqlalchemy.orm import Session

T = TypeVar("T")


def once(session: Session, what: str, read: Callable[[Session], T]) -> T:
    """What is read of that name: by `read` the first time, from then on the same value."""
    known: dict[str, T] = session.info.setdefault("once", {})
    if what not in known:
        known[what] = read(session)
    return known[what]


def again(session: Session, what: str) -> None:
    """It was written: the next to ask reads it anew."""
    session.info.get("once", {}).pop(what, None)
