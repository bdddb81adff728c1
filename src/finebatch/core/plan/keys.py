"""The key of a job: whose it is, which step, and which round of it. Nothing else builds, cuts or
compares the text that stands for one outside."""

import re
from functools import lru_cache
from typing import Any, Literal, NamedTuple, get_args

from finebatch.core.refusal import refuse

JobKind = Literal[
    "ready",
    "mix",
    "form",
    "fetch",
    "take",
    "wait",
    "wash",
    "part",
    "freeze",
    "chill",
    "temper",
    "heat",
    "portion",
    "stand",
    "load",
    "bake",
    "turn",
    "out",
    "shape",
    "rest",
    "slice",
    "rack",
    "cool",
    "finish",
    "set",
    "sheet",
    "clear",
]

_WRITTEN = re.compile(r"([A-Za-z0-9]{1,20})\.([a-z]{2,12})([1-9][0-9]{0,3})?")
_KINDS = frozenset(get_args(JobKind))


class JobKey(NamedTuple):
    """Whose job it is (a dough's letter, a tray's name, an oven), which step, and which round,
    counted from 0: a second bake is round 1, and so is the second step of mixing.

    Written ``A1.load``, ``A1.load2``.
    """

    whose: str
    step: JobKind
    round: int = 0

    def __str__(self) -> str:
        """As it is written outside."""
        return f"{self.whose}.{self.step}" + (str(self.round + 1) if self.round else "")

    def to(self, step: JobKind) -> "JobKey":
        """Another step of the same round of the same tray."""
        return JobKey(self.whose, step, self.round)

    @property
    def said(self) -> str:
        """In words: ``A1, load``."""
        return f"{self.whose}, {self.step}" + (f" {self.round + 1}" if self.round else "")

    @classmethod
    def read(cls, text: str) -> "JobKey":
        """A key as it is written outside; `Refusal` for what is none."""
        return _read(text)

    @classmethod
    def __get_pydantic_core_schema__(cls, _source: Any, _handler: Any) -> dict[str, Any]:
        """Outside it is text, wherever it is read or written."""
        return {
            "type": "function-after",
            "function": {"type": "no-info", "function": cls.read},
            "schema": {"type": "str"},
            "serialization": {"type": "to-string"},
        }


@lru_cache(maxsize=4096)
def _read(text: str) -> JobKey:
    found = _WRITTEN.fullmatch(text)
    if found is None or found[2] not in _KINDS:
        raise refuse("activity", "There is no such job: it is written like A1.load.")
    step: Any = found[2]
    return JobKey(found[1], step, int(found[3] or 1) - 1)


CLEAR_UP = JobKey("all", "clear")
"""The last job of a session: it is of no dough."""


def oven_key(oven: int, count: int) -> JobKey:
    """The key of an oven's heating, the oven counted from 1, its heatings from 0."""
    return JobKey("oven" if oven == 1 else f"oven{oven}", "heat", count)
