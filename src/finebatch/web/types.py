"""The building blocks of requests: constraints live in the types."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from finebatch.core.values import Id, Text

Key = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9.]+$")]
"""The key of an activity or the name of a tray."""
Celsius = Annotated[float, Field(ge=-30, le=350, allow_inf_nan=False)]


__all__ = ["Body", "Celsius", "Id", "Key", "Out", "Text", "ValueBody"]


class Body(BaseModel):
    """A request's body: nothing but what is named."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class ValueBody(Body):
    """A body that is also an answer, read off the core's values by attribute."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, from_attributes=True)


class Out(BaseModel):
    """A response's body, read off the core's values by attribute."""

    model_config = ConfigDict(from_attributes=True)
