"""What a device that was let in may ask for, by its role."""

import re

from finebatch.web.guard import SAFE_METHODS
from finebatch.web.network.paired import Role

_HERE_ALONE = re.compile(r"/api/(?:network(?:/|$)|demo/beside$)")
"""Who is let in is decided at this machine, and what opens another window of it, too."""
_NOT_IN_KITCHEN = re.compile(r"/api/(?:copies|everything|bin|openapi)\b")
_KITCHEN_CHANGES = re.compile(
    r"/api/(?:sessions(?:/\d+/(?:start|events|undo|give-up))?|ringing(?:/here)?|bakes(?:/.+)?|"
    r"lessons|cold(?:/.+)?|bin/\d+/put-back|demo/(?:under-way|clock)|oven/watch(?:/keep)?|"
    r"devices/scale/tare)"
)
"""What is done at the oven: a session or one tray baked, bakes written down, the cold store, the
scale; what was thrown away there is taken back."""
_QUESTIONS = re.compile(
    r"/api/(?:study|read|readings|compare|swaps|scale|sheet-check|same-depth|larder/[^/]+/effects|"
    r"doughs/\d+/(?:foresee|ladder|chill|turned|shared-out|template|aim|photo)|plan/ideas/\d+)"
)
"""What is sent as a change is, but asks only: screens that are looked at show its answers."""
WHO_AM_I = "/api/network/me"


def may(role: Role, method: str, path: str) -> bool:
    """Whether a device of this role may ask for that."""
    if not path.startswith("/api/"):
        return method in SAFE_METHODS
    if path == WHO_AM_I:
        return method in SAFE_METHODS
    if _HERE_ALONE.match(path):
        return False
    if role is Role.ALL:
        return True
    if method in SAFE_METHODS:
        return _NOT_IN_KITCHEN.match(path) is None
    return any(one.fullmatch(path) for one in (_KITCHEN_CHANGES, _QUESTIONS))
