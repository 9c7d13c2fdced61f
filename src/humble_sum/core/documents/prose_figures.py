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
from dataclasses import dataclass, replace
from decimal import Decimal

from humble_sum.core.documents.judgement import at_unit
from humble_sum.core.documents.measures import Meaning, Meanings
from humble_sum.core.documents.naming import LETTERS, STEM, Column, Line, Names, meets, periods_said
from humble_sum.core.documents.numbers import Number
from humble_sum.core.documents.words import forms, last_said, pattern

BRACKETS = re.compile(r"\([^()]*\)|\[[^\[\]]*\]")
BEHIND = re.compile(r"[^\d().;:]{0,14}(?:19|20)\d\d(?:\s?[-–/]\s?\d{2,4})?(?!\s?:)")  # a period right behind
SENTENCE = re.compile(r"(?<=[.!?;।])\s+(?=[^\W\d_])|(?<=\n)")
SURE, POSSIBLE, APART = 8.0, 5.0, 1.5  # bits for a figure, for one in doubt, and between two
NEAR, FAR_WORDS = 24, 40  # words within which a label names a number, and beyond the sentence
FAR_OFF, NOT_NEAR = 14, 5.0  # words from which a label hardly names a number that is not its own
LOOSE = 4  # more words than its own over which the words of a label may be spread
OF_DIGIT = math.log2(10)
LEAST_SAID = 0.35  # share of a label that has to be said
MOST_PAIRED, LEAST_OF_RATIO = 6, 3  # lines taken in pairs, and digits that a ratio of them needs
LEAST_GROUPED = 10_000  # below it a bare number of prose counts things
SWAPPED = 4.5  # bits of the amount of another column of the line
TWICE = 8.0  # bits against a figure that another number of the sentence is
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
    """A sentence with where its words stand: each stem with its places, in words from the start; and the
    period that was named last before it in its paragraph."""

    start: int
    text: str
    stems: dict[str, list[int]]
    ends: list[int]
    period: str

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
        before = {key for _, key in periods_said(BRACKETS.sub(" ", text[:start]))}
        yield Said(start, piece, found, ends, min(before) if len(before) == 1 else "")


def weigh_sentence(
    said: Said, numbers: Sequence[Number], topic: Sequence[str], meanings: Meanings
) -> list[list[Weighed]]:
    """For each number of a sentence what it may be, the likeliest first. `topic` are the words of the heading
    and sentence before, which count for less."""
    names = meanings.names
    lines = _lines(said, topic, names)
    found = [_weighed(said, number, lines, meanings, frozenset()) for number in numbers]
    settled = [_settled(each) for each in found]
    if any(settled):
        found = [
            _weighed(said, number, lines, meanings, frozenset().union(*settled[:n], *settled[n + 1 :]))
            for n, number in enumerate(numbers)
        ]
    return _once_each(found)


def _settled(weighed: list[Weighed]) -> set[tuple[object, ...]]:
    """What a number surely is, by its measure and figure."""
    sure = weighed and weighed[0].same and weighed[0].bits >= SURE
    return {(weighed[0].meaning.measure, *weighed[0].meaning.figure)} if sure else set()


def _beside(meaning: Meaning, settled: frozenset[tuple[object, ...]]) -> bool:
    """Whether another number of the sentence is of the same line, and not the same measure of it."""
    own = (meaning.measure, *meaning.figure)
    return own not in settled and any(each[1:3] == own[1:3] for each in settled)


def _once_each(found: list[list[Weighed]]) -> list[list[Weighed]]:
    """What the numbers may be, where a sentence says each figure once: of two that claim the same, the one
    with less for it is rather another."""
    claims: dict[tuple[object, ...], int] = {}
    for n, each in enumerate(found):
        if each and each[0].bits >= SURE:
            key = _said_once(each[0].meaning)
            if key not in claims or _claim(found[claims[key]][0]) < _claim(each[0]):
                claims[key] = n
    again = []
    for n, each in enumerate(found):
        weighed = [
            replace(one, bits=one.bits - TWICE) if claims.get(_said_once(one.meaning), n) != n else one
            for one in each
        ]
        again.append(sorted(weighed, key=lambda one: -one.bits))
    return again


def _claim(weighed: Weighed) -> tuple[bool, float]:
    """How strong a claim to a figure is: one with its amount is before any that has another."""
    return weighed.same, weighed.bits


