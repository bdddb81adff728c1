"""The bin: what was thrown away, for a month, and what could not be read."""

from fastapi import Response

from finebatch.store.places import photos_of
from finebatch.web import routing
from finebatch.web.deps import Data
from finebatch.web.types import Id
from finebatch.workflow.book import photos
from finebatch.workflow.kitchen import thrown as work
from finebatch.workflow.kitchen.thrown import Thrown

router = routing.begin("bin", "/api/bin")


@router.get("")
def everything_thrown(data: Data) -> list[Thrown]:
    """All that is in the bin, the latest first."""
    with data.reading() as session:
        return work.everything_thrown(session)


@router.post("/{thrown_id}/put-back")
def put_back(thrown_id: Id, data: Data) -> Thrown:
    """Put it back where it was, with all that went with it."""
    with data.writing() as session:
        return work.put_back(session, thrown_id)


@router.get(
    "/{thrown_id}/file", response_class=Response, responses=routing.files("application/json")
)
def give_out_thrown(thrown_id: Id, data: Data) -> Response:
    """All of it as JSON, readable or not."""
    with data.reading() as session:
        text = work.give_out(session, thrown_id)
    named = {"content-disposition": f'attachment; filename="bin-{thrown_id}.json"'}
    return Response(text, headers=named, media_type="application/json")


@router.delete("/{thrown_id}", status_code=204)
def let_go(thrown_id: Id, data: Data) -> None:
    """Throw it away for good, with its photos."""
    with data.writing() as session:
        named = work.let_go(session, thrown_id)
    for name in named:
        photos.drop(photos_of(data.file), name)
