"""Copies of all that a baker has, beside the data file: seen, made, and taken elsewhere."""

import shutil
import sqlite3
import tempfile
from contextlib import ExitStack
from pathlib import Path

from fastapi import Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from finebatch.core.refusal import refuse
from finebatch.formats.moments import local
from finebatch.store import copies
from finebatch.store.copies import Copy
from finebatch.store.places import private
from finebatch.store.restore import NoBackup, look_into, restore
from finebatch.web import routing
from finebatch.web.deps import Config, Data, Now, Planner, Screens
from finebatch.web.types import Out
from finebatch.workflow.book.everything import give_out_everything
from finebatch.workflow.dough.doughs import put_unreadable_aside
from finebatch.workflow.errors import Conflict, Missing

router = routing.begin("copies")
PACKING = "fine-batch-"
SETTLES_S = 10.0
"""So long a search for a plan is waited for that is to end."""


@router.get("/copies")
def all_copies(config: Config) -> list[Copy]:
    """The copies that lie beside the data file, newest first."""
    return copies.copies(config.data_file)


@router.post("/copies", status_code=201)
def make_copy(config: Config, now: Now) -> Copy:
    """Make one now."""
    try:
        made = copies.make_copy(config.data_file, local(now), "asked")
    except FileExistsError as error:
        raise Conflict("A copy was made this second: it is there already.") from error
    except (OSError, sqlite3.Error) as error:
        raise Conflict(
            f"The copy could not be made ({error}). Check that the disk has room and the folder "
            "can be written to, then try again."
        ) from error
    return copies.copy_of(made)


@router.get(
    "/copies/{name}", response_class=FileResponse, responses=routing.files("application/zip")
)
def give_out_copy(name: str, config: Config) -> FileResponse:
    """A copy as a file: a zip of the data file and its photos, for `finebatch restore`."""
    file = copies.copy_file(config.data_file, name)
    if file is None:
        raise Missing("This copy")
    return FileResponse(file, media_type="application/zip", filename=f"fine-batch-{name}")


@router.post(
    "/copies/brought",
    status_code=201,
    openapi_extra={
        "requestBody": {
            "description": "The bytes of a zip file: a copy, or everything as it was given out.",
            "required": True,
            "content": routing.contents("application/octet-stream"),
        }
    },
)
async def bring_in_copy(request: Request, config: Config, now: Now) -> Copy:
    """Take a copy, or everything in open formats, from another disk to those that lie here, once it
    is known that it could be put back. Nothing else is changed."""
    try:
        part = copies.begin_copy(config.data_file, local(now), "brought")
        try:
            with private(part) as to:
                async for chunk in request.stream():
                    await run_in_threadpool(to.write, chunk)
            await run_in_threadpool(look_into, part, config.data_file)
            return copies.copy_of(copies.call_copy(part))
        finally:
            part.unlink(missing_ok=True)
    except NoBackup as error:
        raise refuse("file", f"{error} Nothing was changed.") from error
    except FileExistsError as error:
        raise Conflict("A file is just being brought in. Try again in a moment.") from error
    except OSError as error:
        raise Conflict(
            f"The file could not be taken ({error.strerror}). Check that the disk has room."
        ) from error


@router.delete("/copies/{name}", status_code=204)
def throw_copy_away(name: str, config: Config) -> None:
    """Throw a copy away for good."""
    file = copies.copy_file(config.data_file, name)
    if file is None:
        raise Missing("This copy")
    file.unlink(missing_ok=True)


@router.get("/everything", response_class=FileResponse, responses=routing.files("application/zip"))
def everything(data: Data, now: Now) -> FileResponse:
    """Everything that is kept, in open formats, as one zip file: for other programs, and to be put
    back here."""
    with ExitStack() as undone:
        try:
            folder = Path(tempfile.mkdtemp(prefix=PACKING))
            undone.callback(shutil.rmtree, folder, ignore_errors=True)
            packed = folder / "everything.zip"
            give_out_everything(data, packed)
        except OSError as error:
            raise Conflict(
                f"It could not be packed ({error.strerror}). Check that the disk has room."
            ) from error
        undone.pop_all()
    return FileResponse(
        packed,
        media_type="application/zip",
        filename=f"fine-batch-everything-{local(now):%Y-%m-%d}.zip",
        background=BackgroundTask(shutil.rmtree, folder, ignore_errors=True),
    )


class RestoredOut(Out):
    """How many photos came with the copy, and where what was there before lies now."""

    photos: int
    aside: str | None


@router.post("/copies/{name}/restore")
def restore_copy(
    name: str, data: Data, config: Config, now: Now, planner: Planner, screens: Screens
) -> RestoredOut:
    """Put a copy in the place of all that there is, which is copied and moved aside before. All of
    it, or nothing."""
    file = copies.copy_file(config.data_file, name)
    if file is None:
        raise Missing("This copy")
    moment = local(now)
    try:
        planner.settle(SETTLES_S)
        copies.make_copy(config.data_file, moment, "before", "-restore")
        restored = data.swapped(lambda: restore(file, config.data_file, moment))
        put_unreadable_aside(data, now)
    except NoBackup as error:
        raise Conflict(f"{error} Nothing was changed.") from error
    except FileExistsError as error:
        raise Conflict("A copy was restored this second. Look at what is there now.") from error
    except TimeoutError as error:
        raise Conflict("Something is being kept just now. Try again in a moment.") from error
    except (OSError, sqlite3.Error) as error:
        raise Conflict(
            f"What is there could not be copied before ({error}), so nothing was changed."
        ) from error
    screens.tell("restored", {})
    return RestoredOut(
        photos=restored.photos, aside=None if restored.aside is None else str(restored.aside)
    )
