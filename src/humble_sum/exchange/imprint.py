"""What the foot of every page says: which issue it is of, and which frozen pack it was made from, so that
paper leads to the file."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass


@dataclass(frozen=True)
class Imprint:
    """The issue that a page is of; `digest` is the SHA-256 of its frozen pack file, in hexadecimal."""

    edition: str
    number: int
    state: str
    digest: str

    @property
    def text(self) -> str:
        """The foot of a page."""
        return f"{self.edition}, issue {self.number}, {self.state}. Frozen pack: SHA-256 {self.digest}"


def digest_of(data: bytes) -> str:
    """The SHA-256 of a file, in hexadecimal."""
    return hashlib.sha256(data).hexdigest()
