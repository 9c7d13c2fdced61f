"""What words mean: phrases from data files, found in a text by one matcher.

A phrase counts where its entry says: anywhere, as the whole text, at its start, at its end (before a bracket,
a comma or nothing), or in the bracket that ends it. Texts are compared by their words, without case and with
compatible characters folded (Unicode NFKC); a sign of Chinese, Japanese, Korean or Thai is a word of its own,
as these put no spaces between theirs. A phrase within a longer one of the same
meaning, or of another thing, says nothing.
"""

from __future__ import annotations

import re
import tomllib
import unicodedata
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache
from importlib.resources import files
from typing import Any, Literal, NamedTuple, get_args

At = Literal["anywhere", "whole", "start", "end", "bracket"]
FILES = ("lines", "columns", "cells")
# Every meaning that a file may give to a phrase.
MEANINGS: dict[str, str] = {
    "total": "the name of a total",
    "memo": "part of the line above, which no total counts again",
    "begins_a_line": "begins a line of its own",
    "per_one": "an amount for one of something",
    "according_to": "according to something, and not for one",
    "per_time": "a rate by time or of a hundred, and not for one",
    "count": "a number of things",
    "carried_over": "carried to another page or year, and not by a ship",
    "countable": "things that are counted one by one",
    "countable_state": "what is said of things that are counted",
    "people": "people, counted in parts where they work part of the time",
    "ratio": "a price, rate or ratio",
    "small_money": "a hundredth of the currency",
    "of_one_share": "what is given for one share",
    "percent_word": "what fractions are called that print as percentages",
    "in_points": "a percentage that may stand without its sign",
    "rate_of": "a rate of something",
    "with_ending": "the end of a word for a rate",
    "for_shares": "amounts for one share, said of the lines below",
    "shares_counted": "how many shares there are",
    "dimension": "a length or a time, whose m is metres or minutes",
    "measure": "a measure of what is no money",
    "measure_or_scale": "a letter that is a measure or a scale",
    "result": "what is left of others",
    "kept": "what was left of years before",
    "opening": "where a movement begins",
    "notes": "the head of a column of notes",
    "units": "the head of a column of units",
    "currencies": "the head of a column of currencies",
    "sides": "the head of a column of debits and credits",
    "debit": "a debit",
    "credit": "a credit",
    "account_column": "the head of names of accounts",
    "account_number": "the head of numbers of accounts",
    "amount_column": "the head of amounts of entries",
    "balance_column": "the head of balances of accounts",
    "document_column": "the head of documents, vouchers and journals",
    "percent_alone": "percentages, and nothing else",
    "percent_head": "percentages",
    "per_each": "the head of amounts for one of something",
    "no_money": "a head that no amounts of money stand under",
    "one_of": "begins the head of amounts for one of something",
    "counted": "the head of numbers of things",
    "version": "amounts as planned, or as they came out",
    "line_or_account": "the head of codes or of labels",
    "codes": "the head of codes",
    "year_column": "the head of years",
    "part_column": "the head of months, quarters or weeks",
    "date_column": "the head of dates",
    "moves": "what may be a difference or a rate",
    "prior": "the period before",
    "leads": "leads up to what a unit is not of",
    "goes_on": "a word that no label ends with",
    "instead": "a text in place of a figure",
    "nil": "nothing",
    "missing": "no figure",
    "to_come": "no figure yet",
}


def _file(name: str) -> str:
    return (files("humble_sum.core.intake") / "words" / f"{name}.toml").read_text(encoding="utf-8")


# Letters with their marks, a sign of a script without spaces, a number, or any other sign.
SPACELESS = "\u0e00-\u0e7f\u3040-\u30ff\u3400-\u9fff\uac00-\ud7af"
TOKEN = re.compile(rf"[{SPACELESS}]|[^\W\d_{SPACELESS}]+|\d+|[^\w\s]")
BEFORE_MEASURES = frozenset(tomllib.loads(_file("scales"))["before_a_measure"].split())
OPENS, CLOSES, LEADS = frozenset("([{"), frozenset(")]}.:;"), frozenset("([{-–—•*·")
ENDS = frozenset("([{,:;–—-")


class Match(NamedTuple):
    """A phrase found in a text: what it means, the words it is, and those words' places."""

    meaning: str
    phrase: str
    start: int
    end: int


@dataclass(frozen=True)
class Entry:
    """A phrase of a file, as words, with what it means where."""

    words: tuple[str, ...]
    meaning: str
    at: At
    language: str


class BadVocabulary(ValueError):
    """A file of words that is not one: which, at which line, and what is wrong."""


def words_of(text: str) -> tuple[str, ...]:
    """The words and signs of a text, as they are compared."""
    return tuple(TOKEN.findall(unicodedata.normalize("NFKC", text).casefold()))


