"""Many at once, or one alone."""

import threading

import pytest

from finebatch.store.gate import Gate


def test_one_alone_waits_for_all_and_holds_back_those_that_come() -> None:
    gate, seen = Gate(), list[str]()
    within, out = threading.Event(), threading.Event()

    def first() -> None:
        with gate.inside():
            within.set()
            out.wait(10)
            # Who is inside may go in again, whoever waits.
            with gate.inside():
                seen.append("first")

    def alone() -> None:
        with gate.alone(10):
            seen.append("alone")

    threads = [threading.Thread(target=first), threading.Thread(target=alone)]
    threads[0].start()
    within.wait(10)
    threads[1].start()
    out.set()
    for thread in threads:
        thread.join(10)
    with gate.inside():
        seen.append("after")
    assert seen == ["first", "alone", "after"]


def test_who_cannot_be_alone_in_time_is_told_and_the_gate_is_open() -> None:
    gate = Gate()
    with gate.inside(), pytest.raises(TimeoutError), gate.alone(0.01):
        pass
    with gate.alone(1), pytest.raises(TimeoutError), gate.alone(0.01):
        pass
    with gate.inside():
        pass
