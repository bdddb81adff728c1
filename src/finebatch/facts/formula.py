"""The tables behind the Dough screen: bands, doses, acids, methods, swaps, cautions."""

from functools import cache
from typing import Annotated

from pydantic import BeforeValidator, Field, TypeAdapter

from finebatch.core.book.trouble import Cause
from finebatch.core.care.keeping import Keeping, Place
from finebatch.core.formula.balance import Band, Figure
from finebatch.core.formula.checks.amounts import Dose
from finebatch.core.formula.dough import Family, Mixing
from finebatch.core.formula.method import GROUPS, StepTemplate
from finebatch.core.formula.swaps import Basis, Swap
from finebatch.core.formula.tries import Try
from finebatch.core.heat.cues import Cues
from finebatch.core.heat.minutes import DONE_AT_C, USUAL_DONENESS, Doneness
from finebatch.core.piece.character import Quality, Weight
from finebatch.facts.rows import Percent, Row, Shares, Words, checked, settings, table
from finebatch.facts.tables import effects, larder


class _Band(Row):
    family: Family
    figure: Figure
    low: Annotated[float, Field(ge=0, le=200)]
    high: Annotated[float, Field(ge=0, le=200)]
    below: str
    above: str


@cache
def bands() -> tuple[Band, ...]:
    """Where doughs of a family usually stand (`bands.csv`)."""
    found = checked(_Band, "bands.csv")
    wrong = [row for row in found if row.low >= row.high]
    if wrong:
        raise ValueError(f"bands.csv: {wrong[0].family} {wrong[0].figure} runs backwards")
    return tuple(Band(**row.facts()) for row in found)


class _Dose(Row):
    figure: str
    label: str
    usual_pct: Percent
    most_pct: Percent
    too_much: str


@cache
def doses() -> tuple[Dose, ...]:
    """How much salt, leavening and spice can be meant (`doses.csv`)."""
    found = checked(_Dose, "doses.csv")
    return tuple(Dose(**row.facts()) for row in found)


class _Acid(Row):
    key: str
    soda_g_per_g: Annotated[float, Field(gt=0, lt=1)]


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


class _Step(Row):
    mixing: Mixing
    text: Annotated[str, Field(min_length=3)]
    needs: Words
    hands_min: Annotated[int, Field(ge=0, le=60)]
    wait_min: Annotated[int, Field(ge=0, le=600)]
    cue: str
    caution: str


@cache
def step_templates() -> tuple[StepTemplate, ...]:
    """The usual steps of each way of mixing, in order (`methods.csv`)."""
    found = checked(_Step, "methods.csv")
    strange = [need for row in found for need in row.needs if need not in GROUPS]
    if strange:
        raise ValueError(f"methods.csv: no such group: {strange}")
    return tuple(StepTemplate(**row.facts()) for row in found)


class _Mixing(Row):
    mixing: Mixing
    label: str
    dough_temp_c: Annotated[float, Field(ge=0, le=50)]
    effect: str


@cache
def mixing_methods() -> dict[Mixing, _Mixing]:
    """Each way of mixing: its label, the dough's temperature after it, what it does."""
    found = checked(_Mixing, "mixing.csv")
    return {row.mixing: row for row in found}


class _Swap(Row):
    key: str
    label: str
    # The table's columns say what is swapped from and to; both words are taken in Python.
    takes: Annotated[Words, Field(alias="from")]
    gives: Annotated[Shares, Field(alias="to")]
    basis: Basis
    note: str
    caution: str


def _with_share(row: dict[str, str]) -> dict[str, str]:
    """One whole ingredient needs no share written."""
    return {**row, "to": row["to"] if ":" in row["to"] else f"{row['to']}:1"}


@cache
def swaps() -> tuple[Swap, ...]:
    """What bakers put in place of what (`swaps.csv`)."""
    found = TypeAdapter(list[_Swap]).validate_python([_with_share(r) for r in table("swaps.csv")])
    _known("swaps.csv", [k for row in found for k in (*row.takes, *(g[0] for g in row.gives))])
    return tuple(Swap(**row.facts()) for row in found)


class _Weight(Row):
    quality: Quality
    effect: str
    weight: float


@cache
def character_weights() -> tuple[Weight, ...]:
    """How the effects of a dough show in the mouth, in colour and in the tin (`character.csv`)."""
    found = checked(_Weight, "character.csv")
    known = {effect.key for effect in effects()}
    strange = [row.effect for row in found if row.effect not in known]
    if strange:
        raise ValueError(f"character.csv: no such effect: {strange}")
    return tuple(Weight(**row.facts()) for row in found)


class _Caution(Row):
    trigger: str
    text: str


@cache
def caution_texts() -> dict[str, str]:
    """The usual cautions by what calls for them (`cautions.csv`)."""
    found = checked(_Caution, "cautions.csv")
    return {row.trigger: row.text for row in found}


class _Try(Row):
    key: str
    effect: str
    label: str
    roles: Words
    traits: Words
    factor: Annotated[float, Field(gt=0, le=4)]
    mixing: Annotated[Mixing | None, BeforeValidator(lambda cell: cell or None)]
    setting: Annotated[dict[str, str], BeforeValidator(settings)]


@cache
def tries() -> dict[str, Try]:
    """Small changes to try, by key (`tries.csv`)."""
    return {row.key: Try(**row.facts()) for row in checked(_Try, "tries.csv")}


class _Trouble(Row):
    key: str
    words: str


@cache
def troubles() -> dict[str, str]:
    """What bakers see go wrong, in their words, by key (`troubles.csv`)."""
    return {row.key: row.words for row in checked(_Trouble, "troubles.csv")}


class _Cause(Row):
    trouble: str
    words: str
    weight: Annotated[float, Field(gt=0, le=5)]
    asks: str
    tries: Words


@cache
def causes() -> tuple[Cause, ...]:
    """Why it goes wrong (`trouble_causes.csv`)."""
    found = checked(_Cause, "trouble_causes.csv")
    strange = {row.trouble for row in found} ^ set(troubles())
    strange |= {key for row in found for key in row.tries} - set(tries())
    if strange:
        raise ValueError(f"trouble_causes.csv: {sorted(strange)[0]} is not known")
    return tuple(Cause(**row.facts()) for row in found)


class _Keeping(Row):
    key: str
    what: str
    place: Place
    from_days: Annotated[float, Field(gt=0)]
    to_days: Annotated[float, Field(gt=0)]
    advice: str


@cache
def keepings() -> dict[str, Keeping]:
    """How long dough and baked pieces keep, by key (`keeping.csv`)."""
    found = checked(_Keeping, "keeping.csv")
    wrong = [row.key for row in found if row.from_days > row.to_days]
    if wrong:
        raise ValueError(f"keeping.csv: {wrong[0]} runs backwards")
    return {row.key: Keeping(**row.facts()) for row in found}


class _Cues(Row):
    family: Family
    doneness: Doneness
    edges: str
    top: str
    underside: str
    touch: str
    smell: str
    colour_from: Annotated[int, Field(ge=1, le=7)]
    colour_to: Annotated[int, Field(ge=1, le=7)]


@cache
def cues() -> dict[tuple[Family, Doneness], Cues]:
    """By what one sees that a tray is done (`cues.csv`)."""
    found = checked(_Cues, "cues.csv")
    wanted = {(family, doneness) for family in USUAL_DONENESS for doneness in DONE_AT_C}
    known = {(row.family, row.doneness): Cues(**row.facts()) for row in found}
    if wanted - set(known) or any(row.colour_from > row.colour_to for row in found):
        raise ValueError("cues.csv: a family and doneness is missing, or its colours run backwards")
    return known
