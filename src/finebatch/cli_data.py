"""The data file on the command line: opened, copied, and put back from a copy."""

from __future__ import annotations

import sqlite3
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer
from pydantic import ValidationError

from finebatch.cli_words import say
from finebatch.core.measures.figures import read_in
from finebatch.settings import Settings

if TYPE_CHECKING:
    from finebatch.store.database import Database, UnusableFile


def stop(message: str, code: int = 1) -> typer.Exit:
    """Say what is wrong; raise what comes back, which ends the command with that status."""
    typer.secho(read_in(message), err=True, fg=typer.colors.RED)
    return typer.Exit(code)


def settings_now() -> Settings:
    """The settings of this environment; ends the command where one does not fit."""
    try:
        return Settings()
    except ValidationError as error:
        first = error.errors()[0]
        name = f"FINEBATCH_{first['loc'][0]}".upper()
        raise stop(f"{name}={first['input']} does not fit: {first['msg']}.") from error


def unusable(error: UnusableFile, data_file: Path) -> str:
    """What is wrong with a data file, and for a damaged one the copy that can take its place."""
    from finebatch.store.database import DamagedFile
    from finebatch.store.restore import last_good_copy

    if not isinstance(error, DamagedFile):
        return str(error)
    copy = last_good_copy(data_file)
    if copy is None:
        return (
            f"{error} There is no good copy of it beside it. Put a backup of yours in its place: "
            "finebatch restore FILE.zip"
        )
    made = datetime.fromtimestamp(copy.stat().st_mtime)
    return (
        f"{error} The last good copy is of {made:%Y-%m-%d %H:%M}. "
        f"Put it in its place: finebatch restore {copy}"
    )


def open_file(settings: Settings) -> Database:
    """The data file of these settings; ends the command when it cannot be used."""
    from finebatch.store.database import Database, UnusableFile

    try:
        return Database(settings.data_file)
    except UnusableFile as error:
        raise stop(unusable(error, settings.data_file)) from error


def back_up_file(
    to: Annotated[Path, typer.Argument(help="The zip file to write; it must be a new one.")],
) -> None:
    """Copy the data file and its photos into a zip file; the app may be running."""
    from finebatch.store.backup import back_up

    data_file = settings_now().data_file
    try:
        photos = back_up(data_file, to)
    except OSError as error:
        raise stop(f"{data_file} was not copied to {to}: {error.strerror}.") from error
    except sqlite3.Error as error:
        raise stop(f"{data_file} was not copied to {to}: it cannot be read ({error}).") from error
    say(f"{to}: {data_file.name} and {photos} photos. To have them back: finebatch restore {to}")


def say_token() -> None:
    """Say the token that a program sends to change something (header X-Fine-Batch-Token)."""
    from finebatch.store.places import token_of

    data_file = settings_now().data_file
    try:
        data_file.parent.mkdir(parents=True, exist_ok=True)
        say(token_of(data_file))
    except OSError as error:
        raise stop(f"{data_file.parent} cannot be written to ({error.strerror}).") from error


def give_out_everything(
    to: Annotated[Path, typer.Argument(help="The zip file to write; it must be a new one.")],
) -> None:
    """Write everything that is kept in open formats into a zip file; the app may be running.

    Doughs as recipes, book, cold store and larder as CSV, sessions and kitchen as JSON, photos, and
    every row as JSON Lines. `finebatch restore` takes it as it takes a backup.
    """
    from finebatch.workflow.book import everything

    database = open_file(settings_now())
    try:
        everything.give_out_everything(database, to)
    except OSError as error:
        raise stop(f"{to} was not written: {error.strerror}.") from error
    finally:
        database.close()
    say(f"{to}: everything, in open formats. To have it back: finebatch restore {to}")


def restore_file(
    backup: Annotated[
        Path, typer.Argument(help="A zip file that finebatch backup or everything wrote.")
    ],
) -> None:
    """Put a backup in place of the data file and its photos; the app must not be running.

    What was there before is moved aside, not thrown away. Exit status 2 when the backup is not
    whole or the data file is in use; nothing is changed then.
    """
    from finebatch.store.restore import NoBackup, restore

    data_file = settings_now().data_file
    try:
        restored = restore(backup, data_file, datetime.now())
    except NoBackup as error:
        raise stop(f"{error} Nothing was changed.", 2) from error
    say(f"{data_file} is {backup} now, with {restored.photos} photos.")
    if restored.aside is not None:
        say(f"What was there before lies in {restored.aside}.")
