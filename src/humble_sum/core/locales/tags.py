"""Language tags (BCP 47): which locale's data a tag means, by the likely subtags of UTS #35."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache
from typing import Any

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.locales.data import shared, tags

WELL_FORMED = re.compile(r"[A-Za-z]{2,8}([-_][A-Za-z0-9]{1,8})*")
ROOT = "und"


@dataclass(frozen=True)
class Resolved:
    """The locale whose data a tag is printed by. `exact` says that it is the tag's own."""

    tag: str
    data: str
    exact: bool


@cache
def resolve(tag: str) -> Resolved:
    """Find the data for a tag: its own, that of its default, or what it inherits.

    Raises InputError for what is not a tag. An unknown tag falls back to a broader locale, in the end
    the root, and says so by `exact`.
    """
    if not WELL_FORMED.fullmatch(tag) or len(tag) > 40:
        raise InputError(
            "unknown-locale",
            Fault("locale", f'"{tag[:40]}" is not a language tag.', "Write one such as en-IN."),
        )
    written = canonical(tag)
    if written in tags():
        return Resolved(tag, written, True)
    language, script, region, rest = _subtags(written)
    full = _likely(language, script, region)
    for candidate in _candidates(*full, rest):
        if candidate in tags():
            return Resolved(
                tag, candidate, written in shared()["default"] or _only_default(written, candidate)
            )
    return Resolved(tag, ROOT, False)


def canonical(tag: str) -> str:
    """A tag in CLDR's spelling, with deprecated subtags replaced: iw_il becomes he-IL."""
    parts = tag.replace("_", "-").split("-")
    parts = [
        part.lower() if n == 0 else part.title() if len(part) == 4 and part.isalpha() else part.upper()
        for n, part in enumerate(parts)
    ]
    data = shared()
    language = data["languages"].get("-".join(parts)) or data["languages"].get(parts[0])
    if language and "-".join(parts) in data["languages"]:
        return str(language)
    if language and "-" not in language:
        parts[0] = language
    return "-".join(data["territories"].get(part, part) if n else part for n, part in enumerate(parts))


def name_of(tag: str) -> str:
    """What a locale is called: "English, India"."""
    names: dict[str, dict[str, str]] = shared()["names"]
    language, script, region, rest = _subtags(canonical(tag))
    found = [names["languages"].get(language, language)]
    if script:
        found.append(names["scripts"].get(script, script))
    if region:
        found.append(names["territories"].get(region, region))
    found += [names["variants"].get(part, part) for part in rest]
    return ", ".join(found)


def _subtags(tag: str) -> tuple[str, str, str, list[str]]:
    language, *others = tag.split("-")
    script = others.pop(0) if others and len(others[0]) == 4 and others[0].isalpha() else ""
    region = others.pop(0) if others and re.fullmatch("[A-Z]{2}|[0-9]{3}", others[0]) else ""
    return language, script, region, others


def _likely(language: str, script: str, region: str) -> tuple[str, str, str]:
    """The subtags with those that are likely put in where they are left out."""
    known: dict[str, Any] = shared()["likely"]
    for key in ((language, script, region), (language, region), (language, script), (language,)):
        found = known.get("-".join(part for part in key if part))
        if found:
            own = found.split("-")
            return language, script or own[1], region or own[2]
    return language, script, region


def _candidates(language: str, script: str, region: str, rest: list[str]) -> list[str]:
    wanted = [
        [language, script, region, *rest],
        [language, region, *rest],
        [language, script, region],
        [language, script],
        [language, region],
        [language],
    ]
    if script and _likely(language, "", "")[1] not in ("", script):
        # Another script than the language's own is not read by the language's data.
        wanted = [each for each in wanted if script in each]
    return ["-".join(part for part in each if part) for each in wanted]


def _only_default(tag: str, data: str) -> bool:
    """Whether the tag says no more than its data's locale does by default: en-Latn-US is en."""
    return _likely(*_subtags(data)[:3]) == _likely(*_subtags(tag)[:3])


def readers_tag(asked: str | None, accepted: str | None) -> str | None:
    """The language of a reader: the tag asked for, or the first of those a browser accepts (RFC 9110,
    Accept-Language) that there is data for; None where there is none."""
    ranked = []
    for number, part in enumerate((accepted or "")[:500].split(",")):
        tag, _, quality = part.strip().partition(";q=")
        share = quality.strip() or "1"
        if re.fullmatch(r"[01](\.\d{1,3})?", share):
            ranked.append((share.ljust(5, "0") if "." in share else f"{share}.000", -number, tag))
    for tag in ([asked] if asked else []) + [
        tag for share, _, tag in sorted(ranked, reverse=True) if share > "0.000"
    ]:
        try:
            found = resolve(tag)
        except InputError:
            continue
        if found.data != ROOT:
            return tag
    return None
