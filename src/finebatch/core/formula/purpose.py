"""What a line of a card is for: the dough, a part beside it, or the work on the bench."""

import re
from typing import Literal

from finebatch.core.formula.dough import PartKind
from finebatch.core.larder.ingredient import Ingredient

Purpose = Literal["dough"] | PartKind

_MORE = re.compile(
    r"(?:[,;(]|\bplus\b|\band\b|\+)\s*(?:(?:a (?:little|bit|few)|some)\s+)?"
    r"(?:extra|more|additional)\b.*$",
    re.IGNORECASE,
)
"""What is taken beside the amount: “250 g flour, plus more for dusting”."""
_THE_REST = re.compile(
    r"\b(?:keep|save|reserve|set aside|use)\b[^,;)]*\b(?:rest|remainder|other|half|some|bit|"
    r"handful|few|little|third|quarter|spoonful)\b"
    r"|\b(?:the )?(?:rest|remainder|remaining|other half)\b|\bkept back\b",
    re.IGNORECASE,
)
"""What is left of what is in the dough: “1/2 egg (keep the rest for brushing)”."""
_TO = r"\b(?:for|to|used (?:for|to))\s+(?:the\s+|your\s+|my\s+)?"
_PLACES = (
    r"(?:hands?|fingers|palms|bench|board|counter(?:[- ]?top)?|work[- ]?(?:top|surface)|surface|"
    r"table|rolling pin|pin|tins?|pans?|trays?|(?:baking )?sheets?|cutters?)\b"
)
_BENCH = re.compile(
    rf"{_TO}(?:(?:dust(?:ing)?|flour(?:ing)?|greas(?:e|ing)|oil(?:ing)?|lin(?:e|ing))\s+"
    rf"(?:the\s+|your\s+|my\s+|on the\s+)?)?{_PLACES}|{_TO}(?:greas(?:e|ing)|kneading)\b",
    re.IGNORECASE,
)
_ROLLED = re.compile(rf"{_TO}roll(?:ing|ed)?\b(?P<out>\s+out\b)?", re.IGNORECASE)
_DUSTED = re.compile(
    rf"{_TO}dust(?:ing)?\b(?P<pieces>.*\b(?:tops?|serve|over|finish)\b)?", re.IGNORECASE
)
_DIPPED = re.compile(rf"{_TO}dip(?:ping)?\b", re.IGNORECASE)
_USED_AS: tuple[tuple[PartKind, str], ...] = (
    ("wash", r"brush(?:ing)?|glaz(?:e|ing)|(?:egg[- ]?)?wash(?:ing)?|paint(?:ing)?"),
    ("icing", r"icing|frosting|ice|drizzl(?:e|ing)|spread(?:ing)? on top"),
    ("filling", r"fill(?:ing)?|cent(?:re|er)s?|dents?|sandwich(?:ing)?"),
    ("coating", r"coat(?:ing)?"),
    (
        "topping",
        r"sprinkl(?:e|ing)|scatter(?:ing)?|tops?|edges?|rims?|sides?|topping|decorat(?:e|ing|ion)|finish(?:ing)?|"
        r"garnish(?:ing)?|press(?:ing)? on top|serve|serving",
    ),
)
_USES = [(kind, re.compile(rf"{_TO}(?:{words})\b", re.IGNORECASE)) for kind, words in _USED_AS]
_ON_TOP = re.compile(r"\bon top\b", re.IGNORECASE)


def use_of_the_rest(text: str, ingredient: Ingredient | None) -> Purpose | None:
    """What is done with what is kept back of an ingredient that is in the dough: “1/2 egg (keep the
    other half to glaze)”; None where nothing is."""
    rest = _THE_REST.search(text)
    use = _used(text[rest.start() :], ingredient) if rest else "dough"
    return None if use in ("dough", "bench") else use


def purpose_of(text: str, ingredient: Ingredient | None) -> Purpose:
    """What a written line is for, by its words and by what it names: sugar to roll them in is a
    coating, flour for rolling is for the bench."""
    said = _MORE.sub("", text).strip() or text
    return "dough" if _THE_REST.search(said) else _used(said, ingredient)


def _used(said: str, ingredient: Ingredient | None) -> Purpose:
    role = ingredient.role if ingredient else ""
    floury = role in ("flour", "starch")
    if _BENCH.search(said):
        return "bench"
    if found := _ROLLED.search(said):
        return "bench" if floury or found["out"] else "coating"
    if found := _DUSTED.search(said):
        return "bench" if floury and not found["pieces"] else "dusting"
    if _DIPPED.search(said):
        return "coating" if role == "sugar" else "dip"
    for kind, words in _USES:
        if words.search(said):
            return kind
    return "topping" if _ON_TOP.search(said) else "dough"
