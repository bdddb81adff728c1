"""The devices: what they show, the stand-ins played by hand, and an oven watched."""

from typing import Annotated, Any

from pydantic import Field
from starlette.responses import StreamingResponse

from finebatch.core.heat.probe import OvenReading
from finebatch.core.refusal import refuse
from finebatch.devices.readings import DeviceFault
from finebatch.devices.stand_in_oven import OvenKnobs
from finebatch.devices.stand_in_scale import OnTheScale
from finebatch.web import routing
from finebatch.web.deps import Data, Devices, Now, Screens
from finebatch.web.devices_live import OvenShows, ScaleShows
from finebatch.web.problems import problem
from finebatch.web.types import Celsius, Out, ValueBody
from finebatch.workflow.devices import oven_watch
from finebatch.workflow.errors import Conflict

router = routing.begin("devices")


class StandInsBody(ValueBody):
    """Whether the devices are switched on, and how each stand-in is played: null for a device that
    is a real one, and for one that is left as it is."""

    on: bool
    scale: OnTheScale | None = None
    oven: OvenKnobs | None = None


class DevicesOut(Out):
    """The devices: null while they are switched off; and how the stand-ins are played."""

    scale: ScaleShows | None
    oven: OvenShows | None
    stand_ins: StandInsBody


class SampleOut(Out):
    """The air of an oven (°C) at a minute of its watch."""

    minute: float
    celsius: float


class WatchOut(Out):
    """An oven watched at a setting of its dial: its trace, and what it tells so far.

    `set_to_c` is the dial's setting for air of `wanted_c`.
    """

    oven: int
    dial_c: float
    began_at: int
    trace: list[SampleOut]
    reading: OvenReading | None
    wanted_c: float
    set_to_c: float | None


class OvenRecordOut(Out):
    """What was kept of an oven."""

    oven: int
    began_at: int
    dial_c: float
    mean_c: float
    swing_c: float
    ready_min: float


class WatchBody(ValueBody):
    """Which oven, and what its dial is set to (°C)."""

    oven: Annotated[int, Field(ge=1, le=2)] = 1
    dial_c: Annotated[Celsius, Field(ge=50)]


STREAMED = """Events as they happen, until the screen is closed: `session` (a session has changed;
its data is that session, as `GET /api/sessions/current` gives it), `scale` and `oven` (what they
read), `devices` (they were switched or played), `restored` (a copy was put in the place of all that
there is: what is known has to be asked for anew), `beat` every second. What was missed is not
sent again: ask for it."""


@router.get(
    "/stream",
    response_class=StreamingResponse,
    responses={200: {"description": STREAMED, "content": routing.contents("text/event-stream")}},
)
async def stream(screens: Screens) -> Any:
    """Server-sent events: `session` when a session has changed, `scale` and `oven` as they read."""
    if screens.full:
        return problem(503, "Too many screens are open. Close one.")
    return StreamingResponse(
        screens.listen(), media_type="text/event-stream", headers={"cache-control": "no-store"}
    )


def _devices_out(devices: Devices) -> DevicesOut:
    stand_ins = StandInsBody(
        on=devices.on,
        scale=devices.stand_in_scale and devices.stand_in_scale.on_it,
        oven=devices.stand_in_oven and devices.stand_in_oven.knobs,
    )
    if not devices.on:
        return DevicesOut(scale=None, oven=None, stand_ins=stand_ins)
    return DevicesOut(
        scale=devices.weigh(),
        oven=devices.feel(),
        stand_ins=stand_ins,
    )


@router.get("/devices")
def get_devices(devices: Devices) -> DevicesOut:
    """What the devices show, and how the stand-ins are played."""
    return _devices_out(devices)


@router.put("/devices")
def play(body: StandInsBody, devices: Devices, screens: Screens) -> DevicesOut:
    """Play the stand-ins by hand."""
    devices.on = body.on
    if devices.stand_in_scale and body.scale:
        devices.stand_in_scale.play(body.scale)
    if devices.stand_in_oven and body.oven:
        devices.stand_in_oven.play(body.oven)
    screens.tell("devices", {"on": body.on})
    return _devices_out(devices)


@router.post("/devices/scale/tare")
def tare(devices: Devices) -> DevicesOut:
    """Count from what lies on the scale now."""
    if not devices.on:
        raise Conflict("The scale is switched off. Switch it on first.")
    try:
        devices.scale.tare()
    except DeviceFault as fault:
        raise Conflict(str(fault)) from fault
    return _devices_out(devices)


def _watch_out(found: oven_watch.Watch, wanted_c: float) -> WatchOut:
    return WatchOut(
        oven=found.row.oven,
        dial_c=found.row.dial_c,
        began_at=found.row.began_at,
        trace=[SampleOut(minute=minute, celsius=celsius) for minute, celsius in found.trace],
        reading=found.reading,
        wanted_c=wanted_c,
        set_to_c=found.dial_for(wanted_c),
    )


@router.get("/oven/watch")
def get_watch(data: Data, wanted_c: Celsius | None = None) -> WatchOut | None:
    """The watch that is on, and what it tells so far; null when there is none."""
    with data.reading() as session:
        row = oven_watch.open_row(session)
        if row is None:
            return None
        return _watch_out(oven_watch.watched(session, row), wanted_c or row.dial_c)


@router.post("/oven/watch")
def begin_watch(body: WatchBody, data: Data, now: Now, devices: Devices) -> WatchOut:
    """Watch an oven from now on, at this setting of its dial."""
    if not devices.on:
        raise refuse("oven", "No thermometer is switched on. Switch it on first.")
    with data.writing() as session:
        found = oven_watch.begin(session, body.oven, body.dial_c, now)
        return _watch_out(found, body.dial_c)


@router.delete("/oven/watch", status_code=204)
def stop_watch(data: Data) -> None:
    """Watch no longer, and keep nothing of it."""
    with data.writing() as session:
        oven_watch.stop(session)


@router.post("/oven/watch/keep")
def keep_watch(data: Data, now: Now) -> WatchOut:
    """Make what the watch tells the oven's record; minutes and plans use it from now on."""
    with data.writing() as session:
        found = oven_watch.keep(session, now)
        return _watch_out(found, found.row.dial_c)


@router.get("/oven/records")
def oven_records(data: Data) -> list[OvenRecordOut]:
    """What was kept of each oven, newest first."""
    with data.reading() as session:
        return [OvenRecordOut.model_validate(row) for row in oven_watch.records(session)]
