"""A gate that lets many in at once, or one alone."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager


class Gate:
    """Whoever is inside may go in again; who waits to be alone holds back those that come later."""

    def __init__(self) -> None:
        self._changed = threading.Condition()
        self._inside = 0
        self._shut = False
        self._mine = threading.local()

    @contextmanager
    def inside(self) -> Iterator[None]:
        """Be one of many."""
        depth = getattr(self._mine, "depth", 0)
        with self._changed:
            if not depth:
                self._changed.wait_for(lambda: not self._shut)
            self._inside += 1
        self._mine.depth = depth + 1
        try:
            yield
        finally:
            self._mine.depth = depth
            with self._changed:
                self._inside -= 1
                self._changed.notify_all()

    @contextmanager
    def alone(self, timeout_s: float) -> Iterator[None]:
        """Be the only one; `TimeoutError` where that is not to be had in time."""
        with self._changed:
            if not self._changed.wait_for(lambda: not self._shut, timeout_s):
                raise TimeoutError("somebody else is alone in it")
            self._shut = True
            if not self._changed.wait_for(lambda: self._inside == 0, timeout_s):
                self._shut = False
                self._changed.notify_all()
                raise TimeoutError("somebody is in it for long")
        try:
            yield
        finally:
            with self._changed:
                self._shut = False
                self._changed.notify_all()