def _said_once(meaning: Meaning) -> tuple[object, ...]:
    return meaning.measure, meaning.figure, meaning.against


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
    settled: frozenset[tuple[object, ...]],
) -> list[Weighed]:
    same = {id(m): m for m in meanings.at(number.amount, number.exponent) if _may_be(number, m)}
    same |= {id(m): m for m in _between(number, lines, meanings)}
    every = list(same.values())
    for key in lines:
        every += [m for m in meanings.by_line[key] if id(m) not in same and _may_be(number, m)]
    alike = len({m.figure[:2] for m in same.values()})
    few = max(2, sum(len(meanings.by_line[key]) for key in lines))
    weighed = []
    own = {(m.measure, *m.figure[:2]) for m in same.values()}
    for meaning in every:
        is_same = id(meaning) in same
        swapped = not is_same and (meaning.measure, *meaning.figure[:2]) in own
        among = few if meaning.figure[:2] in lines else meanings.count
        weighed.append(
            _bits(said, number, meaning, is_same, swapped, (alike, among), lines, meanings, settled)
        )
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
    swapped: bool,
    chance: tuple[int, int],
    lines: dict[tuple[str, str], tuple[Line, float]],
    meanings: Meanings,
    settled: frozenset[tuple[object, ...]],
) -> Weighed:
    names, because = meanings.names, []
    bare = names.is_money(meaning.figure) and _is_bare(number)
    bits = _of_amount(number, meaning, same, chance, swapped, bare)
    if same:
        because.append("its amount is the one that the pack has")
    key = meaning.figure[:2]
    if key in lines:
        line, share = lines[key]
        label, distance = _of_label(said, number, line, share)
        bits += label if same or distance <= FAR_OFF else label - NOT_NEAR
        because.append(f"“{line.label}” stands {distance} {'word' if distance == 1 else 'words'} away")
    else:
        bits -= 2.0
    bits += _of_period(said, number, meaning, names, _beside(meaning, settled), because)
    bits += _of_unit(number, meaning, same, names)
    if not same and pattern("about").search(said.text[: number.start - said.start][-24:]):
        bits -= 3.0  # a number that is said not to be exact
    bits += _of_measure(said, number, meaning, same, names, because)
    if _beside(meaning, settled):
        bits += 3.0
        because.append("another number of the sentence is of the same line")
    return Weighed(meaning, bits, same, tuple(because))


def _of_amount(
    number: Number, meaning: Meaning, same: bool, chance: tuple[int, int], swapped: bool, bare: bool
) -> float:
    """How unlikely it is that a number is a figure's by chance: by its digits, and by how many have the same
    amount and how many are looked among; or how it may have gone wrong: `swapped` where it is the same
    line's in another column."""
    if same:
        alike, among = chance
        bits = OF_DIGIT * number.significant - math.log2(among) - math.log2(max(1, alike))
        return min(12.0, max(-1.0, bits) + 3.0)
    if bare and number.form == "amount":
        return ELSE  # a small number that nothing makes an amount of money
    slip = max(_of_slip(number, amount) for amount in meaning.amounts)
    return max(slip, SWAPPED) if swapped else slip


def _is_bare(number: Number) -> bool:
    """Whether a number is whole and small, without a currency, a scale or grouped digits."""
    plain = number.currency is None and not number.scaled and number.exponent == 0
    return plain and number.amount.copy_abs() < LEAST_GROUPED


def _of_slip(number: Number, amount: Decimal) -> float:
    """The bits of an amount that differs: as slips of the pen do, by little, or in every way."""
    right = at_unit(amount, number.exponent).copy_abs()
    said = number.amount.copy_abs()
    one, other = (str(int(each.scaleb(-number.exponent))) for each in (said, right))
    if not right or not said:
        return ELSE
    leading = _leading(amount, number.significant)
    if len(one.rstrip("0")) > 1 and one.rstrip("0") == leading.rstrip("0"):
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


def _leading(amount: Decimal, digits: int) -> str:
    """The first digits of an amount, rounded to so many."""
    return str(int(at_unit(amount, amount.adjusted() - digits + 1).scaleb(digits - 1 - amount.adjusted())))


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


def _of_period(
    said: Said, number: Number, meaning: Meaning, names: Names, beside: bool, because: list[str]
) -> float:
    """What the period that governs a number says of a column: strong where it stands right at the
    number. Where none is named, and a number `beside` it is of the same line, any of its periods may be
    meant."""
    statement, _, id = meaning.figure
    column = next(each for each in names.columns[statement] if each.id == id)
    if column.derived:
        return -2.0
    key, strength = _governing(said, number)
    if not key:
        usual = _usual(column, said.period, names.columns[statement])
        return max(usual, -1.0) if beside and column.months == 12 else usual
    if meaning.measure in ("change", "change_percent"):
        return 2.0 if column.current else -3.0  # the period that is named may be either of the two
    fits = (not column.current and column.months == 12) if key == BEFORE else meets(key, column)
    if fits:
        because.append(f"{key} is named for it")
    for_it, against = strength
    return for_it if fits else against


