"""Reading in a process of its own, which is ended when it has taken its time or memory: what some
formats may ask for has no end."""

import json
import os
import resource
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from typing import Any

CPU_S = 1.8
"""What reading a file may take of a processor (a calendar of a thousand usual entries: about 0.4 s,
a web page of a megabyte: about 0.6 s)."""
WALL_S = 60
"""On a machine that stands still it is given up after this."""
MEMORY = 1 << 30


class TooMuchError(Exception):
    """A file takes more than its time or memory."""


def ask_apart(module: str, asked: object) -> Any:
    """What a module answers that is run by itself (see `answer_apart`); plain values in and out.

    Raises `TooMuchError` where that takes more than its time or memory.
    """
    try:
        ran = subprocess.run(
            [sys.executable, "-m", module],
            input=json.dumps(asked),
            capture_output=True,
            text=True,
            encoding="utf-8",
            timeout=WALL_S,
            check=False,
            # One processor is what it gets; threads would only take room.
            env={**os.environ, "OPENBLAS_NUM_THREADS": "1"},
        )
    except subprocess.TimeoutExpired:
        raise TooMuchError from None
    if ran.returncode:
        raise TooMuchError
    return json.loads(ran.stdout)


def answer_apart(work: Callable[[Any], object], memory: int = MEMORY, cpu_s: float = CPU_S) -> None:
    """Do what is asked on the standard input, and answer on the standard output, in at most so much
    memory (bytes) and of a processor (s)."""
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    # Starting has taken some of it already.
    signal.setitimer(signal.ITIMER_PROF, max(cpu_s - time.process_time(), 0.1))
    json.dump(work(json.load(sys.stdin)), sys.stdout)
