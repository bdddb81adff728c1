"""The checker's limits at their edges: what is just allowed passes, one minute more is found.

The plans are laid by hand, so that nothing that plans has a say in what is right.
"""

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import pytest

from finebatch.core.measures.figures import read_in
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.keys import JobKey, JobKind
from finebatch.core.plan.placed import Placed, Plan
from finebatch.core.plan.work import (
    COOL_JOBS,
    Bake,
    DoughWork,
    Kitchen,
    Make,
    Oven,
    PartWork,
    Pin,
    TrayWork,
    Work,
    Worker,
)

DOUGH = DoughWork("A", (Make("Mix", 10),))
TRAY = TrayWork("A1", "A", 6, 5, (Bake(12, 6, 180),), rest_min=3, cool_min=20)
OVEN = Oven(2, rise_c_min=10, fall_c_min=4, room_c=20)
KITCHEN = Kitchen(4, ovens=(OVEN,), raw_wait_min=45, rest_over_min=30, sheet_ready_min=8)
WORK = Work((DOUGH,), (TRAY,), KITCHEN)
TWO_HANDS = replace(KITCHEN, workers=(Worker(), Worker()))


def placed(whose: str, step: JobKind, start: int, end: int, **more: Any) -> Placed:
    own = {"tray": whose, "dough": whose[0]} if len(whose) > 1 else {"tray": None, "dough": whose}
    return Placed(JobKey(whose, step), place="hands", start=start, end=end, **{**own, **more})


def mixed(start: int = 0, end: int = 10, letter: str = "A", **more: Any) -> Placed:
    return placed(letter, "mix", start, end, **more)


def heated(start: int = 0, dial_c: int = 180) -> Placed:
    key = JobKey("oven1", "heat")
    return Placed(key, None, "oven", start, start + 16, oven=1, dial_c=dial_c)


def laid(
    name: str = "A1",
    portion: int = 10,
    load: int = 24,
    *,
    turn: int | None = None,
    rack: int | None = None,
    cool: int | None = None,
    ready: int | None = None,
    sheet: int = 1,
    shelf: int = 1,
    bake_min: int = 12,
) -> list[Placed]:
    """One tray: five minutes of portioning, a bake turned at its middle, three minutes' rest."""
    bake = load + 1
    out = bake + bake_min
    turn = bake + 6 if turn is None else turn
    rack = out + 4 if rack is None else rack
    cool = rack + 1 if cool is None else cool
    ready = rack + 9 if ready is None else ready
    return [
        placed(name, "portion", portion, portion + 5, sheet=sheet),
        placed(name, "load", load, bake, oven=1, shelf=shelf),
        placed(name, "bake", bake, out, oven=1, shelf=shelf),
        placed(name, "turn", turn, turn + 1, oven=1, shelf=shelf),
        placed(name, "out", out, out + 1, oven=1, shelf=shelf),
        placed(name, "rack", rack, rack + 1),
        placed(name, "cool", cool, cool + 20),
        placed(name, "sheet", rack + 1, ready),
    ]


def found_in(plan: Plan, work: Work) -> list[str]:
    return [read_in(fault) for fault in find_faults(plan, work)]


def plan(*parts: Placed | Sequence[Placed]) -> Plan:
    """A plan of these, begun with a mixed dough and a hot oven, finished when the last is ready."""
    given = [a for part in parts for a in ([part] if isinstance(part, Placed) else part)]
    own = {a.id for a in given}
    usual = [a for a in (mixed(), heated()) if a.id not in own]
    every = (*usual, *given)
    finish = max((a.end for a in every if a.kind in ("cool", "set", "finish")), default=0)
    return Plan(every, finish, 0)


def dough(**changes: Any) -> Work:
    return replace(WORK, doughs=(replace(DOUGH, **changes),))


def tray(**changes: Any) -> Work:
    return replace(WORK, trays=(replace(TRAY, **changes),))


def kitchen(**changes: Any) -> Work:
    return replace(WORK, kitchen=replace(KITCHEN, **changes))


def trays(count: int, work: Work = WORK) -> Work:
    return replace(work, trays=tuple(replace(TRAY, name=f"A{n + 1}") for n in range(count)))


def test_the_plan_laid_by_hand_keeps_every_rule() -> None:
    assert find_faults(plan(laid()), WORK) == []


AFTER = "is portioned after the dough has been cold too long"
EARLY = "is portioned before the dough is ready"
PLAN = plan(laid())


