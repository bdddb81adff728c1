"""A dough studied while it is written: weighed, balanced, checked, foreseen; cards read."""

from typing import Annotated

from fastapi import Response
from pydantic import Field

from finebatch.core.formula.dough import MOST_LINES, Card
from finebatch.core.formula.reading import MOST_LETTERS, OtherReading
from finebatch.core.tray.setting import TraySetting
from finebatch.web import routing
from finebatch.web.deps import Data
from finebatch.web.types import Body, Id, Text
from finebatch.workflow.dough import study as work
from finebatch.workflow.dough.from_card import Understood, understand
from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.kitchen.larder import get_reader, teach_name

router = routing.begin("study")


class StudyBody(Body):
    """A card and its tray as they are on the screen. `dough_id` names the dough that it is."""

    card: Card
    tray: TraySetting
    dough_id: Id | None = None


@router.post("/study")
def study(body: StudyBody, data: Data) -> work.Study:
    """Study a card while it is written; keeps nothing."""
    with data.reading() as session:
        bench = work.get_bench(session)
        return work.study(session, body.card, body.tray, bench, body.dough_id)


class CardText(Body):
    """A card as it was written: a whole one, or its ingredients one a line."""

    text: Annotated[Text, Field(max_length=100_000)]


@router.post("/read")
def read(body: CardText, data: Data) -> Understood:
    """Read a pasted card; keeps nothing."""
    with data.reading() as session:
        return understand(body.text, get_reader(session), get_kitchen(session))


class WrittenBody(Body):
    """Lines as they stand on a card."""

    texts: Annotated[
        list[Annotated[Text, Field(max_length=MOST_LETTERS)]], Field(max_length=MOST_LINES)
    ]


@router.post("/readings")
def readings(body: WrittenBody, data: Data) -> list[list[OtherReading]]:
    """All that each written line can mean, what is taken first; none of one that means only that.
    Keeps nothing."""
    with data.reading() as session:
        reader = get_reader(session)
    read = [reader.read(text) for text in body.texts]
    return [
        [OtherReading(one.line, one.grams), *one.others] if one.others and one.grams else []
        for one in read
    ]


class NameBody(Body):
    """What this baker's cards call an ingredient."""

    name: Annotated[Text, Field(min_length=1, max_length=300)]
    ingredient: Annotated[Text, Field(max_length=60)]


@router.post("/names", status_code=204, response_class=Response)
def teach(body: NameBody, data: Data) -> None:
    """Remember a name for the next card."""
    with data.writing() as session:
        teach_name(session, body.name, body.ingredient)
