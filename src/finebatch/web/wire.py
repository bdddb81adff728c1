"""The wire to every open screen: what has changed, as server-sent events."""

import asyncio
import json
import threading
from collections.abc import AsyncIterator, Mapping
from typing import Any

BEAT_S = 1.0
"""A quiet wire still beats, so that a screen knows that it is not cut."""
MOST_SCREENS = 40
RETRY_MS = 500


class _Screen:
    """One open screen: the newest of each event that it has not been sent yet."""

    def __init__(self) -> None:
        self.waiting: dict[str, Mapping[str, Any]] = {}
        self.something = asyncio.Event()


class Wire:
    """Hands events on to the screens. Of each event only the newest is kept for a slow one, so it
    needs no more memory the longer a screen sleeps.

    Each is told first which interface this server has (`shell`): a page of another one is behind.
    """

    def __init__(self, shell: str = "") -> None:
        self.shell = shell
        self._screens: dict[_Screen, asyncio.AbstractEventLoop] = {}
        self._lock = threading.Lock()
        self._closed = False

    @property
    def screens(self) -> int:
        """How many screens are open."""
        return len(self._screens)

    @property
    def full(self) -> bool:
        """Whether no more screens can be served."""
        return len(self._screens) >= MOST_SCREENS

    def tell(self, event: str, data: Mapping[str, Any]) -> None:
        """Send an event to every screen; from any thread."""
        with self._lock:
            screens = list(self._screens.items())
        for screen, loop in screens:
            if not loop.is_closed():
                loop.call_soon_threadsafe(self._put, screen, event, data)

    @staticmethod
    def _put(screen: _Screen, event: str, data: Mapping[str, Any]) -> None:
        screen.waiting[event] = data
        screen.something.set()

    def close(self) -> None:
        """End every stream."""
        self._closed = True
        self.tell("bye", {})

    async def listen(self) -> AsyncIterator[str]:
        """The events from now on, as lines of `text/event-stream`, until the screen is closed."""
        screen = _Screen()
        with self._lock:
            self._screens[screen] = asyncio.get_running_loop()
        try:
            hello = json.dumps({"shell": self.shell})
            yield f"retry: {RETRY_MS}\n\nevent: hello\ndata: {hello}\n\n"
            while not self._closed:
                try:
                    await asyncio.wait_for(screen.something.wait(), BEAT_S)
                except TimeoutError:
                    yield "event: beat\ndata: {}\n\n"
                    continue
                screen.something.clear()
                waiting, screen.waiting = screen.waiting, {}
                for event, data in waiting.items():
                    # Letters as they are: figures in them are read on the way out.
                    said = json.dumps(data, ensure_ascii=False)
                    yield f"event: {event}\ndata: {said}\n\n"
        finally:
            with self._lock:
                del self._screens[screen]
