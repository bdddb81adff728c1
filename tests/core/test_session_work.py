"""From foreseen trays to work, from work to jobs and links, and what would help."""

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given

from finebatch.core.formula.composition import compose
from finebatch.core.heat.oven import SecondOven
from finebatch.core.method.programme import Programme, Stretch
from finebatch.core.piece.cutter import Cutter
from finebatch.core.piece.effects import BakeConditions
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.pan import Pan
from finebatch.core.piece.kinds.portioning import Portioning
from finebatch.core.piece.kinds.rolled import Rolled
from finebatch.core.piece.kinds.sliced import Sliced
from finebatch.core.piece.kinds.twice_baked import TwiceBaked
from finebatch.core.piece.kinds.wafer import Wafer
from finebatch.core.piece.rows import Sheet
from finebatch.core.piece.tray import TrayBasis, foresee_tray
from finebatch.core.plan.by_hand import plain_method, sensible_method
from finebatch.core.plan.checker import find_faults
from finebatch.core.plan.explain import critical_chain, hold_ups
from finebatch.core.plan.habits import Helper, Planning
from finebatch.core.plan.helps import Idea, changed, ideas, try_idea
from finebatch.core.plan.network import after_last, last_of, network
from finebatch.core.plan.prepare import Portioned, mixed_before, prepare
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import COOL_JOBS, HAND_JOBS, Oven, TrayWork, Work
from finebatch.facts import formula, tables
from tests.core.test_plan import few, two_doughs, works
from tests.keys import key

FORMULA = {
    "flour_ap": 280.0,
    "butter_unsalted": 180.0,
    "sugar_white": 150.0,
    "egg_whole": 50.0,
}
CHILLED = Programme(
    makes=(Stretch("mix", (), 12), Stretch("form", (), 2, wait_min=60, cold=True)),
)
KITCHEN = Planning().kitchen((3,), 2, "conventional", ())


def portioned(piece: Portioning, letter: str = "A", **more: object) -> Portioned:
    basis = TrayBasis(
        tables.models(),
        compose(FORMULA, tables.larder()),
        "drop",
        BakeConditions(21, 180, "conventional", "parchment"),
        Sheet(405, 305, 10, 12),
        "weighed",
    )
    usual: dict[str, object] = {
        "letter": letter,
        "answer": foresee_tray(basis, piece),
        "piece": piece,
        "habits": tables.families()["drop"],
        "programme": Programme(makes=(Stretch("mix", (), 12),)),
        "mixing": "creamed",
        "parts": (),
        "oven_c": 180.0,
    }
    return Portioned(**{**usual, **more})  # type: ignore[arg-type]


def work_of(*doughs: Portioned) -> Work:
    return prepare(doughs, KITCHEN, tables.part_habits(), formula.step_habits())


def test_every_piece_of_the_answer_is_on_a_tray() -> None:
    dough = portioned(Drop(grams=28))
    work = work_of(dough)
    assert [t.pieces for t in work.trays] == list(dough.answer.yields.trays)
    assert {t.name for t in work.trays} == {f"A{n + 1}" for n in range(len(work.trays))}
    assert find_faults(best_plan(work, 0.5), work) == []


def test_pieces_of_scraps_come_on_the_last_trays() -> None:
    dough = portioned(Rolled(thickness_mm=4, cutter=Cutter("round", 60, 60)))
    work = work_of(dough)
    first = dough.answer.making.passes[0].pieces  # type: ignore[union-attr]
    before = 0
    for tray in work.trays:
        from_scraps = max(before + tray.pieces - max(first, before), 0)
        assert tray.scraps == (from_scraps >= tray.pieces / 2)
        before += tray.pieces
    assert work.trays[-1].scraps


@pytest.mark.parametrize(
    ("piece", "shape_from", "within"),
    [(Wafer(grams=7), 1, 0), (Pan(), 1, 1), (Drop(grams=28), 0, 2)],
)
def test_hot_work_is_placed_right_behind_the_oven(
    piece: Portioning, shape_from: int, within: int
) -> None:
    tray = work_of(portioned(piece)).trays[0]
    assert (tray.shape_min >= shape_from, tray.shape_within) == (True, within)
    assert bool(tray.shape_min) == bool(shape_from)


def test_wafers_on_a_tray_are_shaped_while_they_are_soft() -> None:
    piece = Wafer(grams=7, soft_s=60, shape_s=12)
    for tray in work_of(portioned(piece)).trays:
        assert tray.pieces * piece.shape_s <= piece.soft_s
        assert tray.rest_min == 0