@pytest.mark.parametrize(
    ("work", "allowed", "too_much", "fault"),
    [
        # how long a raw tray waits for the oven, and no tray before it is made
        (kitchen(raw_wait_min=9), laid(load=24), laid(load=25), "A1 waits 10 min for the oven"),
        (WORK, laid(portion=19), laid(portion=20), "A1 goes in before it is made"),
        # a turn a minute off its middle, inside the bake
        (WORK, laid(turn=32), laid(turn=33), "A1 is turned at 8, not 6"),
        (WORK, laid(turn=30), laid(turn=29), "A1 is turned at 4, not 6"),
        (tray(bakes=(Bake(12, 0),)), laid(turn=25), laid(turn=24), "A1 is turned outside its bake"),
        (
            tray(bakes=(Bake(12, 11),)),
            laid(turn=36),
            laid(turn=37),
            "A1 is turned outside its bake",
        ),
        # the rest on the sheet, at least and at most
        (WORK, laid(rack=41), laid(rack=40), "A1 rests 2 min on the sheet"),
        (WORK, laid(rack=71), laid(rack=72), "A1 rests 34 min on the sheet"),
        (WORK, laid(cool=42), laid(cool=41), "A1 cools before it is on the rack"),
        # the sheet's own time
        (WORK, laid(ready=50), laid(ready=49), "the sheet of A1 is not given time to cool"),
        (WORK, laid(ready=50), laid(ready=51), "the sheet of A1 is not given time to cool"),
        # the dough's windows: chilled and tempered for so long, cold and warm for no longer
        (dough(chill_min=30), laid(portion=40, load=50), laid(portion=39, load=50), f"A1 {EARLY}"),
        (dough(temper_min=30), laid(portion=40, load=50), laid(portion=39, load=50), f"A1 {EARLY}"),
        (
            dough(chill_min=9, chill_most=30),
            laid(portion=40, load=50),
            laid(portion=41, load=50),
            f"A1 {AFTER}",
        ),
        (
            dough(temper_min=9, first_within=20),
            laid(portion=39, load=50),
            laid(portion=40, load=50),
            "A1 is portioned 21 min after the dough is tempered",
        ),
        (
            dough(bake_within=20),
            laid(load=30),
            laid(load=31),
            "A1 goes in 21 min after mixing",
        ),
        (
            dough(makes=(Make("Mix", 10, wait_min=5),)),
            laid(portion=15),
            laid(portion=14),
            f"A1 {EARLY}",
        ),
        # parts are there when they are wanted
        (
            dough(parts=(PartWork("filling", 4, "portion"),)),
            [*laid(portion=16), placed("A", "part", 12, 16)],
            [*laid(portion=16), placed("A", "part", 21, 25)],
            "A.part is not ready for A1",
        ),
        # a cold oven: sixteen minutes to 180 °C
        (WORK, laid(load=15, portion=10), laid(load=14, portion=9), "A1 goes into a cold oven"),
        # what the dial was told, within the baker's tolerance
        (
            WORK,
            [*laid(), heated(dial_c=175)],
            [*laid(), heated(dial_c=174)],
            "A1.bake wants 180 °C and the dial was told 174 °C",
        ),
        (
            WORK,
            [*laid(), heated(dial_c=185)],
            [*laid(), heated(dial_c=186)],
            "A1.bake wants 180 °C and the dial was told 186 °C",
        ),
        (
            WORK,
            [*laid(), heated(start=24)],
            [*laid(), heated(start=25)],
            "nobody is told to turn the oven on for A1.bake",
        ),
        # hands: one job after the other, none before the start
        (
            WORK,
            [*laid(portion=10), mixed(0, 10)],
            [*laid(portion=9), mixed(0, 10)],
            "two jobs at once for one pair of hands: A.mix and A1.portion",
        ),
        (WORK, [*laid(), mixed(0, 10)], [*laid(), mixed(-1, 9)], "A.mix runs from -1 to 9"),
    ],
)
def test_just_allowed_passes_and_one_more_is_found(
    work: Work, allowed: list[Placed], too_much: list[Placed], fault: str
) -> None:
    assert find_faults(plan(allowed), work) == []
    assert found_in(plan(too_much), work).count(fault) == 1


@pytest.mark.parametrize(
    ("away", "found"),
    [
        (((20, 24), (25, 31)), []),
        (((20, 25),), ["A1.load is to be done while you is away"]),
        (((24, 31),), ["A1.load is to be done while you is away"]),
    ],
)
def test_a_job_ends_as_one_leaves_and_begins_as_one_is_back(
    away: tuple[tuple[int, int], ...], found: list[str]
) -> None:
    work = kitchen(workers=(Worker(away=away),))
    assert find_faults(plan(laid(load=24)), work) == found


def test_portioning_is_broken_off_for_four_minutes_inside_itself() -> None:
    work = kitchen(interrupts=True)

    def broken(low: int, high: int) -> list[str]:
        one = placed("A1", "portion", 10, 15 + high - low, sheet=1, pause=(low, high))
        return find_faults(plan([one, *laid(load=30)[1:]]), work)

    assert broken(11, 15) == []
    assert broken(11, 16) == ["A1.portion is broken off from 11 to 16"]
    assert broken(10, 12) == ["A1.portion is broken off from 10 to 12"]
    assert broken(13, 17) == []
    assert broken(15, 17) == ["A1.portion is broken off from 15 to 17"]


@pytest.mark.parametrize(
    ("gap", "found"),
    [(0, []), (-1, ["sheet 1 holds A1 and A2 at once"])],
)
def test_a_sheet_is_taken_again_as_it_is_ready(gap: int, found: list[str]) -> None:
    second = laid("A2", portion=50 + gap, load=62)
    assert find_faults(plan(laid(), second), trays(2)) == found


def test_a_sheet_that_slides_is_taken_from_loading_on() -> None:
    work = trays(2, kitchen(slides=True))
    assert find_faults(plan(laid(), laid("A2", portion=15, load=50)), work) == []
    late = find_faults(plan(laid(), laid("A2", portion=15, load=49)), work)
    assert late == ["sheet 1 holds A1 and A2 at once"]


