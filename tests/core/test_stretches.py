"""The day in stretches of work: every job is in one, and each is told in one line."""

from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.placed import Placed
from finebatch.core.session.stretches import FREE_MIN, LONGEST_MIN, stretches
from finebatch.core.session.words import Scene


def job(key: str, start: int, end: int, what: str = "") -> Placed:
    at = JobKey.read(key)
    dough, tray = at.whose[0], at.whose if len(at.whose) > 1 else None
    return Placed(at, tray, "hands", start, end, dough=dough, what=what)


def told(*jobs: Placed) -> list[str]:
    found = stretches(jobs, Scene())
    return [
        "; ".join(
            [f"{one.start}-{one.end}"]
            + [f"{worked.dough} {worked.said}" for worked in one.worked]
            + ([one.trays_said] if one.trays_said else [])
        )
        for one in found
    ]


def test_free_hands_part_the_day() -> None:
    mix, wrap = job("A.mix", 0, 10), job("A.form", 10, 12, "Shape it into logs, two of them")
    wash = job("B.wash", 12 + FREE_MIN, 22)
    assert told(mix, wrap, wash) == ["0-12; A mix, shape it into logs", "18-22; B wash the bowl"]
    soon = job("B.wash", 11 + FREE_MIN, 22)
    assert told(mix, wrap, soon) == ["0-22; A mix, shape it into logs; B wash the bowl"]


def test_trays_are_counted_and_not_told_one_by_one() -> None:
    moves = [job("A1.load", 0, 1), job("A2.load", 1, 2), job("A1.turn", 5, 6), job("A1.out", 9, 10)]
    assert told(*moves) == ["0-10; 2 trays in, 1 out"]
    assert told(moves[0], moves[3]) == ["0-1; 1 tray in", "9-10; 1 tray out"]
    assert told(moves[0], job("A1.turn", 5, 6), moves[3]) == ["0-10; 1 tray in and out"]


def test_a_long_one_is_parted_where_another_dough_begins() -> None:
    jobs = [job("A.mix", 0, 20), job("A.form", 20, 30), job("B.mix", 30, 50), job("B.form", 50, 60)]
    assert [one.start for one in stretches(jobs, Scene())] == [0, 30]
    one_by_one = [job("A.mix", 10 * n, 10 * n + 10) for n in range(20)]
    found = stretches(one_by_one, Scene())
    assert [a for one in found for a in one.jobs] == one_by_one
    assert max(one.end - one.start for one in found) <= LONGEST_MIN


def test_nobody_stands_beside_an_oven_that_heats() -> None:
    heat = Placed(JobKey.read("oven1.heat"), None, "oven", 0, 20, oven=1)
    assert told(heat, job("A.mix", 10, 20)) == ["0-0; None oven on", "10-20; A mix"]
