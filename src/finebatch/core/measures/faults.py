"""What a reader found wrong, field by field, in a baker's words."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from finebatch.core.measures import figures
from finebatch.core.refusal import Fault, Refusal

Says = Callable[[float], str]

_APART = frozenset({"offset_c", "swing_c", "tolerance_c"})
_BY_END: tuple[tuple[str, Says], ...] = (
    ("_c_min", lambda value: f"{figures.degrees_apart(value)} a minute"),
    ("_c", figures.degrees),
    ("_mm", lambda value: figures.millimetres(value, 1)),
    ("_cm2", figures.area),
    ("_g", figures.grams),
    ("grams", figures.grams),
    ("ml", figures.millilitres),
)


def _figures_of(field: str) -> Says:
    """How a figure of that field is said."""
    if field in _APART:
        return figures.degrees_apart
    return next((say for end, say in _BY_END if field.endswith(end)), "{:g}".format)


_PLAIN_WORDS = {
    "missing": "This is needed.",
    "missing_argument": "This is needed.",
    "string_too_short": "Write something here.",
    "extra_forbidden": "This is not known here.",
    "unexpected_keyword_argument": "This is not known here.",
    "json_invalid": "The request is not JSON.",
    "predicate_failed": "There is a broken character in this text. Type it again.",
}


def words_of(error: Mapping[str, Any]) -> str:
    """What a reader found wrong (pydantic's error), in a baker's words. A limit is told in the unit
    that the field's name ends with."""
    limits = error.get("ctx", {})
    says = _figures_of(next((part for part in reversed(error["loc"]) if isinstance(part, str)), ""))
    match error["type"]:
        case "greater_than":
            return f"Give a figure above {says(limits['gt'])}."
        case "greater_than_equal":
            return f"Give at least {says(limits['ge'])}."
        case "less_than_equal":
            return f"Give at most {says(limits['le'])}."
        case "string_too_long" | "too_long" if isinstance(error.get("input"), str):
            return f"Write at most {limits['max_length']} letters."
        case "too_short":
            of_these = f"Give at least {limits['min_length']} of these."
            return "Write something here." if isinstance(error.get("input"), str) else of_these
        case "too_long":
            return f"At most {limits['max_length']} of these, please."
        case "finite_number" | "float_parsing" | "int_parsing" | "float_type" | "int_type":
            return "Give a number."
        case "literal_error":
            return f"Choose one of {limits['expected']}."
        case other:
            return _PLAIN_WORDS.get(other, str(error["msg"]).removeprefix("Value error, "))


def _short_of_items_that_are_wrong(error: Mapping[str, Any]) -> bool:
    """Whether a list is called too short only because its items could not be read: those are said
    already."""
    if error["type"] != "too_short" or not isinstance(error.get("input"), list | tuple):
        return False
    return len(error["input"]) >= int(error["ctx"]["min_length"])


def faults_in(errors: Sequence[Mapping[str, Any]], within: int = 0) -> list[Fault]:
    """What a reader found wrong (pydantic's errors), each with its field; so many parts of its
    place say only where all of it was read from."""
    told = [error for error in errors if not _short_of_items_that_are_wrong(error)]
    return [Fault(_field(error["loc"], within), words_of(error)) for error in told[:20]]


def _field(place: Sequence[object], within: int) -> str:
    return ".".join(map(str, place[within:])) or ".".join(map(str, place[:within]))


def refusal_of(errors: Sequence[Mapping[str, Any]]) -> Refusal:
    """The same as a refusal."""
    return Refusal(*faults_in(errors))