@pytest.mark.parametrize(
    ("later", "found"), [(38, []), (37, ["shelf 1 holds A1.bake and A2.bake at once"])]
)
def test_a_shelf_is_free_as_its_tray_is_out(later: int, found: list[str]) -> None:
    second = laid("A2", portion=15, load=later, sheet=2, rack=later + 20)
    hands = replace(trays(2).kitchen, workers=(Worker(), Worker()))
    second = [replace(a, who=1) for a in second]
    assert find_faults(plan(laid(), second), replace(trays(2), kitchen=hands)) == found


@pytest.mark.parametrize(
    ("racks", "found"), [(2, []), (1, ["more trays cool than the rack holds"])]
)
def test_a_rack_holds_so_many(racks: int, found: list[str]) -> None:
    second = laid("A2", portion=15, load=26, sheet=2, shelf=2)
    second = [replace(a, who=1) for a in second]
    hands = replace(trays(2).kitchen, workers=(Worker(), Worker()), racks=racks)
    assert find_faults(plan(laid(), second), replace(trays(2), kitchen=hands)) == found


def test_a_rack_is_free_as_what_was_on_it_is_cold() -> None:
    second = laid("A2", portion=15, load=44, sheet=2, shelf=2)
    work = replace(trays(2), kitchen=replace(KITCHEN, racks=1))
    assert [a.start for a in second if a.kind == "cool"] == [62]
    assert find_faults(plan(laid(), second), work) == []


def two_doughs(**changes: Any) -> Work:
    doughs = (DOUGH, replace(DOUGH, letter="B"))
    both = (TRAY, replace(TRAY, name="B1", dough="B"))
    return Work(doughs, both, replace(KITCHEN, workers=(Worker(), Worker()), **changes))


def other_dough(mix: int, portion: int = 20) -> list[Placed]:
    its = [mixed(mix, mix + 10, "B"), *laid("B1", portion, 40, sheet=2, shelf=2)]
    return [replace(a, who=1) for a in its]


def test_a_mixer_mixes_one_dough_after_the_other() -> None:
    work = two_doughs(mixers=1)
    assert find_faults(plan(laid(), other_dough(10)), work) == []
    early = find_faults(plan(laid(), other_dough(9)), work)
    assert early == ["more doughs are mixed at once than there are mixers"]
    assert find_faults(plan(laid(), other_dough(9)), two_doughs(mixers=2)) == []


def test_a_bowl_is_free_as_its_dough_is_portioned() -> None:
    work = two_doughs(bowls=1)
    assert find_faults(plan(laid(), other_dough(15, 25)), work) == []
    found = find_faults(plan(laid(), other_dough(10)), work)
    assert found == ["more doughs wait in bowls than there are"]


def test_a_bowl_is_free_as_its_dough_is_chilled() -> None:
    cold = (replace(DOUGH, chill_min=5), replace(DOUGH, letter="B", chill_min=5))
    work = replace(two_doughs(bowls=1, fridge=2), doughs=cold)
    first, second = laid(portion=20, load=30), other_dough(10, 25)
    assert find_faults(plan(first, second), work) == []
    # The fridge holds the first until it is portioned, and the second from its mixing on.
    narrow = replace(work, kitchen=replace(work.kitchen, fridge=1))
    assert find_faults(plan(first, second), narrow) == []
    longer = find_faults(plan(laid(portion=21, load=30), second), narrow)
    assert longer == ["more doughs are cold than the fridge holds"]


@pytest.mark.parametrize(
    ("load", "found"),
    [
        (130, []),
        (131, ["dough A is warm for 121 min"]),
    ],
)
def test_a_dough_is_warm_for_two_hours_at_most(load: int, found: list[str]) -> None:
    assert find_faults(plan(laid(portion=100, load=load)), WORK) == found


def test_a_dough_worked_on_all_the_time_is_not_left_warm() -> None:
    work = trays(2, kitchen(raw_wait_min=200))
    one = laid(portion=10, load=120, sheet=1)
    two = laid("A2", portion=24, load=135, sheet=2, shelf=2)
    assert find_faults(plan(one, two), work) == []
    later = laid("A2", portion=25, load=135, sheet=2, shelf=2)
    assert find_faults(plan(one, later), work) == ["dough A is warm for 125 min"]


@pytest.mark.parametrize(
    ("rolled", "found"),
    [(30, []), (29, ["A2 is rolled before the scraps are chilled"])],
)
def test_scraps_are_chilled_before_they_are_rolled(rolled: int, found: list[str]) -> None:
    both = (TRAY, replace(TRAY, name="A2", scraps=True))
    work = replace(WORK, trays=both)
    assert WORK.doughs[0].scrap_chill_min == 15
    scraps = laid("A2", portion=rolled, load=42, sheet=2, shelf=2)
    scraps = [replace(a, who=1) for a in scraps]
    hands = TWO_HANDS
    assert find_faults(plan(laid(), scraps), replace(work, kitchen=hands)) == found


