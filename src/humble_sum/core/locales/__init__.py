"""How each locale writes numbers: Unicode CLDR data (see data/LICENSE) read under UTS #35."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from humble_sum.core.faults import Fault, Refused

TAGS = ("en-IN", "en-US", "de-DE")
NAMES = {
    "en-IN": "English, India",
    "en-US": "English, United States",
    "de-DE": "German, Germany",
}


@dataclass(frozen=True)
class Locale:
    """The conventions of one locale.

    `grouping` lists group sizes from the right, the last repeating. `money` patterns hold ¤
    for the sign and one run of digits; `money_by_name` holds {0} for the figure and {1} for
    the name. `short` and `full` are the texts that follow a figure of each scale, leading
    space included; `caption` the words a page caption says. `names` are (one, many) by ISO
    4217 code.
    """

    tag: str
    decimal: str
    group: str
    minus: str
    plus: str
    percent: str
    grouping: tuple[int, ...]
    minimum_grouping: int
    money: str
    money_beside_letters: str
    money_by_name: str
    short: dict[str, str]
    full: dict[str, str]
    caption: dict[str, str]
    symbols: dict[str, str]
    short_symbols: dict[str, str]
    names: dict[str, tuple[str, str]]


@cache
def locale(tag: str) -> Locale:
    """The locale of a BCP 47 tag. Raises Refused, naming the tags there are."""
    if tag not in TAGS:
        raise Refused(
            "unknown-locale",
            Fault("locale", f'"{tag}" is not a locale held here.', f"Use one of {', '.join(TAGS)}."),
        )
    data = json.loads((files(__package__) / "data" / f"{tag}.json").read_text(encoding="utf-8"))
    data["grouping"] = tuple(data["grouping"])
    data["names"] = {code: (one, many) for code, (one, many) in data["names"].items()}
    return Locale(tag=tag, **data)
