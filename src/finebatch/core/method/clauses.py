"""The lines of a method, taken apart into what is done one after the other, each with its kind.

A clause is told by the word that it begins with, by what it names, and by where it stands: what is
cut before the bake is dough, what is cut after it a log or a pan.
"""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from finebatch.core.formula.step import StepKind
from finebatch.core.measures.durations import find_durations
from finebatch.core.measures.spoken import plain_text
from finebatch.core.measures.temperatures import find_temperatures

_ADVERBS = (
    r"(?:(?:first|next|now|finally|meanwhile|gently|gradually|slowly|quickly|carefully|lightly|"
    r"generously|just|well|evenly|loosely|immediately|at once|briefly|once (?:it is )?cold|"
    r"once (?:it is |they are )?(?:cool|cooled|firm)|while (?:still )?(?:hot|warm),?|"
    r"as soon as (?:they|it) (?:are|is|come|comes)(?: out)?,?|again|re-?|then|and|to|you|i|we|"
    r"using \w+ hands|by hand|with (?:a |your |wet |floured )*\w+),?\s+)*"
)
_VERBS = (
    r"weigh|measure|gather|take|bring|toast|roast|melt|brown the|warm|heat|chop|crush|grind|dice|"
    r"grate|zest|infuse|steep|soak|sift|sieve|line|grease|(?:butter|oil|flour)(?= (?:the|a|two|your) )|"
    r"pre-?heat|turn|set|cream(?= (?:the|butter|with|together|until))|beat|whisk|whip|"
    r"rub|cut|work|pulse|process|stir|mix|add|combine|fold|blend|pour|dissolve|knead|bind|press|"
    r"rest|let|leave|stand|allow|cool|divide|split|halve|quarter|shape|form|make|roll|flatten|pat|"
    r"wrap|cover|chill|refrigerate|fridge|freeze|keep cool|put|place|pop|return|remove|keep|temper|re-?roll|stamp|"
    r"slice|scoop|drop|spoon|dollop|arrange|lay|space|portion|squash|dent|indent|push|poke|pipe|"
    r"spread|score|mark|prick|dock|dip|toss|coat|dredge|brush|glaze|paint|top|sprinkle|scatter|"
    r"decorate|fill|sandwich|bake|rotate|swap|move|transfer|lift|curl|curve|drape|bend|ice|"
    r"drizzle|dust|store|\d+ (?:more )?min\w* more|pack|serve|trim|twist|plait|tie|cross|do not|don.t|dry|re-?cut|separate|"
    r"scrape|swirl|drain|reserve|re-?knead|smooth|level|tap|tip|turn out|finish|smear|crumble"
)
_SENTENCE = re.compile(
    r"(?<=[.;!])(?<!\bin\.)(?<!\bmin\.)(?<!\bmins\.)(?<!\bhr\.)(?<!\bca\.)(?<!approx\.)\s+|\n+"
    r"|(?:(?<=\bin\.)|(?<=\bmin\.)|(?<=\bmins\.)|(?<=\bhr\.))\s+(?=(?-i:[A-Z]))",
    re.IGNORECASE,
)
_CLAUSE = re.compile(
    rf"(?:,?\s+(?:and\s+)?then\s+|,\s+(?:and\s+)?|\s+and\s+|:\s+)(?={_ADVERBS}(?:{_VERBS})\b)",
    re.IGNORECASE,
)
_VERB = re.compile(rf"^\W*{_ADVERBS}(?P<verb>{_VERBS})\b", re.IGNORECASE)


def _r(pattern: str) -> re.Pattern[str]:
    return re.compile(pattern, re.IGNORECASE)


