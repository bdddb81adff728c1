"""The tables behind the Dough screen: bands, doses, acids, methods, swaps, cautions."""

from functools import cache
from typing import Annotated, get_args

from pydantic import Field

from finebatch.core.book.trouble import Trouble, TroubleCause
from finebatch.core.care.keeping import Keeping
from finebatch.core.care.warm import KEEP_COLD, NOT_WARM
from finebatch.core.formula.balance import Band
from finebatch.core.formula.checks.amounts import Dose
from finebatch.core.formula.checks.run import Facts
from finebatch.core.formula.dough import Mixing
from finebatch.core.formula.method import GROUPS, StepTemplate
from finebatch.core.formula.reading import Reader
from finebatch.core.formula.step import StepKind
from finebatch.core.formula.swaps import Swap
from finebatch.core.formula.what_if import WhatIf
from finebatch.core.method.of_card import Usual
from finebatch.core.method.steps import Habits, StepHabits
from finebatch.core.piece.character import Influence
from finebatch.facts.rows import Row, checked, values
from finebatch.facts.tables import effects, larder


@cache
def bands() -> tuple[Band, ...]:
    """Where doughs of a family usually stand (`bands.csv`)."""
    found = values(Band, "bands.csv")
    wrong = [r for r in found if not r.least <= r.low < r.high <= r.most]
    if wrong:
        raise ValueError(f"bands.csv: {wrong[0].family} {wrong[0].figure} runs backwards")
    return tuple(found)


@cache
def doses() -> tuple[Dose, ...]:
    """How much salt, leavening and spice can be meant (`doses.csv`)."""
    return tuple(values(Dose, "doses.csv"))


class _Acid(Row):
    key: str
    soda_g_per_g: Annotated[float, Field(gt=0, lt=1)]


def checking(reader: Reader) -> Facts:
    """What the cross-checks of a card judge by."""
    return Facts(reader, doses(), bands(), soda_per_g())


@cache
def soda_per_g() -> dict[str, float]:
    """Grams of soda that a gram of each acid ingredient neutralises (`acidity.csv`)."""
    found = checked(_Acid, "acidity.csv")
    _known("acidity.csv", [row.key for row in found])
    return {row.key: row.soda_g_per_g for row in found}


def _known(table: str, keys: list[str]) -> None:
    unknown = [key for key in keys if key not in larder()]
    if unknown:
        raise ValueError(f"{table} names what the larder lacks: {unknown}")


@cache
def step_templates() -> tuple[StepTemplate, ...]:
    """The usual steps of each way of mixing, in order (`methods.csv`)."""
    found = values(StepTemplate, "methods.csv")
    strange = [need for row in found for need in row.needs if need not in GROUPS]
    if strange:
        raise ValueError(f"methods.csv: no such group: {strange}")
    return tuple(found)


@cache
def step_habits() -> Habits:
    """What each kind of step usually takes (`steps.csv`)."""
    found = {row.kind: row for row in values(StepHabits, "steps.csv")}
    missing = [kind for kind in get_args(StepKind) if kind not in found]
    if missing:
        raise ValueError(f"steps.csv lacks: {missing}")
    return found


@cache
def usual_method() -> Usual:
    """The usual methods, with what each kind of step takes."""
    return Usual(step_templates(), step_habits())


class MixingMethod(Row):
    """A way of mixing: the dough's temperature after it, and what it does."""

    key: Mixing
    label: str
    dough_temp_c: Annotated[float, Field(ge=0, le=50)]
    effect: str


@cache
def mixing_methods() -> dict[Mixing, MixingMethod]:
    """Each way of mixing: its label, the dough's temperature after it, what it does."""
    found = checked(MixingMethod, "mixing.csv")
    return {row.key: row for row in found}


@cache
def swaps() -> tuple[Swap, ...]:
    """What bakers put in place of what (`swaps.csv`)."""
    found = values(Swap, "swaps.csv")
    _known("swaps.csv", [k for row in found for k in (*row.takes, *(g[0] for g in row.gives))])
    return tuple(found)


@cache
def character_weights() -> tuple[Influence, ...]:
    """How the effects of a dough show in the mouth, in colour and in the tin (`character.csv`)."""
    found = values(Influence, "character.csv")
    known = {effect.key for effect in effects()}
    strange = [row.effect for row in found if row.effect not in known]
    if strange:
        raise ValueError(f"character.csv: no such effect: {strange}")
    return tuple(found)


class _Caution(Row):
    trigger: str
    text: str


@cache
def caution_texts() -> dict[str, str]:
    """The usual cautions by what calls for them (`cautions.csv`)."""
    found = checked(_Caution, "cautions.csv")
    return {row.trigger: row.text.format(warm=NOT_WARM, cold=KEEP_COLD) for row in found}


@cache
def what_ifs() -> dict[str, WhatIf]:
    """Small changes to try, by key (`what_ifs.csv`)."""
    return {row.key: row for row in values(WhatIf, "what_ifs.csv")}


@cache
def troubles() -> dict[str, Trouble]:
    """What bakers see go wrong, by key (`troubles.csv`)."""
    return {row.key: row for row in values(Trouble, "troubles.csv")}


@cache
def causes() -> tuple[TroubleCause, ...]:
    """Why it goes wrong (`trouble_causes.csv`)."""
    found = values(TroubleCause, "trouble_causes.csv")
    strange = {row.trouble for row in found} ^ set(troubles())
    strange |= {key for row in found for key in row.tries} - set(what_ifs())
    if strange:
        raise ValueError(f"trouble_causes.csv: {sorted(strange)[0]} is not known")
    return tuple(found)


@cache
def keepings() -> dict[str, Keeping]:
    """How long dough and baked pieces keep, by key (`keeping.csv`)."""
    found = values(Keeping, "keeping.csv")
    wrong = [row.key for row in found if row.from_days > row.to_days]
    if wrong:
        raise ValueError(f"keeping.csv: {wrong[0]} runs backwards")
    return {row.key: row for row in found}
