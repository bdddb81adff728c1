"""A session given out as its file has it."""

from collections.abc import Mapping
from typing import Any

from finebatch.core.care.keeping import KeptAs
from finebatch.core.plan.prepare import Joins
from finebatch.core.plan.work import COOL_JOBS, HAND_JOBS, Kitchen, TrayWork, Work
from finebatch.formats.session_file import (
    FileAway,
    FileBake,
    FileDough,
    FileKitchen,
    FileOven,
    FilePart,
    FileTray,
    FileWorker,
    SessionFile,
)


def file_dough(
    work: Work, letter: str, name: str, joins: Joins, pieces: int | None, form: KeptAs | None
) -> FileDough:
    """One dough of a session as its file has it."""
    dough = work.dough(letter)
    return FileDough(
        letter=letter,
        name=name,
        pieces=pieces,
        joins=joins,
        form=form,
        ready=joins == "fresh" and not dough.makes,
        makes=list(dough.makes),
        chill_min=dough.chill_min,
        chill_most=dough.chill_most,
        temper_min=dough.temper_min,
        first_within=dough.first_within,
        bake_within=dough.bake_within,
        freeze_min=dough.freeze_min,
        parts=[
            FilePart(label=p.label, hands_min=p.hands_min, wanted=p.wanted) for p in dough.parts
        ],
        trays=[_file_tray(tray) for tray in work.trays_of(letter)],
    )


def _file_tray(tray: TrayWork) -> FileTray:
    plain: Mapping[str, Any] = {
        name: getattr(tray, name) for name in FileTray.model_fields if name != "bakes"
    }
    bakes = [
        FileBake(minutes=b.length, turn_after=b.turn_after, oven_c=b.oven_c) for b in tray.bakes
    ]
    return FileTray(**plain, bakes=bakes)


def file_kitchen(kitchen: Kitchen, away: list[FileAway]) -> FileKitchen:
    """The kitchen of a session; `away` are the baker's own times."""
    plain = {
        name: getattr(kitchen, name)
        for name in FileKitchen.model_fields
        if name not in ("ovens", "workers", "other_sheets")
    }
    workers = [
        FileWorker(
            name=w.name,
            child=w.jobs <= COOL_JOBS,
            away=away if n == 0 else [],
            jobs=[] if w.jobs in (HAND_JOBS, COOL_JOBS) else sorted(w.jobs),
        )
        for n, w in enumerate(kitchen.workers)
    ]
    ovens = [
        FileOven(**{name: getattr(oven, name) for name in FileOven.model_fields})
        for oven in kitchen.ovens
    ]
    others = list(kitchen.other_sheets)
    return FileKitchen(**plain, ovens=ovens, workers=workers, other_sheets=others)


def write_session(file: SessionFile) -> str:
    """The file as text, the same for the same session."""
    return file.model_dump_json(indent=1, exclude_none=False) + "\n"
