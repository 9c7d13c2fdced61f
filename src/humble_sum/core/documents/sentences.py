"""The sentences of a document, and what their words say of each number: its period, a change, a share."""

from __future__ import annotations

import re
from bisect import bisect_right
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from itertools import pairwise

from humble_sum.core.documents.naming import STEM, TOKENS, periods_said
from humble_sum.core.documents.numbers import Number
from humble_sum.core.documents.word_forms import forms, last_said, pattern

SENTENCE = re.compile(r"(?<=[.!?;।])\s+(?=[^\W\d_])")
BRACKETS = re.compile(r"\([^()]*\)|\[[^\[\]]*\]")
BEHIND = re.compile(r"[^\d().;:]{0,14}(?:19|20)\d\d(?:\s?[-–/]\s?\d{2,4})?(?!\s?:)")  # a period right behind
OTHER_NUMBER = re.compile(r"\d[\d.,]*\s?(?:%|[^\W\d_]|€|£)|[€£₹$]\s?\d")
NUMBER_NEXT = re.compile(r"\W*(?:\w+\W+)?[€£₹$]?\s?\d")
NEXT_WORD = re.compile(r"\s([^\W\d_]+)")
LONGEST = 1_200  # characters
BULLETS = ("-", "–", "—", "•", "*", "▪", "◦", "·")
FULL = 0.85  # of the widest line, in letters: from there on a line is full, as letters differ in width
SHORT_LINE = 40  # characters; shorter lines are ended on purpose, but where a small letter goes on
BEFORE = "the year before"
RIGHT_BEFORE, RIGHT_BEHIND = 16, 34  # characters
Strength = tuple[float, float]
STRONG, WEAK, TAKEN = (6.0, -8.0), (4.0, -6.0), (1.5, -2.0)  # bits for a column that fits, and for others


@dataclass(frozen=True)
class Said:
    """A sentence with where its words stand: each stem with its places, in words from the start; and the one
    period that its paragraph named before it, outside of brackets."""

    start: int
    text: str
    stems: dict[str, list[int]]
    ends: list[int]
    period: str

    def word_at(self, place: int) -> int:
        """How many words stand before a character of the paragraph."""
        return bisect_right(self.ends, place - self.start)


@dataclass(frozen=True)
class Around:
    """What the words around a number say. `words` is how many stand before it and up to its end. The
    period that it is of and how strongly; whether they tell of a rise or fall before or after it, that
    it is by how much, of a share, of a margin, of growth over several years, or of so much for each of
    something; the word that says it was planned; whether it is said to be inexact; and the word right behind
    it."""

    words: tuple[int, int]
    period: str
    strength: Strength
    moved: bool
    moved_after: bool
    by: bool
    shared: bool
    margin: bool
    compound: bool
    for_each: bool
    planned: str
    about: bool
    next_word: str


def sentences(text: str) -> Iterator[Said]:
    """The sentences of a paragraph. One that goes on and on, as a list of numbers does, is cut in pieces."""
    named: set[str] = set()
    for start, piece in _pieces(text):
        found: dict[str, list[int]] = defaultdict(list)
        ends = []
        for n, match in enumerate(TOKENS.finditer(piece)):
            word = match.group().lower()
            ends.append(match.end())
            if word not in forms("empty"):
                found[word[:STEM] if len(word) > STEM else word.removesuffix("s")].append(n)
        yield Said(start, piece, found, ends, min(named) if len(named) == 1 else "")
        named |= {key for _, key in periods_said(BRACKETS.sub(" ", piece))}


def _pieces(text: str) -> Iterator[tuple[int, str]]:
    ends = sorted({found.end() for found in SENTENCE.finditer(text)} | {*_line_ends(text)} | {len(text)})
    start = 0
    for end in ends:
        while end - start > LONGEST:
            cut = max(text.rfind(" ", start, start + LONGEST), text.rfind("\n", start, start + LONGEST))
            cut = cut + 1 if cut > start else start + LONGEST
            yield start, text[start:cut]
            start = cut
        yield start, text[start:end]
        start = end


def _line_ends(text: str) -> Iterator[int]:
    """Where a line of a paragraph was ended on purpose: the first word of the next would have found room,
    or begins an item of a list."""
    lines = text.splitlines(keepends=True)
    widest = max((len(line.rstrip()) for line in lines), default=0)
    at = 0
    for line, following in pairwise(lines):
        at += len(line)
        word = following.split(maxsplit=1)[:1] or [""]
        needed = len(line.rstrip()) + 1 + len(word[0])
        narrow = widest < SHORT_LINE and not word[0][:1].islower()
        if narrow or needed <= FULL * widest or word[0] in BULLETS:
            yield at


