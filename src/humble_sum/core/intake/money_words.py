"""Currencies as statements of a unit call them, put into codes: "Canadian dollars", "tys. zł", "RM'000"."""

from __future__ import annotations

import re
import tomllib
from functools import cache
from importlib.resources import files

from humble_sum.core.intake.scale_words import power_of
from humble_sum.core.locales import currencies, locale

SOME = "\u00a4"  # the sign of a currency that is not named: pesos, francs, dollars of somewhere
WORDS = tomllib.loads((files("humble_sum.core.intake") / "words/currencies.toml").read_text(encoding="utf-8"))
# Names and short names; a scale that is one word with them is put beside them.
CALLED = tuple((re.compile(pattern, re.IGNORECASE), said) for pattern, said in WORDS["called"])
AS_WRITTEN = tuple((re.compile(pattern), said) for pattern, said in WORDS["as_written"])
NOUN, WITH_A_POINT = WORDS["noun"], frozenset(WORDS["with_a_point"].split())
# What stands before money of no one land may say whose it is, and is not needed.
OWNED = re.compile(rf"\b(?:([A-Z]\w+) (?:(?:and|&) [A-Z]\w+ )?)?(?:{NOUN})\b(?: (?:{WORDS['owned_after']}))?")
PLAIN_NOUN = re.compile(rf"\b(?:{NOUN})\b|(?<!\w){WORDS['noun_bent']}(?!\w)", re.IGNORECASE)
# A scale in one word with a code: kSEK, TCHF, MNOK, USDm.
BEFORE, AFTER = WORDS["one_word_before"], WORDS["one_word_after"]
GLUED = re.compile(rf"\b({'|'.join(BEFORE)})\.? ?([A-Z]{{3}})\b|\b([A-Z]{{3}})({'|'.join(AFTER)})\b")


def with_codes(text: str) -> str:
    """The text with every currency it calls by a name or an uncommon sign called by its code, or by the
    sign of some currency where the name is that of several."""
    text = GLUED.sub(_apart, text)
    for called, code in AS_WRITTEN:
        text = called.sub(code, text)
    names = _english_names()
    text = names.sub(lambda found: f"{_codes()[found[0].lower()]} ", text)
    for called, code in CALLED:
        text = called.sub(code, text)
    return PLAIN_NOUN.sub(SOME, OWNED.sub(_some, text))


def _some(found: re.Match[str]) -> str:
    """Whoever's money it is, but not the scale that stands before it: "Thousand pesos"."""
    scale = found[1] is not None and power_of(found[1], beside_money=True) is not None
    return f"{found[1]} {SOME}" if scale else SOME


def _apart(found: re.Match[str]) -> str:
    code, scale = (found[2], BEFORE[found[1]]) if found[2] else (found[3], AFTER[found[4]])
    return f"{code} {scale}" if currencies.known(code) else found[0]


@cache
def _codes() -> dict[str, str]:
    """The English names of currencies that say whose they are, in small letters, and their codes."""
    names: dict[str, str] = {}
    for code, (_, _, name, forms) in sorted(locale("en").currencies.items()):
        for each in (name, *forms.values()):
            if " " in each and "(" not in each:
                names.setdefault(each.lower(), code)
    return names


@cache
def _english_names() -> re.Pattern[str]:
    longest_first = sorted(_codes(), key=lambda name: (-len(name), name))
    return re.compile(rf"\b(?:{'|'.join(map(re.escape, longest_first))})\b", re.IGNORECASE)
