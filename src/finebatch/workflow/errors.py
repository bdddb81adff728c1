"""What can be wrong with an errand, besides what the core refuses."""


class Missing(LookupError):
    """What was asked for is not there (any more)."""

    def __init__(self, what: str) -> None:
        super().__init__(f"{what} is not there. It may have been taken out in another window.")


class Conflict(RuntimeError):
    """It cannot be done as things stand; the message says what to do."""
