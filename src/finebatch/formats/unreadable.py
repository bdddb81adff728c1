"""The one way in which a file is refused."""


class UnreadableFile(ValueError):
    """A file that is not what it should be; the message says what to do."""
