"""Which bowl of how many a mixing is of: its share of each amount, and the trays that it is for."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from finebatch.core.plan.lots import once
from finebatch.core.plan.work import DoughWork, TrayWork


@dataclass(frozen=True, slots=True)
class Bowlful:
    """Bowl `number` of `bowls`, with that share of each amount; `trays` are named where the dough
    is mixed in lots."""

    number: int
    bowls: int
    share: float
    trays: tuple[str, ...] = ()

    def __str__(self) -> str:
        """In words: ``bowl 2 of 3, 40 % of each amount, for A3 and A4``."""
        words = f"bowl {self.number} of {self.bowls}, {100 * self.share:.0f} % of each amount"
        return f"{words}, for {' and '.join(self.trays)}" if self.trays else words


NEAR_WHOLE = 0.05
"""So near a whole number of eggs nobody beats one apart."""


def shares_of(total_g: float, holds_g: float, eggs: float | None) -> tuple[float, ...]:
    """The share of a dough in each bowl of a mixer that holds so much (g): whole eggs in each where
    the dough has a whole number of them, else equal ones."""
    least = max(math.ceil(total_g / holds_g - 1e-9), 1)
    whole = round(eggs or 0)
    if least > 1 and abs((eggs or 0) - whole) <= NEAR_WHOLE:
        for bowls in range(least, min(whole, 2 * least) + 1):
            each, over = divmod(whole, bowls)
            if math.ceil(whole / bowls) / whole * total_g <= holds_g * (1 + 1e-9):
                counts = [each + 1] * over + [each] * (bowls - over)
                return tuple(count / whole for count in counts)
    return (1 / least,) * least


def _mixed(dough: DoughWork) -> tuple[int, int]:
    """In how many bowls a dough is mixed, with how many jobs each."""
    mixing = [make for make in dough.makes if make.kind == "mix"]
    each = len(once(mixing)) if mixing else 1
    return len(mixing) // each, each


def _trays_in(dough: DoughWork, trays: Sequence[TrayWork], bowl: int) -> Sequence[TrayWork]:
    """The trays of the lot that a bowl, counted from 0, is of."""
    in_lot = _mixed(dough)[0] // dough.lots
    return [tray for tray in trays if tray.lot == bowl // in_lot]


def bowl_shares(dough: DoughWork, trays: Sequence[TrayWork]) -> tuple[float, ...]:
    """The share of a dough in each bowl that it is mixed in; all of it in one."""
    bowls, _ = _mixed(dough)
    if bowls < 2:
        return (1.0,)
    if dough.lots == 1 and len(dough.shares) == bowls:
        return dough.shares
    in_lot, pieces = bowls // dough.lots, max(sum(tray.pieces for tray in trays), 1)
    own = (_trays_in(dough, trays, bowl) for bowl in range(bowls))
    return tuple(sum(tray.pieces for tray in lot) / pieces / in_lot for lot in own)


def bowls_of(dough: DoughWork, trays: Sequence[TrayWork]) -> tuple[Bowlful, ...]:
    """The bowl that each job of mixing is of, in their order; none where one holds all of it."""
    bowls, each = _mixed(dough)
    if bowls < 2:
        return ()
    found = []
    for number, share in enumerate(bowl_shares(dough, trays)):
        names = tuple(tray.name for tray in _trays_in(dough, trays, number))
        found += [Bowlful(number + 1, bowls, share, names if dough.lots > 1 else ())] * each
    return tuple(found)
