"""The method against the ingredients, the minutes against the piece, the mass against the yield."""

import re
from collections.abc import Iterable
from dataclasses import dataclass

from finebatch.core.formula.card_says import says_of
from finebatch.core.formula.checks.check import Check, Mend
from finebatch.core.formula.dough import Card, Family, Line
from finebatch.core.formula.method import GROUPS, short_name
from finebatch.core.formula.names import Names
from finebatch.core.larder.ingredient import Larder
from finebatch.core.measures.figures import grams, grams_between

PLAUSIBLE_PIECE_G: dict[Family, tuple[float, float]] = {
    "drop": (8, 130),
    "rolled": (4, 80),
    "shortbread": (5, 80),
    "twice_baked": (6, 60),
}
"""Raw pieces (slices of a twice-baked log) that anyone makes, smallest and largest (published home
formulas)."""

MINUTES_TIMES = 1.8
"""Stated minutes so many times shorter or longer than foreseen do not fit the piece: minutes are
foreseen to within a quarter (`make bench`), and pieces are seldom just the card's."""

_EVERYTHING = re.compile(
    r"\b(?:all|everything|rest of|remaining|other)\b.{0,12}\b(?:ingredients?|everything)\b"
    r"|\b(?:mix|stir|beat|knead|combine|blend|work|bring|rub|process)\w*\s+(?:it |them )?all\b"
    r"|\bthe rest\b|\bin order\b|\beverything\b|\ball (?:the )?ingredients\b"
    r"|\ball (?:of it |of them )?together\b",
    re.IGNORECASE,
)
_DRY = re.compile(
    r"\bdry (?:ingredients?|mixture|mix)\b|\bdry\b(?= into| to|,|\.|\s*$| ingr\b| stuff| things)",
    re.IGNORECASE,
)
_WET = re.compile(r"\bwet (?:ingredients?|mixture|mix)\b|\bliquids?\b", re.IGNORECASE)
_AROUND = re.compile(
    r"\b(?:greas|butter|lin|dust|flour|oil|spray)(?:e|ed|ing|s)? (?:the |a |two |your )?"
    r"(?:sheet|tray|tin|pan|bench|surface|worktop|parchment|measure)s?\b"
    r"|\bcream(?:ed|ing)?(?= (?:the|your|butter|fat|lard|margarine|shortening|sugar|together|until|"
    r"with|in|it|for|unsalted|salted|soft)\b|\s*[,.;]|\s*$)"
    r"|\b(?:lightly|well)[- ](?:floured|greased|oiled|buttered)\b|\bwater bath\b"
    r"|\bsize of (?:a |an |small |large )*\w+|\b\w+-sized?\b|\b\w+ sized\b",
    re.IGNORECASE,
)
_CREAMED = re.compile(r"\bcream(?:ed)?(?=\s*(?:[,.;]|$)| (?:together|until|it)\b)", re.IGNORECASE)
"""“Cream, add milk”: the fat and the sugar, without a word of them."""
_RUBBED = re.compile(r"\brub in(?=\s*(?:[,.;]|$))", re.IGNORECASE)
"""“Rub in, bind with egg”: the fat into what is dry."""
_TOGETHER: tuple[tuple[str, tuple[str, ...]], ...] = (
    (r"(?:dried )?fruits?", ("fruit",)),
    (r"spices?", ("spice",)),
    (r"nuts?", ("nutmeal", "piece")),
    (r"sugars?", ("sugar", "icing_sugar")),
    (r"fats?|shortening", ("fat", "oil")),
    (r"flavou?rings?", ("flavour", "spice")),
    (r"chocolate|chips", ("chip",)),
    (r"flours?", ("flour",)),
    (r"eggs?", ("egg",)),
    (r"seeds?", ("piece", "grain")),
)
"""Words for several ingredients at once, by their roles."""
_FINISHES = re.compile(
    r"\b(?:dust|roll (?:\w+ )*in|sprinkl|dip|top|coat|glaz|ice|icing|decorat|finish|fill|brush|"
    r"sandwich|spread|scatter|press|drizzl)",
    re.IGNORECASE,
)
"""What takes of what stands beside the dough."""
FEWEST_NAMED = 2
"""Steps that name fewer of the ingredients tell of the baking alone."""
_HANDLED_ROLES = frozenset({"decoration"})


@dataclass(frozen=True, slots=True)
class ForeseenPiece:
    """What is foreseen of a piece of this dough: its mass, minutes, and how many there are."""

    grams: float
    minutes: float
    pieces: int


def _mentions(card: Card, names: Names, larder: Larder) -> tuple[set[str], set[str], set[str]]:
    """Keys and roles that the steps name, and the words that name what is in no list: “flour”
    may stand for the rye flour that is."""
    listed = {line.ingredient for line in card.lines}
    keys: set[str] = set()
    roles: set[str] = set()
    words: set[str] = set()
    for step in card.steps:
        text = _AROUND.sub(" ", step.text)
        for key, said in names.mentioned(text):
            keys.add(key)
            if key not in listed:
                words.add(said)
            roles.add(larder[key].role)
        if _EVERYTHING.search(text):
            roles.update(role for group in GROUPS.values() for role in group)
        if _DRY.search(text):
            # Sugar goes with what is dry where no step says otherwise.
            roles.update((*GROUPS["dry"], *GROUPS["sweet"]))
        if _WET.search(text):
            roles.update((*GROUPS["wet"], *GROUPS["egg"], "syrup", "oil"))
        if _CREAMED.search(step.text):
            roles.update(("fat", "sugar", "icing_sugar"))
        if _RUBBED.search(step.text):
            roles.update(("fat", "flour", "sugar", "icing_sugar", "salt"))
        for word, together in _TOGETHER:
            if re.search(rf"\b(?:{word})\b", text, re.IGNORECASE):
                roles.update(together)
    return keys, roles, words


