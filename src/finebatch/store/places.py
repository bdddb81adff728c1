"""What lies beside a data file, and who has it open."""

import fcntl
import os
import secrets
from pathlib import Path
from typing import IO


def photos_of(data_file: Path) -> Path:
    """The folder of the photos that a data file names."""
    return data_file.with_name(data_file.name + ".photos")


def copies_of(data_file: Path) -> Path:
    """The folder of the copies that are made by themselves."""
    return data_file.with_name(data_file.name + ".copies")


def network_of(data_file: Path) -> Path:
    """The folder of the home network's keys and of the devices that are let in. It stays where it
    is: no copy has it, and none that is put back brings an earlier one."""
    return data_file.with_name(data_file.name + ".network")


def all_of(data_file: Path) -> tuple[Path, ...]:
    """The data file with all that belongs to it and has to be moved with it: SQLite's own two
    files, without which it is not whole, and the photos."""
    beside = (data_file.with_name(data_file.name + end) for end in ("-wal", "-shm"))
    return (data_file, *beside, photos_of(data_file))


def private(file: Path) -> IO[bytes]:
    """A new file, open to be written, that its owner alone may read. `FileExistsError` when there
    is one of that name."""
    return os.fdopen(os.open(file, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600), "wb")


def put_whole(file: Path, content: bytes) -> None:
    """A file that its owner alone may read, with that content: all of it, or as it was before.
    `OSError` when it cannot be written."""
    beside = file.with_name(f".{file.name}.new")
    beside.unlink(missing_ok=True)
    with private(beside) as writing:
        writing.write(content)
    beside.replace(file)


def token_of(data_file: Path) -> str:
    """What a program sends to change something; made at first, and read by its owner alone."""
    file = data_file.with_name(data_file.name + ".token")
    try:
        with private(file) as writing:
            writing.write(secrets.token_urlsafe(24).encode())
    except FileExistsError:
        pass
    return file.read_text().strip() or secrets.token_urlsafe(24)


class ServedElsewhere(RuntimeError):
    """Another server has the data file; the message is its address."""


class Served:
    """That a server is on a data file, and at which address: there is one at a time, until its
    process ends, however it ends. `ServedElsewhere` when there is one already."""

    def __init__(self, data_file: Path, address: str) -> None:
        self._held = data_file.with_name(data_file.name + ".served").open("a+", encoding="utf-8")
        try:
            fcntl.flock(self._held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError as error:
            self._held.seek(0)
            there = self._held.read(200)
            self._held.close()
            raise ServedElsewhere(there) from error
        self._held.truncate(0)
        self._held.write(address)
        self._held.flush()

    def give_up(self) -> None:
        """There is none any more."""
        self._held.close()


class Claim:
    """A claim on a data file, given up when the process ends, however it ends.

    Many may use a file at once; whoever wants to put another in its place has to be `alone`.
    A file of its own is locked, for SQLite gives up its own locks when another hand closes the
    data file. `BlockingIOError` when somebody else's claim is in the way, `OSError` when the
    folder cannot be written to.
    """

    def __init__(self, data_file: Path, *, alone: bool = False) -> None:
        self._held: IO[bytes] = data_file.with_name(data_file.name + ".lock").open("ab")
        try:
            fcntl.flock(self._held, (fcntl.LOCK_EX if alone else fcntl.LOCK_SH) | fcntl.LOCK_NB)
        except OSError:
            self._held.close()
            raise

    def give_up(self) -> None:
        """Let others have it."""
        self._held.close()
