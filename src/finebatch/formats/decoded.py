"""The bytes of a file as text: UTF-8, or as other programs write (UTF-16, Windows-1252)."""

from pathlib import Path

from finebatch.formats.unreadable import UnreadableFile

_MARKS = ((b"\xff\xfe", "utf-16-le"), (b"\xfe\xff", "utf-16-be"), (b"\xef\xbb\xbf", "utf-8"))
"""Byte order marks, and what they say."""
FEW = 0.3
"""Where more of the bytes than that are nothing at every second place, it is UTF-16 unmarked."""


def decoded(contents: bytes) -> str:
    """The text, without a byte order mark. What is no UTF-8 is taken for Windows-1252."""
    for mark, encoding in _MARKS:
        if contents.startswith(mark):
            return contents[len(mark) :].decode(encoding, "replace")
    for start, encoding in ((1, "utf-16-le"), (0, "utf-16-be")):
        every_second = contents[start:2000:2]
        if every_second and every_second.count(0) > FEW * len(every_second):
            return contents.decode(encoding, "replace")
    try:
        return contents.decode("utf-8")
    except UnicodeDecodeError:
        return contents.decode("cp1252", "replace")


def text_of(path: Path) -> str:
    """A file's text; `UnreadableFile` where it cannot be read."""
    try:
        return decoded(path.read_bytes())
    except OSError as error:
        raise UnreadableFile(f"it cannot be read: {error}") from error
