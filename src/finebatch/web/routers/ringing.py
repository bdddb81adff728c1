"""Which screen rings when a job is due."""

from typing import Annotated

from pydantic import Field

from finebatch.web import routing
from finebatch.web.deps import By, Now, Rings
from finebatch.web.ringing import OpenScreen, Ringing
from finebatch.web.types import Body, Out, Text

router = routing.begin("bake", "/api/ringing")

ScreenId = Annotated[str, Field(pattern=r"^[0-9a-zA-Z-]{8,64}$")]
ScreenName = Annotated[Text, Field(min_length=1, max_length=40)]


class HereBody(Body):
    """A screen that is open: a mark of its browser that stays the same, and its name."""

    screen: ScreenId
    name: ScreenName


class ChosenBody(Body):
    """The screen that rings alone; none for every one."""

    screen: ScreenId | None


class OpenScreenOut(Out):
    """A screen that is open."""

    id: str
    name: str


class RingingOut(Out):
    """The screens that are open, the one that rings alone (none where every one does), and the
    time (UTC ms)."""

    now: int
    screens: list[OpenScreenOut]
    chosen: str | None


def _shown(ringing: Ringing, now: int) -> RingingOut:
    return RingingOut(
        now=now,
        screens=[OpenScreenOut(id=one.id, name=one.name) for one in ringing.open_screens()],
        chosen=ringing.chosen,
    )


@router.post("/here")
def screen_here(body: HereBody, ringing: Rings, now: Now, by: By) -> RingingOut:
    """Say that a screen is open, and hear which one rings. To be said each five seconds. A device
    of the home network is called as it was when it was let in."""
    ringing.here(OpenScreen(body.screen, by or body.name))
    return _shown(ringing, now)


@router.put("")
def choose_ringing(body: ChosenBody, ringing: Rings, now: Now) -> RingingOut:
    """Choose the one screen that rings; while it is not open, every one does."""
    ringing.choose(body.screen)
    return _shown(ringing, now)
