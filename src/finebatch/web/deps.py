"""What every route may ask for: the data file, the clock, the settings."""

from typing import Annotated

from fastapi import Depends, Request

from finebatch.settings import Settings
from finebatch.store.database import Database


def _database(request: Request) -> Database:
    database: Database = request.app.state.database
    return database


def _now(request: Request) -> int:
    now: int = request.app.state.clock()
    return now


def _settings(request: Request) -> Settings:
    settings: Settings = request.app.state.settings
    return settings


Data = Annotated[Database, Depends(_database)]
Now = Annotated[int, Depends(_now)]
Config = Annotated[Settings, Depends(_settings)]
