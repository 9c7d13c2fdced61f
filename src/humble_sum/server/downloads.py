"""Names of the files that the desk gives out."""

from __future__ import annotations

import re
from urllib.parse import quote


def file_name(entity: str, what: str, ending: str) -> str:
    """A plain name for a file, in the letters of its words: lanternfish-ferries-income.xlsx."""
    words = re.sub(r"[\W_]+", "-", f"{entity} {what}".lower()).strip("-")
    return f"{words or 'statement'}.{ending}"


def bare_name(name: str) -> str:
    """The name of a file without folders and without characters that cannot be seen."""
    last = re.split(r"[/\\]", name)[-1]
    return "".join(c for c in last if c.isprintable()).strip(" .")


def attached(name: str) -> dict[str, str]:
    """The header that has a browser keep what it gets under this name (RFC 6266, RFC 5987)."""
    plain = "".join(c if c.isascii() and (c.isalnum() or c in " -_.") else "_" for c in name)
    said = f'attachment; filename="{plain}"'
    if plain != name:
        said += f"; filename*=UTF-8''{quote(name, safe='')}"
    return {"Content-Disposition": said}
