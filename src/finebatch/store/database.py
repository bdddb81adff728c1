"""Open the data file: WAL, foreign keys enforced, migrated to the newest form."""

import os
import sqlite3
import time
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager, suppress
from datetime import datetime
from pathlib import Path
from typing import Any, Literal, TypeVar

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DatabaseError, StatementError
from sqlalchemy.orm import Session, sessionmaker

from finebatch.core.refusal import Refusal
from finebatch.store import presses
from finebatch.store.copies import CopyThere, make_copy
from finebatch.store.gate import Gate
from finebatch.store.health import UNREADABLE, damage, looking, version_of, versions
from finebatch.store.places import Claim
from finebatch.store.swap import is_broken_off, mend
from finebatch.store.whole import migrated

SWAP_WAITS_S = 10.0
T = TypeVar("T")


class UnusableFile(RuntimeError):
    """The data file cannot be used; the message says why and what to do."""


class DamagedFile(UnusableFile):
    """The data file is not whole: a copy of it has to be put in its place."""


class FileGone(UnusableFile):
    """The data file that was opened is not there any more."""


def _mend(file: Path) -> None:
    """Take back what was broken off while the file was restored, unless it is just being done."""
    with suppress(BlockingIOError):
        alone = Claim(file, alone=True)
        try:
            mend(file)
        finally:
            alone.give_up()


def _keep_private(file: Path) -> None:
    """Nobody but its owner reads the data file; SQLite's own two files are as it is."""
    os.close(os.open(file, os.O_CREAT | os.O_RDWR, 0o600))
    if file.stat().st_mode & 0o077:
        with suppress(OSError):
            file.chmod(0o600)


def _which(file: Path) -> tuple[int, int] | None:
    """Which file it is that has that name; None where there is none."""
    try:
        found = file.stat()
    except OSError:
        return None
    return found.st_dev, found.st_ino


def _prepare(connection: sqlite3.Connection, _record: object) -> None:
    # SQLAlchemy, not the driver, opens transactions: writers take the lock at once.
    connection.isolation_level = None
    # A rest that is planned again holds the lock for a second or so; others wait their turn.
    for pragma in ("journal_mode=WAL", "foreign_keys=ON", "busy_timeout=15000"):
        connection.execute(f"PRAGMA {pragma}")


def driver_of(connection: Connection) -> sqlite3.Connection:
    """SQLite's own connection, in whatever transaction that one is."""
    driver = connection.connection.driver_connection
    assert isinstance(driver, sqlite3.Connection)
    return driver


def _enforce(connection: Connection, foreign_keys: Literal["ON", "OFF"]) -> None:
    """Enforce foreign keys or not; between transactions."""
    driver_of(connection).execute(f"PRAGMA foreign_keys={foreign_keys}")


def _begin(connection: Any) -> None:
    reading = connection.get_execution_options().get("finebatch_reading", False)
    connection.exec_driver_sql("BEGIN" if reading else "BEGIN IMMEDIATE")


