"""What a plan does not keep is said with window, tray and minutes, and what would do is solved."""

from dataclasses import replace

from finebatch.core.plan.helps import Idea, changed, remedy
from finebatch.core.plan.keys import JobKey
from finebatch.core.plan.lots import in_lots
from finebatch.core.plan.overs import find_overs
from finebatch.core.plan.quick import quick_plan
from finebatch.core.plan.solver import best_plan
from finebatch.core.plan.work import Bake, DoughWork, Kitchen, Make, Oven, TrayWork, Work
from finebatch.core.session.over_words import over_said, would_do

NAMES = {"A": "Oat drops"}


def chilled_batter(trays: int, **kitchen: int) -> Work:
    """A dough that is chilled, so that it cannot be mixed in lots, and keeps for fifty minutes."""
    dough = DoughWork("A", (Make("Mix", 5),), chill_min=10, bake_within=50)
    each = [TrayWork(f"A{n + 1}", "A", 12, 4, (Bake(15),), 3, 20) for n in range(trays)]
    return Work((dough,), tuple(each), Kitchen(4, **kitchen))


def test_nothing_is_said_of_a_plan_that_keeps_all() -> None:
    work = chilled_batter(2)
    assert find_overs(work, quick_plan(work)) == ()


def test_the_worst_window_comes_first_with_its_tray_and_minutes() -> None:
    work = chilled_batter(4)
    plan = quick_plan(work)
    at = {a.id: a for a in plan.activities}
    worst = find_overs(work, plan)[0]
    load = at[JobKey("A4", "load")].start
    assert (worst.after, worst.most) == (JobKey("A4", "load"), 50)
    assert worst.wait == load - at[JobKey("A", "mix")].end
    said = over_said(worst, NAMES)
    assert "“Oat drops”" in said
    assert (
        f"{worst.wait} min after it is mixed for tray A4, {worst.minutes} more than the 50" in said
    )


def test_what_would_do_is_really_planned() -> None:
    work = chilled_batter(4)
    found = remedy(work, "A", 0.5)
    assert found is not None
    assert found.what == "shelf"
    second = changed(work, Idea("shelf"))
    assert find_overs(second, best_plan(second, 1)) == ()
    assert would_do(work, quick_plan(work), NAMES, 0.5).endswith(
        "With one more shelf in the oven it can be kept."
    )


def test_trays_fewer_where_nothing_else_would_do() -> None:
    """With nine trays a second shelf is not enough."""
    found = remedy(chilled_batter(9), "A", 0.3)
    assert found is not None
    assert (found.what, found.letter) == (None, "A")
    left = chilled_batter(9 - found.fewer)
    assert find_overs(left, best_plan(left, 1)) == ()


def test_a_batter_that_sinks_while_one_tray_is_filled_is_said() -> None:
    """Mixed for each tray alone it still waits: that is told, with how few pieces would do."""
    dough = DoughWork("A", (Make("Mix", 5),), bake_within=45)
    tray = TrayWork("A1", "A", 60, 70, (Bake(9),), 3, 20)
    work = in_lots(Work((dough,), (tray, replace(tray, name="A2")), Kitchen(2, (Oven(1),))))
    assert work.dough("A").lots == 2
    worst = find_overs(work, best_plan(work, 1))[0]
    assert worst.most == 45
    assert worst.wait >= 70
    assert worst.fewer is not None
    assert 30 <= worst.fewer <= 45
    assert f"at most {worst.fewer} pieces" in over_said(worst, NAMES)
    few = replace(tray, pieces=worst.fewer, portion_min=-(-70 * worst.fewer // 60))
    kept = in_lots(Work((dough,), (few,), work.kitchen))
    assert find_overs(kept, quick_plan(kept)) == ()