_COLD = _r(
    r"\b(?:chill(?:ed|ing)?|refrigerat\w*|fridge|in(?:to)? the cold|cold place|cool place|keep (?:\w+ )?(?:cool|cold)|ice ?box)\b"
)
_FREEZER = _r(r"\bfreez\w*\b")
_SHEET = _r(r"\b(?:trays?|sheets?|parchment|paper|tins?|pans?|mats?|dish)\b")
_BAKED = _r(r"\bbak(?:e|ed|ing)(?! (?:powder|soda|paper|parchment|sheet|tray|tin|ammonia))\b|\bin the oven\b")
_LOGS = _r(r"\b(?:logs?|cylinders?|sausages?|batons?|loa(?:f|ves)|bars? of dough|rolls?)\b(?!.*\bballs?\b)")
_STOVE = _r(r"\b(?:melt|dry pan|skillet|saucepan|simmer|boil)\b")
_HOT = _r(r"\b(?:while|still)\b.{0,20}\b(?:hot|warm|soft)\b|\bat once\b|\bimmediately\b|\bfrom the oven\b")
_EACH = _r(r"\b(?:each|every|tops?|on them|over them|them|with (?:a |half )|middles?|cent(?:re|er)s?)\b")
_SUGARY = _r(r"\b(?:sugar|nuts?|almonds?|walnuts?|pecans?|seeds?|coconut|cinnamon|flakes|sprinkles|cocoa|crumbs|pistachios?|hazelnuts?|sesame|poppy)\b")
_PIECES = _r(
    r"\b(?:rounds?|circles?|stars?|hearts?|leaves|squares?|diamonds?|moons?|shapes?|fingers?|"
    r"rectangles?|cookies|biscuits|wedges|strips?|men|trees|rings?|bars|triangles?|figures|animals|cutters?)\b"
)

Rule = tuple[StepKind, re.Pattern[str]]