def around(said: Said, number: Number) -> Around:
    """What the words of a sentence say of one of its numbers."""
    head = said.text[: number.start - said.start]
    tail = said.text[number.end - said.start : number.end - said.start + 40]
    # A change that another number told is not told again by an amount.
    since = re.split(r"\d", head)[-1] if number.form == "amount" else head[-70:]
    moved = max(last_said("rise", since), last_said("fall", since)) >= 0
    right_before = bool(pattern("rise").search(head[-12:]) or pattern("fall").search(head[-12:]))
    period, strength = _governing(said, number, bool(OTHER_NUMBER.search(head)))
    of = _begins_with("part_of").match(tail) if number.form == "percent" else None
    part = of is not None and not any(_begins_with(way).match(tail[of.end() :]) for way in ("rise", "fall"))
    return Around(
        words=(said.word_at(number.start), said.word_at(number.end)),
        period=period,
        strength=strength,
        moved=moved and not part,
        moved_after=_moves_it(tail),
        by=(right_before or bool(_ends_with("by").search(head[-12:])))
        and not _ends_with("to").search(head[-12:]),
        shared=part or bool(pattern("share").search(head[-60:]) or pattern("share").search(tail[:24])),
        margin=number.form == "percent" and bool(pattern("margin").search(head[-60:])),
        compound=bool(pattern("compound").search(head[-60:] + tail)),
        for_each=bool(_begins_with("for_each").match(tail)),
        planned=_said_last("planned", re.split(r"\d", head)[-1][-40:]),
        about=bool(pattern("about").search(head[-24:])),
        next_word=_next_word(tail),
    )


def _said_last(meaning: str, text: str) -> str:
    """The last word of a meaning in a text, in small letters; nothing where there is none."""
    return next((found.group().lower() for found in reversed([*pattern(meaning).finditer(text)])), "")


def _moves_it(tail: str) -> bool:
    """Whether a rise or fall is told behind a number, that is not told of another number behind it."""
    found = pattern("rise").search(tail) or pattern("fall").search(tail)
    return found is not None and not NUMBER_NEXT.match(tail[found.end() :])


def _next_word(tail: str) -> str:
    """The stem of the word right behind a number; nothing where a mark or an empty word stands there."""
    found = NEXT_WORD.match(tail)
    word = found[1].lower() if found else ""
    if not word or word in forms("empty"):
        return ""
    return word[:STEM] if len(word) > STEM else word.removesuffix("s")


@cache
def _begins_with(meaning: str) -> re.Pattern[str]:
    """What begins with words of a meaning, right behind a number."""
    every = "|".join(map(re.escape, sorted(forms(meaning), key=len, reverse=True)))
    return re.compile(rf"\s*(?:{every})(?!\w)", re.IGNORECASE)


@cache
def _ends_with(meaning: str) -> re.Pattern[str]:
    """What ends with a word that leads up to a number: by how much, or to what."""
    every = "|".join(map(re.escape, forms(meaning)))
    return re.compile(rf"(?:^|\s)(?:{every})\s*\W*$", re.IGNORECASE)


def _governing(said: Said, number: Number, compared: bool) -> tuple[str, Strength]:
    """The period that a number is of, as the sentence says it, and how strongly; nothing where it says
    none. `compared` says that another number stands before it, with which it may be compared."""
    at, end = number.start - said.start, number.end - said.start
    closed = [(found.start(), found.end()) for found in BRACKETS.finditer(said.text[:at])]
    named = [(place, key) for place, key in periods_said(said.text) if place <= at]
    named += [(found.end(), BEFORE) for found in pattern("before").finditer(said.text[:at])]
    named = [each for each in named if not any(start < each[0] <= stop for start, stop in closed)]
    named.sort()
    tail = said.text[end : end + RIGHT_BEHIND]
    behind = BEHIND.match(tail)
    if behind and (period := next(iter(periods_said(behind.group())), None)):
        return period[1], STRONG
    if named and at - named[-1][0] <= RIGHT_BEFORE and not _numbers_between(said, named[-1][0], at):
        return named[-1][1], TAKEN if _is_anothers(said, named[-1][0]) else STRONG
    ago = pattern("before").search(tail)
    if ago and not any(c.isdigit() or c in "(,;:" for c in tail[: ago.start()]):
        return BEFORE, STRONG
    if compared and _ends_with("compared").search(said.text[max(0, at - 24) : at]):
        return BEFORE, WEAK
    if not named:
        return "", WEAK
    place, key = named[-1]
    return key, TAKEN if _numbers_between(said, place, at) else WEAK


def _is_anothers(said: Said, place: int) -> bool:
    """Whether a period that ends here stands right behind another number, and is of that one."""
    before = [found for found in OTHER_NUMBER.finditer(said.text[:place]) if found.end() <= place]
    if not before:
        return False
    behind = BEHIND.match(said.text[before[-1].end() : place])
    return behind is not None and before[-1].end() + behind.end() == place


def _numbers_between(said: Said, start: int, end: int) -> bool:
    """Whether another number stands between two places of a sentence, and takes the period before it."""
    return bool(OTHER_NUMBER.search(said.text[start:end]))
