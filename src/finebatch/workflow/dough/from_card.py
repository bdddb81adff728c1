"""What a dough's card says of its tray in this kitchen: where the setting begins, its minutes."""

from dataclasses import dataclass, replace
from typing import Literal

from finebatch.core.formula.card_says import card_of, says_of
from finebatch.core.formula.card_text import ReadCard, read_card
from finebatch.core.formula.checks.method import ForeseenPiece
from finebatch.core.formula.composition import compose
from finebatch.core.formula.dough import Card, Family, WeighedDough
from finebatch.core.formula.guess import told_family, told_mixing
from finebatch.core.formula.reading import Reader
from finebatch.core.formula.weigh import weigh_card
from finebatch.core.larder.ingredient import Larder
from finebatch.core.piece.kinds.every import usual_of
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.tray import count
from finebatch.core.refusal import Refusal
from finebatch.core.tray.from_card import Started, start
from finebatch.core.tray.kitchen import KitchenSetting
from finebatch.core.tray.question import Ground, TrayQuestion, as_said, question
from finebatch.core.tray.setting import TraySetting
from finebatch.core.values import values_of
from finebatch.facts import tables
from finebatch.formats.card_markdown import as_card


def usual_tray(family: Family) -> TraySetting:
    """The tray setting of a dough of that family whose card says nothing of it."""
    habits = tables.families()[family]
    return TraySetting(
        habits.piece, "weighed", habits.dough_temp_c, habits.oven_c, "parchment", habits.chill_min
    )


def started(
    card: Card,
    weighed: WeighedDough,
    kitchen: KitchenSetting,
    larder: Larder,
    usual: TraySetting | None = None,
) -> Started:
    """The tray setting that a card begins with in this kitchen, and what of it the card says; in
    place of what it does not say stands what is `usual`, of its family where nothing else is."""
    lot = None
    if weighed.total_g > 0:
        made = compose(weighed.known_g(), larder)
        lot = Lot(made.total_g, made.density_g_cm3)
    usual = usual or usual_tray(card.family)
    return start(says_of(card), usual, lot, kitchen.oven_mode, kitchen.reads)


@dataclass(frozen=True, slots=True, kw_only=True)
class Understood(ReadCard):
    """A card that was read, as the dough that it makes, and the tray setting that it begins with.

    Of its family and mixing `guessed` names those that nothing on it tells of.
    """

    card: Card
    begun: Started
    guessed: tuple[Literal["family", "mixing"], ...]


def understand(text: str, reader: Reader, kitchen: KitchenSetting) -> Understood:
    """Read a pasted card as this kitchen would take it; `Refusal` for one of too many lines."""
    read = read_card(as_card(text), reader)
    card = card_of(read, read.title)
    weighed = weigh_card(card, reader.larder, reader.measuring)
    told = [read.title, *(step.text for step in read.steps)]
    silent: tuple[tuple[Literal["family", "mixing"], bool], ...] = (
        ("family", told_family(told) is None),
        ("mixing", told_mixing(told[1:]) is None),
    )
    return Understood(
        **values_of(ReadCard, read),
        card=card,
        begun=started(card, weighed, kitchen, reader.larder),
        guessed=tuple(field for field, guessed in silent if guessed),
    )


def foreseen_piece(
    card: Card, weighed: WeighedDough, kitchen: KitchenSetting, larder: Larder
) -> ForeseenPiece | None:
    """A piece of a card as it begins in this kitchen; None where none can be foreseen."""
    setting = started(card, weighed, kitchen, larder).setting
    try:
        asked = question(card, weighed, setting, kitchen)
        basis = asked.basis(Ground(larder, tables.models()))
        found = basis.foresee(setting.piece)
        made = count(basis, setting.piece, found)
    except Refusal:
        return None
    return ForeseenPiece(found.raw.grams, found.minutes, made.pieces)


def tray_question(
    card: Card,
    weighed: WeighedDough,
    tray: TraySetting,
    kitchen: KitchenSetting,
    larder: Larder,
    said: TrayQuestion | None = None,
) -> TrayQuestion:
    """The tray question of a dough, with the minutes that its card says; `Refusal` while its card
    has a faulty line.

    Of a card that is tried in place of another one, `said` is that other one's question: the card's
    minutes are of the dough as it was written.
    """
    asked = question(card, weighed, tray, kitchen)
    if said is not None:
        return replace(
            asked,
            said=said.said,
            said_second=said.said_second,
            said_width=said.said_width,
        )
    says = says_of(card)
    if says.minutes is None and says.second_minutes is None and says.baked_mm is None:
        return asked
    on_card = started(card, weighed, kitchen, larder)
    if on_card.guesses(tray.piece):
        # The card does not say what its minutes are of; the baker does.
        usual = replace(usual_tray(card.family), piece=usual_of(tray.piece))
        on_card = started(card, weighed, kitchen, larder, usual)
    return as_said(asked, says, on_card.setting, Ground(larder, tables.models()))