def unused(card: Card, names: Names, larder: Larder) -> list[Check]:
    """Ingredients that no step uses; only where the card tells how it is mixed."""
    if not card.steps:
        return []
    keys, roles, words = _mentions(card, names, larder)
    if len(keys) < FEWEST_NAMED and roles <= {larder[key].role for key in keys}:
        return []
    last_words = {said.split()[-1] for said in words}
    found = []
    for n, line in enumerate(card.lines):
        ingredient = larder.known(line.ingredient)
        if ingredient is None:
            continue
        own = set(re.findall(r"[a-z]+", ingredient.name.lower()))
        if ingredient.key in keys or ingredient.role in roles or own & last_words:
            continue
        if any(names.in_short(ingredient.key, step.text) for step in card.steps):
            continue
        name = short_name(ingredient)
        found.append(
            Check(
                f"unused:{ingredient.key}",
                f"lines.{n}",
                f"No step uses the {name}",
                f"It is in the list, and none of the {len(card.steps)} steps names it.",
                "A step has been left out, or it goes in with the others.",
            )
        )
    return found


def _words_of(text: str) -> list[str]:
    """The words of a name, in the singular."""
    return [word.removesuffix("s") for word in re.findall(r"[a-z]+", text.lower())]


@dataclass(frozen=True, slots=True)
class _Listed:
    """The roles of what is listed, and the words that it goes by."""

    roles: frozenset[str]
    words: frozenset[str]

    @classmethod
    def of(cls, lines: Iterable[Line], larder: Larder) -> "_Listed":
        roles, words = set(), set()
        for line in lines:
            words.update(_words_of(line.text))
            if ingredient := larder.known(line.ingredient):
                roles.add(ingredient.role)
                words.update(_words_of(ingredient.name))
        # “The sugar” is the icing sugar where that is the one there is.
        roles |= {"sugar"} if "icing_sugar" in roles else set()
        return cls(frozenset(roles), frozenset(words))


def unlisted(card: Card, names: Names, larder: Larder) -> list[Check]:
    """Steps that use what is in no list."""
    beside = [line for part in card.parts for line in part.lines]
    listed = [*card.lines, *beside]
    keys = {line.ingredient for line in listed if line.ingredient}
    of_dough, of_all = _Listed.of(card.lines, larder), _Listed.of(listed, larder)
    found, told = [], set()
    for n, step in enumerate(card.steps):
        for key, said in names.mentioned(_AROUND.sub(" ", step.text)):
            role, there = larder[key].role, of_all if _FINISHES.search(step.text) else of_dough
            if key in keys or role in _HANDLED_ROLES or key == "water" or key in told:
                continue
            if role in there.roles or set(_words_of(said)) <= there.words:
                continue
            told.add(key)
            found.append(
                Check(
                    f"unlisted:{key}",
                    f"steps.{n}",
                    f"The {said} is in no list",
                    f"Step {n + 1}: “{step.text[:120]}”",
                    "A line is missing from the ingredients.",
                )
            )
    return found


def minutes_fit(card: Card, piece: ForeseenPiece) -> list[Check]:
    """Stated minutes that this piece cannot need."""
    stated = says_of(card).minutes
    if stated is None:
        return []
    low, high = stated
    if low / MINUTES_TIMES <= piece.minutes <= high * MINUTES_TIMES:
        return []
    told = f"{low:g}" if low == high else f"{low:g} to {high:g}"
    size = "smaller" if piece.minutes < low else "larger"
    return [
        Check(
            f"minutes:{told}:{piece.grams:.0f}",
            "stated_oven",
            "The minutes do not fit the piece",
            f"The card says {told} min; a piece of {grams(piece.grams, 0)} is foreseen to take "
            f"{piece.minutes:.0f}.",
            f"Your piece is {size} than the card's, or the oven setting is another one.",
        )
    ]


def yield_fits(card: Card, total_g: float, piece: ForeseenPiece) -> list[Check]:
    """A stated yield that the dough cannot give, or that differs from these pieces."""
    if not card.stated_pieces or total_g <= 0:
        return []
    each = total_g / card.stated_pieces
    low, high = PLAUSIBLE_PIECE_G[card.family]
    if low <= each <= high:
        return []
    what = "Too little dough" if each < low else "Too much dough"
    likely = "An amount is wrong by a factor, or the yield is."
    mend = None
    if card.family != "twice_baked":  # there a piece of the tray is a log, not a slice
        likely = f"At {grams(piece.grams, 0)} each it gives {piece.pieces}. Or an amount is wrong."
        mend = Mend(f"Say {piece.pieces} pieces", stated_pieces=piece.pieces)
    return [
        Check(
            f"yield:{card.stated_pieces}:{total_g:.0f}",
            "stated_pieces",
            f"{what} for {card.stated_pieces} pieces",
            f"{grams(total_g)} for {card.stated_pieces} is {grams(each)} each; such pieces weigh "
            f"{grams_between(low, high)}.",
            likely,
            mend,
        )
    ]
