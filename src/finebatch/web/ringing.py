"""Which of the open screens calls out when a job is due: every one, or the one that was chosen.

Kept in memory alone, on purpose: a server that is started anew lets every screen ring, and so does
one whose chosen screen was put away. An alarm that is heard twice is better than one that is not.
"""

import threading
import time
from collections.abc import Callable
from dataclasses import dataclass

HERE_S = 20.0
"""A screen says each five seconds that it is here; so long without a word, it is gone."""
MOST = 60
"""More screens than this are not told apart; they all ring."""


@dataclass(frozen=True, slots=True)
class OpenScreen:
    """A screen that is open: `id` of its browser, and by what name bakers know it."""

    id: str
    name: str


class Ringing:
    """The screens that are open, and which of them was chosen to ring."""

    def __init__(self, seconds: Callable[[], float] = time.monotonic) -> None:
        self._seconds = seconds
        self._here: dict[str, tuple[OpenScreen, float]] = {}
        self._chosen: str | None = None
        self._lock = threading.Lock()

    def here(self, screen: OpenScreen) -> None:
        """A screen says that it is open."""
        with self._lock:
            self._forget()
            if screen.id in self._here or len(self._here) < MOST:
                self._here[screen.id] = (screen, self._seconds())

    def choose(self, screen: str | None) -> None:
        """Let only this one ring from now on; None lets every one."""
        with self._lock:
            self._chosen = screen

    def open_screens(self) -> list[OpenScreen]:
        """The screens that are open, in the order in which they came."""
        with self._lock:
            self._forget()
            return [screen for screen, _ in self._here.values()]

    @property
    def chosen(self) -> str | None:
        """The screen that was chosen, while it is open."""
        with self._lock:
            self._forget()
            return self._chosen if self._chosen in self._here else None

    def _forget(self) -> None:
        now = self._seconds()
        self._here = {
            name: (screen, seen)
            for name, (screen, seen) in self._here.items()
            if now - seen < HERE_S
        }
