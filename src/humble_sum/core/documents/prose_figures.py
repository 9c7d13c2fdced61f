"""Which figures of a pack the numbers of a sentence are: by words, periods, units and amounts, taken
together.

Everything that speaks for a figure is weighed in bits, as in intake: how much of its label is said and
how near, which period is named, what the number is counted in, and how unlikely it is that the number is
the figure's by chance. A number that is near a figure's in the way that slips are (a digit, two digits
exchanged, a scale) is that figure gone wrong, where words name it.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import combinations, permutations

from humble_sum.core.documents.judgement import at_unit
from humble_sum.core.documents.measures import Meaning, Meanings
from humble_sum.core.documents.naming import Column, Line, Names, meets
from humble_sum.core.documents.none_of_ours import is_excluded, is_named_before, is_sum
from humble_sum.core.documents.numbers import Number
from humble_sum.core.documents.sentences import BEFORE, Around, Said, around

SURE, POSSIBLE, APART = 8.0, 5.0, 1.5  # bits for a figure, for one in doubt, and between two
NEAR, FAR_WORDS = 24, 40  # words within which a label names a number, and beyond the sentence
FAR_OFF, NOT_NEAR = 14, 5.0  # words from which a label hardly names a number that is not its own
LOOSE = 4  # more words than its own over which the words of a label may be spread
OF_DIGIT = math.log2(10)
LEAST_SAID = 0.35  # share of a label that has to be said
MOST_APART = 4  # powers of ten by which an amount may be off and still be a slip
MOST_LINES, MOST_WEIGHED = 16, 6  # lines that a sentence may name, and readings of a number that are told
MOST_PAIRED, LEAST_OF_RATIO = 6, 3  # lines taken in pairs, and digits that a ratio of them needs
LEAST_GROUPED = 10_000  # below it a bare number of prose counts things
SWAPPED = 4.5  # bits of the amount of another column of the line
AS_WELL, SAYS_MUCH = 0.5, 3  # bits between labels named as well; digits of a number that is no chance
TWICE = 8.0  # bits against a figure that another number of the sentence is
SLIP, CLOSE, APPROACHING, ELSE = 3.0, 0.5, -1.5, -7.0  # bits of amounts that differ, by how
NEVER = -40.0  # bits against what words exclude


@dataclass(frozen=True)
class Weighed:
    """What a number may be, with its bits and what speaks for it; `same` where the amount is the figure's."""

    meaning: Meaning
    bits: float
    same: bool
    because: tuple[str, ...]


def weigh_sentence(
    said: Said, numbers: Sequence[Number], topic: Sequence[str], meanings: Meanings
) -> list[list[Weighed]]:
    """For each number of a sentence what it may be, the likeliest first. `topic` are the words of the heading
    and sentence before, which count for less."""
    lines = _lines(said, numbers, topic, meanings)
    near = [around(said, number) for number in numbers]
    weighing = [
        _Weighing(said, number, here, lines, meanings) for number, here in zip(numbers, near, strict=True)
    ]
    found = [each.weighed(frozenset()) for each in weighing]
    settled = [_settled(each) for each in found]
    if any(settled):
        times = Counter(key for each in settled for key in each)
        found = [
            each.weighed(frozenset(key for key, count in times.items() if count > (key in own)))
            for each, own in zip(weighing, settled, strict=True)
        ]
    each_once = _once_each(found)
    for n, weighed in enumerate(each_once):
        # A sum of the numbers before it, unless a line is named for it before.
        if weighed and not weighed[0].same and is_sum(numbers[:n], numbers[n]):
            line = weighed[0].meaning.figure[:2]
            each_once[n] = weighed if is_named_before(line, near[n], said, lines) else []
    return each_once


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


