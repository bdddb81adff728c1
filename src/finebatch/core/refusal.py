"""The one way in which the core says no."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing that is wrong, where it is, and what to do about it.

    `field` is a dotted path such as ``lines.3.amount``; `message` is a sentence for a baker.
    """

    field: str
    message: str


class Refusal(ValueError):
    """What was asked cannot be worked out; carries at least one `Fault`."""

    def __init__(self, *faults: Fault) -> None:
        super().__init__("; ".join(f"{f.field}: {f.message}" for f in faults))
        self.faults = faults


def refuse(field: str, message: str) -> Refusal:
    """Build a refusal with a single fault."""
    return Refusal(Fault(field, message))