_ANYWHERE: tuple[Rule, ...] = (
    ("heat_oven", _r(r"^(?!.*\b(?:bake|for \d+ ?(?:-|to)? ?\d* ?min))\W*(?:pre-?heat|(?:heat|set|turn(?: on)?|switch on) (?:the |your |an )?oven|oven (?:on|to)\b)")),
    ("heat_oven", _r(r"^\W*oven (?:at|to|:|on)?\s*(?:\d|gas)(?!.*min)")),
    ("turn", _r(r"^(?!.*\bbake\b).*\b(?:turn(?:ing)?|rotat(?:e|ing)|swap(?:ping)?)\b.*\b(?:trays?|sheets?|pans?|shel\w+|round|around|half ?way)\b(?!.*\bout\b)")),
)
"""What is told by its words alone."""
_BEFORE_BAKE: tuple[Rule, ...] = (
    ("soften", _r(r"\b(?:take|get|bring|let|leave)\b.*\b(?:butter|fat|eggs?|lard|ingredients)\b.*\b(?:out\b(?! of the bowl)|soften|room temp)|^\W*soften\b")),
    ("take_out", _r(r"\b(?:take|remove|lift|bring)\b.*\b(?:out|from)\b.*\b(?:fridge|refrigerator|freezer|cold)\b")),
    ("weigh", _r(r"^\W*(?:weigh|measure|gather (?:the |your |all )*ingredients)\b")),
    ("line", _r(r"^\W*(?:lightly |well )?(?:line|grease|butter|oil|flour|prepare)\b.*\b(?:trays?|sheets?|tins?|pans?|dish|moulds?)\b")),
    ("toast", _r(r"^\W*(?:lightly )?(?:toast|roast)\b")),
    ("chop", _r(r"^\W*(?:coarsely |finely |roughly )?(?:chop|crush|grind|dice)\b")),
    ("zest", _r(r"^\W*(?:finely )?(?:zest|grate)\b")),
    ("infuse", _r(r"\b(?:infuse|steep)\b|^\W*soak\b")),
    ("wash", _r(r"\b(?:brush|glaze|paint|egg ?wash)\b")),
    ("temper", _r(r"\b(?:if|when) (?:it|the dough)(?: is|'s)? too (?:hard|firm|stiff|cold)\b|\b(?:let|leave|allow|bring)\b.*\b(?:room temp\w*|soften|temper|come to)\b(?!.*\bbutter\b)|\btemper\b")),
    ("temper", _r(r"^\W*(?:let|leave|allow|stand|rest)\b.*\b(?:before (?:rolling|slicing|cutting)|to (?:roll|slice))")),
    ("coat", _r(r"\b(?:roll|dip|toss|coat|dredge)\b(?!.*\bballs?\b).{0,40}\b(?:in|with|through)\b.{0,30}(?:\b(?:it|them|eggs?|whites?|rest)\b|" + _SUGARY.pattern + ")")),
    ("roll", _r(r"\bre-?roll\b|\bgather (?:up )?(?:the )?(?:scraps|trimmings)")),
    ("ball", _r(r"\bballs?\b")),
    ("press_pan", _r(r"\b(?:press|pat|push|spread|tip|pack)\b.*\b(?:in(?:to)?|over|across|onto) (?:a |an |the |your )?(?:[\w-]+ ){0,6}?(?:tin|pan|dish|mould)\b")),
    ("dent", _r(r"\b(?:dents?|thumb\w*|indent\w*|hollows?|wells?(?! apart))\b(?!.*\bfill\b)(?!.*\bflour\b)")),
    ("fill", _r(r"^\W*(?:fill|spoon .*\b(?:jam|jelly|filling)|put .*\b(?:jam|jelly|filling|marmalade))\b")),
    ("rope", _r(r"\b(?:ropes?|crescents?|snakes?|pretzels?|twists?|strands?|kipferl|wreaths?|knots?|plait|bows?)\b")),
    ("pipe", _r(r"^\W*pipe\b")),
    ("disc", _r(r"\b(?:discs?|disks?|flat rounds?|flat cakes?)\b|\bflatten (?:it |the dough )?(?:in)?to a\b|^\W*flatten (?:it|the dough)\b|^\W*pat (?:it |the dough )?(?:in)?to a\b")),
    ("log", _r(r"\b(?:shape|form|roll|make|divide)\b.*\b(?:logs?|cylinders?|sausages?|batons?|loa(?:f|ves)|a roll|rolls)\b|\binto (?:an? |\w+ )?(?:\w+ ){0,2}(?:logs?|rolls?)\b")),
    ("wrap", _r(r"^\W*(?:tightly |then )?(?:wrap|cover)\b|\bwrap(?:ped)? in\b(?!.*\bchill)")),
    ("roll", _r(r"^\W*pat (?:it |the dough )?out\b|^\W*(?:then )?roll\b(?!.*\bin(?:to)? (?:sugar|balls))|^\W*(?:dust|flour) the (?:bench|board|counter|surface)")),
    ("cut", _r(r"^\W*(?:stamp|trim)\b|^\W*cut\b(?=.*\b(?:out|with)\b)|\bcut (?:out )?(?:with|into|in|to)?\b.*" + _PIECES.pattern)),
    ("slice", _r(r"^\W*(?:slice|cut)\b(?!.*\b(?:butter|fat|lard|in the|into the flour|small)\b)")),
    ("score", _r(r"^\W*(?:score|mark)\b")),
    ("prick", _r(r"^\W*(?:prick|dock)\b|\bprick\b|\bholes?\b.*\bfork\b")),
    ("press", _r(r"^\W*(?:press|flatten|squash|push|pat|tap)\b(?!.*\b(?:together|dough into a)\b)(?!.*\b(?:nuts?|almonds?|walnuts?|chips|raisins?|cherr\w+|halves|half|seeds?|sugar)\b)")),
    ("top", _r(r"^\W*(?:top|sprinkle|scatter|decorate)\b|\b(?:press|put|place|lay|push|set)\b.{0,60}\b(?:on|in|into|onto) (?:each|every|top|the (?:tops?|middles?|cent(?:re|er)s?)|it)\b|^\W*(?:press|push)\b.*\b(?:nuts?|almonds?|walnuts?|chips|raisins?|cherr\w+|halves|seeds?|sugar)\b")),
    ("spread", _r(r"^\W*(?:spread|smear)\b")),
    ("scoop", _r(r"\b(?:scoop|drop|dollop|portion|arrange|space)\b|\b(?:table|tea)?spoon(?:ful)?s?\b.*\b(?:on|onto|to)\b|^\W*(?:place|put|lay|set|spoon|use)\b.*" + _SHEET.pattern + r"|\bheaps?\b|^\W*(?:tablespoons?|teaspoons?)\b|\bwell apart\b")),
    ("scoop", _r(r"^\W*divide\b.*\b(?:[6-9]|[1-9]\d)\b|^\W*(?:shape|form|make)\b.*\b(?:\d+ (?:pieces|portions)|(?:\d+|walnut)[- ]?(?:g|gram|sized?))\b|^\W*(?:shape|form)\b")),
    ("divide", _r(r"^\W*(?:divide|halve|split|quarter)\b")),
)
"""Once the dough is there, or before it is begun: what can be told apart from mixing it."""
_MIXES: tuple[Rule, ...] = (
    ("rub_in", _r(r"^\W*(?:\w+ ){0,3}?rub\b|\bcut (?:in (?:the )?(?:cold )?(?:butter|fat|lard|shortening)|in$|the (?:cold )?(?:butter|fat|lard)|(?:cold )?butter)\b|\b(?:sandy|breadcrumbs)\b")),
    ("sift", _r(r"^\W*(?:sift|sieve)\b(?! in\b)(?!.*\b(?:over|in and|fold|mix in|stir|and mix|and add|and fold)\b)|^\W*(?:whisk|mix|stir|combine)\b(?=.*\bflour\b)(?=.*\b(?:salt|soda|powder|bicarb\w*|spices?|cinnamon|ginger|cocoa|starch|cornflour|cornstarch)\b)(?!.*\b(?:into|in\b|with the butter|butter|egg|add))")),
    ("melt", _r(r"^\W*(?:gently )?(?:melt|warm|heat)\b|^\W*brown the (?:butter|fat)")),
    ("cream", _r(r"^\W*cream\b|^\W*(?:beat|whip|mix)\b.*\b(?:butter|lard|fat|margarine|shortening)\b.*\bsugars?\b|^\W*beat\b.*\b(?:butter|lard|fat|margarine|shortening)\b")),
    ("whisk", _r(r"^\W*(?:whisk|whip|beat)\b.*\b(?:eggs?|whites?|yolks?)\b.*\b(?:sugar|stiff|thick|pale|foam\w*|ribbon|peaks?)\b|^\W*whisk\b.*\bwhites?\b")),
    ("knead", _r(r"\bknead\b")),
    ("bring_together", _r(r"\b(?:bring|press|gather|pull|bind|come|comes)\b.*\btogether\b|^\W*(?:form|make)\b.*\bdough\b|^\W*bind\b|\binto a dough\b")),
    ("fold_in", _r(r"^\W*(?:fold|carefully fold)\b|\bfold(?: \w+)? in\b")),
    ("beat_in", _r(r"^\W*(?:\w+ly )?(?:beat|stir|mix|add|work|blend|combine|pour|dissolve|pulse|process|whisk|whip|swirl|sift|tip|scrape|drain|separate|reserve|crumble)\b")),
)
_AFTER: tuple[Rule, ...] = (
    ("pack", _r(r"\b(?:store|keep|pack)\b.*\b(?:tins?|jars?|box\w*|airtight|container|days|weeks)\b|^\W*(?:store|pack|keep)\b|\bairtight\b")),
    ("second_bake", _r(r"\b(?:bake|oven|dry)\b.*\b(?:again|second|more|back|a side|each side|per side)\b|^\W*(?:return|put|back)\b.*\boven\b|^\W*dry (?:at|in|for|them|the slices|out)\b|\bback in(?:to)? the oven\b")),
    ("curve", _r(r"\b(?:curl|curve|drape|bend|rolling pin|shape|wrap around|roll (?:them |each |up |round |around )|roll up)\b(?=.*\b(?:hot|warm|once|immediately|pin|handle|cone|spoon|glass|cup)\b)|^\W*(?:curl|curve|drape|bend)\b")),
    ("slice_log", _r(r"\bslice\b|\bcut\b.*\b(?:slices|diagonal\w*|slant|thick|logs?)\b")),
    ("recut", _r(r"^\W*(?:cut|re-?cut|score|mark|separate)\b")),
    ("coat", _r(r"\b(?:roll|toss|dredge)\b.*\bin\b.*" + _SUGARY.pattern)),
    ("dip", _r(r"\b(?:dip|half-dip)\b")),
    ("drizzle", _r(r"\bdrizzle\b")),
    ("dust", _r(r"\b(?:dust|sift|sieve)\b")),
    ("sandwich", _r(r"\b(?:sandwich|fill|stick together|pair)\b")),
    ("make_part", _r(r"^\W*(?:mix|stir|whisk|beat|make|melt|sift|combine|temper)\b(?=.*\b(?:icing|glaze|frosting|sugar|chocolate|butter ?cream|filling|jam|lemon|cream)\b)")),
    ("ice", _r(r"\b(?:ice|icing|glaze|frost\w*|spread|brush|pipe|coat|paint)\b")),
    ("decorate", _r(r"\b(?:sprinkle|scatter|decorate|top|press|put .* on)\b")),
    ("set", _r(r"\b(?:to|until|till|let|leave)\b.{0,20}\b(?:set|dry)\b|\bset for\b|\bharden\b")),
    ("rest_sheet", _r(r"\b(?:on|in) (?:the |its |their |a )?(?:hot )?(?:baking )?(?:trays?|sheets?|tins?|pans?)\b(?!.*\bto a rack\b)|\bdo(?: not|n.t) (?:touch|move|disturb)")),
    ("to_rack", _r(r"\b(?:rack|transfer|move|lift|slide)\b")),
    ("out", _r(r"^\W*(?:take|remove)\b.*\b(?:out|oven)\b")),
    ("rest_sheet", _r(r"^\W*(?:let|leave|allow|rest|stand|cool)\b(?=.*\b(?:\d|until (?:they )?(?:firm|hold|set)|few min))")),
    ("cool", _r(r"\b(?:cool|cold)\b|^\W*(?:let|leave|allow|rest|stand)\b")),
    ("turn", _r(r"^(?!.*\bbake\b).*\b(?:turn|flip)\b")),
    ("pack", _r(r"^\W*(?:serve|eat)\b")),
)
_WAITS = _r(r"^\W*(?:\w+ly )?(?:rest|let|leave|stand|allow|cool|set aside|keep)\b|\b(?:set|put) (?:it )?aside\b|\brest\b")


