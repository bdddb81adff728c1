"""What a changed dough and tray come to, foreseen with all that is known of the one it was."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from finebatch.core.aim.distance import Stand, distance, swapped, weights
from finebatch.core.aim.wish import Figure
from finebatch.core.formula import balance
from finebatch.core.formula.balance import Band
from finebatch.core.formula.composition import Composition
from finebatch.core.formula.dough import Card, Family, WeighedDough
from finebatch.core.formula.weigh import weigh_card
from finebatch.core.larder.ingredient import Larder
from finebatch.core.larder.measuring import Measuring
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.refusal import Refusal
from finebatch.core.tray.question import Ground, TrayQuestion
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import Range

POLYOL_SWEET = 0.7
"""How sweet a gram of sugar alcohol is beside one of sugar (labels: about 70 %)."""


@dataclass(frozen=True, slots=True)
class Outcome:
    """What comes out: one piece as foreseen, its sugar in g in 100 g baked, and the dough's figures
    in percent of its flour."""

    found: Foreseen
    sugar_pct: float
    percents: Mapping[balance.Figure, float]
    distance: float

    def figure(self, figure: Figure) -> float:
        """One of the figures that may be wished."""
        match figure:
            case "width":
                return self.found.width.middle_mm
            case "height":
                return self.found.thickness.height_mm
            case "minutes":
                return self.found.minutes
            case "sugar":
                return self.sugar_pct


@dataclass(frozen=True, slots=True)
class Changed:
    """A dough changed: the card's lines each times a factor, and its tray's setting."""

    factors: tuple[float, ...]
    setting: TraySetting


@dataclass(slots=True)
class Dough:
    """One card that answers are looked for from: as it is, or with a swap made.

    `origin` is where distances are counted from, `spent` what the swaps made before count; `asked`
    is the question of the card as it is kept, with what it says of minutes and width. `notes` are
    what to mind of the swaps that are made, `share` what of its job each ingredient does. Outcomes
    are worked out once each.
    """

    card: Card
    weighed: WeighedDough
    asked: TrayQuestion
    ground: Ground
    bands: Sequence[Band]
    measuring: Measuring
    origin: Stand
    spent: float = 0.0
    notes: tuple[str, ...] = ()
    share: Mapping[str, float] = field(init=False)
    _known: dict[Changed, Outcome | None] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.share = weights(self.origin.formula_g, self.ground.larder)

    @property
    def larder(self) -> Larder:
        """What the ingredients are made of."""
        return self.ground.larder

    @property
    def family(self) -> Family:
        """The dough's family."""
        return self.card.family

    def with_card(self, card: Card, *notes: str) -> "Dough":
        """The same of another card."""
        weighed = weigh_card(card, self.larder, self.measuring)
        told = (*self.notes, *(note for note in notes if note))
        grams = weighed.known_g()
        return replace(
            self,
            card=card,
            weighed=weighed,
            origin=replace(self.origin, formula_g=grams),
            spent=self.spent + swapped(self.weighed.known_g(), grams, self.larder),
            notes=told,
            _known={},
        )

    def baked(self, setting: TraySetting) -> "Dough":
        """The same with another tray setting to begin with."""
        return replace(self, asked=replace(self.asked, setting=setting), _known={})

    def as_it_is(self) -> Changed:
        """Nothing changed."""
        return Changed((1.0,) * len(self.card.lines), self.asked.setting)

    def formula_g(self, changed: Changed) -> dict[str, float]:
        """Grams by ingredient with each line times its factor."""
        grams: dict[str, float] = {}
        for line, factor in zip(self.weighed.lines, changed.factors, strict=True):
            if line.ingredient is not None and line.grams is not None:
                grams[line.ingredient] = grams.get(line.ingredient, 0.0) + line.grams * factor
        return grams

    def outcome(self, changed: Changed) -> Outcome | None:
        """What comes out; None where nothing can be foreseen of it."""
        if changed not in self._known:
            self._known[changed] = self._work_out(changed)
        return self._known[changed]

    def _work_out(self, changed: Changed) -> Outcome | None:
        formula_g = self.formula_g(changed)
        asked = replace(
            self.asked,
            formula_g=formula_g,
            mixing=self.card.mixing,
            family=self.family,
            setting=changed.setting,
        )
        try:
            basis = asked.basis(self.ground)
            found = basis.foresee(changed.setting.piece, explained=False)
        except Refusal:
            return None
        stand = Stand(formula_g, self.family, self.card.mixing, changed.setting, basis.lot)
        return Outcome(
            found,
            self._sugar_pct(formula_g, basis.dough, found),
            balance.percentages(formula_g, basis.dough, self.larder),
            self.spent + distance(self.origin, stand, self.share),
        )

    def _sugar_pct(
        self, formula_g: Mapping[str, float], made: Composition, found: Foreseen
    ) -> float:
        plain = self.larder.expand(formula_g)
        sweet = sum(
            grams
            * self.larder[key].sugar_pct
            * (POLYOL_SWEET if _is_polyol(key, self.larder) else 1)
            for key, grams in plain.items()
        )
        return sweet / made.total_g * found.raw.grams / found.thickness.baked_g

    def outer(self, start: Outcome) -> Mapping[balance.Figure, Range]:
        """How far each figure of the dough may go: where its family gets out of balance; where it
        is out already, no farther."""
        mine = {band.figure: band for band in self.bands if band.family == self.family}
        return {
            figure: (
                min(mine[figure].least, percent),
                max(mine[figure].most, percent),
            )
            for figure, percent in start.percents.items()
            if figure in mine
        }


def _is_polyol(key: str, larder: Larder) -> bool:
    return larder[key].role == "polyol"


def ln(value: float) -> float:
    """The logarithm of a figure that may be nothing."""
    return math.log(max(value, 1e-6))
