"""Paper templates at 1 : 1: the sheet with its pieces, the slab with its cuts."""

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from annotated_types import Interval
from fastapi.responses import Response

from finebatch.core.measures.figures import read_in
from finebatch.core.piece.paper import Paper, TemplateOf, control_line
from finebatch.core.tray import question as trays
from finebatch.formats.template_svg import write_svg
from finebatch.web import routing
from finebatch.web.deps import Data
from finebatch.web.routers.tray import TrayQuestionBody, asked_of
from finebatch.web.types import Id

router = routing.begin("tray")


@dataclass(frozen=True, slots=True)
class TemplateBody(TrayQuestionBody):
    """Which template, of which tray (by size, the fullest first), on what."""

    what: TemplateOf = "sheet"
    form: Literal["pdf", "svg"] = "pdf"
    paper: Paper = "A4"
    tray: Annotated[int, Interval(ge=0, le=50)] = 0


@router.post(
    "/doughs/{dough_id}/template",
    response_class=Response,
    responses=routing.files("application/pdf", "image/svg+xml"),
)
def template(dough_id: Id, body: TemplateBody, data: Data) -> Response:
    """A template to print at its own size and slide under the paper."""
    dough, asked, bench = asked_of(dough_id, body, data)
    found = trays.answer(asked, bench.ground(dough_id))
    drawn = trays.template(dough.card.name, asked, found, body.what, body.tray)
    units = asked.kitchen.reads
    drawn = replace(drawn, said=read_in(drawn.said, units))
    control = control_line(units)
    if body.form == "svg":
        return Response(write_svg(drawn, control), media_type="image/svg+xml")
    from finebatch.formats.template_pdf import write_pdf  # takes time to load

    return Response(write_pdf(drawn, body.paper, control), media_type="application/pdf")
