"""Photos of bakes: checked, made small, rid of what they tell beside the picture, kept as files.

They lie in a folder beside the data file, which holds only their names.
"""

import hashlib
import io
import os
import time
import warnings
from pathlib import Path

from PIL import Image, ImageOps, UnidentifiedImageError

from finebatch.core.refusal import refuse
from finebatch.store.database import Database
from finebatch.store.places import photos_of
from finebatch.workflow.kitchen.thrown import forget_old, photos_named

JUST_S = 600
MOST_BYTES = 15_000_000
MOST_PIXELS = 80_000_000
LONGEST_PX = 1600
QUALITY = 85
WANTED = "Choose a JPEG or PNG of at most 15 MB."


def small_jpeg(sent: bytes) -> bytes:
    """A picture as a JPEG of at most 1600 px without metadata; `Refusal` for what is none."""
    if len(sent) > MOST_BYTES:
        raise refuse("photo", f"This photo is too large. {WANTED}")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(sent), formats=("JPEG", "PNG")) as opened:
                if opened.width * opened.height > MOST_PIXELS:
                    raise refuse("photo", f"This photo has too many pixels. {WANTED}")
                opened.draft("RGB", (2 * LONGEST_PX, 2 * LONGEST_PX))
                upright = ImageOps.exif_transpose(opened)
                picture = upright.convert("RGB")
    except UnidentifiedImageError as error:
        raise refuse("photo", f"This is no JPEG and no PNG. {WANTED}") from error
    except (
        OSError,
        ValueError,
        SyntaxError,
        Image.DecompressionBombWarning,
        Image.DecompressionBombError,
    ) as error:
        raise refuse("photo", f"This photo is broken. {WANTED}") from error
    picture.thumbnail((LONGEST_PX, LONGEST_PX))
    bare = Image.new("RGB", picture.size)
    bare.paste(picture)
    written = io.BytesIO()
    bare.save(written, "JPEG", quality=QUALITY, optimize=True)
    return written.getvalue()


def keep(folder: Path, bake_id: int, jpeg: bytes) -> str:
    """Write a photo's file, whole or not at all; its name."""
    name = f"{bake_id}-{hashlib.sha256(jpeg).hexdigest()[:12]}.jpg"
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    half = folder / f"{name}.part"
    half.unlink(missing_ok=True)
    with os.fdopen(os.open(half, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600), "wb") as writing:
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
        named = photos_named(session)
    for file in found:
        if file.name not in named:
            file.unlink(missing_ok=True)


def let_old_go(database: Database, now: int) -> None:
    """Empty the bin of what has been in it for a month, with its photos."""
    with database.writing() as session:
        forget_old(session, now)
    sweep(database)
