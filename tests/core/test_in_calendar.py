"""What a calendar has of a session, through several plans of it."""

from finebatch.core.session.in_calendar import InCalendar

FRESH = InCalendar("a-session")


def test_the_first_plan_is_the_first_of_the_sequence() -> None:
    has = FRESH.given_out({"A.mix": (0, 10)}, 5)
    assert (has.sequence, has.called_off) == (0, {})
    assert has.given_out({"A.mix": (0, 10)}, 5) == has


def test_each_change_counts_up_and_calls_off_what_is_gone() -> None:
    has = FRESH.given_out({"A.mix": (0, 10), "A.load": (10, 11)}, 5)
    # A search that finds a better plan moves jobs of a session that nobody has changed.
    moved = has.given_out({"A.mix": (1, 11), "A.load": (10, 11)}, 5)
    assert moved.sequence == 1
    less = moved.given_out({"A.mix": (1, 11)}, 5)
    assert (less.sequence, less.called_off) == (2, {"A.load": (10, 11)})
    again = less.given_out({"A.mix": (1, 11), "A.load": (12, 13)}, 6)
    assert (again.sequence, again.called_off) == (3, {})
