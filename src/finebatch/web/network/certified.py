"""What the door shows to whoever knocks."""

from dataclasses import dataclass
from pathlib import Path


class UnusableCertificate(ValueError):
    """A certificate or its key cannot be used; the message says which and why."""


@dataclass(frozen=True, slots=True)
class Certified:
    """The files that the door shows: `chain` and `key` are PEM, `authority` the certificate that a
    device installs (none where the kitchen brought a certificate of its own)."""

    chain: Path
    key: Path
    authority: bytes | None
    fingerprint: str