@pytest.mark.parametrize(("wait", "found"), [(2, []), (3, ["A1 is shaped 3 min after it is out"])])
def test_hot_work_waits_no_longer_than_it_may(wait: int, found: list[str]) -> None:
    work = tray(shape_min=2, shape_within=2, rest_min=0)
    shape = placed("A1", "shape", 38 + wait, 40 + wait)
    assert find_faults(plan([*laid(rack=45), shape]), work) == found


def test_hot_work_does_not_begin_before_the_tray_is_out() -> None:
    work = replace(tray(shape_min=2, shape_within=2), kitchen=TWO_HANDS)
    shape = placed("A1", "shape", 37, 39, who=1)
    assert find_faults(plan([*laid(rack=45), shape]), work) == [
        "A1 is shaped -1 min after it is out"
    ]


@pytest.mark.parametrize(("at", "found"), [(62, []), (61, ["A1 is finished before it is cold"])])
def test_icing_waits_until_it_is_cold(at: int, found: list[str]) -> None:
    work = tray(finish_min=3, set_min=5)
    end = [placed("A1", "finish", at, at + 3), placed("A1", "set", at + 3, at + 8)]
    assert find_faults(plan([*laid(), *end]), work) == found


def test_the_second_step_of_a_mixing_waits_for_the_first() -> None:
    work = dough(makes=(Make("Melt", 4, wait_min=2), Make("Fold", 4)))
    first = mixed(0, 4)

    def second(start: int) -> Placed:
        return replace(mixed(start, start + 4), id=JobKey("A", "mix", 1))

    assert find_faults(plan(first, second(6), laid()), work) == []
    early = find_faults(plan(first, second(5), laid()), work)
    assert early == ["A.mix2 begins before the step before it is over"]


@pytest.mark.parametrize(
    ("later", "dial", "gap", "found"),
    [
        # thirty degrees more take three minutes, thirty less eight
        (210, 210, 3, []),
        (210, 210, 2, ["A2.bake goes in 2 min after A1.bake"]),
        (150, 150, 8, []),
        (150, 150, 7, ["A2.bake goes in 7 min after A1.bake"]),
        (185, 180, 0, []),
    ],
)
def test_an_oven_is_given_time_for_another_heat(
    later: int, dial: int, gap: int, found: list[str]
) -> None:
    hot = replace(TRAY, name="A2", bakes=(Bake(12, 6, later),))
    work = replace(WORK, trays=(TRAY, hot), kitchen=TWO_HANDS)
    second = laid("A2", portion=20, load=37 + gap + (gap == 0), sheet=2, shelf=2)
    second = [replace(a, who=1) for a in second]
    turned = replace(heated(34, dial), id=JobKey("oven1", "heat", 1))
    assert find_faults(plan(laid(), second, turned), work) == found


@pytest.mark.parametrize(
    ("away", "found"),
    [
        ((40, 69), []),
        ((40, 70), ["A2.bake goes into an oven that was off until 70"]),
    ],
)
def test_an_oven_that_nobody_watched_for_half_an_hour_is_off(
    away: tuple[int, int], found: list[str]
) -> None:
    work = trays(2, kitchen(workers=(Worker(away=(away,)),), rest_over_min=60))
    first, second = laid(load=20, portion=10, rack=37), laid("A2", portion=15, load=84, sheet=2)
    work = replace(work, kitchen=replace(work.kitchen, raw_wait_min=90))
    assert find_faults(plan(first, second), work) == found
    in_time = laid("A2", portion=15, load=86, sheet=2)
    assert find_faults(plan(first, in_time), work) == []


def test_an_oven_is_never_left_alone() -> None:
    work = kitchen(workers=(Worker(away=((26, 31),)),))
    assert find_faults(plan(laid()), work) == []
    longer = kitchen(workers=(Worker(away=((38, 80),)),), rest_over_min=60)
    assert find_faults(plan(laid(rack=80)), longer) == []
    left = kitchen(workers=(Worker(away=((37, 80),)),), rest_over_min=60)
    assert "A1.bake is in the oven with nobody there" in find_faults(plan(laid(rack=80)), left)


@pytest.mark.parametrize(
    ("changes", "found"),
    [
        ({"oven": 1, "shelf": 2}, []),
        ({"oven": 1, "shelf": 3}, ["there is no shelf 3"]),
        ({"oven": 1, "shelf": None}, ["there is no shelf 0"]),
        ({"oven": 2, "shelf": 1}, ["there is no oven 2"]),
        ({"oven": None, "shelf": 1}, ["there is no oven 0"]),
    ],
)
def test_ovens_and_shelves_are_counted_from_one(changes: dict[str, Any], found: list[str]) -> None:
    moved = [replace(a, **changes) if a.oven else a for a in laid()]
    assert find_faults(plan(moved), WORK) == found


@pytest.mark.parametrize(
    ("sheet", "found"),
    [(4, []), (5, ["there is no sheet 5"]), (None, ["there is no sheet 0"])],
)
def test_sheets_are_counted_from_one(sheet: int | None, found: list[str]) -> None:
    moved = [replace(a, sheet=sheet) if a.sheet else a for a in laid()]
    assert find_faults(plan(moved), WORK) == found