def _lines(
    said: Said, numbers: Sequence[Number], topic: Sequence[str], meanings: Meanings
) -> dict[tuple[str, str], tuple[Line, float]]:
    """The lines that a sentence names best, each with the share of its label, and all others it names that
    print one of its numbers; what only the topic says counts a half."""
    here = set(said.stems)
    printed = {m.figure[:2] for number in numbers for m in meanings.at(number.amount, number.exponent)}
    best = meanings.names.named(here, set(topic) - here, LEAST_SAID, MOST_LINES, printed)
    best.sort(key=lambda each: -each[1] * each[0].weight)
    return {(line.statement, line.id): (line, share) for line, share in best}


class _Weighing:
    """A number of a sentence being weighed: what it may be, and what the words around it say."""

    def __init__(
        self,
        said: Said,
        number: Number,
        near: Around,
        lines: dict[tuple[str, str], tuple[Line, float]],
        meanings: Meanings,
    ):
        self.said, self.number, self.near, self.lines = said, number, near, lines
        self.digits = str(int(number.amount.copy_abs().scaleb(-number.exponent)))
        self.size = number.amount.adjusted()
        self.names = meanings.names
        self.count = meanings.count
        same = {id(m): m for m in meanings.at(number.amount, number.exponent) if _may_be(number, m)}
        same |= {id(m): m for m in _between(number, near, lines, meanings)}
        self.same = same
        self.labels = {key: _of_label(said, near.words, *found) for key, found in lines.items()}
        self.every = list(same.values())
        for key in self._in_question():
            self.every += [m for m in meanings.by_line[key] if id(m) not in same and _may_be(number, m)]
        self.alike = len({m.figure[:2] for m in same.values()})
        self.few = max(2, sum(len(meanings.by_line[key]) for key in lines))
        self.own = {(m.measure, *m.figure[:2]) for m in same.values()}
        self.alone: list[tuple[Meaning, float, bool, list[str]]] | None = None

    def _in_question(self) -> Collection[tuple[str, str]]:
        """The lines whose other figures the number may be, gone wrong: where it prints a figure of the line
        that is named best, only that one's."""
        best = max((bits for bits, _ in self.labels.values()), default=0.0)
        named = [m.figure[:2] for m in self.same.values() if m.measure == "figure"]
        own = {key for key in named if key in self.labels and self.labels[key][0] >= best - AS_WELL}
        return own if own and self.number.significant >= SAYS_MUCH else self.lines

    def weighed(self, settled: frozenset[tuple[object, ...]]) -> list[Weighed]:
        """What the number may be, the likeliest first, where the other numbers of its sentence are
        `settled`."""
        if self.alone is None:
            self.alone = [self._alone(meaning) for meaning in self.every]
        found = []
        for meaning, bits, same, because in self.alone:
            beside = _beside(meaning, settled)
            bits += _of_period(self.said, self.near, meaning, self.names, beside) + (3.0 if beside else 0.0)
            found.append((bits, meaning, same, because, beside))
        found.sort(key=lambda each: -each[0])
        return [
            Weighed(meaning, bits, same, (*because, *self._more(meaning, beside)))
            for bits, meaning, same, because, beside in found[:MOST_WEIGHED]
        ]

    def _more(self, meaning: Meaning, beside: bool) -> Iterator[str]:
        column = self.names.column(meaning.figure)
        if self.near.period and _fits(self.near.period, column):
            yield f"{self.near.period} is named for it"
        if meaning.measure in ("change", "change_percent") and _tells_change(self.near, meaning):
            yield "the words before it tell of a change"
        if beside:
            yield "another number of the sentence is of the same line"

    def _alone(self, meaning: Meaning) -> tuple[Meaning, float, bool, list[str]]:
        """The bits of what does not hang on the other numbers of the sentence."""
        number, near, names = self.number, self.near, self.names
        same = id(meaning) in self.same
        because = ["the amounts are the same"] if same else []
        key = meaning.figure[:2]
        bits = self._of_amount(meaning, same)
        far = bits <= ELSE
        if key in self.labels:
            label, distance = self.labels[key]
            bits += label if same or distance <= FAR_OFF else label - NOT_NEAR
            words = "word" if distance == 1 else "words"
            because.append(f"“{self.lines[key][0].label}” stands {distance} {words} away")
        else:
            bits -= 2.0
        bits += _of_unit(number, meaning, same, names)
        bits += _of_measure(number, near, meaning, same, names)
        if near.about and not same:
            bits -= 3.0  # a number that is said not to be exact
        if not same and is_excluded(meaning, number, near, self.said, self.lines, names, far):
            bits += NEVER
        return meaning, bits, same, because

    def _of_amount(self, meaning: Meaning, same: bool) -> float:
        """How unlikely it is that a number is a figure's by chance: by its digits, by how many have the same
        amount, and by how many are looked among; or how it may have gone wrong."""
        number, key = self.number, meaning.figure[:2]
        if same:
            among = self.few if key in self.lines else self.count
            bits = OF_DIGIT * number.significant - math.log2(among) - math.log2(max(1, self.alike))
            return min(12.0, max(-1.0, bits) + 3.0)
        if number.form == "amount" and self.names.is_money(meaning.figure) and _is_bare(number):
            return ELSE  # a small number that nothing makes an amount of money
        slip = max(_of_slip(self.digits, self.size, amount) for amount in meaning.digits)
        return max(slip, SWAPPED) if (meaning.measure, *key) in self.own else slip


