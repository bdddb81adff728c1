"""Several files moved as one: all of them, or none, whenever the process or the machine ends."""

import json
import os
import shutil
from collections.abc import Sequence
from contextlib import suppress
from datetime import datetime
from pathlib import Path

BEFORE = ".before-"
"""Between the names of a data file and of the moment when another was put in its place: the folder
in which it lies from then on."""
STAMP = "%Y%m%d-%H%M%S"
UNPACKING = ".restoring-"
"""The beginning of the name of a folder in which a backup is unpacked."""


def _journal(data_file: Path) -> Path:
    return data_file.with_name(data_file.name + ".moving")


def move_all(data_file: Path, moves: Sequence[tuple[Path, Path]]) -> None:
    """Make those moves within the folder of a data file (or below it), or none of them.

    What is to be moved is written down before, so that `mend` can take back what was broken off.
    `OSError` when one cannot be made; then all is as it was.
    """
    folder, journal = data_file.parent, _journal(data_file)
    named = [[str(path.relative_to(folder)) for path in move] for move in moves]
    half = journal.with_name(journal.name + ".part")
    with half.open("w", encoding="utf-8") as writing:
        json.dump(named, writing)
        writing.flush()
        os.fsync(writing.fileno())
    half.replace(journal)
    try:
        for source, to in moves:
            source.rename(to)
        _sync(folder)
    except OSError:
        mend(data_file)
        raise
    journal.unlink()


def mend(data_file: Path) -> None:
    """Take back moves that were broken off, and throw away what was unpacked for them. Nobody else
    may have the data file meanwhile."""
    folder, journal = data_file.parent, _journal(data_file)
    if journal.is_file():
        for source, to in reversed(json.loads(journal.read_text(encoding="utf-8"))):
            if (folder / to).exists() and not (folder / source).exists():
                (folder / source).parent.mkdir(exist_ok=True)
                (folder / to).rename(folder / source)
        _sync(folder)
        journal.unlink()
        for aside in folder.glob(f"{data_file.name}{BEFORE}*"):
            with suppress(OSError):
                aside.rmdir()
    for left in folder.glob(f"{UNPACKING}*"):
        shutil.rmtree(left, ignore_errors=True)
    journal.with_name(journal.name + ".part").unlink(missing_ok=True)


def is_broken_off(data_file: Path) -> bool:
    """Whether something was broken off here that `mend` would mend."""
    return _journal(data_file).is_file() or any(data_file.parent.glob(f"{UNPACKING}*"))


def forget_aside(data_file: Path, before: datetime) -> None:
    """Throw away what was moved aside for a restore before that moment."""
    for aside in data_file.parent.glob(f"{data_file.name}{BEFORE}*"):
        with suppress(ValueError):
            if datetime.strptime(aside.name.rpartition(BEFORE)[2], STAMP) < before:
                shutil.rmtree(aside, ignore_errors=True)


def _sync(folder: Path) -> None:
    """What was moved is moved even when the machine stops now."""
    opened = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(opened)
    finally:
        os.close(opened)
