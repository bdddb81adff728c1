"""The one settings object, read from the environment (``FINEBATCH_…``)."""

from pathlib import Path

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict


class Settings(BaseSettings):
    """Where the data file is and on which port of this machine the app listens."""

    model_config = SettingsConfigDict(env_prefix="FINEBATCH_")

    data_file: Path = Path.home() / ".local" / "share" / "finebatch" / "finebatch.sqlite3"
    port: int = Field(default=8765, ge=1, le=65535)
    plan_seconds: float = Field(default=5.0, gt=0, le=300)
