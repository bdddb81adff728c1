"""Doughs as files: out in open formats, in after a look."""

import re
from typing import Annotated
from urllib.parse import quote

from fastapi import Response
from pydantic import Field

from finebatch.core.formula.dough import Family
from finebatch.web import routing
from finebatch.web.deps import Data, Now
from finebatch.web.types import Body, Id, Out, Text
from finebatch.workflow.dough import dough_files as exchange
from finebatch.workflow.dough.doughs import Dough

router = routing.begin("exchange")


@router.get(
    "/doughs/{dough_id}/card.{form}",
    response_class=Response,
    responses=routing.files("text/csv", "text/plain", "text/markdown", "application/ld+json"),
)
def give_out(dough_id: Id, form: exchange.Format, data: Data) -> Response:
    """A dough as a file."""
    with data.reading() as session:
        name, text = exchange.give_out(session, dough_id, form)
    plain = re.sub(r"[^A-Za-z0-9]+", "-", name).strip("-").lower() or "dough"
    named = f"attachment; filename=\"{plain}.{form}\"; filename*=UTF-8''{quote(name)}.{form}"
    headers = {"Content-Disposition": named}
    return Response(text, headers=headers, media_type=exchange.MEDIA[form])


class DoughFileBody(Body):
    """A file's name and its text."""

    name: Annotated[Text, Field(max_length=300)]
    text: Annotated[Text, Field(max_length=1_000_000)]


class CardTextOut(Out):
    """A card as it would be written, and what of the file has no place on one."""

    text: str
    left_out: list[str]


@router.post("/card-text")
def card_text(body: DoughFileBody) -> CardTextOut:
    """The card of a file that is dropped: the recipe of a saved web page or of JSON-LD as text,
    any other text as it is."""
    text, left_out = exchange.card_text(body.text)
    return CardTextOut(text=text, left_out=list(left_out))


class BroughtOut(Out):
    """A dough of the file as understood, what is unsure of it, and what of the file has no place on
    a card."""

    name: str
    family: Family
    lines: int
    steps: int
    parts: int
    total_g: float
    asks: list[str]
    left_out: list[str]


class LookOut(Out):
    """What a file holds."""

    doughs: list[BroughtOut]


@router.post("/bring-in/look")
def look(body: DoughFileBody, data: Data) -> LookOut:
    """What a file holds; keeps nothing."""
    with data.reading() as session:
        found = exchange.look(session, body.name, body.text)
    return LookOut(
        doughs=[
            BroughtOut(
                name=b.card.name,
                family=b.card.family,
                lines=len(b.card.lines),
                steps=len(b.card.steps),
                parts=len(b.card.parts),
                total_g=b.total_g,
                asks=list(b.asks),
                left_out=list(b.left_out),
            )
            for b in found
        ]
    )


@router.post("/bring-in", status_code=201)
def bring_in(body: DoughFileBody, data: Data, now: Now) -> list[Dough]:
    """Keep every dough of a file, or none when one of them cannot be kept."""
    with data.writing() as session:
        return list(exchange.bring_in(session, body.name, body.text, now))
