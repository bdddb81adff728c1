"""Open the data file: WAL, foreign keys enforced, migrated to the newest form."""

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.util.exc import CommandError
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session, sessionmaker

MIGRATIONS = Path(__file__).parent / "migrations"


class UnusableFile(RuntimeError):
    """The data file cannot be used; the message says why and what to do."""


def _prepare(connection: sqlite3.Connection, _record: object) -> None:
    # SQLAlchemy, not the driver, opens transactions: writers take the lock at once.
    connection.isolation_level = None
    # A rest that is planned again holds the lock for a second or so; others wait their turn.
    for pragma in ("journal_mode=WAL", "foreign_keys=ON", "busy_timeout=15000"):
        connection.execute(f"PRAGMA {pragma}")


def _begin(connection: Any) -> None:
    reading = connection.get_execution_options().get("finebatch_reading", False)
    connection.exec_driver_sql("BEGIN" if reading else "BEGIN IMMEDIATE")


class Database:
    """One data file. `writing()` is one transaction: all of it is kept, or none."""

    def __init__(self, file: Path) -> None:
        try:
            file.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise UnusableFile(
                f"The folder {file.parent} cannot be made ({error.strerror}). "
                "Set FINEBATCH_DATA_FILE to a file in a folder that you may write to."
            ) from error
        self.engine: Engine = create_engine(f"sqlite:///{file}")
        event.listen(self.engine, "connect", _prepare)
        event.listen(self.engine, "begin", _begin)
        self._writers = sessionmaker(self.engine, expire_on_commit=False)
        reading = self.engine.execution_options(finebatch_reading=True)
        self._readers = sessionmaker(reading, expire_on_commit=False)
        self._migrate(file)

    def _migrate(self, file: Path) -> None:
        config = Config()
        config.set_main_option("script_location", str(MIGRATIONS).replace("%", "%%"))
        try:
            with self.engine.begin() as connection:
                config.attributes["connection"] = connection
                command.upgrade(config, "head")
        except CommandError as error:
            raise UnusableFile(
                f"{file} was written by a newer Fine Batch. Start the newer one, or name another "
                "file with FINEBATCH_DATA_FILE."
            ) from error
        except (DatabaseError, OSError) as error:
            raise UnusableFile(
                f"{file} cannot be used as a data file ({getattr(error, 'orig', error)}). Check "
                "that the folder can be written to and the disk has room, or name another file "
                "with FINEBATCH_DATA_FILE."
            ) from error

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """A transaction that writes: committed at the end, rolled back on any error."""
        with self._writers.begin() as session:
            yield session

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A steady view of the file that lets others write meanwhile."""
        with self._readers.begin() as session:
            yield session

    def close(self) -> None:
        """Let go of the file."""
        self.engine.dispose()