@dataclass(frozen=True, slots=True)
class Clause:
    """What is done at once: its words, its kind, and the times that it names, each in minutes, least
    and most. `line` is the line of the method, from 1."""

    line: int
    text: str
    kind: StepKind
    minutes: tuple[tuple[float, float], ...]


def _kind_by(rules: Sequence[Rule], text: str) -> StepKind | None:
    return next((kind for kind, pattern in rules if pattern.search(text)), None)


def _parts(line: str) -> Iterator[tuple[int, int]]:
    """From where to where in the line each sentence and each clause of it goes."""
    start = 0
    for end, begin in [*((m.start(), m.end()) for m in _SENTENCE.finditer(line)), (len(line), 0)]:
        for cut in _CLAUSE.finditer(line, start, end):
            yield start, cut.start()
            start = cut.end()
        yield start, end
        start = begin


@dataclass(slots=True)
class _Reading:
    """What has gone before, while the clauses of a method are read in order."""

    mixed: bool = False
    cold: bool = False
    shaped: bool = False
    baked: bool = False
    twice: bool = False

    def kind(self, text: str, *, at_temperature: bool) -> StepKind | None:
        """The kind of a clause; None where it is none of its own."""
        plain = plain_text(text)
        found = _kind_by(_ANYWHERE, plain)
        if found:
            return found
        if self._bakes(plain, at_temperature):
            return "second_bake" if self.baked else "bake"
        if self.baked:
            return self._after(plain)
        return self._before(plain)

    def _bakes(self, plain: str, at_temperature: bool) -> bool:
        timed = bool(find_durations(plain))
        if self.baked and _kind_by(_AFTER, plain) not in (None, "second_bake", "cool", "turn"):
            return False
        if _kind_by(_BEFORE_BAKE[4:5], plain):
            return False
        return bool(_BAKED.search(plain)) or (at_temperature and timed)

    def _before(self, plain: str) -> StepKind | None:
        if self.mixed and _FREEZER.search(plain) and not _r(r"\b(?:out|from)\b").search(plain):
            return "freeze"
        if self.mixed and _COLD.search(plain) and not _kind_by(_BEFORE_BAKE[:2], plain):
            return "chill"
        mixes = _kind_by(_MIXES, plain)
        if not self.mixed or mixes in ("rub_in", "sift", "cream", "whisk", "fold_in"):
            early = _kind_by(_BEFORE_BAKE[:8], plain)
            if early or mixes:
                return early or mixes
        found = _kind_by(_BEFORE_BAKE, plain)
        if found in ("dent", "scoop", "coat", "top") and mixes and not self.shaped:
            # “Make a well in the flour”, “toss the nuts in”, “stir in the rest of the sugar”.
            return mixes
        if found is None and mixes is None and _WAITS.search(plain):
            return "temper" if self.cold and not self.shaped else "rest_bench"
        return found or mixes

    def _after(self, plain: str) -> StepKind | None:
        return _kind_by(_AFTER, plain)

    def note(self, kind: StepKind) -> None:
        """What a clause of that kind changes."""
        self.mixed |= kind in _MIXING
        self.cold |= kind in ("chill", "freeze")
        self.shaped |= kind in _SHAPING
        self.baked |= kind == "bake"


