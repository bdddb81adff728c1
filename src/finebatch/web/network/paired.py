"""The tablets and phones that were let in: their names, and what tells each from all others.

Kept beside the data file, not in it: a copy that is put back must not let in again what was shut
out since, and copies that are given away carry no keys.
"""

import hashlib
import json
import secrets
import threading
from collections.abc import Callable
from contextlib import suppress
from dataclasses import asdict, dataclass, replace
from enum import StrEnum
from pathlib import Path

from finebatch.store.places import put_whole

MOST_DEVICES = 20
SEEN_EVERY_MS = 60_000


class Role(StrEnum):
    """What a device may do: all that this machine's screens may, or what is done at the oven."""

    ALL = "all"
    KITCHEN = "kitchen"


@dataclass(frozen=True, slots=True)
class PairedDevice:
    """One that was let in. `seen_at` is when it asked for something last (UTC ms)."""

    id: str
    name: str
    role: Role
    token_sha256: str
    paired_at: int
    seen_at: int


class TooManyDevices(ValueError):
    """No more can be let in before one is let go."""


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()


def _read(file: Path) -> dict[str, PairedDevice]:
    """Those in a file; none of what cannot be read, for a device is let in again with a code."""
    try:
        rows = json.loads(file.read_text("utf-8"))
        found = [PairedDevice(**{**row, "role": Role(row["role"])}) for row in rows]
    except (OSError, ValueError, TypeError, KeyError):
        return {}
    return {device.id: device for device in found}


class Paired:
    """The devices that are let in, kept in a file that its owner alone may read."""

    def __init__(self, file: Path) -> None:
        self._file = file
        self._devices = _read(file)
        self._lock = threading.Lock()
        self._listeners: list[Callable[[str], None]] = []

    def all(self) -> list[PairedDevice]:
        """Every device, the one that was let in first at the top."""
        return sorted(self._devices.values(), key=lambda device: (device.paired_at, device.id))

    def let_in(self, name: str, role: Role, now: int) -> tuple[PairedDevice, str]:
        """One more, and the token that it has to keep. `TooManyDevices` when there is no room,
        `OSError` when it cannot be written down."""
        token = secrets.token_urlsafe(32)
        with self._lock:
            if len(self._devices) >= MOST_DEVICES:
                raise TooManyDevices(f"{MOST_DEVICES} devices are let in. Let one go first.")
            device = PairedDevice(secrets.token_hex(8), name, role, _hash(token), now, now)
            self._devices[device.id] = device
            try:
                self._keep()
            except OSError:
                del self._devices[device.id]
                raise
        return device, token

    def known(self, token: str, now: int) -> PairedDevice | None:
        """The device that has this token, seen now."""
        wanted = _hash(token)
        found = next((d for d in self._devices.values() if d.token_sha256 == wanted), None)
        if found is None or now - found.seen_at < SEEN_EVERY_MS:
            return found
        with self._lock:
            if found.id in self._devices:
                self._devices[found.id] = replace(self._devices[found.id], seen_at=now)
                # That it was here is no reason to turn it away, where the disk is full.
                with suppress(OSError):
                    self._keep()
        return found

    def change(self, id: str, name: str, role: Role) -> bool:
        """Call a device otherwise, or let it do more or less; whether there is one. `OSError` when
        it is so until the next start only, for it cannot be written down."""
        with self._lock:
            if id not in self._devices:
                return False
            self._devices[id] = replace(self._devices[id], name=name, role=role)
            self._tell(id)
            self._keep()
        return True

    def let_go(self, id: str) -> bool:
        """Let a device in no more; whether there was one. `OSError` as for a change: it is out
        until the next start."""
        with self._lock:
            if self._devices.pop(id, None) is None:
                return False
            self._tell(id)
            self._keep()
        return True

    def on_change(self, listener: Callable[[str], None]) -> None:
        """Call that with a device's id whenever what it may do changed; from any thread."""
        self._listeners.append(listener)

    def _tell(self, id: str) -> None:
        for listener in self._listeners:
            listener(id)

    def _keep(self) -> None:
        self._file.parent.mkdir(mode=0o700, exist_ok=True)
        put_whole(self._file, json.dumps([asdict(d) for d in self.all()], indent=1).encode())
