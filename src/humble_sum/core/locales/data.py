"""Unicode CLDR data as the package keeps it: a line for each locale with what differs from its parent.

tools/build_locales.py makes the files. A locale is read when it is first asked for.
"""

from __future__ import annotations

import hashlib
import json
from functools import cache
from pathlib import Path
from typing import Any, Literal

FILES = Path(__file__).parent / "data"
Kind = Literal["numbers", "currencies", "dates"]


@cache
def shared() -> dict[str, Any]:
    """What all locales share: digits, plural rules, likely subtags, aliases, English names."""
    found: dict[str, Any] = json.loads(_text("shared.json"))
    return found


@cache
def data_version() -> str:
    """What the data are: a digest of them, as long as they are the same."""
    kinds = ("numbers.jsonl", "currencies.jsonl", "dates.jsonl", "shared.json")
    digest = hashlib.sha256("".join(map(_text, kinds)).encode()).hexdigest()
    return f"CLDR data {digest[:16]}"


@cache
def tags() -> frozenset[str]:
    """Every locale that has data of its own, as CLDR spells it."""
    return frozenset(_lines("numbers"))


def locale_data(kind: Kind, tag: str) -> dict[str, Any]:
    """One locale's data with all it inherits."""
    line = json.loads(_lines(kind)[tag])
    if line["up"] is None:
        return dict(line["is"])
    above = locale_data(kind, line["up"])
    for key in line.get("gone", ()):
        del above[key]
    merged: dict[str, Any] = above | line["is"]
    return merged


@cache
def _lines(kind: Kind) -> dict[str, str]:
    lines = (line.partition("\t") for line in _text(f"{kind}.jsonl").splitlines())
    return {tag: data for tag, _, data in lines}


def _text(name: str) -> str:
    return (FILES / name).read_text(encoding="utf-8")