def test_a_pin_is_met_to_the_minute() -> None:
    key = JobKey("A1", "load")
    assert find_faults(PLAN, replace(WORK, pins=(Pin(key, 24),))) == []
    assert find_faults(PLAN, replace(WORK, pins=(Pin(key, 25),))) == ["A1.load is not at 25"]


@pytest.mark.parametrize(
    ("oven", "dial", "found"),
    [
        ({"fan": True}, 160, []),
        ({"fan": True}, 165, []),
        ({"fan": True}, 166, ["A1.bake wants 160 °C and the dial was told 166 °C"]),
        ({"fan": True}, 154, ["A1.bake wants 160 °C and the dial was told 154 °C"]),
        ({"offset_c": 8}, 172, []),
        ({"offset_c": 8}, 180, ["A1.bake wants 172 °C and the dial was told 180 °C"]),
        ({"offset_c": 8.5}, 166, []),
        ({"offset_c": -8}, 180, ["A1.bake wants 188 °C and the dial was told 180 °C"]),
        ({}, None, ["A1.bake wants 180 °C and the dial was told nothing"]),
    ],
)
def test_the_dial_is_told_by_how_the_oven_blows_and_lies(
    oven: dict[str, Any], dial: int | None, found: list[str]
) -> None:
    work = kitchen(ovens=(replace(OVEN, **oven),))
    told = replace(heated(), dial_c=dial)
    assert found_in(plan(laid(), told), work) == found


def test_each_oven_has_its_own_dial_and_nature() -> None:
    second = replace(OVEN, fan=True)
    work = replace(trays(2), kitchen=replace(TWO_HANDS, ovens=(OVEN, second)))
    other = [replace(a, who=1, oven=2 if a.oven else None) for a in laid("A2", 15, sheet=2)]
    told = Placed(JobKey("oven2", "heat"), None, "oven", 0, 16, oven=2, dial_c=160)
    assert find_faults(plan(laid(), other, told), work) == []
    wrong = found_in(plan(laid(), other, replace(told, dial_c=180)), work)
    assert wrong == ["A2.bake wants 160 °C and the dial was told 180 °C"]
    untold = find_faults(plan(laid(), other), work)
    assert untold == ["nobody is told to turn the oven on for A2.bake"]


def test_each_bake_that_nobody_is_told_of_is_named() -> None:
    second = [replace(a, who=1) for a in laid("A2", 15, load=26, sheet=2, shelf=2)]
    work = replace(trays(2), kitchen=TWO_HANDS)
    assert find_faults(plan(laid(), second, heated(start=30)), work) == [
        "nobody is told to turn the oven on for A1.bake",
        "nobody is told to turn the oven on for A2.bake",
    ]


