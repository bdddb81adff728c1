"""Photos of bakes: checked, made small, rid of what they tell beside the picture, kept as files.

They lie in a folder beside the data file, which holds only their names.
"""

import hashlib
import threading
import time
from base64 import b64decode, b64encode
from collections.abc import Callable
from pathlib import Path
from typing import Any

from finebatch.core.refusal import refuse
from finebatch.formats.apart import TooMuchError, ask_apart
from finebatch.store.backup import photos_named
from finebatch.store.database import Database, driver_of
from finebatch.store.places import photos_of, private
from finebatch.workflow.kitchen.thrown import forget_old

JUST_S = 600
MOST_BYTES = 15_000_000
WANTED = "Choose a JPEG or PNG of at most 15 MB."
_one = threading.Lock()


def small_jpeg(sent: bytes) -> bytes:
    """A picture as a JPEG of at most 1600 px without metadata; `Refusal` for what is none.

    It is opened in a process of its own, one at a time.
    """
    answer = told_apart("finebatch.workflow.book.shrink", sent, lambda photo: photo, "open")
    return b64decode(answer["jpeg"])


def told_apart(module: str, sent: bytes, asked: Callable[[str], object], work: str) -> Any:
    """What a process of its own, one at a time, tells of a photo: `asked` with it in base64, for
    that `work`. `Refusal` for what is no photo, or takes too much."""
    if len(sent) > MOST_BYTES:
        raise refuse("photo", f"This photo is too large. {WANTED}")
    try:
        with _one:
            answer = ask_apart(module, asked(b64encode(sent).decode()))
    except TooMuchError:
        raise refuse("photo", f"This photo takes too long to {work}. {WANTED}") from None
    if "fault" in answer:
        raise refuse("photo", f"{answer['fault']} {WANTED}")
    return answer


def keep(folder: Path, bake_id: int, jpeg: bytes) -> str:
    """Write a photo's file, whole or not at all; its name."""
    name = f"{bake_id}-{hashlib.sha256(jpeg).hexdigest()[:12]}.jpg"
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    half = folder / f"{name}.part"
    half.unlink(missing_ok=True)
    with private(half) as writing:
        writing.write(jpeg)
    half.replace(folder / name)
    return name


def drop(folder: Path, name: str | None) -> None:
    """Take a photo's file away; one that is gone already is gone."""
    if name is not None:
        (folder / name).unlink(missing_ok=True)


def sweep(database: Database) -> None:
    """Throw away the photos that belong to no bake of the book or the bin, and what was broken off
    while it was written. One that has just been written may belong to a bake any moment."""
    folder = photos_of(database.file)
    found = [file for file in folder.glob("*") if file.stat().st_mtime < time.time() - JUST_S]
    if not found:
        return
    with database.reading() as session:
        named = photos_named(driver_of(session.connection()))
    for file in found:
        if file.name not in named:
            file.unlink(missing_ok=True)


def let_old_go(database: Database, now: int) -> None:
    """Empty the bin of what has been in it for a month, with its photos."""
    with database.writing() as session:
        forget_old(session, now)
    sweep(database)