def test_a_twice_baked_tray_is_sliced_between_its_bakes() -> None:
    tray = work_of(portioned(TwiceBaked(grams=300))).trays[0]
    assert len(tray.bakes) == 2
    assert tray.slice_min == 4 * tray.pieces
    keys = [
        key for key in network(work_of(portioned(TwiceBaked(grams=300)))).jobs if key.whose == "A1"
    ]
    assert keys.index(key("A1.slice")) == keys.index(key("A1.load2")) - 1


def test_parts_are_made_for_portioning_or_for_the_cold_piece() -> None:
    parts = (("wash", "egg wash"), ("icing", "lemon icing"))
    plain = work_of(portioned(Drop(grams=28))).trays[0]
    work = work_of(portioned(Drop(grams=28), parts=parts))
    wash, icing = work.doughs[0].parts
    assert (wash.label, wash.wanted) == ("egg wash", "portion")
    assert (icing.label, icing.wanted) == ("lemon icing", "finish")
    tray = work.trays[0]
    assert tray.portion_min > plain.portion_min
    assert (tray.finish_min > 0, tray.set_min) == (True, 45)
    links = {(link.before, link.after) for link in network(work).links}
    assert {
        (key("A.part"), key("A1.portion")),
        (key("A.part2"), key("A1.finish")),
        (key("A1.rack"), key("A1.finish")),
    } <= links
    assert (last_of(tray), after_last(tray)) == (key("A1.finish"), 45)


def test_a_dough_from_the_cold_is_neither_mixed_nor_chilled() -> None:
    fresh = work_of(portioned(Drop(grams=28), programme=CHILLED))
    cold = work_of(portioned(Drop(grams=28), programme=CHILLED, joins="fridge"))
    assert (fresh.doughs[0].chill_min, cold.doughs[0].chill_min) == (60, 0)
    assert key("A.mix") in network(fresh).jobs
    assert key("A.mix") not in network(cold).jobs
    assert best_plan(cold, 0.5).finish < best_plan(fresh, 0.5).finish


