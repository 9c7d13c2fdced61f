"""Text on its way into XML 1.0."""

from __future__ import annotations

import re
from xml.sax.saxutils import escape

# What XML 1.0 has no way to write (2.2).
UNWRITABLE = re.compile("[^\t\n\r -\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")


def written(text: str) -> str:
    """Text as the content of an element; what no XML can hold is written as U+FFFD."""
    return escape(UNWRITABLE.sub("\ufffd", text))
