"""Which figures of a pack the numbers of a sentence are: by words, periods, units and amounts, taken
together.

Everything that speaks for a figure is weighed in bits, as in intake: how much of its label is said and
how near, which period is named, what the number is counted in, and how unlikely it is that the number is
the figure's by chance. A number that is near a figure's in the way that slips are (a digit, two digits
exchanged, a scale) is that figure gone wrong, where words name it.
"""

from __future__ import annotations

import math
import re
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.documents.judgement import at_unit
from humble_sum.core.documents.measures import Meaning, Meanings
from humble_sum.core.documents.naming import LETTERS, STEM, Column, Line, Names, meets, periods_said
from humble_sum.core.documents.numbers import Number
from humble_sum.core.documents.words import forms, last_said, pattern

SENTENCE = re.compile(r"(?<=[.!?;।])\s+(?=[^\W\d_])|(?<=\n)")
SURE, POSSIBLE, APART = 8.0, 5.0, 1.5  # bits for a figure, for one in doubt, and between two
NEAR, FAR_WORDS = 24, 40  # words within which a label names a number, and beyond the sentence
LOOSE = 4  # more words than its own over which the words of a label may be spread
OF_DIGIT = math.log2(10)
LEAST_SAID = 0.5  # share of a label that has to be said
MOST_PAIRED, LEAST_OF_RATIO = 6, 3  # lines taken in pairs, and digits that a ratio of them needs
SLIP, CLOSE, APPROACHING, ELSE = 3.0, 0.5, -1.5, -7.0  # bits of amounts that differ, by how


@dataclass(frozen=True)
class Weighed:
    """What a number may be, with its bits and what speaks for it; `same` where the amount is the figure's."""

    meaning: Meaning
    bits: float
    same: bool
    because: tuple[str, ...]


@dataclass(frozen=True)
class Said:
    """A sentence with where its words stand: each stem with its places, in words from the start."""

    start: int
    text: str
    stems: dict[str, list[int]]
    ends: list[int]

    def word_at(self, place: int) -> int:
        """How many words stand before a character of the paragraph."""
        at = place - self.start
        return sum(1 for end in self.ends if end <= at)


def sentences(text: str) -> Iterator[Said]:
    """The sentences of a paragraph."""
    at = 0
    for piece in SENTENCE.split(text):
        start = text.find(piece, at)
        at = start + len(piece)
        found: dict[str, list[int]] = defaultdict(list)
        ends = []
        for n, match in enumerate(LETTERS.finditer(piece)):
            word = match.group().lower()
            ends.append(match.end())
            if word not in forms("empty"):
                found[word[:STEM] if len(word) > STEM else word.removesuffix("s")].append(n)
        yield Said(start, piece, found, ends)


def weigh_sentence(
    said: Said, numbers: Sequence[Number], topic: Sequence[str], meanings: Meanings
) -> list[list[Weighed]]:
    """For each number of a sentence what it may be, the likeliest first. `topic` are the words of the heading
    and sentence before, which count for less."""
    names = meanings.names
    lines = _lines(said, topic, names)
    found = [_weighed(said, number, lines, meanings, frozenset()) for number in numbers]
    settled = {each[0].meaning.figure[:2] for each in found if each and each[0].same and each[0].bits >= SURE}
    if not settled:
        return found
    return [_weighed(said, number, lines, meanings, frozenset(settled)) for number in numbers]


def _lines(said: Said, topic: Sequence[str], names: Names) -> dict[tuple[str, str], tuple[Line, float]]:
    """The lines that a sentence names, each with the share of its label; what only the topic says counts a
    half."""
    here, around = set(said.stems), set(topic)
    shares = {}
    for line, share in names.named(here | around):
        own = sum(names.bits[word] for word in set(line.words) if word in here)
        half = sum(names.bits[word] for word in set(line.words) if word in around and word not in here) / 2
        share = (own + half) / line.weight if line.weight else 0.0
        if share >= LEAST_SAID:
            shares[line.statement, line.id] = (line, share)
    return shares


