"""The steps of a job as they are ticked: every screen sees them, and the book learns from when."""

from collections.abc import Mapping

from finebatch.core.plan.keys import JobKey
from finebatch.store.models import SessionRow


def ticks_of(row: SessionRow) -> Mapping[JobKey, Mapping[int, int]]:
    """When each step of each job was ticked, by its place, in UTC milliseconds; a second tick takes
    it off."""
    found: dict[JobKey, dict[int, int]] = {}
    for event in row.events:
        if event.kind == "ticked" and event.job is not None:
            of_job, place = found.setdefault(event.job, {}), int(event.what or 0)
            if of_job.pop(place, None) is None:
                of_job[place] = event.at
    return found