def read_entries(name: str, text: str) -> Iterator[Entry]:
    """The entries of a file. Raises BadVocabulary: an unknown meaning or place, or a phrase given twice."""
    seen: dict[tuple[str, str, tuple[str, ...]], str] = {}
    for meaning, places in tomllib.loads(text).items():
        if meaning not in MEANINGS:
            raise BadVocabulary(
                f"{name}, line {_line(text, f'[{meaning}.')}: no meaning is called {meaning}."
            )
        for at, languages in _tables(places):
            if at not in get_args(At):
                raise BadVocabulary(
                    f"{name}, line {_line(text, f'[{meaning}.{at}')}: nothing counts at “{at}”."
                )
            for language, phrases in languages.items():
                for phrase in (each.strip() for each in phrases.split("|")):
                    key = (meaning, at, words_of(phrase))
                    if key in seen and seen[key] == language:
                        where = _line(text, phrase, f"[{meaning}.{at}")
                        raise BadVocabulary(f"{name}, line {where}: “{phrase}” is there twice.")
                    if not key[2]:
                        where = _line(text, f"[{meaning}.{at}")
                        raise BadVocabulary(f"{name}, line {where}: a phrase is empty.")
                    if key not in seen:
                        yield Entry(key[2], meaning, at, language)
                    seen[key] = language


def _tables(places: Mapping[str, Any]) -> Iterator[tuple[Any, Mapping[str, str]]]:
    yield from places.items()


def _line(text: str, said: str, after: str = "") -> int:
    """The line of a file where something is said, the last time after something else."""
    start = text.find(after) if after else 0
    return text.count("\n", 0, max(text.rfind(said, max(start, 0)), 0)) + 1


@cache
def entries() -> dict[str, list[Entry]]:
    """Every entry by its first word, the longest first."""
    found: dict[str, list[Entry]] = {}
    for name in FILES:
        for entry in read_entries(f"{name}.toml", _file(name)):
            found.setdefault(entry.words[0], []).append(entry)
    for some in found.values():
        some.sort(key=lambda entry: -len(entry.words))
    return found


@cache
def phrases(meaning: str) -> frozenset[str]:
    """Every phrase of a meaning as the files write it, in small letters: for what is one whole text."""
    found = set()
    for name in FILES:
        told = tomllib.loads(_file(name)).get(meaning, {})
        found |= {
            p.strip().casefold() for of in told.values() for some in of.values() for p in some.split("|")
        }
    return frozenset(found)


@lru_cache(maxsize=50_000)
def matches(text: str) -> tuple[Match, ...]:
    """What the words of a text mean: every phrase that counts where it stands."""
    words = words_of(text)
    known = entries()
    found = []
    for start, word in enumerate(words):
        for entry in known.get(word, ()):
            end = start + len(entry.words)
            if words[start:end] == entry.words and _counts(entry.at, words, start, end):
                found.append(Match(entry.meaning, " ".join(entry.words), start, end))
    return tuple(match for match in found if not any(_within(match, other) for other in found))


# A longer name of these is another thing than the words in it: net debt / EBITDA is no net amount.
ANOTHER_THING = frozenset(
    (
        "ratio",
        "per_time",
        "according_to",
        "carried_over",
        "measure",
        "per_each",
        "for_shares",
        "no_money",
        "rate_of",
    )
)


def _within(one: Match, other: Match) -> bool:
    if one.meaning != other.meaning and other.meaning not in ANOTHER_THING:
        return False
    inside = other.start <= one.start and one.end <= other.end
    return inside and (one.end - one.start) < (other.end - other.start)


def _counts(at: At, words: Sequence[str], start: int, end: int) -> bool:
    before, after = words[:start], words[end:]
    if at == "anywhere":
        return True
    if at == "bracket":
        return _in_bracket(words, start, end)
    begins = all(word in LEADS for word in before)
    if at == "start":
        return begins
    if at == "whole":
        return all(word in LEADS | CLOSES for word in before) and all(word in CLOSES for word in after)
    pair = len(after) > 2 and after[1] in ":/" and len(after[0]) == len(after[2]) == 3
    return pair or not after or after[0] in ENDS or after[0] == "at" or all(word in CLOSES for word in after)


def _in_bracket(words: Sequence[str], start: int, end: int) -> bool:
    """Whether words are, but for a scale before them, what stands in the last bracket or behind the last
    comma."""
    last = len(words)
    while last > end and words[last - 1] in CLOSES:
        last -= 1
    first = start
    while first and words[first - 1] in BEFORE_MEASURES:
        first -= 1
    return last == end and first > 0 and (words[first - 1] in OPENS or words[first - 1] == ",")


@lru_cache(maxsize=50_000)
def meanings(text: str) -> frozenset[str]:
    """What the words of a text mean, without where."""
    return frozenset(match.meaning for match in matches(text))


def says(text: str, *wanted: str) -> bool:
    """Whether a text says any of these meanings."""
    return not meanings(text).isdisjoint(wanted)


def first_said(text: str, wanted: str) -> Match | None:
    """The first phrase of a text that has this meaning."""
    return next((match for match in matches(text) if match.meaning == wanted), None)
