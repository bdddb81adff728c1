"""The trouble finder: why a bake went wrong, and the one change to try, foreseen first."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from finebatch.core.book.trouble import (
    Circumstances,
    Need,
    Suspect,
    Trouble,
    need,
    suspects,
)
from finebatch.core.formula.balance import balance
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.tray import PORTION_CV
from finebatch.core.refusal import Refusal, refuse
from finebatch.core.tray.question import TrayQuestion
from finebatch.facts import formula
from finebatch.store.models import BakeRow, OvenWatchRow, SessionRow
from finebatch.workflow.dough.doughs import Dough, get_dough
from finebatch.workflow.dough.study import Bench, get_bench
from finebatch.workflow.tray.what_ifs import Remedy, question_if

MOST_SHOWN = 5
LEAST_SHARE = 0.1
"""A change that does less of what is needed is not offered."""


@dataclass(frozen=True, slots=True)
class Explained:
    """A likely cause, what the records say of it, and the change to try, where there is one."""

    words: str
    evidence: str
    speaks_for: bool
    known: bool
    remedy: Remedy | None


@dataclass(frozen=True, slots=True)
class Helps:
    """A change with the share of what is needed that it would do, 1 and more for all of it."""

    remedy: Remedy
    share: float


@dataclass(frozen=True, slots=True)
class Diagnosis:
    """The causes of a trouble, likeliest first, beside the piece as it is foreseen now (mm, min).

    `certain` is False where nothing recorded speaks for any of them. Where what is `needed` is a
    matter of millimetres (`needed_mm`), `helps` has the changes by what they do against it, and no
    cause has a change of its own.
    """

    trouble: str
    causes: tuple[Explained, ...]
    width_mm: float
    minutes: float
    certain: bool
    needed: str
    needed_mm: float | None
    helps: tuple[Helps, ...]


def _flour_pct(asked: TrayQuestion, bench: Bench) -> float:
    made = asked.composition(bench.reader.larder)
    return 100 * made.base_g / made.paste_g if made.paste_g else 0.0


def _scene(
    session: Session,
    dough: Dough,
    bake: BakeRow | None,
    asked: TrayQuestion,
    found: Foreseen,
    bench: Bench,
) -> Circumstances:
    larder = bench.reader.larder
    stands = balance(
        asked.formula_g, dough.card.family, larder, formula.bands(), formula.soda_per_g()
    ).standings
    nature = bench.kitchen.planning.oven
    watched = session.query(OvenWatchRow.id).filter(OvenWatchRow.mean_c.is_not(None)).first()
    known = watched is not None or nature.offset_c != 0 or nature.hot_side != "even"
    widths = bake.widths_mm if bake and not bake.cut else []
    foreseen_mm = bake.foreseen_mm if bake and not bake.cut else found.width.middle_mm
    outer = found.width.high_mm / found.width.middle_mm
    return Circumstances(
        dough_temp_c=asked.setting.dough_temp_c,
        standings={s.figure: s for s in stands},
        flour_pct=_flour_pct(asked, bench),
        mixing=dough.card.mixing,
        surface=asked.conditions().surface,
        piece_g=asked.setting.piece.raw(asked.lot(larder)).grams,
        portion_cv=bake.portion_cv if bake else PORTION_CV[asked.setting.evenness],
        gap_mm=asked.kitchen.gap_mm,
        foreseen_mm=foreseen_mm,
        measured_mm=sum(widths) / len(widths) if widths else None,
        foreseen_minutes=bake.foreseen_minutes if bake else found.minutes,
        minutes=bake.minutes if bake else None,
        oven=nature if known else None,
        scraps=bool(bake and bake.tray and _is_scraps(session, bake)),
        raw_mm=found.raw.width_mm,
        pitch_mm=foreseen_mm * outer + asked.kitchen.gap_mm,
    )


def _is_scraps(session: Session, bake: BakeRow) -> bool:
    row = session.get(SessionRow, bake.session_id) if bake.session_id else None
    trays = row.work.trays if row else ()
    return any(t.name == bake.tray and t.scraps for t in trays)


def _remedy(key: str, dough: Dough, bench: Bench, before: TrayQuestion) -> Remedy | None:
    """What that change would do; None where it would change nothing, or cannot be foreseen."""
    tried = formula.what_ifs()[key]
    asked = question_if(dough, dough.tray, [tried], bench)
    if asked == before:
        return None
    try:
        found = asked.foresee(bench.ground(dough.id))
    except Refusal:
        return None
    gap_mm = asked.kitchen.gap_mm
    return Remedy(tried.key, tried.label, found.width.middle_mm, found.minutes, gap_mm)


def _first_of(suspect: Suspect, dough: Dough, bench: Bench, before: TrayQuestion) -> Remedy | None:
    """The first change for a cause that would change anything here."""
    made = (_remedy(key, dough, bench, before) for key in suspect.cause.tries)
    return next((remedy for remedy in made if remedy is not None), None)


def _helps(
    wanted: Need,
    ranked: list[Suspect],
    width_mm: float,
    before: TrayQuestion,
    dough: Dough,
    bench: Bench,
) -> tuple[Helps, ...]:
    """The changes for any of the causes by what they do of what is wanted; of two that do as much
    the one for the likelier cause first."""
    found = []
    for key in dict.fromkeys(key for suspect in ranked for key in suspect.cause.tries):
        remedy = _remedy(key, dough, bench, before)
        if remedy is None:
            continue
        by_mm, room_mm = remedy.width_mm - width_mm, remedy.gap_mm - before.kitchen.gap_mm
        share = wanted.share_met(by_mm, room_mm)
        if share >= LEAST_SHARE:
            found.append(Helps(remedy, share))
    return tuple(sorted(found, key=lambda h: -round(min(h.share, 1.0), 1))[:MOST_SHOWN])


def diagnose(session: Session, dough_id: int, trouble: str, bake_id: int | None) -> Diagnosis:
    """Why that went wrong with a dough, by one of its bakes when named; `Refusal` for a trouble
    that there is not."""
    if trouble not in formula.troubles():
        raise refuse("trouble", f"There is no trouble called “{trouble}”. Choose one of the list.")
    dough, bench = get_dough(session, dough_id), get_bench(session)
    bake = session.get(BakeRow, bake_id) if bake_id is not None else None
    if bake is not None and bake.dough_id != dough_id:
        raise refuse("bake_id", "That bake is of another dough.")
    return _diagnosed(formula.troubles()[trouble], session, dough, bake, bench)


def _diagnosed(
    trouble: Trouble, session: Session, dough: Dough, bake: BakeRow | None, bench: Bench
) -> Diagnosis:
    asked = question_if(dough, dough.tray, [], bench)
    found = asked.foresee(bench.ground(dough.id))
    scene = _scene(session, dough, bake, asked, found, bench)
    ranked = suspects(scene, [c for c in formula.causes() if c.trouble == trouble.key])
    wanted, width_mm = need(scene, trouble.aim), found.width.middle_mm
    causes = tuple(
        Explained(
            s.cause.words,
            s.evidence,
            s.speaks_for,
            s.known,
            None if wanted else _first_of(s, dough, bench, asked),
        )
        for s in ranked[:MOST_SHOWN]
    )
    return Diagnosis(
        trouble=trouble.words,
        causes=causes,
        width_mm=width_mm,
        minutes=found.minutes,
        certain=any(s.speaks_for for s in ranked),
        needed=wanted.words if wanted else "",
        needed_mm=wanted.mm if wanted else None,
        helps=_helps(wanted, ranked, width_mm, asked, dough, bench) if wanted else (),
    )
