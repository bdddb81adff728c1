"""The tray: a dough foreseen in pieces on this kitchen's sheets, by what the book has taught."""

from collections.abc import Mapping
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from finebatch.core.book.learn import Lessons, MeasuredBake, learn
from finebatch.core.formula.composition import Composition, compose
from finebatch.core.formula.dough import Family, Mixing
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.foresee import Learnt
from finebatch.core.piece.portion import RawPiece
from finebatch.core.piece.tray import TrayAnswer, foresee_tray
from finebatch.facts import tables
from finebatch.store.models import BakeRow
from finebatch.workflow.doughs import Dough, TraySetting
from finebatch.workflow.kitchen import KitchenSetting


@dataclass(frozen=True, slots=True)
class TrayQuestion:
    """All that decides a tray: the formula in grams, how it is portioned, and the kitchen."""

    formula_g: Mapping[str, float]
    family: Family
    mixing: Mixing
    setting: TraySetting
    kitchen: KitchenSetting

    def composition(self, larder: Larder) -> Composition:
        """What the dough is made of."""
        return compose(self.formula_g, larder)

    def conditions(self) -> BakeConditions:
        """How a piece is baked."""
        return BakeConditions(
            dough_temp_c=self.setting.dough_temp_c,
            oven_c=self.setting.oven_c,
            oven_mode=self.kitchen.oven_mode,
            surface=self.setting.surface,
            mixing=self.mixing,
        )


def question(dough: Dough, setting: TraySetting, kitchen: KitchenSetting) -> TrayQuestion:
    """The tray question of a dough; `Refusal` while its card has a faulty line."""
    card = dough.card
    return TrayQuestion(dough.weighed.formula_g(), card.family, card.mixing, setting, kitchen)


def answer(asked: TrayQuestion, larder: Larder, learnt: Learnt | None) -> TrayAnswer:
    """Foresee the tray."""
    return foresee_tray(
        tables.models(), asked.composition(larder), asked.family, asked.setting.piece,
        asked.conditions(), asked.kitchen.sheet,
        evenness=asked.setting.evenness, shelves=asked.kitchen.shelves, learnt=learnt,
    )  # fmt: skip


def measured_bake(row: BakeRow) -> MeasuredBake:
    """A row of the book as the learning wants it. An effect that is new since counts as zero."""
    raw = RawPiece(**row.raw)
    effects = {e.key: float(row.effects.get(e.key, 0.0)) for e in tables.effects()}
    return MeasuredBake(
        dough=row.dough_id,
        row=tables.models().spread.row(effects, raw),
        raw=raw,
        plain_minutes=row.plain_minutes,
        portion_cv=row.portion_cv,
        widths_mm=tuple(row.widths_mm),
        minutes=row.minutes,
    )


def book_rows(session: Session, dough_id: int | None = None) -> list[BakeRow]:
    """The book's entries, oldest first; of one dough when named."""
    query = select(BakeRow).order_by(BakeRow.baked_at, BakeRow.id)
    if dough_id is not None:
        query = query.where(BakeRow.dough_id == dough_id)
    return list(session.scalars(query))


def lessons(session: Session) -> Lessons:
    """What the whole book has taught."""
    return learn(tables.models().spread, [measured_bake(row) for row in book_rows(session)])
