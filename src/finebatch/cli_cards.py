"""Plan cards on the command line: from the text of a card to who does what, when."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Any

from finebatch.cli_data import stop
from finebatch.cli_words import say
from finebatch.core.refusal import Refusal
from finebatch.formats.moments import day_and_time, local, next_time

if TYPE_CHECKING:
    from finebatch.core.plan.work import Kitchen
    from finebatch.core.tray.kitchen import KitchenSetting


def moment(text: str, name: str) -> datetime:
    """A time as it is given: `2026-10-10T15:00`, local where it names no zone, or `15:00` for the
    next time that the clock shows that."""
    try:
        if len(text) <= 5:
            hour, _, minute = text.partition(":")
            return next_time(int(hour), int(minute or 0))
        found = datetime.fromisoformat(text)
    except ValueError as error:
        raise stop(f"{name}: write a time like 2026-10-10T15:00 or 15:00.", 2) from error
    if not 1970 < found.year < 2200:
        raise stop(f"{name}: nobody bakes in that year.", 2)
    return found.astimezone()


def _kitchen(file: Path | None, base: datetime) -> tuple[KitchenSetting, Kitchen | None]:
    """The kitchen of a file: as the app describes one (`GET /api/kitchen`), or as a session file
    does; the usual one without a file."""
    from pydantic import TypeAdapter, ValidationError

    from finebatch.core.measures.faults import refusal_of
    from finebatch.core.tray.kitchen import KitchenSetting
    from finebatch.formats.decoded import text_of
    from finebatch.formats.session_file import FileKitchen
    from finebatch.formats.unreadable import UnreadableFile
    from finebatch.workflow.kitchen.equipment import usual_kitchen

    usual = usual_kitchen()
    if file is None:
        return usual, None
    try:
        found: Any = json.loads(text_of(file))
        found = found.get("kitchen", found)
        if "ovens" in found:
            # What a file does not say of the habits is as usual.
            habits = {k: getattr(usual.planning, k) for k in ("wash_min", "clear_min")}
            places = TypeAdapter(FileKitchen).validate_python(habits | found).work(base)
            return usual, places
        whole = TypeAdapter(KitchenSetting).dump_python(usual, mode="json") | found
        return TypeAdapter(KitchenSetting).validate_python(whole), None
    except ValidationError as error:
        fault = refusal_of(error.errors()).faults[0]
        raise stop(f"{file}: {fault.field}: {fault.message}", 2) from error
    except Refusal as refusal:
        raise stop(f"{file}: {refusal.faults[0].message}", 2) from refusal
    except (UnreadableFile, ValueError, AttributeError, TypeError) as error:
        raise stop(f"{file} is no kitchen: give it as JSON, as the app does.", 2) from error


def plan_from_cards(
    cards: list[Path],
    *,
    kitchen: Path | None,
    sheets: int | None,
    shelves: int | None,
    start: str | None,
    ready_by: str | None,
    seconds: float,
    as_json: bool,
) -> None:
    """Plan the doughs of those cards and print the plan. Exit status 2 when it cannot be."""
    from dataclasses import replace

    from finebatch.formats.card_plan import write_card_plan
    from finebatch.formats.decoded import text_of
    from finebatch.formats.unreadable import UnreadableFile
    from finebatch.workflow.session.card_plan import plan_cards

    now = datetime.now(UTC).replace(second=0, microsecond=0) + timedelta(minutes=1)
    begin = moment(start, "--start") if start else None
    by = moment(ready_by, "--ready-by") if ready_by else None
    if by is not None and by <= now:
        raise stop("--ready-by has passed. Choose a later time.", 2)
    setting, places = _kitchen(kitchen, begin or now)
    setting = replace(setting, sheets=sheets or setting.sheets, shelves=shelves or setting.shelves)
    if places is not None:
        setting = replace(setting, sheets=min(sheets or places.sheets, 12))
        ovens = places.ovens
        if shelves is not None:
            ovens = (replace(ovens[0], shelves=shelves), *ovens[1:])
        places = replace(places, sheets=sheets or places.sheets, ovens=ovens)
    try:
        texts = [(file.name, text_of(file)) for file in cards]
    except UnreadableFile as error:
        raise stop(f"A card cannot be read: {error}", 2) from error

    def ms(at: datetime | None) -> int | None:
        return None if at is None else round(at.timestamp() * 1000)

    try:
        found = plan_cards(
            texts,
            setting,
            seconds=seconds,
            # A start that has passed is planned all the same: nobody waits for this plan.
            now=round(min(begin or now, now).timestamp() * 1000),
            start_at=ms(begin),
            ready_by=ms(by),
            places=places,
        )
    except Refusal as refusal:
        said = "; ".join(f"{fault.field}: {fault.message}" for fault in refusal.faults)
        raise stop(said, 2) from refusal
    base = local(found.start_at)
    written = write_card_plan(found.work, found.plan, found.scene, base)
    if as_json:
        say(json.dumps(written, indent=1, ensure_ascii=False))
        return
    for one in written["activities"]:
        if one["who"] is None and one["kind"] != "heat":
            continue
        at = day_and_time(datetime.fromisoformat(one["start"]))
        say(f"{at}  {one['title']} – {one['says']}")
        for step in one["steps"]:
            if step["text"] != one["title"]:
                say(f"{'':11}· {step['text']}")
    say("")
    for over in written["overs"]:
        say(over)
    say(f"Ready {day_and_time(datetime.fromisoformat(written['finish']))}.")
