"""Errors of one shape, problem details after RFC 9457, with words for people."""

from collections.abc import Sequence
from http import HTTPStatus
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from sqlalchemy.exc import DBAPIError
from starlette.exceptions import HTTPException

from finebatch.core.measures.faults import faults_in
from finebatch.core.refusal import Fault, Refusal
from finebatch.store.database import FileGone, UnusableFile
from finebatch.store.documents import Unreadable
from finebatch.store.presses import KeptBefore
from finebatch.workflow.dough.doughs import put_unreadable_aside
from finebatch.workflow.errors import Conflict, Missing


class Problem(BaseModel):
    """Problem details (RFC 9457). `errors` names the fields, where the problem has any."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[Fault] = []


MEDIA = "application/problem+json"
REF = "#/components/schemas/"
RESPONSES: dict[int | str, dict[str, Any]] = {
    status: {
        "description": HTTPStatus(status).phrase,
        "content": {MEDIA: {"schema": {"$ref": f"{REF}{Problem.__name__}"}}},
    }
    for status in (400, 403, 404, 405, 409, 413, 415, 422, 503)
}
"""What any operation may answer besides its own result. By name: a model would be built once for
each operation and status, a thousand times at every start."""


def schemas() -> dict[str, Any]:
    """The schemas that those answers name."""
    whole = Problem.model_json_schema(mode="serialization", ref_template=REF + "{model}")
    inner: dict[str, Any] = whole.pop("$defs")
    return {**inner, Problem.__name__: whole}


MOST_NAMES = 3
KEPT_BEFORE = "urn:fine-batch:kept-before"
"""The type of a problem that is none: what is asked for is done."""


def problem(
    status: int,
    detail: str,
    errors: Sequence[Fault] = (),
    headers: dict[str, str] | None = None,
    type: str = "about:blank",
) -> JSONResponse:
    """One problem as a response."""
    body = Problem(
        type=type,
        title=HTTPStatus(status).phrase,
        status=status,
        detail=detail,
        errors=list(errors),
    )
    return JSONResponse(
        body.model_dump(), status, headers=headers, media_type="application/problem+json"
    )


def _invalid(_request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    faults = faults_in(error.errors(), within=1)
    return problem(
        422, faults[0].message if len(faults) == 1 else "Some fields are not right.", faults
    )


def _refused(_request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, Refusal)
    return problem(422, error.faults[0].message, error.faults)


def _missing(_request: Request, error: Exception) -> JSONResponse:
    return problem(404, str(error.args[0]))


def _gone(_request: Request, error: Exception) -> JSONResponse:
    return problem(503, str(error))


def _kept_before(_request: Request, _error: Exception) -> JSONResponse:
    return problem(
        409,
        "This was kept already, just before Fine Batch was stopped.",
        type=KEPT_BEFORE,
    )


def _conflict(_request: Request, error: Exception) -> JSONResponse:
    return problem(409, str(error))


def _without_unreadable(request: Request) -> JSONResponse | None:
    """What is said once rows that cannot be read were put aside; None where there were none."""
    state = request.app.state
    try:
        went = put_unreadable_aside(state.database, state.clock())
    except (DBAPIError, UnicodeDecodeError, UnusableFile):
        return None
    if not went:
        return None
    names = ", ".join(f"“{name}”" for name in went[:MOST_NAMES])
    return problem(
        503,
        f"{names} could not be read and was put into the bin, which stands on the Kitchen screen: "
        "it can be saved from there as a file. All else is there. Try again.",
        headers={"retry-after": "0"},
    )


def _unwritable(request: Request, error: Exception) -> JSONResponse:
    # This alone comes of a row; a file that cannot be written to is not read through for it.
    no_text = isinstance(error, UnicodeDecodeError) or "decode to UTF-8" in str(error)
    return (no_text and _without_unreadable(request)) or problem(
        503,
        "The data file could not be read or written just now, so nothing was changed. Check that "
        "the disk has room and the folder can be written to, then try again.",
    )


def _http(_request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    headers = dict(error.headers) if error.headers else None
    return problem(error.status_code, str(error.detail), headers=headers)


def _broken(request: Request, _error: Exception) -> JSONResponse:
    return _without_unreadable(request) or problem(
        500,
        "Something is wrong in Fine Batch itself. Nothing was changed by this; the server's own "
        "window says more. Try again, or another way.",
    )


def install(app: FastAPI) -> None:
    """Give every error of the app this one shape."""
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(Refusal, _refused)
    app.add_exception_handler(Unreadable, _broken)
    app.add_exception_handler(FileGone, _gone)
    app.add_exception_handler(Missing, _missing)
    app.add_exception_handler(KeptBefore, _kept_before)
    app.add_exception_handler(Conflict, _conflict)
    app.add_exception_handler(DBAPIError, _unwritable)
    app.add_exception_handler(UnicodeDecodeError, _unwritable)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(Exception, _broken)
