"""The one-time code by which a tablet or phone is let in, shown on a screen of this machine."""

import secrets
import threading
from dataclasses import dataclass
from hmac import compare_digest

from finebatch.web.clock import Clock, steady_clock
from finebatch.web.network.paired import Role

LASTS_MS = 120_000
MOST_TRIES = 5
DIGITS = 6


@dataclass(slots=True)
class Code:
    """One code: until when it is good (ms of its clock), for whom, and how many tries are left."""

    digits: str
    until: int
    role: Role
    tries_left: int = MOST_TRIES


class Codes:
    """At most one code is good at a time: for two minutes, for five tries, and once.

    With six digits and five tries a guess has a chance of one in 200,000. Its `clock` goes on
    evenly: neither one that is set anew nor a demo's makes a code last longer or shorter.
    """

    def __init__(self, clock: Clock = steady_clock) -> None:
        self.clock = clock
        self._code: Code | None = None
        self._locked = False
        self._lock = threading.Lock()

    def make(self, role: Role) -> Code:
        """A new one; the one before is void."""
        digits = f"{secrets.randbelow(10**DIGITS):0{DIGITS}d}"
        with self._lock:
            self._locked = False
            self._code = Code(digits, self.clock() + LASTS_MS, role)
            return self._code

    def drop(self) -> None:
        """None is good any more."""
        with self._lock:
            self._code = None

    @property
    def good(self) -> Code | None:
        """The code that is good now."""
        code = self._code
        return code if code is not None and self.clock() < code.until else None

    def left_ms(self, code: Code) -> int:
        """How long a code is good yet."""
        return max(code.until - self.clock(), 0)

    @property
    def locked(self) -> bool:
        """Whether the last code was guessed at until it was void."""
        return self._locked

    def redeem(self, digits: str) -> Role | None:
        """For whom the code is that was given; None for a wrong one, and for any without a code
        that is good."""
        with self._lock:
            code = self.good
            if code is None:
                return None
            if compare_digest(digits.encode("utf-8", "replace"), code.digits.encode()):
                self._code = None
                return code.role
            code.tries_left -= 1
            if code.tries_left == 0:
                self._code, self._locked = None, True
            return None