class Database:
    """One data file. `writing()` is one transaction: all of it is kept, or none.

    Before it is brought up from an earlier version a copy of it is made (see `copies`),
    unless `copies` says that it is one itself.
    """

    def __init__(self, file: Path, *, copies: bool = True) -> None:
        self.file, self._gate = file, Gate()
        self._open(copies=copies)

    def _open(self, *, copies: bool) -> None:
        file = self.file
        try:
            file.parent.mkdir(parents=True, exist_ok=True)
            if is_broken_off(file):
                _mend(file)
            self._claim = Claim(file)
            _keep_private(file)
        except BlockingIOError as error:
            raise UnusableFile(
                f"{file} is being restored just now. Start again after it."
            ) from error
        except OSError as error:
            raise UnusableFile(
                f"The folder {file.parent} cannot be written to ({error.strerror}). "
                "Set FINEBATCH_DATA_FILE to a file in a folder that you may write to."
            ) from error
        try:
            version = self._look(file)
            self.engine: Engine = create_engine(f"sqlite:///{file}")
            event.listen(self.engine, "connect", _prepare)
            event.listen(self.engine, "begin", _begin)
            self._writers = sessionmaker(self.engine, expire_on_commit=False)
            reading = self.engine.execution_options(finebatch_reading=True)
            self._readers = sessionmaker(reading, expire_on_commit=False)
            self._migrate(file, version, copies=copies)
            self._opened = _which(file)
            self._settle()
        except UnusableFile:
            self._claim.give_up()
            raise

    def swapped(self, swap: Callable[[], T]) -> T:
        """Let go of the file, put another in its place (`swap`), and open what is there then; who
        asks for the file meanwhile waits. Whatever `swap` raises, the file is open again.

        `TimeoutError` while somebody is in the file for long; then nothing is done.
        """
        with self._gate.alone(SWAP_WAITS_S):
            self.close()
            try:
                return swap()
            finally:
                self._open(copies=True)

    def _look(self, file: Path) -> str | None:
        """The version of a file that is there already; `UnusableFile` for one that is damaged."""
        if not file.is_file() or not file.stat().st_size:
            return None
        try:
            with looking(file) as connection:
                broken = damage(connection)
                version = None if broken else version_of(connection)
        except UNREADABLE as error:
            broken, version = str(error), None
        if broken is not None:
            raise DamagedFile(
                f"{file} cannot be used as a data file: it is damaged ({broken}). "
                "It was left as it is."
            )
        return version

    def _migrate(self, file: Path, version: str | None, *, copies: bool) -> None:
        known = versions()
        if version == known[0]:
            return
        if version is not None and version not in known:
            raise UnusableFile(
                f"{file} was written by a newer Fine Batch. Start the newer one, or name another "
                "file with FINEBATCH_DATA_FILE."
            )
        try:
            if version is not None and copies:
                self._copy_before(file, f"{version}-to-{known[0]}")
            with self.engine.connect() as connection:
                # A table that is made anew would take with it the rows of those that point at it.
                _enforce(connection, "OFF")
                with connection.begin():
                    migrated(connection)
                _enforce(connection, "ON")
        except (DatabaseError, sqlite3.Error, UnicodeDecodeError, OSError) as error:
            raise UnusableFile(
                f"{file} cannot be used as a data file ({getattr(error, 'orig', error)}). Check "
                "that the folder can be written to and the disk has room, or name another file "
                "with FINEBATCH_DATA_FILE."
            ) from error

    def _copy_before(self, file: Path, change: str) -> None:
        # One of this very second is of a start that was broken off: it is whole.
        with suppress(CopyThere):
            make_copy(file, datetime.now(), "before", f"-{change}")

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """A transaction that writes: committed at the end, rolled back on any error.

        `Refusal` for a document that could not be read again; `KeptBefore` when this is asked for
        by a press that is kept already (see `presses`).
        """
        try:
            with self._gate.inside():
                self._check_there()
                with self._writers.begin() as session:
                    presses.write_down(session)
                    yield session
                presses.was_kept()
        except StatementError as error:
            if isinstance(error.orig, Refusal):
                raise error.orig from error
            raise

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A steady view of the file that lets others write meanwhile."""
        with self._gate.inside():
            self._check_there()
            with self._readers.begin() as session:
                yield session

    def _check_there(self) -> None:
        """`FileGone` unless the file of that name is the one that was opened: what is written to
        one that was taken away is lost."""
        there = _which(self.file)
        if there == self._opened:
            return
        what = "has been taken away" if there is None else "is another one now"
        raise FileGone(
            f"The data file {what}, so nothing is kept. Put the one that was there back at "
            f"{self.file}, and all goes on; or stop Fine Batch, and start it on the file you want."
        )

    def settle(self) -> None:
        """Put what stands in SQLite's -wal into the data file, so that it alone is whole; nothing
        while somebody is in it."""
        with self._gate.inside():
            self._settle()

    def _settle(self) -> None:
        beside = self.file.with_name(self.file.name + "-wal")
        with suppress(FileGone, sqlite3.Error, OSError):
            self._check_there()
            if beside.stat().st_size:
                with closing(sqlite3.connect(self.file, timeout=0)) as connection:
                    connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")

    @property
    def quiet_s(self) -> float:
        """For how long nobody has written."""
        beside = self.file.with_name(self.file.name + "-wal")
        try:
            return time.time() - beside.stat().st_mtime
        except OSError:
            return 0.0

    def close(self) -> None:
        """Let go of the file."""
        self.engine.dispose()
        self._claim.give_up()
