"""What kind of dough a card that does not say so is likely to be."""

import re
from collections.abc import Iterable

from finebatch.core.formula.dough import Family, Mixing

_FAMILIES: tuple[tuple[Family, str], ...] = (
    (
        "twice_baked",
        r"twice[- ]baked|bake (?:them )?(?:again|a second time)|second bake|rusks?|biscott|cantucc"
        r"|(?:cut|slice)\b.{0,60}\bdry (?:at|in|them|the slices|for|on|out)",
    ),
    (
        "shortbread",
        r"shortbread|sabl[eé]s?|slice the logs?|icebox|in(?:to)? (?:an? |\d+ |two |three |four )?"
        r"(?:(?:long|equal|even|smooth|neat|thick|round) )*(?:logs?|rolls?)\b(?! and bak)",
    ),
    (
        "rolled",
        r"roll(?:ed)? (?:it |them |the dough )?out|roll the dough|re-?roll|cutters?|cut[- ]outs?"
        r"|roll (?:it |to )?(?:an? |to an? )?(?:rectangle|square)"
        r"|roll (?:it |to )?\d+(?:[.,/]\d+)? ?(?:mm|cm|in)|stamp out"
        r"|cut (?:out )?(?:\d+ ?(?:cm|mm|in\w*) )?(?:rounds|circles|stars|hearts|shapes|squares|"
        r"diamonds|leaves|moons)|cut into (?:rounds|circles|stars|hearts|leaves|moons)",
    ),
    ("shortbread", r"petticoat|scotch finger|prick(?:ed|ing)?\b"),
)
_MIXINGS: tuple[tuple[Mixing, str], ...] = (
    (
        "creamed",
        r"(?<!the )\bcream(?:ed)?,? (?:the |together|butter|sugar|shortening|fat|margarine|"
        r"lard|it |until|soft)|beat the butter|pale and fluffy",
    ),
    (
        "rubbed_in",
        r"\brub(?:bed)? (?:together|everything|all|it|in\b)"
        r"|\b(?:rub|cut) (?:in )?(?:the )?(?:cold )?(?:butter|fat|lard)|breadcrumbs",
    ),
    ("melted", r"\bmelt(?:ed)?\b.{0,30}(?:butter|fat|syrup|margarine)"),
    (
        "whisked",
        r"(?:whisk|beat|whip)(?:ed)?\b.{0,30}\bwhites?\b.{0,30}(?:stiff|peaks|foam)|whisk(?:ed)?\b.{0,30}\beggs?\b.{0,40}(?:thick|pale|ribbon|foam)",
    ),
    ("oil", r"\boil\b"),
)


def told_family(texts: Iterable[str]) -> Family | None:
    """The family that the words of title and steps tell of."""
    text = " ".join(texts)
    return next((f for f, words in _FAMILIES if re.search(words, text, re.IGNORECASE)), None)


def told_mixing(texts: Iterable[str]) -> Mixing | None:
    """The way of mixing that the words of the steps tell of."""
    text = " ".join(texts)
    return next((m for m, words in _MIXINGS if re.search(words, text, re.IGNORECASE)), None)


def guess_family(texts: Iterable[str]) -> Family:
    """The family by the words of title and steps; drop when nothing else is said."""
    return told_family(texts) or "drop"


def guess_mixing(texts: Iterable[str]) -> Mixing:
    """The way of mixing by the words of the steps; creamed when nothing else is said."""
    return told_mixing(texts) or "creamed"
