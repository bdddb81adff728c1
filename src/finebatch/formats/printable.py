"""Text without what no format of text has a place for."""

import re

_CONTROLS = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ufffe\uffff]")


def printable(text: str) -> str:
    """The text without control characters; tabs and line ends stay."""
    return _CONTROLS.sub("", text)
