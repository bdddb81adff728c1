"""What a value from outside may hold: said once, with the value itself.

Limits are plain metadata of the fields. Whatever reads such a value (a request, a file, a document
of the data file, the command line) reads the limits off them, and takes nothing but its fields.
"""

from collections.abc import Container, Iterator, Mapping
from dataclasses import fields
from functools import cache
from types import UnionType
from typing import (
    TYPE_CHECKING,
    Annotated,
    Any,
    ClassVar,
    TypeVar,
    Union,
    get_args,
    get_origin,
    get_type_hints,
)

from annotated_types import Ge, GroupedMetadata, Interval, Le, Len, Predicate

if TYPE_CHECKING:
    from _typeshed import DataclassInstance

V = TypeVar("V", bound="DataclassInstance")


class FromOutside:
    """A value that comes from outside: it has no other fields than those that are named, and no
    figure that is no number. What is `NEEDED` has to be said there, whatever is usual here."""

    __slots__ = ()
    __pydantic_config__: ClassVar[Mapping[str, Any]] = {"extra": "forbid", "allow_inf_nan": False}
    NEEDED: ClassVar[tuple[str, ...]] = ()

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: Any) -> dict[str, Any]:
        """The protocol by which a class tells a reader how it is read."""
        schema: dict[str, Any] = handler(source)
        for field in schema["schema"]["fields"]:
            if field["name"] in cls.NEEDED and field["schema"]["type"] == "default":
                field["schema"] = field["schema"]["schema"]
        return schema


def _told_type(cls: type, name: str) -> Any:
    return get_type_hints(getattr(cls, name).fget)["return"]


class Tells:
    """A value of which some properties are told as well, wherever it is given out."""

    __slots__ = ()
    TOLD: ClassVar[tuple[str, ...]] = ()

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: Any) -> dict[str, Any]:
        """The protocol by which a class tells a writer how it is written."""
        schema: dict[str, Any] = handler(source)
        schema["schema"]["computed_fields"] = [
            {
                "type": "computed-field",
                "property_name": name,
                "return_schema": handler.generate_schema(_told_type(cls, name)),
            }
            for name in cls.TOLD
        ]
        return schema


class OneOfKinds:
    """Of a union of values that differ in their `kind`, that one is read whose kind is named."""

    def __get_pydantic_core_schema__(self, union: Any, handler: Any) -> dict[str, Any]:
        """The protocol by which metadata tells a reader how to read."""
        kinds = {
            member.__dataclass_fields__["kind"].default: handler.generate_schema(member)
            for member in union.__args__
        }
        return {"type": "tagged-union", "choices": kinds, "discriminator": "kind"}


class Matching:
    """Metadata of a text: all of it has that pattern."""

    def __init__(self, pattern: str) -> None:
        self.pattern = pattern

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> dict[str, Any]:
        """The protocol by which metadata tells a reader how to read."""
        return {**handler(source), "pattern": self.pattern}


class WithNames:
    """Metadata of a pair of figures: outside it is written with a name for each."""

    def __init__(self, one: str, other: str) -> None:
        self.names = (one, other)

    def __get_pydantic_core_schema__(self, _pair: Any, _handler: Any) -> dict[str, Any]:
        """The protocol by which metadata tells a reader how to read and write."""
        figure = {"type": "typed-dict-field", "schema": {"type": "float"}, "required": True}
        named = {"type": "typed-dict", "fields": dict.fromkeys(self.names, figure)}
        written = {
            "type": "function-plain",
            "function": lambda pair: dict(zip(self.names, pair, strict=True)),
            "return_schema": named,
        }
        return {
            "type": "function-after",
            "function": {
                "type": "no-info",
                "function": lambda found: tuple(found[name] for name in self.names),
            },
            "schema": named,
            "serialization": written,
        }


Point = Annotated[tuple[float, float], WithNames("x", "y")]
"""A place in mm from an upper left corner."""
Range = Annotated[tuple[float, float], WithNames("low", "high")]


@cache
def limits_of(kind: type) -> Mapping[str, Mapping[type, Any]]:
    """The limits of each field of a value, by what kind of limit it is; of a list those of its
    entries are left to them."""
    found = {}
    for name, hint in get_type_hints(kind, include_extras=True).items():
        flat = _flat(hint)
        found[name] = {type(limit): limit for limit in flat}
    return found


def within(kind: type, fields: Mapping[str, Any]) -> dict[str, Any]:
    """Those of the fields that are known (not None) and lie within the limits of that kind of
    value."""
    limits = limits_of(kind)
    found = {}
    for name, value in fields.items():
        if value is None:
            continue
        least, most = limits[name].get(Ge), limits[name].get(Le)
        if (least is None or value >= least.ge) and (most is None or value <= most.le):
            found[name] = value
    return found


def _flat(hint: Any) -> Iterator[Any]:
    if get_origin(hint) is Annotated:
        of, *limits = get_args(hint)
        for limit in limits:
            yield from limit if isinstance(limit, GroupedMetadata) else (limit,)
        yield from _flat(of)
    elif get_origin(hint) in (Union, UnionType):
        for of in get_args(hint):
            yield from _flat(of)


def values_of(
    kind: type["DataclassInstance"], whole: "DataclassInstance", but: Container[str] = ()
) -> dict[str, Any]:
    """What a value says in the fields of that kind, but those that are named."""
    names = (field.name for field in fields(kind) if field.init)
    return {name: getattr(whole, name) for name in names if name not in but}


def part_of(kind: type[V], whole: "DataclassInstance", **other: Any) -> V:
    """The value alone of one that says more beside it (a request with a setting, a card), with
    what is `other` there."""
    return kind(**values_of(kind, whole, but=other), **other)


def can_be_kept(text: str) -> bool:
    """Whether a text can be written to a file: half a surrogate pair or a null cannot."""
    return "\0" not in text and not any("\ud800" <= letter <= "\udfff" for letter in text)


Text = Annotated[str, Predicate(can_be_kept)]
Id = Annotated[int, Interval(ge=1, le=2**53)]
Moment = Annotated[int, Interval(ge=0, le=7_258_118_400_000)]
"""UTC milliseconds, of the years that a calendar can say: 1970 to 2199."""
Name = Annotated[Text, Len(1, 40)]
"""What something in the kitchen is called."""