_MIXING: frozenset[StepKind] = frozenset(
    {"cream", "beat_in", "rub_in", "whisk", "fold_in", "bring_together", "knead"}
)
_SHAPING: frozenset[StepKind] = frozenset(
    {"roll", "cut", "slice", "scoop", "ball", "rope", "pipe", "press_pan", "spread"}
)


def clauses_of(lines: Sequence[str]) -> list[Clause]:
    """The clauses of a method, in order. Words that are no step of their own (“they should stay
    pale”) go with the one before; what waits for something to cool goes with what made it hot."""
    found: list[Clause] = []
    reading = _Reading()
    for number, line in enumerate(lines, start=1):
        own: list[tuple[int, int, StepKind]] = []
        for start, end in _parts(line):
            text = line[start:end].strip(" \t,")
            if not text:
                continue
            kind = reading.kind(text, at_temperature=bool(find_temperatures(text)))
            goes_on = kind is None or (own and own[-1][2] == kind and not _VERB.match(text))
            goes_on = goes_on or (kind == "rest_bench" and bool(own) and own[-1][2] in _HEATED)
            if own and goes_on:
                own[-1] = (own[-1][0], end, own[-1][2])
            else:
                own.append((start, end, kind or _unknown(reading)))
                reading.note(own[-1][2])
        for start, end, kind in own:
            text = line[start:end].strip(" \t,")
            found.append(Clause(number, text, kind, _minutes(text)))
    return found


_HEATED: frozenset[StepKind] = frozenset({"toast", "melt", "infuse"})


def _unknown(reading: _Reading) -> StepKind:
    if reading.baked:
        return "cool"
    return "scoop" if reading.shaped or reading.cold else "beat_in"


def _minutes(text: str) -> tuple[tuple[float, float], ...]:
    return tuple((time.low, time.high) for time in find_durations(text))
