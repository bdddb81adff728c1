"""The words by which a clause of a method is told: one pattern a kind, in the order in which they
are tried."""

import re

from finebatch.core.formula.step import StepKind

ADVERBS = (
    r"(?:(?:first|next|now|finally|meanwhile|gently|gradually|slowly|quickly|carefully|lightly|"
    r"generously|just|well|evenly|loosely|immediately|at once|briefly|once (?:it is )?cold|"
    r"once (?:it is |they are )?(?:cool|cooled|firm)|while (?:still )?(?:hot|warm),?|"
    r"as soon as (?:they|it) (?:are|is|come|comes)(?: out)?,?|again|re-?|then|and|to|you|i|we|"
    r"using \w+ hands|by hand|with (?:a |your |wet |floured ){0,3}\w+),?\s+){0,4}"
)
VERBS = (
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
SENTENCE = re.compile(
    r"(?<=[.;!])(?<!\bin\.)(?<!\bmin\.)(?<!\bmins\.)(?<!\bhr\.)(?<!\bca\.)(?<!approx\.)\s+|\n+"
    r"|(?:(?<=\bin\.)|(?<=\bmin\.)|(?<=\bmins\.)|(?<=\bhr\.))\s+(?=(?-i:[A-Z]))",
    re.IGNORECASE,
)
CLAUSE = re.compile(
    rf"(?:,?\s+(?:and\s+)?then\s+|,\s+(?:and\s+)?|\s+and\s+|:\s+)(?={ADVERBS}(?:{VERBS})\b)",
    re.IGNORECASE,
)
VERB = re.compile(rf"^\W*{ADVERBS}(?P<verb>{VERBS})\b", re.IGNORECASE)


def pattern(text: str) -> re.Pattern[str]:
    """A pattern for words in small letters or large."""
    return re.compile(text, re.IGNORECASE)


IN_THE_COLD = pattern(
    r"\b(?:chill(?:ed|ing)?|refrigerat\w*|fridge|in(?:to)? the cold|cold place|cool place|keep (?:\w+ )?(?:cool|cold)|ice ?box)\b"
)
FREEZER = pattern(r"\bfreez\w*\b")
SHEET = pattern(r"\b(?:trays?|sheets?|parchment|paper|tins?|pans?|mats?|dish)\b")
BAKED = pattern(
    r"\bbak(?:e|ed|ing)(?! (?:powder|soda|paper|parchment|sheet|tray|tin|ammonia))\b|\bin the oven\b"
)
_SUGARY = pattern(
    r"\b(?:sugar|nuts?|almonds?|walnuts?|pecans?|seeds?|coconut|cinnamon|flakes|sprinkles|cocoa|crumbs|pistachios?|hazelnuts?|sesame|poppy)\b"
)
_PIECES = pattern(
    r"\b(?:rounds?|circles?|stars?|hearts?|leaves|squares?|diamonds?|moons?|shapes?|fingers?|"
    r"rectangles?|cookies|biscuits|wedges|strips?|men|trees|rings?|bars|triangles?|figures|animals|cutters?)\b"
)

Rule = tuple[StepKind, re.Pattern[str]]

ANYWHERE: tuple[Rule, ...] = (
    (
        "heat_oven",
        pattern(
            r"^(?!.*\b(?:bake|for \d+ ?(?:-|to)? ?\d* ?min))\W*(?:pre-?heat|(?:heat|set|turn(?: on)?|switch on) (?:the |your |an )?oven|oven (?:on|to)\b)"
        ),
    ),
    ("heat_oven", pattern(r"^\W*oven (?:at|to|:|on)?\s*(?:\d|gas)(?!.*min)")),
    (
        "turn",
        pattern(
            r"^(?!.*\bbake\b).*\b(?:turn(?:ing)?|rotat(?:e|ing)|swap(?:ping)?)\b.*\b(?:trays?|sheets?|pans?|shel\w+|round|around|half ?way)\b(?!.*\bout\b)"
        ),
    ),
)
"""What is told by its words alone."""
BEFORE_BAKE: tuple[Rule, ...] = (
    (
        "soften",
        pattern(
            r"\b(?:take|get|bring|let|leave)\b.*\b(?:butter|fat|eggs?|lard|ingredients)\b.*\b(?:out\b(?! of the bowl)|soften|room temp)|^\W*soften\b|\bput\b.*\bbutter\b.*\b(?:warm|ahead|soften|room)\b"
        ),
    ),
    (
        "take_out",
        pattern(
            r"\b(?:take|remove|lift|bring)\b.*\b(?:out|from)\b.*\b(?:fridge|refrigerator|freezer|cold)\b"
        ),
    ),
    ("weigh", pattern(r"^\W*(?:weigh|measure|gather (?:the |your |all )*ingredients)\b")),
    (
        "line",
        pattern(
            r"^\W*(?:lightly |well )?(?:line|grease|butter|oil|flour|prepare)\b.*\b(?:trays?|sheets?|tins?|pans?|dish|moulds?)\b"
        ),
    ),
    ("toast", pattern(r"^\W*(?:lightly )?(?:toast|roast)\b")),
    ("chop", pattern(r"^\W*(?:coarsely |finely |roughly )?(?:chop|crush|grind|dice)\b")),
    ("zest", pattern(r"^\W*(?:finely )?(?:zest|grate)\b")),
    ("infuse", pattern(r"\b(?:infuse|steep)\b|^\W*soak\b")),
    ("wash", pattern(r"\b(?:brush|glaze|paint|egg ?wash)\b")),
    (
        "temper",
        pattern(
            r"\b(?:if|when) (?:it|the dough)(?: is|'s)? too (?:hard|firm|stiff|cold)\b|\b(?:let|leave|allow|bring)\b.*\b(?:room temp\w*|soften|temper|come to)\b(?!.*\bbutter\b)|\btemper\b"
        ),
    ),
    (
        "temper",
        pattern(
            r"^\W*(?:let|leave|allow|stand|rest)\b.*\b(?:before (?:rolling|slicing|cutting)|to (?:roll|slice))"
        ),
    ),
    (
        "coat",
        pattern(
            r"\b(?:roll|dip|toss|coat|dredge)\b(?!.*\bballs?\b).{0,40}\b(?:in|with|through)\b.{0,30}(?:\b(?:it|them|eggs?|whites?|rest)\b|"
            + _SUGARY.pattern
            + ")"
        ),
    ),
    ("roll", pattern(r"\bre-?roll\b|\bgather (?:up )?(?:the )?(?:scraps|trimmings)")),
    ("ball", pattern(r"\bballs?\b")),
    (
        "press_pan",
        pattern(
            r"\b(?:press|pat|push|spread|tip|pack)\b.*\b(?:in(?:to)?|over|across|onto) (?:a |an |the |your )?(?:[\w-]+ ){0,6}?(?:tin|pan|dish|mould)\b"
        ),
    ),
    (
        "dent",
        pattern(
            r"\b(?:dents?|thumb\w*|indent\w*|hollows?|wells?(?! apart))\b(?!.*\bfill\b)(?!.*\bflour\b)"
        ),
    ),
    (
        "fill",
        pattern(
            r"^\W*(?:fill|spoon .*\b(?:jam|jelly|filling)|put .*\b(?:jam|jelly|filling|marmalade))\b"
        ),
    ),
    (
        "rope",
        pattern(
            r"\b(?:ropes?|crescents?|snakes?|pretzels?|twists?|strands?|kipferl|wreaths?|knots?|plait|bows?)\b"
        ),
    ),
    ("pipe", pattern(r"^\W*pipe\b")),
    (
        "disc",
        pattern(
            r"\b(?:discs?|disks?|flat rounds?|flat cakes?)\b|\bflatten (?:it |the dough )?(?:in)?to a\b|^\W*flatten (?:it|the dough)\b|^\W*pat (?:it |the dough )?(?:in)?to a\b"
        ),
    ),
    (
        "log",
        pattern(
            r"\b(?:shape|form|roll|make|divide)\b.*\b(?:logs?|cylinders?|sausages?|batons?|loa(?:f|ves)|a roll|rolls)\b|\binto (?:an? |\w+ )?(?:\w+ ){0,2}(?:logs?|rolls?)\b"
        ),
    ),
    ("wrap", pattern(r"^\W*(?:tightly |then )?(?:wrap|cover)\b|\bwrap(?:ped)? in\b(?!.*\bchill)")),
    (
        "roll",
        pattern(
            r"^\W*pat (?:it |the dough )?out\b|^\W*(?:then )?roll\b(?!.*\bin(?:to)? (?:sugar|balls))|^\W*(?:dust|flour) the (?:bench|board|counter|surface)"
        ),
    ),
    (
        "cut",
        pattern(
            r"^\W*(?:stamp|trim)\b|^\W*cut\b(?=.*\b(?:out|with)\b)|\bcut (?:out )?(?:with|into|in|to)?\b.*"
            + _PIECES.pattern
        ),
    ),
    (
        "slice",
        pattern(r"^\W*(?:slice|cut)\b(?!.*\b(?:butter|fat|lard|in the|into the flour|small)\b)"),
    ),
    ("score", pattern(r"^\W*(?:score|mark)\b")),
    ("prick", pattern(r"^\W*(?:prick|dock)\b|\bprick\b|\bholes?\b.*\bfork\b")),
    (
        "press",
        pattern(
            r"^\W*(?:press|flatten|squash|push|pat|tap)\b(?!.*\b(?:together|dough into a)\b)(?!.*\b(?:nuts?|almonds?|walnuts?|chips|raisins?|cherr\w+|halves|half|seeds?|sugar)\b)"
        ),
    ),
    (
        "top",
        pattern(
            r"^\W*(?:top|sprinkle|scatter|decorate)\b|\b(?:press|put|place|lay|push|set)\b.{0,60}\b(?:on|in|into|onto) (?:each|every|top|the (?:tops?|middles?|cent(?:re|er)s?)|it)\b|^\W*(?:press|push)\b.*\b(?:nuts?|almonds?|walnuts?|chips|raisins?|cherr\w+|halves|seeds?|sugar)\b"
        ),
    ),
    ("spread", pattern(r"^\W*(?:spread|smear)\b")),
    (
        "scoop",
        pattern(
            r"\b(?:scoop|drop|dollop|portion|arrange|space)\b|\b(?:table|tea)?spoon(?:ful)?s?\b.*\b(?:on|onto|to)\b|^\W*(?:place|put|lay|set|spoon|use)\b.*"
            + SHEET.pattern
            + r"|\bheaps?\b|\b(?:level|heaped|heaping|rounded) (?:table|tea)spoon|^\W*(?:tablespoons?|teaspoons?)\b|\bwell apart\b"
        ),
    ),
    (
        "scoop",
        pattern(
            r"^\W*divide\b.*\b(?:[6-9]|[1-9]\d)\b|^\W*(?:shape|form|make)\b.*\b(?:\d+ (?:pieces|portions)|(?:\d+|walnut)[- ]?(?:g|gram|sized?))\b|^\W*(?:shape|form)\b"
        ),
    ),
    ("divide", pattern(r"^\W*(?:divide|halve|split|quarter)\b")),
)
"""Once the dough is there, or before it is begun: what can be told apart from mixing it."""
MIXES: tuple[Rule, ...] = (
    (
        "rub_in",
        pattern(
            r"^\W*(?:\w+ ){0,3}?rub\b|\bcut (?:in (?:the )?(?:cold )?(?:butter|fat|lard|shortening)|in$|the (?:cold )?(?:butter|fat|lard)|(?:cold )?butter)\b|\b(?:sandy|breadcrumbs)\b"
        ),
    ),
    (
        "sift",
        pattern(
            r"^\W*(?:sift|sieve)\b(?! in\b)(?!.*\b(?:over|in and|fold|mix in|stir|and mix|and add|and fold)\b)|^\W*(?:whisk|mix|stir|combine)\b(?=.*\bflour\b)(?=.*\b(?:salt|soda|powder|bicarb\w*|spices?|cinnamon|ginger|cocoa|starch|cornflour|cornstarch)\b)(?!.*\b(?:into|in\b|with the butter|butter|egg|add))"
        ),
    ),
    ("melt", pattern(r"^\W*(?:gently )?(?:melt|warm|heat)\b|^\W*brown the (?:butter|fat)")),
    (
        "cream",
        pattern(
            r"^\W*cream\b|^\W*(?:beat|whip|mix)\b.*\b(?:butter|lard|fat|margarine|shortening)\b.*\bsugars?\b|^\W*beat\b.*\b(?:butter|lard|fat|margarine|shortening)\b"
        ),
    ),
    (
        "whisk",
        pattern(
            r"^\W*(?:whisk|whip|beat)\b.*\b(?:eggs?|whites?|yolks?)\b.*\b(?:sugar|stiff|thick|pale|foam\w*|ribbon|peaks?)\b|^\W*whisk\b.*\bwhites?\b"
        ),
    ),
    ("knead", pattern(r"\bknead\b")),
    (
        "bring_together",
        pattern(
            r"\b(?:bring|press|gather|pull|bind|come|comes)\b.*\btogether\b|^\W*(?:form|make)\b.*\bdough\b|^\W*bind\b|\binto a dough\b"
        ),
    ),
    ("fold_in", pattern(r"^\W*(?:fold|carefully fold)\b|\bfold(?: \w+)? in\b")),
    (
        "beat_in",
        pattern(
            r"^\W*(?:\w+ly )?(?:beat|stir|mix|add|work|blend|combine|pour|dissolve|pulse|process|whisk|whip|swirl|sift|tip|scrape|drain|separate|reserve|crumble)\b"
        ),
    ),
)
AFTER: tuple[Rule, ...] = (
    (
        "keep_rest",
        pattern(
            r"^\W*freeze\b|\b(?:freeze|refrigerate|keep|wrap|chill)\b.*\b(?:rest|half|remaining|other|leftover)\b.*\bdough\b"
        ),
    ),
    (
        "pack",
        pattern(
            r"\b(?:store|keep|pack)\b.*\b(?:tins?|jars?|box\w*|airtight|container|days|weeks)\b|^\W*(?:store|pack|keep)\b|\bairtight\b"
        ),
    ),
    (
        "second_bake",
        pattern(
            r"\b(?:bake|oven|dry)\b.*\b(?:again|second|more|back|a side|each side|per side)\b|^\W*(?:return|put|back)\b.*\boven\b|^\W*dry (?:at|in|for|them|the slices|out)\b|\bback in(?:to)? the oven\b"
        ),
    ),
    (
        "curve",
        pattern(
            r"\b(?:curl|curve|drape|bend|rolling pin|shape|wrap around|roll (?:them |each |up |round |around )|roll up)\b(?=.*\b(?:hot|warm|once|immediately|pin|handle|cone|spoon|glass|cup)\b)|^\W*(?:curl|curve|drape|bend)\b"
        ),
    ),
    ("slice_log", pattern(r"\bslice\b|\bcut\b.*\b(?:slices|diagonal\w*|slant|thick|logs?)\b")),
    ("recut", pattern(r"^\W*(?:cut|re-?cut|score|mark|separate)\b")),
    ("coat", pattern(r"\b(?:roll|toss|dredge)\b.*\bin\b.*" + _SUGARY.pattern)),
    ("dip", pattern(r"\b(?:dip|half-dip)\b")),
    ("drizzle", pattern(r"\bdrizzle\b")),
    ("dust", pattern(r"\b(?:dust|dredge|sift|sieve)\b")),
    ("sandwich", pattern(r"\b(?:sandwich|fill|stick together|pair)\b")),
    (
        "make_part",
        pattern(
            r"^\W*(?:mix|stir|whisk|beat|make|melt|sift|combine|temper)\b(?=.*\b(?:icing|glaze|frosting|sugar|chocolate|butter ?cream|filling|jam|lemon|cream)\b)"
        ),
    ),
    ("ice", pattern(r"\b(?:ice|icing|glaze|frost\w*|spread|brush|pipe|coat|paint)\b")),
    ("decorate", pattern(r"\b(?:sprinkle|scatter|decorate|top|press|put .* on)\b")),
    (
        "set",
        pattern(r"\b(?:to|until|till|let|leave)\b.{0,20}\b(?:set|dry)\b|\bset for\b|\bharden\b"),
    ),
    (
        "rest_sheet",
        pattern(
            r"\b(?:on|in) (?:the |its |their |a )?(?:hot )?(?:baking )?(?:trays?|sheets?|tins?|pans?)\b(?!.*\bto a rack\b)|\bdo(?: not|n.t) (?:touch|move|disturb)"
        ),
    ),
    ("to_rack", pattern(r"\b(?:rack|transfer|move|lift|slide|turn (?:it |them )?out|unmould)\b")),
    ("out", pattern(r"^\W*(?:take|remove)\b.*\b(?:out|oven)\b")),
    (
        "rest_sheet",
        pattern(
            r"^\W*(?:let|leave|allow|rest|stand|cool)\b(?=.*\b(?:\d|until (?:they )?(?:firm|hold|set)|few min))"
        ),
    ),
    ("cool", pattern(r"\b(?:cool|cold)\b|^\W*(?:let|leave|allow|rest|stand)\b")),
    ("turn", pattern(r"^(?!.*\bbake\b).*\b(?:turn|flip)\b")),
    ("pack", pattern(r"^\W*(?:serve|eat)\b")),
)
WAITS = pattern(
    r"^\W*(?:\w+ly )?(?:rest|let|leave|stand|allow|cool|set aside|keep)\b|\b(?:set|put) (?:it )?aside\b|\brest\b"
)


LEAD = pattern(
    r"^\W*(?:(?:in|into|with|using|to) (?:a|an|another|the|one|your)\b(?: \w+){0,3}? (?:bowl|pan|mixer|processor|saucepan|jug)\b,?|"
    r"meanwhile,?|(?:when|once|as soon as|while)(?: (?:they|it)(?: are|.re| is)?)? (?:still )?(?:quite |completely )?(?:cold|cool|cooled|set|hot|warm|firm),?|"
    r"(?:the )?next (?:day|morning),?|working quickly,?|for the (?:icing|filling|glaze|frosting|topping|coating),?)\s*"
)
"""Words before what is done: where, when, for what."""
FOR_A_PART = pattern(r"^\W*for the (?:icing|filling|glaze|frosting|topping|coating)\b")
OUT_OF = pattern(r"\b(?:out|from)\b")
