"""Routes whose answers are made ready when they are first given, once for each type.

FastAPI builds what writes an answer for every route when its module is loaded. The core's large
dataclasses, of which a session or a dough is made, are built anew for each route that answers one
of them: a third of all the time that a start takes. Here a type is built once, at its first
answer or in the background after the start (`make_ready`), whichever comes first.
"""

from collections.abc import Callable, Iterable
from functools import cache
from typing import Any, get_type_hints

from fastapi._compat import ModelField
from fastapi.datastructures import DefaultPlaceholder
from fastapi.routing import APIRoute
from pydantic import TypeAdapter
from pydantic.fields import FieldInfo
from starlette.requests import Request
from starlette.responses import Response


@cache
def writer_of(answer: Any) -> TypeAdapter[Any]:
    """What writes answers of this type; built once."""
    return TypeAdapter(answer)


class _LateField(ModelField):
    """What an operation answers; built when it is first used."""

    def __post_init__(self) -> None:
        """Nothing is built yet."""

    @property
    def _type_adapter(self) -> TypeAdapter[Any]:  # type: ignore[override]
        answer: Any = self.field_info.annotation
        return writer_of(answer)


def _answer_of(endpoint: Callable[..., Any]) -> Any:
    """What a function says that it answers; None where that is a response as it stands."""
    answer = get_type_hints(endpoint, include_extras=True).get("return")
    if isinstance(answer, type) and issubclass(answer, (Response, type(None))):
        return None
    return answer


class LateRoute(APIRoute):
    """A route that answers what its function says, as FastAPI's own does."""

    def __init__(
        self, path: str, endpoint: Callable[..., Any], *, response_model: Any = None, **rest: Any
    ) -> None:
        usual = response_model is None or isinstance(response_model, DefaultPlaceholder)
        self._answer = _answer_of(endpoint) if usual else response_model
        super().__init__(path, endpoint, response_model=None, **rest)

    def get_route_handler(self) -> Callable[[Request], Any]:
        """The handler, which writes its answers by a field that is built late."""
        if self._answer is not None:
            self.response_model = self._answer
            self.response_field = _LateField(
                FieldInfo(annotation=self._answer), f"Response_{self.unique_id}", "serialization"
            )
        return super().get_route_handler()


def make_ready(routes: Iterable[object]) -> None:
    """Build what writes the answers of these routes, where none has asked for it yet."""
    for route in routes:
        if isinstance(route, LateRoute) and route.response_field is not None:
            writer_of(route.response_model)
