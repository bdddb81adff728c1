"""How figures are rounded where the app acts on them."""


def whole_minutes(minutes: float) -> int:
    """The nearest whole minute, at least one; half minutes go up."""
    return max(int(minutes + 0.5), 1)
