"""The question of a tray: a dough foreseen in pieces on this kitchen's sheets."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from finebatch.core.care.keeping import KeptAs
from finebatch.core.formula.card_says import CardSays
from finebatch.core.formula.composition import Composition, compose
from finebatch.core.formula.dough import Card, Family, Mixing, WeighedDough
from finebatch.core.heat.chilling import (
    Air,
    Chill,
    Purpose,
    Shape,
    chill,
    disc_across_mm,
    disc_shape,
    log_shape,
)
from finebatch.core.heat.minutes import look_from
from finebatch.core.heat.oven import conventional_c
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.effects import BakeConditions, Surface
from finebatch.core.piece.evidence import CARD_WIDTH_SD, LEAST_FLOW, OnCard, SaidWidth
from finebatch.core.piece.foresee import Foreseen, Learnt, Models
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.paper import Template, TemplateOf
from finebatch.core.piece.sizes import Sizes, foresee_sizes
from finebatch.core.piece.spread import flow_at
from finebatch.core.piece.template import sheet_template
from finebatch.core.piece.tray import TrayAnswer, TrayBasis
from finebatch.core.refusal import Refusal
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import Range

THICK_MM: Mapping[KeptAs, float] = {"dough": 40.0, "disc": 25.0}
"""How thick a wrapped lump, or a disc of a dough that is not rolled, is pressed before it is put
away (household practice)."""
OWN_LOG_MM = 45.0
"""How thick a log is of a dough that says nothing of logs."""


@dataclass(frozen=True, slots=True)
class Ground:
    """What a tray is foreseen on: the larder, the fitted models, and what bakes have taught of the
    dough."""

    larder: Larder
    models: Models
    learnt: Learnt | None = None


@dataclass(frozen=True, slots=True)
class SaidMinutes:
    """What the card says of a bake's minutes, and by how much in ln that is longer than reckoned
    for the card's own piece and oven: another piece or oven is reckoned from there. `look_min` is
    from when on it says to look."""

    minutes: Range
    shift: float
    look_min: float | None = None


@dataclass(frozen=True, slots=True)
class TrayQuestion:
    """All that decides a tray: the formula in grams, how it is portioned, the kitchen, the minutes
    that its card says of the first bake and the second, and how wide it says that a piece bakes."""

    formula_g: Mapping[str, float]
    family: Family
    mixing: Mixing
    setting: TraySetting
    kitchen: KitchenSetting
    said: SaidMinutes | None = None
    said_second: SaidMinutes | None = None
    said_width: SaidWidth | None = None

    def composition(self, larder: Larder) -> Composition:
        """What the dough is made of."""
        return compose(self.formula_g, larder)

    def lot(self, larder: Larder) -> Lot:
        """All the dough that there is."""
        dough = self.composition(larder)
        return Lot(dough.total_g, dough.density_g_cm3)

    def conditions(self) -> BakeConditions:
        """How a piece is baked."""
        return BakeConditions(
            dough_temp_c=self.setting.dough_temp_c,
            oven_c=self.setting.oven_c,
            oven_mode=self.kitchen.oven_mode,
            surface=self._surface(),
            mixing=self.mixing,
            rested_overnight=self.setting.rested,
        )

    def _surface(self) -> Surface:
        """What lies between sheet and dough, or where that is all the same, the sheet's kind."""
        kind = self.kitchen.sheet_kind
        if kind != "plain" and self.setting.surface in ("parchment", "bare"):
            return kind
        return self.setting.surface

    def basis(self, ground: Ground) -> TrayBasis:
        """All that the answer rests on but the piece."""
        return TrayBasis(
            models=ground.models,
            dough=self.composition(ground.larder),
            family=self.family,
            how=self.conditions(),
            sheet=self.kitchen.sheet,
            evenness=self.setting.evenness,
            shelves=self.kitchen.shelves,
            doneness=self.setting.doneness,
            learnt=ground.learnt,
            card=OnCard(
                None if self.said is None else self.said.shift,
                self.setting.minutes_by,
                self.said_width,
                self.setting.width_by,
            ),
            colour=self.setting.colour,
            said_second=None if self.said_second is None else self.said_second.shift,
        )

    def foresee(self, ground: Ground) -> Foreseen:
        """One piece foreseen, without laying it out; `Refusal` where there is none."""
        return self.basis(ground).foresee(self.setting.piece)


def question(
    card: Card, weighed: WeighedDough, setting: TraySetting, kitchen: KitchenSetting
) -> TrayQuestion:
    """The tray question of a dough; `Refusal` while its card has a faulty line."""
    own = kitchen.on(setting.sheet)
    return TrayQuestion(weighed.formula_g(), card.family, card.mixing, setting, own)


