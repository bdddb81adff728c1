"""The one settings object, read from the environment (``FINEBATCH_…``)."""

from pathlib import Path

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict

from finebatch.devices.chosen import STAND_IN


class Settings(BaseSettings):
    """Where the data file is, on which port of this machine the app listens, and what it reads.

    `scale` and `thermometer` are names of drivers (see `devices/chosen`). Tablets and phones are
    let in at `network_port`, with a certificate of the kitchen's own where both files are named. A
    demo opened from a kitchen of one's own knows the way back (`back_to`) and ends with it.
    """

    model_config = SettingsConfigDict(env_prefix="FINEBATCH_")

    data_file: Path = Path.home() / ".local" / "share" / "finebatch" / "finebatch.sqlite3"
    port: int = Field(default=8765, ge=1, le=65535)
    network_port: int = Field(default=8766, ge=1, le=65535)
    network_certificate: Path | None = None
    network_key: Path | None = None
    scale: str = STAND_IN
    thermometer: str = STAND_IN
    plan_seconds: float = Field(default=5.0, gt=0, le=300)
    back_to: str = Field(default="", pattern=r"^(http://(127\.0\.0\.1|localhost)(:\d{1,5})?)?$")
