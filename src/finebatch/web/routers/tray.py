"""The Tray screen: one dough foreseen in pieces on the kitchen's sheets."""

from dataclasses import dataclass
from typing import Annotated

from annotated_types import MaxLen
from pydantic import Field

from finebatch.core.piece.kinds.every import AnyKind, KindShown, offered
from finebatch.core.piece.layout import Meeting, meetings, off_sheet
from finebatch.core.piece.pans import PanBox
from finebatch.core.piece.rows import Footprint
from finebatch.core.piece.tools import NamedPan
from finebatch.core.tray import question as trays
from finebatch.core.tray import turned_around as turned
from finebatch.core.tray.question import TrayQuestion
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import Point, part_of
from finebatch.facts import tables
from finebatch.web import routing
from finebatch.web.deps import Data, Now
from finebatch.web.tray_out import TrayOut, tray_out
from finebatch.web.types import Body, Id, Out, Text
from finebatch.workflow.dough.doughs import Dough, get_dough
from finebatch.workflow.dough.from_card import started
from finebatch.workflow.dough.study import Bench, get_bench
from finebatch.workflow.kitchen.equipment import get_kitchen
from finebatch.workflow.tray import what_ifs

router = routing.begin("tray")


@dataclass(frozen=True, slots=True)
class TrayQuestionBody(TraySetting):
    """A tray setting with changes tried on the dough, by their keys; nothing is kept."""

    tried: Annotated[tuple[Annotated[Text, Field(max_length=40)], ...], MaxLen(20)] = ()


def asked_of(
    dough_id: int, body: TrayQuestionBody, data: Data
) -> tuple[Dough, TrayQuestion, Bench]:
    """The dough, its tray's question with the changes tried, and what it is answered with."""
    with data.reading() as session:
        dough, bench = get_dough(session, dough_id), get_bench(session)
    chosen = what_ifs.find_what_ifs(body.tried)
    asked = what_ifs.question_if(dough, part_of(TraySetting, body), chosen, bench)
    return dough, asked, bench


@router.post("/doughs/{dough_id}/foresee")
def foresee(dough_id: Id, body: TrayQuestionBody, data: Data) -> TrayOut:
    """Foresee a dough in pieces with this setting, and with changes tried; nothing is kept."""
    dough, asked, bench = asked_of(dough_id, body, data)
    larder = bench.reader.larder
    found = trays.sizes(asked, bench.ground(dough_id))
    begun = started(dough.card, dough.weighed, bench.kitchen, larder)
    return tray_out(asked, found, asked.composition(larder).total_g, begun)


@router.post("/doughs/{dough_id}/tries/{effect}")
def offer_what_ifs(
    dough_id: Id,
    effect: Annotated[str, Field(max_length=40, pattern="^[a-z_]+$")],
    body: TrayQuestionBody,
    data: Data,
) -> list[what_ifs.WhatIfOffer]:
    """Changes that would move that effect, each with its piece; nothing is kept."""
    with data.reading() as session:
        dough, bench = get_dough(session, dough_id), get_bench(session)
    already = what_ifs.find_what_ifs(body.tried)
    return what_ifs.offers(dough, part_of(TraySetting, body), already, effect, bench)


@router.post("/doughs/{dough_id}/keep-tried")
def keep_tried(dough_id: Id, body: TrayQuestionBody, data: Data, now: Now) -> Dough:
    """Keep what was tried as a new version of the dough and as its tray's setting."""
    with data.writing() as session:
        dough, bench = get_dough(session, dough_id), get_bench(session)
        chosen = what_ifs.find_what_ifs(body.tried)
        return what_ifs.keep_tried(session, dough, part_of(TraySetting, body), chosen, bench, now)


@dataclass(frozen=True, slots=True)
class TurnedBody(TrayQuestionBody):
    """The question turned around: a width in mm, a count, both, or nothing left over."""

    width_mm: Annotated[float, Field(gt=0, le=1000)] | None = None
    pieces: Annotated[int, Field(ge=1, le=2000)] | None = None
    no_leftover: bool = False


@router.post("/doughs/{dough_id}/turned")
def turned_around(dough_id: Id, body: TurnedBody, data: Data) -> list[turned.Turned]:
    """The piece that bakes so wide, the dough for so many, or the sizes that leave nothing."""
    _, asked, bench = asked_of(dough_id, body, data)
    basis = asked.basis(bench.ground(dough_id))
    return turned.answers(
        basis, asked.setting.piece, body.width_mm, body.pieces, no_leftover=body.no_leftover
    )


@dataclass(frozen=True, slots=True)
class SharedOutBody(TrayQuestionBody):
    """In how many pieces of one mass all of the dough shall go."""

    pieces: Annotated[int, Field(ge=1, le=2000)] = 1


@router.post("/doughs/{dough_id}/shared-out")
def shared_out(dough_id: Id, body: SharedOutBody, data: Data) -> AnyKind:
    """The same portioning with all of the dough in so many pieces."""
    _, asked, bench = asked_of(dough_id, body, data)
    return turned.shared_out(asked.setting.piece, asked.lot(bench.reader.larder), body.pieces)


@router.post("/doughs/{dough_id}/ladder")
def ladder(dough_id: Id, body: TrayQuestionBody, data: Data) -> list[turned.RungFigures]:
    """Each scoop, cutter, thickness or pan of the kitchen, and what it would give."""
    _, asked, bench = asked_of(dough_id, body, data)
    basis = asked.basis(bench.ground(dough_id))
    return turned.rungs(basis, asked, tables.pans())


class PlacedBody(Body):
    """Pieces as they were moved by hand on the kitchen's sheet."""

    footprint: Footprint
    turned: bool = False
    centres: Annotated[list[Point], Field(max_length=300)]


class PlacedOut(Out):
    """What is wrong with pieces moved by hand, if anything."""

    meetings: list[Meeting]
    off_sheet: list[int]


@router.post("/sheet-check")
def check_sheet(body: PlacedBody, data: Data) -> PlacedOut:
    """Which pieces, moved by hand, would touch each other or the sheet's edge."""
    with data.reading() as session:
        sheet = get_kitchen(session).sheet
    foot = body.footprint
    return PlacedOut(
        meetings=meetings(foot, body.centres, turned=body.turned),
        off_sheet=off_sheet(sheet, foot, body.centres, turned=body.turned),
    )


@router.get("/kinds")
def list_kinds() -> list[KindShown]:
    """The kinds of portioning: their words, what each starts with, and what it asks."""
    return list(offered())


@router.get("/pans")
def list_pans() -> list[NamedPan]:
    """Pans that bakers have."""
    return list(tables.pans())


class OtherPanBody(Body):
    """A pan filled for this dough, and the one to use in its place."""

    pan: PanBox | AnyKind
    other: PanBox | AnyKind


class OtherPanOut(Out):
    """How much of the dough fills the other pan to the same depth."""

    factor: float


@router.post("/same-depth")
def same_depth(body: OtherPanBody) -> OtherPanOut:
    """The same depth in another pan."""
    return OtherPanOut(factor=turned.same_depth(body.pan, body.other))