def _weighed(
    said: Said,
    number: Number,
    lines: dict[tuple[str, str], tuple[Line, float]],
    meanings: Meanings,
    settled: frozenset[tuple[str, str]],
) -> list[Weighed]:
    same = {id(m): m for m in meanings.at(number.amount, number.exponent) if _may_be(number, m)}
    same |= {id(m): m for m in _between(number, lines, meanings)}
    every = list(same.values())
    for key in lines:
        every += [m for m in meanings.by_line[key] if id(m) not in same and _may_be(number, m)]
    alike = len({m.figure[:2] for m in same.values()})
    few = max(2, sum(len(meanings.by_line[key]) for key in lines))
    weighed = []
    for meaning in every:
        is_same = id(meaning) in same
        among = few if meaning.figure[:2] in lines else meanings.count
        weighed.append(_bits(said, number, meaning, is_same, (alike, among), lines, meanings, settled))
    weighed.sort(key=lambda each: -each.bits)
    return weighed[:6]


def _between(
    number: Number, lines: dict[tuple[str, str], tuple[Line, float]], meanings: Meanings
) -> Iterator[Meaning]:
    """The ratios and sums of two lines that are named, where the number is one; those are never gone
    wrong."""
    likely = sorted(lines, key=lambda key: -lines[key][1])[:MOST_PAIRED]
    if number.significant < LEAST_OF_RATIO or number.form == "percent":
        return
    for one in likely:
        for other in likely:
            if one == other or one[0] != other[0]:
                continue
            for column in meanings.names.columns[one[0]]:
                if column.derived or column.months < 12:
                    continue
                for meaning in meanings.between((*one, column.id), (*other, column.id)):
                    right = (at_unit(amount, number.exponent) for amount in meaning.amounts)
                    if number.amount.copy_abs() in right:
                        yield meaning


def _may_be(number: Number, meaning: Meaning) -> bool:
    """Whether a number of this form can be the measure at all."""
    relative = meaning.measure in ("change_percent", "share")
    if number.form == "amount":
        return not relative
    if number.form == "percent":
        return relative or meaning.measure == "figure"
    return meaning.measure == "figure"


def _bits(
    said: Said,
    number: Number,
    meaning: Meaning,
    same: bool,
    chance: tuple[int, int],
    lines: dict[tuple[str, str], tuple[Line, float]],
    meanings: Meanings,
    settled: frozenset[tuple[str, str]],
) -> Weighed:
    names, because = meanings.names, []
    bits = _of_amount(number, meaning, same, chance)
    if same:
        because.append("its amount is the one that the pack has")
    key = meaning.figure[:2]
    if key in lines:
        line, share = lines[key]
        label, distance = _of_label(said, number, line, share)
        bits += label
        because.append(f"“{line.label}” stands {distance} {'word' if distance == 1 else 'words'} away")
    else:
        bits -= 2.0
    bits += _of_period(said, number, meaning, names, because)
    bits += _of_unit(number, meaning, names)
    bits += _of_measure(said, number, meaning, because)
    if key in settled:
        bits += 3.0
        because.append("another number of the sentence is of the same line")
    return Weighed(meaning, bits, same, tuple(because))


def _of_amount(number: Number, meaning: Meaning, same: bool, chance: tuple[int, int]) -> float:
    """How unlikely it is that a number is a figure's by chance: by its digits, and by how many have the same
    amount and how many are looked among; or how it may have gone wrong."""
    if same:
        alike, among = chance
        bits = OF_DIGIT * number.significant - math.log2(among) - math.log2(max(1, alike))
        return min(12.0, max(-1.0, bits) + 3.0)
    return max(_of_slip(number, amount) for amount in meaning.amounts)


def _of_slip(number: Number, amount: Decimal) -> float:
    """The bits of an amount that differs: as slips of the pen do, by little, or in every way."""
    right = at_unit(amount, number.exponent).copy_abs()
    said = number.amount.copy_abs()
    one, other = (str(int(each.scaleb(-number.exponent))) for each in (said, right))
    if not right or not said:
        return ELSE
    if one.rstrip("0") == other.rstrip("0"):
        return SLIP  # another scale
    if len(one) == len(other):
        apart = [n for n, (a, b) in enumerate(zip(one, other, strict=True)) if a != b]
        exchanged = len(apart) == 2 and apart[1] == apart[0] + 1 and sorted(one) == sorted(other)
        if len(apart) == 1 or exchanged:
            return SLIP
    if abs(len(one) - len(other)) == 1 and len(min(one, other, key=len)) >= 3:
        short, long = sorted((one, other), key=len)
        if any(long[:n] + long[n + 1 :] == short for n in range(len(long))):
            return SLIP
    share = abs(said - right) / right
    if abs(int(one) - int(other)) <= 2:
        return SLIP
    return CLOSE if share <= Decimal("0.05") else APPROACHING if share <= Decimal("0.3") else ELSE


