"""Times on record, as they are shown."""

from __future__ import annotations

import re

RECORDED = re.compile(r"(\d{4}-\d\d-\d\d)T(\d\d:\d\d)(:\d\d(\.\d+)?)?(Z|\+00:00)")


def shown_time(at: str) -> str:
    """A time as records keep it (RFC 3339, in UTC), to be read: "2026-05-04 09:30". Any other text stays."""
    found = RECORDED.fullmatch(at)
    return f"{found[1]} {found[2]}" if found else at
