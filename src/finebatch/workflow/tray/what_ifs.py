"""Trying changes on a tray without touching the dough, and keeping what was tried."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

from pydantic import TypeAdapter, ValidationError
from sqlalchemy.orm import Session

from finebatch.core.formula.dough import Card, Doneness
from finebatch.core.formula.what_if import WhatIf, card_if, said
from finebatch.core.heat.minutes import DONE_AT_C, USUAL_DONENESS
from finebatch.core.measures.faults import refusal_of
from finebatch.core.piece.lot import Lot
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.question import TrayQuestion, question
from finebatch.core.tray.setting import TraySetting
from finebatch.facts import formula
from finebatch.workflow.dough import doughs
from finebatch.workflow.dough.doughs import Dough
from finebatch.workflow.dough.from_card import tray_question
from finebatch.workflow.dough.study import Bench
from finebatch.workflow.kitchen.equipment import change_kitchen

COOLEST_C, HOTTEST_C = 60.0, 300.0
MOST_GAP_MM = 100.0
_SETTING = TypeAdapter(TraySetting)


@dataclass(frozen=True, slots=True)
class Remedy:
    """A change to try: what it would make of width and of the room between two pieces (mm), and of
    minutes."""

    key: str
    label: str
    width_mm: float
    minutes: float
    gap_mm: float


@dataclass(frozen=True, slots=True)
class WhatIfOffer(Remedy):
    """A change that can be tried for an effect, with the height (mm) that it would lead to."""

    height_mm: float


def find_what_ifs(keys: Sequence[str]) -> list[WhatIf]:
    """The named what_ifs in order; `Refusal` for one that there is not."""
    known = formula.what_ifs()
    strange = [key for key in keys if key not in known]
    if strange:
        raise refuse("tried", f"There is no change called “{strange[0]}” to try.")
    return [known[key] for key in keys]


def _step(doneness: Doneness, by: int) -> Doneness:
    """So many steps drier, or softer below zero."""
    steps = list(DONE_AT_C)
    return steps[min(max(steps.index(doneness) + by, 0), len(steps) - 1)]


def _on_setting(setting: TraySetting, tried: WhatIf, lot: Lot, usual: Doneness) -> TraySetting:
    changed: dict[str, Any] = {}
    for name, told in tried.setting.items():
        if name == "gap_mm_by":
            continue
        if name == "oven_c_by":
            changed["oven_c"] = min(max(setting.oven_c + float(told), COOLEST_C), HOTTEST_C)
        elif name == "doneness_by":
            changed["doneness"] = _step(setting.doneness or usual, int(told))
        elif name == "piece_times":
            grams = setting.piece.raw(lot).grams * float(told)
            changed["piece"] = setting.piece.weighing(grams, lot)
        else:
            changed[name] = told
    if not changed:
        return setting
    plain = {name: getattr(setting, name) for name in TraySetting.__slots__}
    try:
        return _SETTING.validate_python({**plain, **changed})
    except ValidationError as error:
        raise refusal_of(error.errors()) from error


def as_if(
    card: Card, setting: TraySetting, what_ifs: Sequence[WhatIf], bench: Bench
) -> tuple[Card, TraySetting]:
    """The card and its tray with every change made."""
    larder = bench.reader.larder
    for tried in what_ifs:
        card = card_if(card, tried, larder)
        if tried.setting:
            asked = question(card, bench.weigh(card), setting, bench.kitchen)
            setting = _on_setting(setting, tried, asked.lot(larder), USUAL_DONENESS[card.family])
    return card, setting


def kitchen_if(kitchen: KitchenSetting, what_ifs: Sequence[WhatIf]) -> KitchenSetting:
    """The kitchen with every change that is one of its own."""
    more = sum(float(tried.setting.get("gap_mm_by", 0)) for tried in what_ifs)
    return replace(kitchen, gap_mm=min(kitchen.gap_mm + more, MOST_GAP_MM)) if more else kitchen


def question_if(
    dough: Dough, setting: TraySetting, what_ifs: Sequence[WhatIf], bench: Bench
) -> TrayQuestion:
    """The tray question of a dough with changes tried; `Refusal` while a line is faulty."""
    card, changed = as_if(dough.card, setting, what_ifs, bench)
    weighed = dough.weighed if card is dough.card else bench.weigh(card)
    kitchen, larder = kitchen_if(bench.kitchen, what_ifs), bench.reader.larder
    said = tray_question(dough.card, dough.weighed, setting, bench.kitchen, larder)
    return tray_question(card, weighed, changed, kitchen, larder, said)


def offers(
    dough: Dough, setting: TraySetting, already: Sequence[WhatIf], effect: str, bench: Bench
) -> list[WhatIfOffer]:
    """Every change for that effect that would move something, on top of what is tried already."""
    before = question_if(dough, setting, already, bench)
    found = []
    for tried in formula.what_ifs().values():
        if tried.effect != effect or tried in already:
            continue
        asked = question_if(dough, setting, [*already, tried], bench)
        if asked == before:
            continue
        try:
            piece = asked.foresee(bench.ground(dough.id))
        except Refusal:
            continue
        found.append(
            WhatIfOffer(
                tried.key,
                tried.label,
                piece.width.middle_mm,
                piece.minutes,
                asked.kitchen.gap_mm,
                piece.thickness.height_mm,
            )
        )
    return found


def keep_tried(
    session: Session,
    dough: Dough,
    setting: TraySetting,
    what_ifs: Sequence[WhatIf],
    bench: Bench,
    now: int,
) -> Dough:
    """Make what was tried a version of the dough, and its tray's and kitchen's setting with it."""
    kitchen = kitchen_if(bench.kitchen, what_ifs)
    if kitchen != bench.kitchen:
        change_kitchen(session, kitchen)
    card, changed = as_if(dough.card, setting, what_ifs, bench)
    if card != dough.card:
        doughs.change_dough(session, dough.id, dough.revision, card, now, said(what_ifs))
    return doughs.change_tray(session, dough.id, changed)