def test_what_is_kept_is_wrapped_and_a_slow_hand_takes_longer() -> None:
    usual = work_of(portioned(Drop(grams=28)))
    kept = work_of(portioned(Drop(grams=28), trays=(8,), kept=27))
    assert kept.doughs[0].freeze_min == 2 + -(-27 * 18 // 60)
    assert [t.pieces for t in kept.trays] == [8]
    slow = work_of(portioned(Drop(grams=28), pace=2.0))
    assert slow.trays[0].portion_min > usual.trays[0].portion_min


def test_a_child_portions_drops_but_slices_no_log() -> None:
    child = Planning(helpers=(Helper("Kim", child=True),)).kitchen((3,), 2, "conventional", ())
    for piece, sharp in ((Drop(grams=28), False), (Sliced(), True)):
        work = replace(work_of(portioned(piece)), kitchen=child)
        assert {tray.sharp for tray in work.trays} == {sharp}
        plan = best_plan(work, 0.5)
        assert find_faults(plan, work) == []
        if sharp:
            assert {a.who for a in plan.activities if a.kind == "portion"} == {0}
            given = tuple(replace(a, who=1) if a.kind == "portion" else a for a in plan.activities)
            faults = find_faults(replace(plan, activities=given), work)
            assert any("may not slice" in fault for fault in faults)


def test_a_batter_has_to_be_in_the_oven_soon() -> None:
    assert work_of(portioned(Drop(grams=28), mixing="whisked")).doughs[0].bake_within == 45
    assert work_of(portioned(Wafer())).doughs[0].bake_within == 45
    assert work_of(portioned(Drop(grams=28))).doughs[0].bake_within is None


def test_a_kitchen_has_its_helpers_and_its_second_oven() -> None:
    planning = Planning(second=SecondOven(1), helpers=(Helper("Kim", child=True), Helper("Jo")))
    kitchen = planning.kitchen((3,), 2, "conventional", [(5, 9)])
    assert [oven.shelves for oven in kitchen.ovens] == [2, 1]
    assert [w.jobs for w in kitchen.workers] == [HAND_JOBS, COOL_JOBS, HAND_JOBS]
    assert kitchen.workers[0].away == ((5, 9),)
    assert kitchen.shelves == 3


@few
@given(works())
def test_a_network_is_in_an_order_in_which_it_can_be_done(work: Work) -> None:
    net = network(work)
    place = {key: n for n, key in enumerate(net.jobs)}
    for link in net.links:
        assert link.before in place
        assert link.after in place
        assert link.most is None or link.least <= link.most
    # Within a tray the jobs stand in the order in which they are done.
    for link in net.links:
        same = net.jobs[link.before].tray == net.jobs[link.after].tray is not None
        if same and "turn" not in (link.before.step, link.after.step):
            assert place[link.before] < place[link.after]


@few
@given(works())
def test_the_chain_ends_at_the_finish_and_its_minutes_are_the_finish(work: Work) -> None:
    plan = best_plan(work, 0.5)
    chain = critical_chain(plan)
    assert chain[-1].end == plan.finish
    assert all(a.end <= b.start for a, b in pairwise(chain))
    assert sum(hold.minutes for hold in hold_ups(chain)) == plan.finish


def test_ideas_are_those_that_can_be_tried() -> None:
    work = two_doughs(180, 160)
    assert [i.what for i in ideas(work)] == [
        "sheet",
        "shelf",
        "helper",
        "evening",
        "order",
        "order",
    ]
    one = replace(work, doughs=work.doughs[:1], trays=work.trays_of("A"))
    assert [i.what for i in ideas(one)] == ["sheet", "shelf", "helper"]
    assert ideas(work)[3].letter == "B"
    assert ideas(work)[4].first_c == 160


def test_each_idea_changes_one_thing() -> None:
    work = two_doughs()
    assert changed(work, Idea("sheet")).kitchen.sheets == work.kitchen.sheets + 1
    assert changed(work, Idea("shelf")).kitchen.ovens == (Oven(2),)
    assert len(changed(work, Idea("helper")).kitchen.workers) == 2
    assert changed(work, Idea("evening", letter="B")).dough("B").from_cold
    assert changed(work, Idea("evening", letter="B")).dough("A") == work.dough("A")
    assert mixed_before(work, "B").dough("B").chill_min == 0


def test_the_minutes_that_an_idea_saves_are_those_of_its_own_plan() -> None:
    work = two_doughs()
    plan = best_plan(work)
    for idea in (Idea("shelf"), Idea("evening", letter="B"), Idea("order", first_c=160)):
        own = best_plan(changed(work, idea)).finish
        assert try_idea(work, idea, plan, 5).saves_min == plan.finish - own


@pytest.mark.parametrize("ready_by", [None, 400])
def test_what_a_helper_saves_is_beside_a_plan_that_the_baker_can_keep(
    ready_by: int | None,
) -> None:
    work = two_doughs()
    away = tuple(replace(w, away=((0, 25), (60, 90))) for w in work.kitchen.workers)
    work = replace(work, ready_by=ready_by, kitchen=replace(work.kitchen, workers=away))
    soonest = best_plan(replace(work, ready_by=None), 1)
    assert soonest.begin == 25
    plan = best_plan(work, 1)
    assert try_idea(work, Idea("sheet"), plan, 0.5).saves_min == 0
    with_help = best_plan(changed(replace(work, ready_by=None), Idea("helper")), 1)
    saves = try_idea(work, Idea("helper"), plan, 0.5).saves_min
    assert saves == soonest.finish - with_help.finish == 69


@few
@given(works())
def test_more_of_anything_is_never_worse_however_short_the_look(work: Work) -> None:
    plan = best_plan(work, 1)
    for what in ("sheet", "helper"):
        saves = try_idea(work, Idea(what), plan, 0.01).saves_min
        assert saves is not None
        assert saves >= 0


def test_the_wanted_heat_comes_first() -> None:
    work = replace(two_doughs(180, 160), first_c=160)
    plan = best_plan(work)
    loads = {a.dough: a.start for a in reversed(plan.activities) if a.kind == "load"}
    assert loads["B"] < loads["A"]
    assert find_faults(plan, work) == []


@few
@given(works())
def test_the_hand_methods_end_and_the_planner_is_never_later(work: Work) -> None:
    at_home = replace(
        work,
        kitchen=replace(
            work.kitchen,
            fridge=12,
            workers=tuple(replace(worker, away=()) for worker in work.kitchen.workers),
        ),
    )
    best = best_plan(at_home, 0.5).finish
    slower = max(sensible_method(at_home), plain_method(at_home))
    assert best <= slower


def test_a_tray_that_is_iced_is_ready_when_it_is_set() -> None:
    tray = TrayWork("A1", "A", 1, 1, two_doughs().trays[0].bakes, 1, 20, finish_min=3, set_min=30)
    assert tray.tail_min == 53
    assert replace(tray, finish_min=0).tail_min == 20
