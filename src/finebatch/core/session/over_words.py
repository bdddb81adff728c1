"""What a plan does not keep, in words: the window, the tray, the minutes over and what would do."""

from collections.abc import Mapping

from finebatch.core.plan.helps import HelpKind, Remedy, remedy
from finebatch.core.plan.overs import Over, find_overs
from finebatch.core.plan.placed import Plan
from finebatch.core.plan.work import Work

MOST_OVERS = 3
"""What is not kept is told of the worst; the others mostly follow from it."""
ONE_MORE: Mapping[HelpKind, str] = {
    "sheet": "With one more sheet it can be kept.",
    "shelf": "With one more shelf in the oven it can be kept.",
    "helper": "With a helper it can be kept.",
}


def over_said(over: Over, names: Mapping[str, str]) -> str:
    """One sentence; `names` are the doughs' by their letters."""
    tray, steps = over.after.whose, (over.link.before.step, over.after.step)
    dough = f"“{names.get(tray[:1], tray)}”"
    wait, most = f"{over.wait} min", f"{over.minutes} more than the {over.most}"
    match steps:
        case ("portion" | "slice", "load"):
            said = f"Tray {tray} waits {wait} for the oven, {most} that it may"
        case (_, "load"):
            said = (
                f"The batter of {dough} is in the oven {wait} after it is mixed for tray {tray}, "
                f"{most} that it keeps"
            )
        case ("out", "shape" | "slice"):
            said = f"Tray {tray} is out for {wait} before it is in hand, {most} that it may be"
        case ("out" | "shape", "rack"):
            said = f"Tray {tray} is on its sheet for {wait}, {most} that it may be"
        case ("part", _):
            said = f"What goes on {dough} is made {wait} before tray {tray}, {most} that it keeps"
        case (_, "fetch" | "portion"):
            said = f"{dough} lies for {wait} before it is in hand, {most} that it may"
        case _:
            said = f"Tray {tray} waits {wait}, {most} that it may"
    if over.fewer is not None:
        return f"{said}. With at most {over.fewer} pieces on a tray it would do."
    return f"{said}."


def overs_said(work: Work, plan: Plan, names: Mapping[str, str]) -> tuple[str, ...]:
    """What a plan does not keep, the worst first."""
    return tuple(over_said(over, names) for over in find_overs(work, plan)[:MOST_OVERS])


def remedy_said(remedy: Remedy | None, names: Mapping[str, str]) -> str:
    """What would do, as it was found by planning it."""
    if remedy is None:
        return "One more sheet, one more shelf or a helper would not do: take a dough out."
    if remedy.what is not None:
        return ONE_MORE[remedy.what]
    dough = f"“{names.get(remedy.letter or '', '')}”"
    trays = "one tray" if remedy.fewer == 1 else f"{remedy.fewer} trays"
    return f"With {trays} of {dough} fewer it can be kept."


def would_do(work: Work, plan: Plan, names: Mapping[str, str], seconds: float) -> str:
    """What would do where no plan keeps every window, and `plan` comes near; looked for in about
    so many seconds an attempt."""
    overs = find_overs(work, plan)
    letter = overs[0].after.whose[0] if overs else None
    return f"No plan keeps every window. {remedy_said(remedy(work, letter, seconds), names)}"
