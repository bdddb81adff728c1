"""A session given out as its file has it."""

from finebatch.core.plan.prepare import Joins
from finebatch.core.plan.work import COOL_JOBS, HAND_JOBS, Kitchen, TrayWork, Work
from finebatch.core.session.wish import Item
from finebatch.core.values import part_of
from finebatch.formats.moments import local
from finebatch.formats.session_file import (
    FileAway,
    FileBake,
    FileDough,
    FileKitchen,
    FileOven,
    FileTray,
    FileWorker,
    SessionFile,
)

ASKED = (
    *("pieces", "form", "keep_as", "keep_in"),
    *("times", "each_g", "wide_mm", "share_into"),
)
"""What of a dough's item in a wish its file has under the same name."""


def file_dough(work: Work, letter: str, name: str, joins: Joins, item: Item) -> FileDough:
    """One dough of a session as its file has it, with what was asked for of it."""
    dough = work.dough(letter)
    asked = {key: getattr(item, key) for key in ASKED}
    later = None if item.bake_from is None else local(item.bake_from)
    begin = dough.bake_from if later is None else 0
    return part_of(
        FileDough,
        dough,
        **asked,
        bake_from=begin,
        bake_from_at=later,
        name=name,
        joins=joins,
        ready=joins == "fresh" and not dough.makes,
        trays=tuple(_file_tray(tray) for tray in work.trays_of(letter)),
    )


def _file_tray(tray: TrayWork) -> FileTray:
    # What the baker added is part of the minutes by now.
    bakes = (part_of(FileBake, bake, minutes=bake.length) for bake in tray.bakes)
    return part_of(FileTray, tray, bakes=tuple(bakes))


def file_kitchen(kitchen: Kitchen, away: list[FileAway]) -> FileKitchen:
    """The kitchen of a session; `away` are the baker's own times."""
    workers = tuple(
        FileWorker(
            name=w.name,
            child=w.jobs <= COOL_JOBS,
            away=away if n == 0 else [],
            jobs=[] if w.jobs in (HAND_JOBS, COOL_JOBS) else sorted(w.jobs),
        )
        for n, w in enumerate(kitchen.workers)
    )
    ovens = tuple(part_of(FileOven, oven) for oven in kitchen.ovens)
    return part_of(FileKitchen, kitchen, ovens=ovens, workers=workers)


def write_session(file: SessionFile) -> str:
    """The file as text, the same for the same session."""
    return file.model_dump_json(indent=1, exclude_none=False) + "\n"
