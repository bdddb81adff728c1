"""The devices beside the server: read a few times a second, and told to every open screen."""

import asyncio
import logging
from collections.abc import Callable
from dataclasses import dataclass

from sqlalchemy.exc import SQLAlchemyError

from finebatch.devices.chosen import scale_named, thermometer_named
from finebatch.devices.readings import DeviceFault, temperature_of, weight_of
from finebatch.devices.stand_in_oven import StandInOven
from finebatch.devices.stand_in_scale import StandInScale
from finebatch.settings import Settings
from finebatch.store.database import Database
from finebatch.web.wire import Wire
from finebatch.workflow.devices import oven_watch

READ_EVERY_S = 0.2
NOTE_EVERY_MS = 10_000

_log = logging.getLogger(__name__)


@dataclass(frozen=True, slots=True)
class ScaleShows:
    """What the scale shows, or what is wrong with it."""

    grams: float | None = None
    steady: bool = False
    overloaded: bool = False
    fault: str | None = None


@dataclass(frozen=True, slots=True)
class OvenShows:
    """What the oven's thermometer shows in °C, or what is wrong with it."""

    celsius: float | None = None
    fault: str | None = None


class LiveDevices:
    """A scale and an oven thermometer, those that the settings name; off until they are asked for.

    `stand_in_scale` and `stand_in_oven` are None where a real one is read. `clock` gives UTC
    milliseconds.
    """

    def __init__(
        self, database: Database, wire: Wire, clock: Callable[[], int], settings: Settings
    ) -> None:
        self._database, self._wire, self._clock = database, wire, clock
        self.scale = scale_named(settings.scale, clock)
        self.thermometer = thermometer_named(settings.thermometer, clock)
        scale, oven = self.scale, self.thermometer
        self.stand_in_scale = scale if isinstance(scale, StandInScale) else None
        self.stand_in_oven = oven if isinstance(oven, StandInOven) else None
        self.on = False
        self._told: dict[str, ScaleShows | OvenShows] = {}
        self._noted_at = 0

    def weigh(self) -> ScaleShows:
        """What the scale shows now."""
        try:
            weight = weight_of(self.scale)
        except DeviceFault as fault:
            return ScaleShows(fault=str(fault))
        return ScaleShows(weight.grams, weight.steady, weight.overloaded)

    def feel(self) -> OvenShows:
        """What the oven's thermometer shows now."""
        try:
            return OvenShows(temperature_of(self.thermometer))
        except DeviceFault as fault:
            return OvenShows(fault=str(fault))

    def tick(self) -> None:
        """Read both, and tell the screens what is new."""
        for event, shows in (("scale", self.weigh()), ("oven", self.feel())):
            if self._told.get(event) != shows:
                self._told[event] = shows
                fields = {name: getattr(shows, name) for name in type(shows).__slots__}
                self._wire.tell(event, fields)
            if isinstance(shows, OvenShows) and shows.celsius is not None:
                self._note(shows.celsius)

    def _note(self, celsius: float) -> None:
        now = self._clock()
        if now - self._noted_at < NOTE_EVERY_MS:
            return
        self._noted_at = now
        try:
            with self._database.reading() as session:
                watched = oven_watch.open_row(session) is not None
            if watched:
                with self._database.writing() as session:
                    oven_watch.note_probe(session, celsius, now)
        except SQLAlchemyError as error:
            _log.warning("A reading of the oven could not be kept: %s", error)

    async def run(self) -> None:
        """Read on and on; a device that fails in a way of its own is said and read again."""
        while True:
            await asyncio.sleep(READ_EVERY_S)
            if not self.on:
                continue
            try:
                await asyncio.to_thread(self.tick)
            except Exception as error:  # a driver may raise anything; the session goes on
                _log.warning("A device failed: %s", error)
                self._wire.tell("scale", {"fault": "The device failed; it is asked again."})
