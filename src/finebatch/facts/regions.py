"""What kitchens usually have, by region: the first guesses of a first start."""

from dataclasses import dataclass
from functools import cache

from finebatch.core.measures.kitchen_units import KitchenUnits
from finebatch.core.piece.tools import NamedSheet
from finebatch.facts import tables
from finebatch.facts.rows import table, value

_UNITS = ("temperature", "length", "mass", "volume", "clock", "dates")


@dataclass(frozen=True, slots=True)
class Region:
    """What kitchens of a region usually have: its `countries` (ISO 3166), the egg that cards mean,
    the inner size of the usual sheet (mm), and how figures are read."""

    name: str
    countries: tuple[str, ...]
    egg: str
    sheet: NamedSheet
    units: KitchenUnits


@cache
def regions() -> tuple[Region, ...]:
    """The regions that a first start asks for; `ValueError` where an egg or a sheet is unknown."""
    by_name = {sheet.name: sheet for sheet in tables.sheets()}
    found = []
    for row in table("regions.csv"):
        if row["egg"] not in tables.egg_sizes() or row["sheet"] not in by_name:
            raise ValueError(f"regions.csv names an egg or a sheet that is not known: {row}")
        units = {field: row[field] for field in _UNITS} | {"source": row["source"]}
        found.append(
            Region(
                row["name"],
                tuple(row["countries"].split()),
                row["egg"],
                by_name[row["sheet"]],
                value(KitchenUnits, units),
            )
        )
    return tuple(found)
