"""All cross-checks of a card, those left out that the baker has dismissed."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from finebatch.core.formula.balance import Band
from finebatch.core.formula.checks import amounts, method, oven, slips
from finebatch.core.formula.checks.amounts import Dose
from finebatch.core.formula.checks.check import Check
from finebatch.core.formula.checks.method import ForeseenPiece
from finebatch.core.formula.dough import Card, WeighedDough
from finebatch.core.formula.reading import Reader


@dataclass(frozen=True, slots=True)
class Facts:
    """What the checks judge by."""

    reader: Reader
    doses: Sequence[Dose]
    bands: Sequence[Band] = ()
    soda_per_g: Mapping[str, float] = field(default_factory=dict)


def cross_check(
    card: Card, weighed: WeighedDough, facts: Facts, piece: ForeseenPiece | None
) -> list[Check]:
    """Everything about a card that does not agree, without what was dismissed for good."""
    reader = facts.reader
    slip = slips.slipped(card, weighed, reader.larder, facts.bands)
    # Beside an amount that is out of all proportion, no dose can be judged.
    doses = () if slip else facts.doses
    found = [
        *amounts.contradictions(card, weighed, reader),
        *slips.doubled(card, weighed, reader.larder),
        *slip,
        *amounts.impossible(card, weighed, reader.larder, doses, facts.soda_per_g),
        *oven.oven_settings(card),
        *method.unused(card, reader.names, reader.larder),
        *method.unlisted(card, reader.names, reader.larder),
    ]
    if piece is not None:
        found += method.minutes_fit(card, piece)
        found += method.yield_fits(card, weighed.total_g, piece)
    return [check for check in found if check.key not in card.settled]