def _between(
    number: Number, near: Around, lines: dict[tuple[str, str], tuple[Line, float]], meanings: Meanings
) -> Iterator[Meaning]:
    """The ratios and sums of two lines that are named, where the number is one; those are never gone
    wrong. A percentage is one where it is said to be a share or a margin."""
    likely = sorted(lines, key=lambda key: -lines[key][1])[:MOST_PAIRED]
    percent = number.form == "percent"
    if percent and not (near.shared or near.margin):
        return
    if not percent and number.significant < LEAST_OF_RATIO:
        return
    # An amount of money is no ratio, and a percentage no sum.
    money = number.currency is not None or number.scaled
    ways = [] if money else [(pair, meanings.ratio) for pair in permutations(likely, 2)]
    ways += [] if percent else [(pair, meanings.sum) for pair in combinations(likely, 2)]
    for (one, other), worked_out in ways:
        if one[0] != other[0]:
            continue
        for column in meanings.names.columns[one[0]]:
            if column.derived or column.months < 12:
                continue
            meaning = worked_out((*one, column.id), (*other, column.id))
            if meaning is not None and number.amount.copy_abs() in (
                at_unit(amount, number.exponent) for amount in meaning.amounts
            ):
                yield meaning


def _may_be(number: Number, meaning: Meaning) -> bool:
    """Whether a number of this form can be the measure at all."""
    relative = meaning.measure in ("change_percent", "share")
    if number.form == "amount":
        return not relative
    if number.form == "percent":
        return relative or meaning.measure in ("figure", "ratio")
    return meaning.measure == "figure"


def _is_bare(number: Number) -> bool:
    """Whether a number is whole and small, without a currency, a scale or grouped digits."""
    plain = number.currency is None and not number.scaled and number.exponent == 0
    return plain and number.amount.copy_abs() < LEAST_GROUPED


