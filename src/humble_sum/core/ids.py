"""Ids made from what people write."""

from __future__ import annotations

import re
import unicodedata


def new_id(text: str, taken: set[str]) -> str:
    """A code or label as an id of its own: letters, digits and hyphens."""
    dashed = re.sub(r"[\u2010-\u2015\u2212]", "-", text)
    plain = unicodedata.normalize("NFKD", dashed).encode("ascii", "ignore").decode()
    base = re.sub(r"[^A-Za-z0-9_.]+", "-", plain).strip("-._")[:48] or "line"
    id, number = base, 1
    while id.lower() in taken:
        number += 1
        id = f"{base}-{number}"
    taken.add(id.lower())
    return id
