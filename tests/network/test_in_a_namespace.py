"""The door is tried with real addresses, in a network of its own that ends with the test."""

import os
import subprocess
import sys
from pathlib import Path

import pytest

THERE = Path(__file__).parent


@pytest.mark.parametrize("tried", ["at_home.py", "by_the_oven.py"])
def test_at_an_address_of_a_home(tried: str) -> None:
    plain = {key: value for key, value in os.environ.items() if not key.startswith("PYTEST_")}
    asks = [*("-q", "-x", "--no-header", "-p", "no:cacheprovider"), str(THERE / tried)]
    apart = ["unshare", "-n" if os.geteuid() == 0 else "-rn"]
    found = subprocess.run(
        [*apart, sys.executable, "-m", "pytest", *asks],
        env=plain,
        capture_output=True,
        text=True,
        timeout=600,
        check=False,
    )
    assert found.returncode == 0, found.stdout[-6000:] + found.stderr[-2000:]
    assert " passed" in found.stdout