def as_said(
    asked: TrayQuestion, says: CardSays, on_card: TraySetting, ground: Ground
) -> TrayQuestion:
    """The question with the minutes and the width that its card says; `on_card` is the setting that
    the card says them of. Unchanged where nothing can be foreseen of that setting."""
    plain = replace(asked, setting=on_card, kitchen=replace(asked.kitchen, shelves=1))
    basis = plain.basis(replace(ground, learnt=None))
    try:
        found = basis.foresee(on_card.piece)
        wide = _said_width(says.baked_mm, found)
        if wide is not None:
            # Its minutes are of the piece as wide as it is taken to be.
            by = asked.setting.width_by
            found = replace(basis, card=OnCard(width=wide, width_by=by)).foresee(on_card.piece)
        second = None
        if says.second_minutes is not None:
            still_c = conventional_c(on_card.oven_c, plain.kitchen.oven_mode)
            second = on_card.piece.second(found, 1, basis.sheet, still_c)
    except Refusal:
        return asked
    dried = _said(says.second_minutes, second.minutes) if second else None
    return replace(
        asked,
        said=_said(says.minutes, found.minutes, says.look_min),
        said_second=dried,
        said_width=wide,
    )


def _said(
    minutes: Range | None, reckoned: float, look_min: float | None = None
) -> SaidMinutes | None:
    if minutes is None:
        return None
    shift = math.log(math.sqrt(minutes[0] * minutes[1]) / reckoned)
    early = look_min is not None and look_min < minutes[1]
    return SaidMinutes(minutes, shift, look_min if early else None)


def _said_width(wide_mm: float | None, reckoned: Foreseen) -> SaidWidth | None:
    if wide_mm is None:
        return None
    own_mm = wide_mm - reckoned.raw.beyond_mm
    law_mm = reckoned.width.middle_mm - reckoned.raw.beyond_mm
    flow, law = flow_at(reckoned.raw, own_mm), flow_at(reckoned.raw, law_mm)
    if flow is None or law is None or flow[1] < LEAST_FLOW:
        return None
    return SaidWidth(wide_mm, flow[0] - law[0], CARD_WIDTH_SD / flow[1])


def answer(asked: TrayQuestion, ground: Ground) -> TrayAnswer:
    """Foresee the tray; of several sizes, the usual one."""
    return sizes(asked, ground).usual


def sizes(asked: TrayQuestion, ground: Ground) -> Sizes:
    """Foresee the trays of each size."""
    return foresee_sizes(asked.basis(ground), asked.setting.piece, asked.setting.also)


def first_look(asked: TrayQuestion, found: TrayAnswer, models: Models) -> int:
    """The minute at which to look into the oven first; by the card, the first that it names."""
    early, said = models.heat.noise_sd, 0.0
    if found.foreseen.sources.card_share > 0 and asked.said is not None:
        low, high = asked.said.minutes
        early, said = 0.0, math.log(high / low) / 2
        if asked.said.look_min is not None:
            said = max(said, math.log(math.sqrt(low * high) / asked.said.look_min))
    return look_from(
        found.foreseen.minutes,
        early,
        asked.kitchen.planning.oven.swing_c,
        oven_c=conventional_c(asked.setting.oven_c, asked.kitchen.oven_mode),
        said=said,
    )


def shape_as(form: KeptAs, asked: TrayQuestion, larder: Larder) -> tuple[Shape, Purpose]:
    """The shape of this dough in the cold, as a lump, a disc, a log or the way its kind is chilled
    best, and what for."""
    dough, piece = asked.composition(larder), asked.setting.piece
    own, job = piece.chilled(asked.lot(larder))
    cm3 = dough.total_g / dough.density_g_cm3
    if form == piece.KEPT_AS != "dough":
        return own.of(dough), job
    if form in THICK_MM:
        thick = THICK_MM[form]
        own = disc_shape(disc_across_mm(cm3, thick), thick)
    elif form == "log":
        own = log_shape(OWN_LOG_MM, 1000 * cm3 / (0.785 * OWN_LOG_MM**2))
    return own.of(dough), job


def chill_shape(asked: TrayQuestion, larder: Larder) -> tuple[Shape, Purpose]:
    """The shape in which this dough is chilled, and what for: as it is set, or as is best: discs to
    roll, logs to slice, portioned balls to bake, a filled pan."""
    setting = asked.setting
    if setting.cold_as != setting.piece.KEPT_AS:
        return shape_as(setting.cold_as, asked, larder)
    shape, job = setting.piece.chilled(asked.lot(larder))
    return shape.of(asked.composition(larder)), job


def chill_for(
    asked: TrayQuestion, larder: Larder, place: Air, start_c: float, slower: float = 1.0
) -> Chill:
    """How long this dough's shape takes in this kitchen's fridge or freezer, and back again; it
    takes `slower` times the usual minutes there."""
    kitchen = asked.kitchen
    shape, job = chill_shape(asked, larder)
    air = {"fridge": kitchen.fridge_c, "freezer": kitchen.freezer_c, "room": kitchen.room_c}
    return chill(
        shape, job, place, start_c=start_c, air_c=air[place], room_c=kitchen.room_c, slower=slower
    )


def template(
    name: str, asked: TrayQuestion, found: TrayAnswer, what: TemplateOf, tray: int
) -> Template:
    """The paper template of a tray, the fullest first, or of the slab."""
    kitchen, piece = asked.kitchen, asked.setting.piece
    if what == "slab":
        return piece.slab(name, found.making)
    sheet_mm = (kitchen.sheet_width_mm, kitchen.sheet_depth_mm)
    return sheet_template(name, found, piece, sheet_mm, tray)