BEFORE = "the year before"
STRONG, WEAK, TAKEN = (6.0, -8.0), (4.0, -6.0), (1.5, -2.0)  # bits for a column that fits, and for others
RIGHT_BEFORE, RIGHT_BEHIND = 16, 34  # characters


def _governing(said: Said, number: Number) -> tuple[str, tuple[float, float]]:
    """The period that a number is of, as the sentence says it, and how strongly; nothing where it says
    none."""
    at, end = number.start - said.start, number.end - said.start
    closed = [(found.start(), found.end()) for found in BRACKETS.finditer(said.text[:at])]
    named = [(place, key) for place, key in periods_said(said.text) if place <= at]
    named += [(found.end(), BEFORE) for found in pattern("before").finditer(said.text[:at])]
    named = [each for each in named if not any(start < each[0] <= stop for start, stop in closed)]
    named.sort()
    if named and at - named[-1][0] <= RIGHT_BEFORE and not _numbers_between(said, named[-1][0], at):
        return named[-1][1], STRONG
    tail = said.text[end : end + RIGHT_BEHIND]
    behind = BEHIND.match(tail)
    if behind and (period := next(iter(periods_said(behind.group())), None)):
        return period[1], STRONG
    ago = pattern("before").search(tail)
    if ago and not any(c.isdigit() or c in "(,;:" for c in tail[: ago.start()]):
        return BEFORE, STRONG
    if not named:
        return "", WEAK
    place, key = named[-1]
    return key, TAKEN if _numbers_between(said, place, at) else WEAK


def _numbers_between(said: Said, start: int, end: int) -> bool:
    """Whether another number stands between two places of a sentence, and takes the period before it."""
    return bool(re.search(r"\d[\d.,]*\s?(?:%|[^\W\d_]|€|£)|[€£₹$]\s?\d", said.text[start:end]))


def _usual(column: Column, period: str, columns: Sequence[Column]) -> float:
    """Where a sentence names no period, it is the one its paragraph named before, or the one reported."""
    if period and any(meets(period, each) and not each.current for each in columns):
        return 2.0 if meets(period, column) else -1.0 if column.current else -7.0
    return 2.0 if column.current else -7.0 if column.months == 12 else -3.0


def _of_unit(number: Number, meaning: Meaning, same: bool, names: Names) -> float:
    figure = names.figure(meaning.figure)
    if meaning.measure in ("change_percent", "share"):
        return 1.0
    if meaning.measure == "ratio":
        return 0.0 if number.currency is None else -2.0
    if number.form == "percent" or figure.clauses.form != "amount":
        return 2.0 if (number.form == "percent") == (figure.clauses.form == "percent") else -8.0
    money = names.is_money(meaning.figure)
    if number.currency is not None:
        return 1.5 if money else -8.0
    if money:
        return (0.0 if number.scaled else -2.0) - (0.0 if same else 3.0)
    return 1.0


def _of_measure(
    said: Said, number: Number, meaning: Meaning, same: bool, names: Names, because: list[str]
) -> float:
    """What the words before a number say of change and share."""
    head = said.text[: number.start - said.start]
    tail = said.text[number.end - said.start : number.end - said.start + 40]
    moved = max(last_said("rise", head[-70:]), last_said("fall", head[-70:])) >= 0
    if number.form == "amount":  # a change that another number told is not told again by this one
        since = re.split(r"\d", head)[-1]
        moved = max(last_said("rise", since), last_said("fall", since)) >= 0
    moved_after = bool(pattern("rise").search(tail) or pattern("fall").search(tail))
    by = bool(re.search(rf"(?:^|\s)(?:{'|'.join(map(re.escape, forms('by')))})\s*\W*$", head, re.IGNORECASE))
    right_before = bool(pattern("rise").search(head[-12:]) or pattern("fall").search(head[-12:]))
    by = by or right_before
    shared = bool(pattern("share").search(head[-60:]) or pattern("share").search(tail[:24]))
    if meaning.measure in ("change", "change_percent"):
        if (moved and by) or (moved_after and not by) or (moved and meaning.measure == "change_percent"):
            because.append("the words before it tell of a change")
            return 3.0
        return -4.0
    if meaning.measure == "share":
        return 2.0 if shared else -3.0 if same else -9.0
    if meaning.measure in ("ratio", "sum"):
        return -1.0
    if not same and _is_difference(meaning, names) and not (moved and by):
        return -6.0
    if moved and by and number.form == "amount":
        return -3.0
    return -2.0 if number.form == "percent" and moved and by else 0.0


def _is_difference(meaning: Meaning, names: Names) -> bool:
    """Whether a figure stands in a column of differences or shares."""
    columns = names.columns[meaning.figure[0]]
    return next(each for each in columns if each.id == meaning.figure[2]).derived
