"""Words for thousands, lakhs, millions and the like, as units are stated in many languages.

A few hundred come from the Unicode locale data, which say how every locale shortens numbers; the others are
spellings of books, and forms that these data do not have.
"""

from __future__ import annotations

import tomllib
from collections.abc import Collection
from functools import cache
from importlib.resources import files

from humble_sum.core.intake.lexicon import normal
from humble_sum.core.locales.data import tags
from humble_sum.core.printing.scaling import Length, sizes

SCALE_NAMES = {
    3: "thousands",
    4: "ten thousands",
    5: "lakhs",
    6: "millions",
    7: "crores",
    8: "hundred millions",
    9: "billions",
}
POWERS_BY_NAME = {"ones": 0} | {name: power for power, name in SCALE_NAMES.items()}
WORDS = tomllib.loads((files("humble_sum.core.intake") / "words/scales.toml").read_text(encoding="utf-8"))
SAID = {int(power): words for power, words in WORDS["said"].items()}
BESIDE_MONEY = {int(power): words for power, words in WORDS["beside_money"].items()}
POWERS = {word: power for power, words in SAID.items() for word in words.split()}
MONEY_POWERS = POWERS | {word: power for power, words in BESIDE_MONEY.items() for word in words.split()}
SHORTEST = 3  # letters of a word whose other endings are known by it
OPEN, THOUSANDS_IN, MILLIONS_IN = (
    frozenset(WORDS["open"][name].split()) for name in ("words", "thousands_in", "millions_in")
)


def power_of(word: str, currency: str | None = None, beside_money: bool = False) -> int | None:
    """The power of ten that a word says: 3 for "thousands". Beside money, words of all locales count, with
    whatever endings they have: "tysiącach" is thousands. None where it says none, or more than one."""
    word = word.lower()
    if not beside_money or word in POWERS:
        return POWERS.get(word)
    if word in OPEN:
        return 3 if currency in THOUSANDS_IN else 6 if currency in MILLIONS_IN else None
    if word in MONEY_POWERS:
        return MONEY_POWERS[word]
    known = words_of_locales()
    if word in known:
        return _only(known[word])
    return _by_its_beginning(word)


def may_be(word: str) -> int | None:
    """The least power of ten that a word says somewhere, and others elsewhere: what to ask of it."""
    word = word.lower()
    powers = {3} if word in OPEN else words_of_locales().get(word, set())
    return min(powers & SCALE_NAMES.keys(), default=None)


def _only(powers: Collection[int]) -> int | None:
    """The one power of ten among these, where it is one that figures are read in."""
    return next(iter(powers)) if len(powers) == 1 and max(powers) <= max(SCALE_NAMES) else None


@cache
def words_of_locales() -> dict[str, set[int]]:
    """Every word that the compact numbers of locales have, and the powers of ten that it says in any: a
    billion is nine in one, and twelve in another."""
    found: dict[str, set[int]] = {}
    lengths: tuple[Length, Length] = ("full", "short")
    for tag in sorted(tag for tag in tags() if "-" not in tag):
        for size in (size for length in lengths for size in sizes(tag, length)):
            for pattern in size.patterns.values():
                for word in _words(pattern):
                    found.setdefault(word, set()).add(size.power)
    return found


def _words(pattern: str) -> set[str]:
    """The word of a pattern, with and without its full stop and what binds it to its number."""
    word = normal(pattern.replace("{}", " ")).strip(" '\u2019").lower().removeprefix("de ")
    long_enough = len(word.rstrip(".")) >= SHORTEST or (word and not word[0].isascii())
    return {word, word.rstrip(".")} - {"", *OPEN} if long_enough else set()


def _by_its_beginning(word: str) -> int | None:
    """The power of the words that this is a form of: they share all letters but an ending."""
    most, powers = SHORTEST, set[int]()
    for known, said in (words_of_locales() | {word: {power} for word, power in MONEY_POWERS.items()}).items():
        shared = next((n for n, (a, b) in enumerate(zip(known, word, strict=False)) if a != b), None)
        shared = min(len(known), len(word)) if shared is None else shared
        if shared < max(4, len(known) - 2) or len(word) - shared > 6 or shared < most:
            continue
        if shared > most:
            most, powers = shared, set()
        powers |= said
    return _only(powers)
