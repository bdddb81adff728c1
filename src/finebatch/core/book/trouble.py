"""What went wrong with a bake, and why: causes ranked by what is known of dough, tray and oven.

Each cause has a weight, how common it is; what is recorded makes it likelier or less likely, and
says so. Where nothing recorded speaks for a cause, that is said too.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from annotated_types import Interval

from finebatch.core.formula.balance import Standing
from finebatch.core.formula.dough import Mixing
from finebatch.core.heat.oven import OvenNature
from finebatch.core.measures.figures import degrees, degrees_apart, grams, millimetres

WARM_C, COLD_C = 16.0, 10.0
LONG, SHORT = 1.1, 0.92
OFF_C = 5.0
UNEVEN_CV = 0.05
LARGE_G = 45.0
SPEAKS = 1.3
"""A cause that evidence makes so much likelier has something that speaks for it."""
LIKELIER, MUCH_LIKELIER, LESS_LIKELY = 2.0, 3.0, 0.35
USUAL = 0.6
"""What a figure inside the usual range makes of a cause: it is no evidence for it."""
CLEAR_MM = 4.0
"""What has to stay free between two baked pieces, so that they come off the sheet apart."""
SHORT_OF, LEAST_MM = 0.08, 1.0
"""Unmeasured, a piece that “did not spread” is taken to be so much narrower; a need is no less."""
LITTLE_FLOUR_PCT, MUCH_FLOUR_PCT = 28.0, 50.0
"""Flour in percent of the dough without its pieces: less hardly holds, more is stiff (the outer
tenths of the published home formulas)."""


@dataclass(frozen=True, slots=True)
class Circumstances:
    """All that is known of a bake: °C, mm, minutes, g; None where it was not recorded.

    `oven` is None while nobody has put a thermometer in; `standings` are the dough's figures
    against its family's bands, `flour_pct` its flour in percent of the dough without pieces;
    `raw_mm` is how wide a piece lies, `pitch_mm` from middle to middle of two.
    """

    dough_temp_c: float
    standings: Mapping[str, Standing]
    flour_pct: float
    mixing: Mixing
    surface: str
    piece_g: float
    portion_cv: float
    gap_mm: float
    foreseen_mm: float
    measured_mm: float | None
    foreseen_minutes: float
    minutes: float | None
    oven: OvenNature | None
    scraps: bool
    raw_mm: float
    pitch_mm: float


Aim = Literal["apart", "wider", "sharper", ""]
"""What of a piece has to change so that a trouble goes; nothing that can be measured for most."""


@dataclass(frozen=True, slots=True)
class Need:
    """So many mm that pieces have to come out narrower, or wider; or lie farther apart."""

    mm: float
    wider: bool
    words: str

    def share_met(self, width_by_mm: float, room_by_mm: float) -> float:
        """How much of it is met by pieces that much wider, laid that much farther apart."""
        return (width_by_mm if self.wider else room_by_mm - width_by_mm) / self.mm


@dataclass(frozen=True, slots=True)
class Trouble:
    """One trouble in a baker's words, and what has to change."""

    key: str
    words: str
    aim: Aim


@dataclass(frozen=True, slots=True)
class TroubleCause:
    """One cause of a trouble: how common, what to ask of the scene, and changes that may help."""

    trouble: str
    words: str
    weight: Annotated[float, Interval(gt=0, le=5)]
    asks: str
    tries: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Evidence:
    """What the records say of a cause: so many times as likely, and in words."""

    times: float
    words: str


@dataclass(frozen=True, slots=True)
class Suspect:
    """A cause with what speaks for or against it; `known` is False where nothing recorded does."""

    cause: TroubleCause
    likelihood: float
    evidence: str
    known: bool

    @property
    def speaks_for(self) -> bool:
        """Whether something recorded makes it likelier."""
        return self.known and self.likelihood >= SPEAKS * self.cause.weight


def _dough_temp(scene: Circumstances, *, warm: bool) -> Evidence:
    temp = scene.dough_temp_c
    words = f"The dough went in at {degrees(temp)}."
    is_so = temp >= WARM_C if warm else temp <= COLD_C
    return Evidence(LIKELIER if is_so else LESS_LIKELY, words)


def _long(scene: Circumstances, *, long: bool) -> Evidence | None:
    if scene.minutes is None:
        return None
    share = scene.minutes / scene.foreseen_minutes
    words = f"It was in for {scene.minutes:.1f} min; {scene.foreseen_minutes:.1f} were foreseen."
    is_so = share >= LONG if long else share <= SHORT
    against = share <= 1.0 if long else share >= 1.0
    return Evidence(MUCH_LIKELIER if is_so else LESS_LIKELY if against else 1.0, words)


def _oven(scene: Circumstances, *, hot: bool) -> Evidence | None:
    if scene.oven is None:
        return None
    off = scene.oven.offset_c
    how = f"{degrees_apart(abs(off))} {'hotter' if off > 0 else 'cooler'} than its dial"
    words = f"This oven is {how}." if abs(off) >= 1 else "This oven keeps to its dial."
    is_so = off >= OFF_C if hot else off <= -OFF_C
    return Evidence(LIKELIER if is_so else LESS_LIKELY, words)


