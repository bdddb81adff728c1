"""What every route may ask for: the data file, the clock, the settings."""

from typing import Annotated

from fastapi import Depends, Request

from finebatch.settings import Settings
from finebatch.store.database import Database
from finebatch.web.devices_live import LiveDevices
from finebatch.web.guard import DEVICE
from finebatch.web.network.opening import HomeNetwork
from finebatch.web.network.paired import PairedDevice
from finebatch.web.ringing import Ringing
from finebatch.web.wire import Wire
from finebatch.workflow.session.search import Searches


def _database(request: Request) -> Database:
    database: Database = request.app.state.database
    return database


def _now(request: Request) -> int:
    now: int = request.app.state.clock()
    return now


def _settings(request: Request) -> Settings:
    settings: Settings = request.app.state.settings
    return settings


def _searches(request: Request) -> Searches:
    searches: Searches = request.app.state.searches
    return searches


def _wire(request: Request) -> Wire:
    wire: Wire = request.app.state.wire
    return wire


def _ringing(request: Request) -> Ringing:
    ringing: Ringing = request.app.state.ringing
    return ringing


def _devices(request: Request) -> LiveDevices:
    devices: LiveDevices = request.app.state.devices
    return devices


def _home(request: Request) -> HomeNetwork:
    home: HomeNetwork = request.app.state.home
    return home


def _by(request: Request) -> str | None:
    device: PairedDevice | None = request.scope.get(DEVICE)
    return device.name if device is not None else None


Data = Annotated[Database, Depends(_database)]
Now = Annotated[int, Depends(_now)]
Config = Annotated[Settings, Depends(_settings)]
Planner = Annotated[Searches, Depends(_searches)]
Screens = Annotated[Wire, Depends(_wire)]
Rings = Annotated[Ringing, Depends(_ringing)]
Devices = Annotated[LiveDevices, Depends(_devices)]
Home = Annotated[HomeNetwork, Depends(_home)]
By = Annotated[str | None, Depends(_by)]
"""The device of the home network that asks; none where it is this machine itself."""
