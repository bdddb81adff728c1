"""Read a shipped table: its rows as text, its cells as what they stand for."""

import csv
import json
from collections.abc import Mapping
from importlib.resources import files
from types import NoneType
from typing import Annotated, Any, TypeVar, get_args, get_origin, get_type_hints

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, TypeAdapter

from finebatch.core.measures.figures import marked


def _blank(value: object) -> object:
    return None if value == "" else value


def split(value: str) -> list[str]:
    """A cell of several words, parted by semicolons."""
    return [part for part in value.split(";") if part]


def shares(value: str) -> list[tuple[str, float]]:
    """A cell of keys with their shares: ``flour_ap:0.9;cornstarch:0.1``; a whole one without."""
    return [(key, float(share or 1)) for key, _, share in (p.partition(":") for p in split(value))]


def settings(value: str) -> dict[str, str]:
    """A cell of settings with their values: ``kind:drop;grams:28``."""
    return {key: told for key, _, told in (p.partition(":") for p in split(value))}


Optional = Annotated[float | None, BeforeValidator(_blank)]
OptionalText = Annotated[str | None, BeforeValidator(_blank)]
Percent = Annotated[float, Field(ge=0, le=100)]
Words = Annotated[tuple[str, ...], BeforeValidator(split)]
Shares = Annotated[tuple[tuple[str, float], ...], BeforeValidator(shares)]


TOLD = frozenset({"advice", "asks", "caution", "cue", "label", "note", "text"})
"""Columns that hold words for a baker."""


class Row(BaseModel):
    """A row of a table: nothing but its columns, the last of which says where it is from."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    source: Annotated[str, Field(min_length=3)]


def read(name: str) -> str:
    """A shipped table as text."""
    return files("finebatch.facts").joinpath("data", name).read_text(encoding="utf-8")


def table(name: str) -> list[dict[str, str]]:
    """A shipped CSV table, a row a mapping; the figures in what it tells a baker are marked."""
    rows = csv.DictReader(read(name).splitlines())
    return [
        {column: marked(cell) if column in TOLD else cell for column, cell in row.items()}
        for row in rows
    ]


R = TypeVar("R", bound=Row)


def checked(row: type[R], name: str) -> list[R]:
    """A shipped CSV table, every row checked."""
    return [row.model_validate(cells) for cells in table(name)]


V = TypeVar("V")


def values(kind: type[V], name: str) -> list[V]:
    """A shipped CSV table as the core's own values: a column a field, and where it is from."""
    return [value(kind, cells) for cells in table(name)]


def value(kind: type[V], cells: Mapping[str, Any]) -> V:
    """One row as the core's own value; its cells are read as its fields' types ask."""
    hints = get_type_hints(kind)
    if len(cells.get("source", "")) < LEAST_SOURCE:
        raise ValueError(f"a row of {kind.__name__} does not say where it is from: {cells}")
    told = {key: _cell(hints.get(key), cell) for key, cell in cells.items()}
    if "source" not in hints:
        del told["source"]
    found: V = TypeAdapter(kind).validate_python(told, extra="forbid")
    return found


LEAST_SOURCE = 3


def _cell(hint: Any, cell: Any) -> Any:
    of = get_args(hint)
    if cell == "" and NoneType in of:
        return None
    match get_origin(hint):
        case of_many if of_many is tuple:
            return split(cell) if of[0] is str else shares(cell)
        case of_pairs if of_pairs is Mapping:
            return settings(cell)
        case _:
            return cell


def read_json(name: str) -> Any:
    """A shipped JSON table as plain values."""
    return json.loads(read(name))