def _standing(scene: Circumstances, figure: str, *, much: bool) -> Evidence | None:
    """A figure speaks for a cause only outside of what is usual."""
    if figure == "flour":
        percent, low, high = scene.flour_pct, LITTLE_FLOUR_PCT, MUCH_FLOUR_PCT
        words = f"Flour is {percent:.0f} % of the dough; {low:.0f} to {high:.0f} is usual."
    else:
        found = scene.standings.get(figure)
        if found is None or found.low is None or found.high is None:
            return None
        percent, low, high = found.percent, found.low, found.high
        words = f"Its {figure} is {percent:.0f} % of the flour; {low:.0f} to {high:.0f} is usual."
    if low <= percent <= high:
        return Evidence(USUAL, words)
    return Evidence(MUCH_LIKELIER if (percent > high) == much else LESS_LIKELY, words)


def _wider(scene: Circumstances) -> Evidence | None:
    if scene.measured_mm is None:
        return None
    over = scene.measured_mm - scene.foreseen_mm
    words = (
        f"They came out {millimetres(abs(over))} {'wider' if over > 0 else 'narrower'} than "
        f"foreseen; the gap between them is {millimetres(scene.gap_mm)}."
    )
    return Evidence(MUCH_LIKELIER if over >= scene.gap_mm / 2 else LESS_LIKELY, words)


def _hot_side(scene: Circumstances) -> Evidence | None:
    if scene.oven is None:
        return None
    if scene.oven.hot_side == "even":
        return Evidence(0.8, "By the kitchen’s setting this oven browns evenly.")
    return Evidence(MUCH_LIKELIER, f"This oven browns first at the {scene.oven.hot_side}.")


def _uneven(scene: Circumstances) -> Evidence:
    words = f"Portions differ by about {100 * scene.portion_cv:.0f} %."
    return Evidence(LIKELIER if scene.portion_cv >= UNEVEN_CV else LESS_LIKELY, words)


def _large(scene: Circumstances) -> Evidence:
    words = f"A piece is {grams(scene.piece_g, 0)}."
    return Evidence(LIKELIER if scene.piece_g >= LARGE_G else 0.6, words)


_PLAIN: Mapping[str, Callable[[Circumstances], Evidence | None]] = {
    "warm_dough": lambda s: _dough_temp(s, warm=True),
    "cold_dough": lambda s: _dough_temp(s, warm=False),
    "long_bake": lambda s: _long(s, long=True),
    "short_bake": lambda s: _long(s, long=False),
    "hot_oven": lambda s: _oven(s, hot=True),
    "cool_oven": lambda s: _oven(s, hot=False),
    "wider": _wider,
    "hot_side": _hot_side,
    "uneven": _uneven,
    "large": _large,
    "scraps": lambda s: Evidence(LIKELIER, "It was a tray of scraps.") if s.scraps else None,
    "unknown": lambda s: None,
}


def evidence(scene: Circumstances, asks: str) -> Evidence | None:
    """What the scene says to a question; None when it does not know. `ValueError` for a question
    that there is not."""
    what, _, detail = asks.partition(":")
    if what in ("much", "little"):
        return _standing(scene, detail, much=what == "much")
    if what == "surface":
        on = scene.surface in detail.split("|")
        return Evidence(LIKELIER if on else 0.2, f"It was baked on {scene.surface}.")
    if what == "mixing":
        is_so = scene.mixing == detail
        return Evidence(1.4 if is_so else 0.2, f"It was mixed {scene.mixing}.")
    if what == "beaten":
        # Creaming is usual: that it went on for long is not recorded.
        is_so = scene.mixing == detail
        return None if is_so else Evidence(0.2, f"It was mixed {scene.mixing}.")
    if what not in _PLAIN:
        raise ValueError(f"there is no question {asks!r}")
    return _PLAIN[what](scene)


def need(scene: Circumstances, aim: Aim) -> Need | None:
    """By how much the pieces have to change; None where that is not a matter of millimetres."""
    if aim == "apart":
        out = max(scene.measured_mm or 0.0, scene.pitch_mm)
        mm = max(out + CLEAR_MM - scene.pitch_mm, LEAST_MM)
        words = f"To come apart they need about {millimetres(mm)} more between them."
        return Need(mm, False, words)
    if aim == "wider":
        fell_short = 0.0 if scene.measured_mm is None else scene.foreseen_mm - scene.measured_mm
        mm = fell_short if fell_short >= LEAST_MM else SHORT_OF * scene.foreseen_mm
        return Need(mm, True, f"They should come out about {millimetres(mm)} wider.")
    if aim == "sharper":
        grew = max((scene.measured_mm or scene.foreseen_mm) - scene.raw_mm, 0.0)
        mm = max(grew / 2, LEAST_MM)
        words = f"An edge stays where they grow less: narrower by about {millimetres(mm)}."
        return Need(mm, False, words)
    return None


def suspects(scene: Circumstances, causes: Sequence[TroubleCause]) -> list[Suspect]:
    """The causes of one trouble, likeliest first."""
    found = []
    for cause in causes:
        told = evidence(scene, cause.asks)
        times = 1.0 if told is None else told.times
        words = "Nothing recorded tells." if told is None else told.words
        found.append(Suspect(cause, cause.weight * times, words, told is not None))
    return sorted(found, key=lambda s: -s.likelihood)
