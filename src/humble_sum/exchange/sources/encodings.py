"""Which of the older encodings a text is in, told by its letters.

Each way to decode a text makes other letters of its bytes. How usual these are, in statements and in the
names of currencies of the languages that used the encoding, is evidence in bits; what no way explains well is
not guessed.
"""

from __future__ import annotations

import math
import re
import tomllib
import unicodedata
from collections import Counter
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from humble_sum.core.locales import locale

# The encodings of each group of languages: of Windows first, then of mail and the web.
ENCODINGS: dict[str, tuple[str, ...]] = {
    "western": ("cp1252", "iso8859_15"),
    "central": ("cp1250", "iso8859_2"),
    "baltic": ("cp1257",),
    "cyrillic": ("cp1251", "koi8_r", "iso8859_5"),
    "greek": ("cp1253", "iso8859_7"),
    "turkish": ("cp1254",),
    "simplified": ("gb18030",),
    "traditional": ("big5",),
    "japanese": ("cp932", "euc_jp"),
    "korean": ("cp949",),
}
NAMES = {
    "cp1252": "Western European",
    "iso8859_15": "Western European (ISO 8859-15)",
    "cp1250": "Central European",
    "iso8859_2": "Central European (ISO 8859-2)",
    "cp1257": "Baltic",
    "cp1251": "Cyrillic",
    "koi8_r": "Cyrillic (KOI8)",
    "iso8859_5": "Cyrillic (ISO 8859-5)",
    "cp1253": "Greek",
    "iso8859_7": "Greek (ISO 8859-7)",
    "cp1254": "Turkish",
    "gb18030": "Simplified Chinese (GB 18030)",
    "big5": "Traditional Chinese (Big5)",
    "cp932": "Japanese (Shift JIS)",
    "euc_jp": "Japanese (EUC)",
    "cp949": "Korean",
}
WORD = re.compile(r"[^\s\d;,|]+")
LOOKED_AT = 200_000  # bytes
LEAST_BITS = 6.0  # that the best way has before the next one that reads otherwise
MOST_BITS = 12.5  # a letter, on average, beyond which no way explains a text
USUAL = 2.0  # most texts that are no UTF-8 are Western European
UNSEEN = 14.0  # bits of a letter that no text of a language has
# Dashes, quotation marks, spaces and signs of money, which every language has.
SIGNS = frozenset("\u00a0–—‘’“”„…•°§€£¥«»·±½²³№´×\u202f、。（）：，「」％－・")
SIGN_BITS = 6.0


@dataclass(frozen=True)
class Told:
    """A text as one encoding makes it, and how many bits its letters take: fewer is likelier."""

    encoding: str
    text: str
    bits: float

    @property
    def name(self) -> str:
        return NAMES[self.encoding]


def ways_to_read(data: bytes) -> list[Told]:
    """Every way to read bytes that are no UTF-8, the likeliest first; those that read the same once."""
    found: dict[str, Told] = {}
    for group, encodings in ENCODINGS.items():
        for encoding in encodings:
            try:
                text = data.decode(encoding)
            except UnicodeDecodeError:
                continue
            usual = USUAL if group == "western" else 0.0
            told = Told(encoding, text, _bits(_words_of(text), group) - usual)
            if text not in found or told.bits < found[text].bits:
                found[text] = told
    return sorted(found.values(), key=lambda each: each.bits)


def is_sure(ways: list[Told]) -> bool:
    """Whether the first way explains a text well, and beyond doubt better than every other."""
    if not ways:
        return False
    best = ways[0]
    letters = sum(not letter.isascii() for letter in _words_of(best.text))
    well = best.bits <= MOST_BITS * letters
    return well and (len(ways) == 1 or ways[1].bits - best.bits >= LEAST_BITS)


def _words_of(text: str) -> str:
    """The words of a text, each once: the same one again says nothing new, whatever number stands by it."""
    return " ".join(dict.fromkeys(WORD.findall(text[:LOOKED_AT])))


def sample(told: Told, other: Told) -> str:
    """The first word of a text that another way to read it makes something else of."""
    for ours, theirs in zip(told.text.split(), other.text.split(), strict=False):
        if ours != theirs:
            return ours[:40]
    return told.text.strip()[:40]


def _bits(text: str, group: str) -> float:
    """How many bits the letters of a text beyond ASCII take in the one language of a group that has most of
    them: no text mixes the letters of several."""
    count = Counter(letter for letter in text if not letter.isascii())
    bits = min(
        sum(
            number * (SIGN_BITS if letter in SIGNS else model.get(letter.casefold()[:1], UNSEEN))
            for letter, number in count.items()
        )
        for model in _models(group)
    )
    # A capital letter within a word, or a sign between two letters, is of another encoding.
    return bits + UNSEEN * sum(_is_odd(text, at) for at in range(1, len(text) - 1) if not text[at].isascii())


def _is_odd(text: str, at: int) -> bool:
    before, letter, after = text[at - 1], text[at], text[at + 1]
    if before.islower() and letter.isupper():
        return True
    # No word mixes Latin letters with those of another script.
    if letter.isalpha() and not unicodedata.name(letter, "").startswith(("LATIN", "FEMININE", "MASCULINE")):
        return (before.isascii() and before.isalpha()) or (after.isascii() and after.isalpha())
    return before.isalpha() and after.isalpha() and not letter.isalpha() and letter not in "’´·"


@cache
def _models(group: str) -> list[dict[str, float]]:
    """The bits of each letter beyond ASCII, for each language of a group: rarer ones take more."""
    told = tomllib.loads((files("humble_sum.exchange.sources") / "letters.toml").read_text(encoding="utf-8"))
    languages = told[group]["languages"].split()
    words = Counter(_beyond(told[group]["words"]))
    found = []
    for tag in languages:
        named = Counter(_beyond(" ".join(name for _, _, name, _ in locale(tag).currencies.values())))
        # What is said of money and lines counts more often than the names of far currencies.
        alone = len(languages) == 1
        known = named + Counter({c: 3 * count for c, count in words.items() if alone or c in named})
        total = sum(known.values()) + 1
        found.append({letter: min(math.log2(total / count), UNSEEN - 1) for letter, count in known.items()})
    return found


def _beyond(text: str) -> list[str]:
    """The letters of a text beyond ASCII, without case."""
    return [letter.casefold()[:1] for letter in text if not letter.isascii() and letter.isalpha()]