def _of_slip(digits: str, size: int, amount: tuple[int, str]) -> float:
    """The bits of an amount that differs from a number of these digits, the first of which stands for
    10**size: as slips of the pen do, by little, or in every way. The amount comes as its own size and
    digits."""
    apart_by = amount[0] - size
    if abs(apart_by) > MOST_APART or digits == "0":
        return ELSE
    if apart_by:
        leading = amount[1][: len(digits)]
        if len(digits) > 1 and len(leading) == len(digits) and 0 <= int(digits) - int(leading) <= 1:
            return SLIP + min(4.0, len(digits) - 3.0)  # another scale: the more digits, the surer
        if abs(apart_by) > 1:
            return ELSE
    other = _to_digits(amount[1], len(digits) + apart_by)
    if digits.rstrip("0") == other.rstrip("0"):
        return SLIP
    if len(digits) == len(other):
        apart = [n for n, (a, b) in enumerate(zip(digits, other, strict=True)) if a != b]
        exchanged = len(apart) == 2 and apart[1] == apart[0] + 1 and sorted(digits) == sorted(other)
        if len(apart) == 1 or exchanged:
            return SLIP
    elif abs(len(digits) - len(other)) == 1 and min(len(digits), len(other)) >= 3:
        short, long = sorted((digits, other), key=len)
        if any(long[:n] + long[n + 1 :] == short for n in range(len(long))):
            return SLIP
    off, whole = abs(int(digits) - int(other)), int(other)
    if off <= 2:
        return SLIP
    if not whole:
        return ELSE
    return CLOSE if off * 20 <= whole else APPROACHING if off * 10 <= 3 * whole else ELSE


def _to_digits(digits: str, count: int) -> str:
    """The first digits of an amount, halves rounded away from zero; noughts where it has fewer."""
    if count <= 0:
        return "0"
    if len(digits) <= count:
        return digits.ljust(count, "0")
    return str(int(digits[:count]) + (digits[count] >= "5"))


def _of_label(said: Said, at: tuple[int, int], line: Line, share: float) -> tuple[float, int]:
    """What a label near a number says of it, and how many words away it stands. Words that stand far from one
    another say less."""
    first, last = at

    def apart(n: int) -> int:
        """How many words away a word is; one behind the number counts twice."""
        return first - n if n < first else 2 * max(1, n - last + 1)

    nearest = [min(places, key=apart) for word in set(line.words) if (places := said.stems.get(word))]
    if not nearest:
        return 0.35 * min(14.0, 0.7 * line.weight * share * share), FAR_WORDS
    distance = min(map(apart, nearest))
    spread = max(nearest) - min(nearest) + 1
    loose = 1.0 if spread <= len(line.words) + LOOSE else 0.6
    near = 1.0 if distance <= 8 else 0.8 if distance <= NEAR else 0.5
    return min(14.0, 0.7 * line.weight * share * share) * near * loose, distance


def _of_period(said: Said, near: Around, meaning: Meaning, names: Names, beside: bool) -> float:
    """What the period that governs a number says of a column: strong where it stands right at the number.
    Where none is named, and a number `beside` it is of the same line, any of its periods may be meant."""
    column = names.column(meaning.figure)
    if column.derived:
        return -2.0
    if not near.period:
        usual = _usual(column, said.period, names.columns[meaning.figure[0]])
        return max(usual, -1.0) if beside and column.months == 12 else usual
    if meaning.measure in ("change", "change_percent"):
        return 2.0 if column.current else -3.0  # the period that is named may be either of the two
    for_it, against = near.strength
    return for_it if _fits(near.period, column) else against


def _fits(period: str, column: Column) -> bool:
    """Whether a column is of a period as it is said."""
    return (not column.current and column.months == 12) if period == BEFORE else meets(period, column)


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


def _of_measure(number: Number, near: Around, meaning: Meaning, same: bool, names: Names) -> float:
    """What the words around a number say of change and share."""
    told = near.moved and near.by
    if meaning.measure in ("change", "change_percent"):
        return 3.0 if _tells_change(near, meaning) else -4.0
    if meaning.measure == "ratio" and number.form == "percent":
        return 2.0
    if meaning.measure == "share":
        return 2.0 if near.shared else -3.0 if same else -9.0
    if meaning.measure in ("ratio", "sum"):
        return -1.0
    if not same and names.column(meaning.figure).derived and not told:
        return -6.0
    if told and number.form == "amount":
        return -3.0
    return -2.0 if number.form == "percent" and told else 0.0


def _tells_change(near: Around, meaning: Meaning) -> bool:
    told = near.moved and (near.by or meaning.measure == "change_percent")
    return told or (near.moved_after and not near.by)