@pytest.mark.parametrize(("later", "fits"), [(185, True), (175, True), (186, False), (174, False)])
def test_heats_within_the_bakers_tolerance_share_the_oven(later: int, fits: bool) -> None:
    near = replace(TRAY, name="A2", bakes=(Bake(12, 6, later),))
    second = [replace(a, who=1) for a in laid("A2", 15, load=30, sheet=2, shelf=2)]
    work = Work((DOUGH,), (TRAY, near), TWO_HANDS)
    found = find_faults(plan(laid(), second, heated(dial_c=(180 + later) // 2)), work)
    assert found == ([] if fits else ["A2.bake goes in -7 min after A1.bake"])


def test_two_trays_that_go_in_together_want_one_heat() -> None:
    hot = replace(TRAY, name="A2", bakes=(Bake(12, 6, 200),))
    second = [replace(a, who=1) for a in laid("A2", 15, sheet=2, shelf=2)]
    work = Work((DOUGH,), (TRAY, hot), replace(TWO_HANDS, tolerance_c=10))
    found = find_faults(plan(laid(), second, heated(dial_c=190)), work)
    assert "A2.bake goes in -13 min after A1.bake" in found


def swapped(turn: int, later_turn: int) -> tuple[list[Placed], list[Placed]]:
    """Two trays that change shelves as they are turned."""

    def moved(laid_tray: list[Placed], other: str, to: int) -> list[Placed]:
        new: dict[JobKind, dict[str, Any]] = {
            "turn": {"partner": other, "to_shelf": to},
            "out": {"shelf": to},
        }
        return [replace(a, **new.get(a.kind, {})) for a in laid_tray]

    two = laid("A2", 15, load=24, turn=later_turn, sheet=2, shelf=2)
    return moved(laid(turn=turn), "A2", 2), [replace(a, who=1) for a in moved(two, "A1", 1)]


SWAPS = replace(KITCHEN, workers=(Worker(), Worker()), swaps=True)
NO_SWAP = "is swapped and taken out elsewhere, or may not be swapped"


def test_two_trays_change_shelves_as_the_first_of_them_is_turned() -> None:
    work = replace(trays(2), kitchen=SWAPS)
    assert find_faults(plan(*swapped(31, 31)), work) == []
    assert find_faults(plan(*swapped(31, 32)), work) == []
    one, two = swapped(31, 31)
    home = [replace(a, shelf=2) if a.kind == "out" else a for a in two]
    assert find_faults(plan(one, home), work) == [f"A2.bake {NO_SWAP}"]
    still = replace(work, kitchen=replace(SWAPS, swaps=False))
    assert find_faults(plan(one, two), still) == [f"A1.bake {NO_SWAP}", f"A2.bake {NO_SWAP}"]
    # A tray that goes where another stays is on its shelf twice.
    alone = [replace(a, shelf=2) if a.kind == "turn" else a for a in laid("A2", 15, sheet=2)]
    stays = [replace(a, who=1, shelf=2 if a.shelf else None) for a in alone]
    assert find_faults(plan(one, stays), work) == ["shelf 2 holds A2.bake and A1.bake at once"]


@pytest.mark.parametrize(("apart", "fits"), [(5, True), (6, False)])
def test_turns_more_than_five_minutes_apart_are_no_swap(apart: int, fits: bool) -> None:
    slow = replace(TRAY, name="A2", bakes=(Bake(12, 6 + apart - 1, 180),))
    work = Work((DOUGH,), (replace(TRAY, bakes=(Bake(12, 5, 180),)), slow), SWAPS)
    found = find_faults(plan(*swapped(30, 30 + apart)), work)
    # Until the later one is turned its shelf is not free.
    assert found == ([] if fits else ["shelf 2 holds A2.bake and A1.bake at once"])


@pytest.mark.parametrize("kind", ["load", "turn", "out", "shape", "rack"])
def test_portioning_is_broken_off_for_whatever_cannot_wait(kind: JobKind) -> None:
    work = kitchen(interrupts=True)
    one = placed("A1", "portion", 10, 16, sheet=1, pause=(12, 13))

    def beside(kind: JobKind) -> list[str]:
        job = placed("Z1", kind, 12, 13)
        found = find_faults(plan([one, *laid(load=30)[1:], job]), work)
        return [fault for fault in found if "broken off" in fault]

    assert beside(kind) == []
    assert beside("finish") == ["A1.portion is broken off for Z1.finish"]


def test_only_what_the_same_hands_do_meanwhile_breaks_portioning_off() -> None:
    work = replace(WORK, kitchen=replace(TWO_HANDS, interrupts=True))
    one = placed("A1", "portion", 10, 16, sheet=1, pause=(12, 13), who=0)

    def beside(*jobs: Placed) -> list[str]:
        return find_faults(plan([one, *laid(load=30)[1:], *jobs]), work)

    assert beside(placed("A", "part", 11, 14, who=1)) == []
    for start in (11, 13):
        found = beside(placed("A", "part", start, start + 1, who=0))
        assert len(found) == 1
        assert "two jobs at once for one pair of hands" in found[0]
    none = replace(one, pause=(12, 12), end=15)
    assert find_faults(plan([none, *laid(load=30)[1:]]), work) == [
        "A1.portion is broken off from 12 to 12"
    ]


def test_a_dough_put_into_the_cold_between_its_trays_is_not_warm_meanwhile() -> None:
    cold = placed("A", "chill", 15, 100)
    two = laid("A2", 100, load=135, sheet=2, shelf=2)
    assert find_faults(plan(laid(), two), trays(2)) == ["dough A is warm for 125 min"]
    assert find_faults(plan(laid(), two, cold), trays(2)) == []
    other = replace(cold, dough="B")
    assert find_faults(plan(laid(), two, other), trays(2)) == ["dough A is warm for 125 min"]
    # Cold for five minutes only, it was warm for the rest.
    brief = placed("A", "chill", 15, 19)
    assert find_faults(plan(laid(), two, brief), trays(2)) == ["dough A is warm for 121 min"]


def test_what_a_dough_waits_for_after_mixing_is_not_time_in_the_warm() -> None:
    work = dough(makes=(Make("Mix", 10, wait_min=20),))
    later = replace(work, kitchen=replace(KITCHEN, raw_wait_min=60))
    assert find_faults(plan(laid(portion=100, load=150)), later) == []
    assert find_faults(plan(laid(portion=100, load=151)), later) == ["dough A is warm for 121 min"]


def test_a_dough_mixed_in_two_steps_has_its_bowl_until_it_is_rested() -> None:
    makes = (Make("Melt", 4, wait_min=6), Make("Fold", 5, wait_min=5))
    doughs = (DoughWork("A", makes, chill_min=5), replace(DOUGH, letter="B", chill_min=5))
    works = (TRAY, replace(TRAY, name="B1", dough="B"))
    work = Work(doughs, works, replace(TWO_HANDS, fridge=1, bowls=1))
    # Folded at 15, rested until 20, portioned at 25: the fridge has it from 15 to 25.
    folded = replace(mixed(10, 15), id=JobKey("A", "mix", 1))
    first = [mixed(0, 4), folded, *laid(portion=25, load=31)]

    def second(start: int, end: int) -> list[Placed]:
        tray = laid("B1", 35, 45, sheet=2, shelf=2)
        return [replace(a, who=1) for a in (mixed(start, end, "B"), *tray)]

    assert find_faults(plan(first, second(20, 30)), work) == []
    early = find_faults(plan(first, second(19, 29)), work)
    assert early == ["more doughs wait in bowls than there are"]
    quick = replace(work, doughs=(doughs[0], replace(doughs[1], makes=(Make("Mix", 4),))))
    colder = find_faults(plan(first, second(20, 24)), quick)
    assert colder == ["more doughs are cold than the fridge holds"]


def test_doughs_that_have_no_bowl_do_not_hide_those_that_have() -> None:
    doughs = (
        DoughWork("A", (Make("Take out", 1, kind="take"),)),
        DoughWork("B", ()),
        DoughWork("C", (Make("Mix", 10),), chill_min=5),
        DoughWork("D", (Make("Mix", 10),)),
    )
    works = tuple(replace(TRAY, name=f"{d.letter}1", dough=d.letter) for d in doughs)
    ovens = (replace(OVEN, shelves=4),)
    four = replace(KITCHEN, workers=(Worker(),) * 4, mixers=4, ovens=ovens, bowls=2, fridge=1)
    work = Work(doughs, works, four)
    begun = [
        Placed(JobKey("A", "take"), None, "hands", 9, 10, dough="A"),
        mixed(0, 10, "C", who=2),
        mixed(0, 10, "D", who=3),
    ]
    parts = [
        [replace(a, who=n) for a in laid(w.name, 20, 30, sheet=n + 1, shelf=n + 1)]
        for n, w in enumerate(works)
    ]
    every = Plan((heated(), *begun, *(a for part in parts for a in part)), 68, 0)
    assert find_faults(every, work) == []
    fewer = replace(work, kitchen=replace(four, bowls=1))
    assert find_faults(every, fewer) == ["more doughs wait in bowls than there are"]
    colder = replace(work, kitchen=replace(four, fridge=0))
    assert find_faults(every, colder) == ["more doughs are cold than the fridge holds"]


def test_a_dough_all_of_which_is_kept_needs_no_tray() -> None:
    work = replace(WORK, doughs=(replace(DOUGH, letter="B"), DOUGH))
    assert find_faults(plan(laid(), mixed(50, 60, "B")), work) == []
    chilled = replace(work, doughs=(replace(DOUGH, letter="B", chill_min=5), DOUGH))
    assert find_faults(plan(laid(), mixed(50, 60, "B")), chilled) == []


@pytest.mark.parametrize("step", ["load", "portion", "rack", "cool"])
def test_a_plan_that_lacks_a_step_is_told_so_and_the_rest_is_still_checked(step: str) -> None:
    rest = [a for a in laid() if a.kind != step]
    two = laid("A2", 15, load=44, sheet=5, shelf=2)
    faults = find_faults(plan(rest, two), trays(2))
    assert f"there is no A1.{step}" in faults
    assert "there is no sheet 5" in faults


def test_what_is_wrong_with_one_bake_does_not_hide_the_others() -> None:
    nowhere = [replace(a, oven=9) if a.kind == "bake" else a for a in laid()]
    late = laid("A2", 15, load=44, sheet=2, shelf=7)
    assert find_faults(plan(nowhere, late), trays(2)) == [
        "there is no oven 9",
        "there is no shelf 7",
    ]
    logs = replace(TRAY, bakes=(Bake(12, 6), Bake(12, 6)), slice_min=2)
    again = placed("A1", "bake", 60, 72, oven=1, shelf=7)
    again = replace(again, id=JobKey("A1", "bake", 1))
    once = [replace(a, oven=9) if a.kind == "bake" else a for a in laid()]
    ends = [
        replace(placed("A1", "load", 59, 60), id=JobKey("A1", "load", 1)),
        replace(placed("A1", "out", 72, 73), id=JobKey("A1", "out", 1)),
    ]
    faults = find_faults(plan(once, again, *ends), replace(WORK, trays=(logs,)))
    assert {"there is no oven 9", "there is no shelf 7"} <= set(faults)


def test_a_third_tray_does_not_move_the_swap_of_two() -> None:
    ovens = (replace(OVEN, shelves=3),)
    three = replace(SWAPS, ovens=ovens, workers=(Worker(),) * 3)
    early = replace(TRAY, name="A3", bakes=(Bake(12, 3, 180),))
    work = replace(trays(2), kitchen=three)
    work = replace(work, trays=(*work.trays, early))
    third = [
        replace(a, who=2, **({"partner": "A1", "to_shelf": 3} if a.kind == "turn" else {}))
        for a in laid("A3", 15, turn=28, sheet=3, shelf=3)
    ]
    assert find_faults(plan(*swapped(31, 31), third), work) == []


def test_the_rack_is_counted_as_trays_come_and_go() -> None:
    ovens = (replace(OVEN, shelves=4),)
    works = trays(4, kitchen(workers=(Worker(),) * 4, racks=2, ovens=ovens))
    every = [
        [replace(a, who=n) for a in laid(f"A{n + 1}", 12, load, sheet=n + 1, shelf=n + 1)]
        for n, load in enumerate((24, 32, 45, 47))
    ]
    # From 42, 50, 63 and 65 on, twenty minutes each: three of them at 65.
    assert find_faults(plan(*every), works) == ["more trays cool than the rack holds"]
    roomy = replace(works, kitchen=replace(works.kitchen, racks=3))
    assert find_faults(plan(*every), roomy) == []


READY = dough(makes=())
"""The dough is there to be portioned."""


def by_hands(load: int, work: Work, *workers: Worker, heat: int = 0, who: int = 0) -> list[str]:
    hands = replace(work.kitchen, workers=workers)
    own = [replace(a, who=who) for a in laid(load=load)]
    return find_faults(Plan((heated(heat), *own), load + 38, 0), replace(work, kitchen=hands))


@pytest.mark.parametrize(
    ("away", "load", "found"),
    [
        # Off from the start, for however short: it is heated from then on, for sixteen minutes.
        (((0, 5),), 20, []),
        (((0, 5),), 19, ["A1.bake goes into an oven that was off until 5"]),
        (((1, 5),), 19, []),
        (((0, 2), (3, 5)), 18, []),
        (((0, 2), (2, 5)), 19, ["A1.bake goes into an oven that was off until 5"]),
    ],
)
def test_an_oven_is_off_until_somebody_is_there(
    away: tuple[tuple[int, int], ...], load: int, found: list[str]
) -> None:
    assert by_hands(load, READY, Worker(away=away)) == found


def test_an_oven_is_watched_while_anybody_who_may_use_it_is_there() -> None:
    me, kim = Worker(away=((0, 20), (50, 80))), Worker("Kim", away=((20, 50),))
    found = by_hands(20, READY, me, kim, who=1)
    assert not any("oven" in fault for fault in found)
    child = Worker("Kim", COOL_JOBS)
    found = by_hands(20, READY, Worker(away=((0, 45),)), child, who=1)
    assert "A1.bake is in the oven with nobody there" in found


def test_absences_that_touch_are_one() -> None:
    late = replace(trays(2), kitchen=replace(KITCHEN, rest_over_min=60, raw_wait_min=90))
    first, second = laid(load=20, rack=37), laid("A2", portion=15, load=78, sheet=2)
    gone = Worker(away=((45, 60), (60, 75)))
    work = replace(late, kitchen=replace(late.kitchen, workers=(gone,)))
    faults = find_faults(plan(first, second), work)
    assert faults == ["A2.bake goes into an oven that was off until 75"]
    # With a minute between them neither is long enough for the oven to be turned off.
    apart = Worker(away=((45, 60), (61, 75)))
    work = replace(late, kitchen=replace(late.kitchen, workers=(apart,)))
    assert find_faults(plan(first, second), work) == []


def test_a_tray_goes_in_as_somebody_is_back_and_out_as_they_leave() -> None:
    roomy = replace(KITCHEN, rest_over_min=60)
    leaves = replace(WORK, kitchen=replace(roomy, workers=(Worker(away=((38, 70),)),)))
    assert find_faults(plan(laid(rack=70)), leaves) == []
    comes = by_hands(40, READY, Worker(away=((10, 40),)))
    assert "A1.bake is in the oven with nobody there" not in comes
    assert "A1.bake goes into an oven that was off until 40" in comes


def test_a_pin_on_a_job_that_is_not_there_is_left_to_others() -> None:
    assert find_faults(PLAN, replace(WORK, pins=(Pin(JobKey("Z9", "load"), 24),))) == []


def test_a_log_rests_before_it_is_sliced_at_least_and_at_most() -> None:
    logs = replace(TRAY, bakes=(Bake(12, 6), Bake(12, 6)), slice_min=2, rest_min=3)
    work = replace(WORK, trays=(logs,), kitchen=replace(KITCHEN, rest_over_min=10))

    def sliced(at: int) -> list[str]:
        first = [a for a in laid() if a.kind in ("portion", "load", "bake", "turn", "out")]
        again: dict[JobKind, tuple[int, int]] = {
            "load": (at + 2, at + 3),
            "bake": (at + 3, at + 15),
            "turn": (at + 9, at + 10),
            "out": (at + 15, at + 16),
        }
        second = [
            Placed(JobKey("A1", step, 1), "A1", "oven", *span, oven=1, shelf=1, dough="A")
            for step, span in again.items()
        ]
        rest = [a for a in laid(rack=at + 20) if a.kind in ("rack", "cool", "sheet")]
        return find_faults(plan(first, placed("A1", "slice", at, at + 2), second, rest), work)

    assert sliced(41) == sliced(51) == []
    assert sliced(40) == ["A1 rests 2 min before it is sliced"]
    assert sliced(52) == ["A1 rests 14 min before it is sliced"]


def test_the_fridge_has_a_dough_from_its_last_step_on() -> None:
    makes = (Make("Melt", 4, wait_min=6), Make("Fold", 5))
    doughs = (DoughWork("A", makes, chill_min=5), DoughWork("B", (Make("Mix", 2),), chill_min=5))
    works = (TRAY, replace(TRAY, name="B1", dough="B"))
    work = Work(doughs, works, replace(TWO_HANDS, fridge=1))
    first = [mixed(2, 6), replace(mixed(12, 17), id=JobKey("A", "mix", 1))]

    def other(portion: int) -> list[Placed]:
        its = [mixed(0, 2, "B"), *laid("B1", portion, 45, sheet=2, shelf=2)]
        return [replace(a, who=1) for a in its]

    assert find_faults(plan(first, laid(portion=25, load=31), other(17)), work) == []
    late = find_faults(plan(first, laid(portion=25, load=31), other(18)), work)
    assert late == ["more doughs are cold than the fridge holds"]