def _of_label(said: Said, number: Number, line: Line, share: float) -> tuple[float, int]:
    """What a label near a number says of it, and how many words away it stands. Words that stand far from one
    another say less."""
    at = said.word_at(number.start)
    nearest = [
        min(places, key=lambda n: at - n if n < at else 2 * (n - at + 1))
        for word in set(line.words)
        if (places := said.stems.get(word))
    ]
    if not nearest:
        return 0.35 * min(14.0, 0.7 * line.weight * share * share), FAR_WORDS
    distance = min(at - n if n < at else 2 * (n - at + 1) for n in nearest)
    spread = max(nearest) - min(nearest) + 1
    loose = 1.0 if spread <= len(line.words) + LOOSE else 0.6
    near = 1.0 if distance <= 8 else 0.8 if distance <= NEAR else 0.5
    return min(14.0, 0.7 * line.weight * share * share) * near * loose, distance


def _of_period(said: Said, number: Number, meaning: Meaning, names: Names, because: list[str]) -> float:
    statement, _, id = meaning.figure
    column = next(each for each in names.columns[statement] if each.id == id)
    if column.derived:
        return -1.0
    at = number.start - said.start
    named = [(place, key) for place, key in periods_said(said.text) if place <= at]
    if named and at - named[-1][0] <= 60:
        place, key = named[-1]
        near = at - place <= 16
        if meets(key, column):
            because.append(f"{key} is named before it")
            return 5.0 if near else 3.0
        return -6.0 if near else -2.0
    behind = [(place, key) for place, key in periods_said(said.text[at : at + 48])]
    if behind and not named:
        return 3.0 if meets(behind[0][1], column) else -2.0
    ago = last_said("before", said.text[:at])
    later = pattern("before").search(said.text, at, at + 40)
    if ago >= 0 or later:
        return 3.0 if not column.current else -2.0
    return _usual(column)


def _usual(column: Column) -> float:
    """Where no period is named, the one that is reported is meant."""
    return 2.0 if column.current else -1.5 if column.months == 12 else -3.0


def _of_unit(number: Number, meaning: Meaning, names: Names) -> float:
    figure = names.figure(meaning.figure)
    if meaning.measure in ("change_percent", "share"):
        return 1.0
    if meaning.measure == "ratio":
        return 0.0 if number.currency is None else -2.0
    if number.form == "percent" or figure.clauses.form != "amount":
        return 2.0 if (number.form == "percent") == (figure.clauses.form == "percent") else -8.0
    if number.currency is not None:
        return 1.5 if figure.money else -8.0
    if figure.money:
        return 0.0 if number.scaled else -2.0
    return 1.0


def _of_measure(said: Said, number: Number, meaning: Meaning, because: list[str]) -> float:
    """What the words before a number say of change and share."""
    head = said.text[: number.start - said.start]
    tail = said.text[number.end - said.start : number.end - said.start + 40]
    moved = max(last_said("rise", head[-70:]), last_said("fall", head[-70:])) >= 0
    moved_after = bool(pattern("rise").search(tail) or pattern("fall").search(tail))
    by = bool(re.search(rf"(?:^|\s)(?:{'|'.join(map(re.escape, forms('by')))})\s*\W*$", head, re.IGNORECASE))
    shared = bool(pattern("share").search(head[-60:]) or pattern("share").search(tail[:24]))
    if meaning.measure in ("change", "change_percent"):
        if (moved and by) or (moved_after and not by) or (moved and meaning.measure == "change_percent"):
            because.append("the words before it tell of a change")
            return 3.0
        return -4.0
    if meaning.measure == "share":
        return 2.0 if shared else -3.0
    if meaning.measure in ("ratio", "sum"):
        return -1.0
    if moved and by and number.form == "amount":
        return -3.0
    return -2.0 if number.form == "percent" and moved and by else 0.0
