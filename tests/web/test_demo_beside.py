"""The demo beside a kitchen: another process, which ends with the one that started it."""

import socket
import time
import urllib.request
from collections.abc import Callable
from urllib.parse import urlsplit

import pytest

from finebatch.facts.regions import regions
from finebatch.web.demo_beside import DemoBeside

HERE = "http://127.0.0.1:8765"


def wait_for(true: Callable[[], bool]) -> None:
    until = time.monotonic() + 60
    while not true():
        assert time.monotonic() < until
        time.sleep(0.2)


def test_it_runs_once_and_ends_with_the_kitchen() -> None:
    beside = DemoBeside()
    address, answers = beside.look(HERE)
    assert not answers
    wait_for(lambda: beside.look(HERE) == (address, True))
    with urllib.request.urlopen(f"{address}/api/about") as answer:
        assert b'"back_to":"http://127.0.0.1:8765"' in answer.read()
    beside.close()
    with pytest.raises(OSError, match="refused"):
        socket.create_connection(("127.0.0.1", urlsplit(address).port or 0), timeout=2)


def test_no_country_is_in_two_regions_and_any_other_is_elsewhere() -> None:
    countries = [country for region in regions() for country in region.countries]
    assert len(set(countries)) == len(countries)
    assert regions()[-1].countries == ()
