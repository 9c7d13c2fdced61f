"""Sums found from the figures themselves, where a source has only values.

Lines are gone through from the top with a stack of those not yet in a sum. A line that is the
sum of the last two or more of the stack, exactly and in every column, is offered as their
total; they leave the stack and it takes their place, so that subtotals nest.
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import islice, product, takewhile
from operator import mul

from humble_sum.core.amounts import EXACT
from humble_sum.core.amounts import total as total_of
from humble_sum.core.intake.signals import BROKEN, NAMED

Amounts = Sequence[Decimal | None]
Parts = tuple[tuple[int, int], ...]  # line number and sign
Vectors = list[tuple[int, ...]]
MOST_MIXED = 5  # lines of a run whose signs may differ anyhow
MOST_TRIED = 8  # runs of one column that are tried for a line
MOST_APART = 16  # columns that are looked at one by one, where no run adds up in all of them
SURE_BITS = 12.0  # from which a sum is taken in silence: by chance it is there once in four thousand times
LONG = 2_000  # lines from which runs of mixed signs are not searched for
LEAST_LINES = 3  # lines that have to agree before a column is taken for one made of others


@dataclass(frozen=True)
class FoundSum:
    """A total and its signed parts, by line number, with what speaks for it.

    `columns` is in how many columns it holds with something to add. A sum is `sure` when that
    many coincidences would be far-fetched; otherwise it is offered and not taken.
    """

    total: int
    parts: tuple[tuple[int, int], ...]
    columns: int
    sure: bool
    named: bool = False  # sure only because it is called what it would be
    of: int = 0  # columns in which it was looked for, where it does not hold in all of them

    @property
    def evidence(self) -> str:
        if self.of:
            return f"{len(self.parts)} lines add to it exactly in {self.columns} of {self.of} columns"
        columns = "1 column" if self.columns == 1 else f"{self.columns} columns"
        why = ", and its name says so" if self.named else ""
        return f"{len(self.parts)} lines add to it exactly in {columns}{why}"


def found_sums(
    lines: Sequence[Amounts],
    decided: Mapping[int, bool] | None = None,
    signed: bool = True,
    called: Collection[int] = (),
    sections: Sequence[int] = (),
    results: Collection[int] = (),
) -> list[FoundSum]:
    """The sums among lines of amounts, each a value a column (None: missing, adds nothing).

    `decided` says of a total's line that it is one, or is not, whatever the evidence. Where sums are not
    `signed`, all their parts are added. One that is `called` a total and has the very amounts of the line
    above it takes that line's place: it is its total, and both are never counted. `sections` says under
    which heading each line stands: what is left of lines under others and of lines under its own is a sum
    for `results` only. Elsewhere it is what a total below has besides them, as retained earnings are.
    """
    if not lines:
        return []
    vectors = _whole(lines)
    # One number for each line: a fixed random mix of its columns. Equal mixes are then checked
    # column by column, so a coincidence of mixes can cost time and never truth.
    mixer = random.Random(2_026)
    weights = [mixer.getrandbits(61) | 1 for _ in range(len(lines[0]))]
    mixed = [sum(map(mul, weights, vector)) for vector in vectors]
    stack = _Stack(mixed, signed)
    apart = _apart(vectors, signed)
    found = []
    totals: set[int] = set()
    named_so = {*called, *results}

    def left_over(line: int, parts: Parts) -> bool:
        if not sections or line in results or all(sign > 0 for _, sign in parts):
            return False
        beside = any(sections[part] == sections[line] and part not in totals for part, _ in parts)
        return beside and sections[parts[0][0]] != sections[line]

    each: FoundSum | None
    for line, vector in enumerate(vectors):
        allowed = (decided or {}).get(line, True)
        parts = _parts(line, stack, vectors, mixed[line], left_over, called) if any(vector) else None
        if parts is not None:
            each = _below(line, parts, vectors, len(stack.lines), line in called, decided or {})
            popped = len(parts) if each.sure else 0
        elif apart and (nearly := _in_most(line, apart, vectors, lines, left_over, named_so)) is not None:
            each, popped = (nearly, len(nearly.parts)) if allowed else (None, 0)
        elif line in called and any(vector):
            popped = _same_above(line, stack.lines, vectors)
            same = tuple((part, 1) for part in stack.lines[-popped:])
            each = (
                FoundSum(line, same, sum(map(bool, vector)), True, True) if popped > 1 and allowed else None
            )
        else:
            each, popped = None, 0
        if each is not None:
            found.append(each)
            totals |= {line} if each.sure else set()
        _pop(stack, apart, popped)
        for one in (stack, *apart):
            one.push(line)
    return found


def _below(
    line: int, parts: Parts, vectors: Vectors, height: int, called: bool, decided: Mapping[int, bool]
) -> FoundSum:
    """The sum of a line and the parts above it: sure beyond chance, by its name, or by a hand's word."""
    columns = sum(_adds_up(column, parts, vectors) for column in range(len(vectors[line])))
    sure = _is_sure(line, parts, vectors, columns, height)
    # A total stands right below what it adds.
    named = not sure and called and parts[-1][0] == line - 1
    named &= all(sign > 0 for _, sign in parts) and line not in decided
    return FoundSum(line, parts, columns, decided.get(line, sure or named), named)


def _is_sure(line: int, parts: Parts, vectors: Vectors, columns: int, height: int) -> bool:
    """Whether a sum that holds in so many columns is beyond chance."""
    one_way = len({sign for _, sign in parts[1:]}) == 1
    long = columns == 1 and one_way and len(parts) >= 3 and _digits(vectors[line]) >= 4
    return columns >= 2 or long or _bits(line, parts, vectors, height)[0] >= SURE_BITS


def _apart(vectors: Vectors, signed: bool) -> list[_Stack]:
    """A stack for each column, where these are several and few enough to be looked at one by one."""
    width = len(vectors[0])
    if not 1 < width <= MOST_APART:
        return []
    return [_Stack([vector[column] for vector in vectors], signed, mixes=False) for column in range(width)]


def _pop(stack: _Stack, apart: Sequence[_Stack], count: int) -> None:
    for each in (stack, *apart):
        each.pop(count)


def _in_most(
    line: int,
    apart: Sequence[_Stack],
    vectors: Vectors,
    lines: Sequence[Amounts],
    left_over: Callable[[int, Parts], bool],
    named: Collection[int],
) -> FoundSum | None:
    """The sum that a line is in most of its columns, beyond doubt, where its source breaks in others."""
    tried: dict[Parts, None] = {}
    for column, stack in enumerate(apart):
        if vectors[line][column] and stack.may_add(vectors[line][column]):
            runs = [*islice(stack.runs(vectors[line][column]), MOST_TRIED)]
            tried |= dict.fromkeys(runs)
            tried |= dict.fromkeys(_with_silent(run, stack.lines, vectors, column) for run in runs)
    best = None
    for parts in tried:
        if left_over(line, parts):
            continue
        stated = [n for n, amount in enumerate(lines[line]) if amount is not None]
        told = [n for n in stated if sum(vectors[part][n] != 0 for part, _ in parts) > 1 or vectors[line][n]]
        holds = [n for n in told if _equal(n, line, parts, vectors) and _adds_up(n, parts, vectors)]
        near = [n for n in told if n not in holds and _nearly_equal(n, line, parts, vectors)]
        broken = [n for n in told if n not in holds and n not in near]
        # A part that is not there says less against a sum than one that is there and does not add.
        absent = [n for n in broken if any(lines[part][n] is None for part, _ in parts)]
        bits, _ = _bits(line, parts, vectors, len(apart[0].lines), holds)
        bits += sum(max(0.0, _bits_nearly(n, line, parts, vectors)) for n in near)
        bits += BROKEN * (len(broken) - len(absent)) + BROKEN / 2 * len(absent)
        bits += BROKEN * sum(not any(vectors[part][n] for part, _ in parts) for n in broken)
        called_so = line in named and parts[-1][0] == line - 1
        bits += NAMED if called_so else 0.0
        if bits >= SURE_BITS and (best is None or bits > best[0]):
            best = bits, FoundSum(line, parts, len(holds), True, of=len(told))
    return best[1] if best else None


def _bits(
    line: int, parts: Parts, vectors: Vectors, height: int, columns: Iterable[int] | None = None
) -> tuple[float, int]:
    """How far a sum is beyond chance: what its total could have been, over how many runs were tried."""
    bits, told = -math.log2(2 * height + 2), 0
    for column in range(len(vectors[line])) if columns is None else columns:
        amounts = [vectors[line][column], *(vectors[part][column] for part, _ in parts)]
        if sum(amount != 0 for amount in amounts[1:]) > 1:
            bits += math.log2(max(map(abs, amounts)) // shared_step(amounts) + 1)
            told += 1
    return bits, told


def _bits_nearly(column: int, line: int, parts: Parts, vectors: Vectors) -> float:
    """How far beyond chance it is that a line is, but for rounding, what others come to in a column."""
    amounts = [vectors[line][column], *(vectors[part][column] for part, _ in parts)]
    if sum(amount != 0 for amount in amounts[1:]) < 2:
        return 0.0
    return math.log2(max(map(abs, amounts)) // shared_step(amounts) + 1) - math.log2(len(parts) + 2)


def shared_step(amounts: Sequence[int]) -> int:
    """The largest power of ten that amounts are made of: 110 less 100 is 10 by eleven steps, not by 110."""
    step, shared = 1, math.gcd(*amounts)
    while shared and shared % (step * 10) == 0:
        step *= 10
    return step


def _same_above(line: int, stack: list[int], vectors: Vectors) -> int:
    """How many lines right above have, all together, just what a line has, zeros among them; 0 where they
    have not."""
    count, telling = 0, None
    for above in reversed(stack):
        if above != line - count - 1 or (telling is not None and any(vectors[above])):
            break
        count += 1
        telling = above if any(vectors[above]) else telling
    return count if telling is not None and vectors[telling] == vectors[line] else 0


class _Stack:
    """Lines not yet in a sum, with their running totals indexed so that a run that adds to an
    amount is looked up and not searched for.

    The run from place i to the end adds to `ends[-1] - ends[i]`. Its first line less the rest of
    it is `2 * ends[i + 1] - ends[i] - ends[-1]`.
    """

    def __init__(self, mixed: Sequence[int], signed: bool, mixes: bool = True):
        self._signed, self._mixes = signed, mixes and len(mixed) <= LONG
        self.lines: list[int] = []
        self._mixed = mixed
        self._ends = [0]
        self._plus: dict[int, list[int]] = {}
        self._less: dict[int, list[int]] = {}

    def push(self, line: int) -> None:
        place, start = len(self.lines), self._ends[-1]
        end = start + self._mixed[line]
        self.lines.append(line)
        self._ends.append(end)
        self._plus.setdefault(start, []).append(place)
        self._less.setdefault(2 * end - start, []).append(place)

    def pop(self, count: int) -> None:
        for _ in range(count):
            self.lines.pop()
            end, start = self._ends.pop(), self._ends[-1]
            self._plus[start].pop()
            self._less[2 * end - start].pop()

    def may_add(self, amount: int) -> bool:
        """Whether there is a run of one sign that adds to an amount, or all but its first taken off."""
        end = self._ends[-1]
        return bool(self._plus.get(end - amount) or (self._signed and self._less.get(amount + end)))

    def runs(self, amount: int) -> Iterator[Parts]:
        """Signed runs at the end that add to an amount, the shortest first; then short ones of
        mixed signs."""
        end, count = self._ends[-1], len(self.lines)
        # A run that begins with a zero is the one after it: the zeros above are put to it later.
        starts = self._plus.get(end - amount, ())
        plus = [(place, 1) for place in starts if self._mixed[self.lines[place]]]
        less = [(place, -1) for place in self._less.get(amount + end, ())] if self._signed else []
        for place, sign in sorted([*plus, *less], reverse=True):
            if count - place >= 2:
                signs = [1] + [sign] * (count - place - 1)
                yield tuple(zip(self.lines[place:], signs, strict=True))
        if not self._mixes or not self._signed:
            return
        for length in range(3, min(MOST_MIXED, count) + 1):
            run = self.lines[-length:]
            for signs_of_rest in product((1, -1), repeat=length - 1):
                rest = sum(s * self._mixed[line] for s, line in zip(signs_of_rest, run[1:], strict=True))
                if len(set(signs_of_rest)) == 2 and self._mixed[run[0]] + rest == amount:
                    yield tuple(zip(run, (1, *signs_of_rest), strict=True))


def _whole(lines: Sequence[Amounts]) -> list[tuple[int, ...]]:
    """Amounts as whole numbers of the smallest step any of them has."""
    # A sum has as many places as the amount with most of them.
    exponent = total_of(a for line in lines for a in line if a).as_tuple().exponent
    shift, power = EXACT.scaleb, max(-exponent, 0) if isinstance(exponent, int) else 0
    return [tuple([int(shift(a, power)) if a else 0 for a in line]) for line in lines]


def _parts(
    line: int,
    stack: _Stack,
    vectors: Vectors,
    mixed: int,
    left_over: Callable[[int, Parts], bool],
    called: Collection[int],
) -> Parts | None:
    """The shortest run at the end of the stack that adds to the line, zeros above it included unless these
    are a total's, and that is not what others leave of it."""
    for parts in stack.runs(mixed):
        if left_over(line, parts):
            continue
        # A run of one figure and zeros says nothing.
        if sum(any(vectors[part]) for part, _ in parts) < 2:
            continue
        if all(_equal(column, line, parts, vectors) for column in range(len(vectors[line]))):
            first_is_total = parts[0][0] in called
            return parts if first_is_total else _with_zeros(parts, stack.lines, len(parts), vectors)
    return None


def _with_silent(parts: Parts, stack: list[int], vectors: Vectors, column: int) -> Parts:
    """The run with the lines above it that say nothing in its column: debits above credits."""
    above = list(takewhile(lambda n: not vectors[n][column], reversed(stack[: len(stack) - len(parts)])))
    return (*((n, 1) for n in reversed(above)), *parts)


def _with_zeros(parts: Parts, stack: list[int], length: int, vectors: Vectors) -> Parts:
    """The run with the zero lines that stand right above it, which are as much a part of it. Above a total
    they are parts of that."""
    zeros: list[tuple[int, int]] = []
    while length < len(stack):
        above = stack[-length - 1]
        if any(vectors[above]) or above != parts[0][0] - 1 - len(zeros):
            break
        length += 1
        zeros.append((above, 1))
    return (*reversed(zeros), *parts)


def _equal(column: int, line: int, parts: Parts, vectors: Vectors) -> bool:
    return vectors[line][column] == sum(sign * vectors[part][column] for part, sign in parts)


def _nearly_equal(column: int, line: int, parts: Parts, vectors: Vectors) -> bool:
    """Whether a line is off by no more than rounding each of its parts may make of it."""
    amounts = [vectors[line][column], *(sign * vectors[part][column] for part, sign in parts)]
    off = abs(amounts[0] - sum(amounts[1:])) // shared_step(amounts)
    return off <= (len(parts) + 1) // 2


def _adds_up(column: int, parts: Parts, vectors: Vectors) -> bool:
    return sum(vectors[part][column] != 0 for part, _ in parts) >= 2


def _digits(vector: tuple[int, ...]) -> int:
    """How many digits its longest amount has, in whatever unit it is written."""
    return max(len(str(abs(x)).rstrip("0")) for x in vector)


def found_columns(lines: Sequence[Amounts], called: Collection[int] = ()) -> dict[int, Parts]:
    """Columns made of others before them, or of others behind them, told from the lines that have an amount
    in every column, or in some where these say nothing.

    Sums such as quarters to a year, nested like sums of lines, and differences of two. For one that is
    `called` a total, and adds every column before it, two lines are enough.
    """
    found = _of_lines(lines, called)
    last = len(lines[0]) - 1 if lines else 0
    for total, parts in _of_lines([line[::-1] for line in lines], {last - n for n in called}).items():
        here = tuple((last - part, sign) for part, sign in reversed(parts))
        columns = {last - total, *(part for part, _ in here)}
        known = ({of, *(part for part, _ in each)} for of, each in found.items())
        if all(sign > 0 for _, sign in here) and all(len(columns & other) < 2 for other in known):
            found[last - total] = here
    return found


def _of_lines(lines: Sequence[Amounts], called: Collection[int]) -> dict[int, Parts]:
    complete = [line for line in lines if None not in line]
    some = [line for line in lines if sum(amount is not None for amount in line) > 1]
    if len(some) == len(complete):
        return _columns_of(complete, called)
    return _columns_of(some, called) | _columns_of(complete, called)


def _columns_of(lines: Sequence[Amounts], called: Collection[int]) -> dict[int, Parts]:
    """What is missing adds nothing, as where a movement has no part in a component of equity."""
    columns = list(zip(*lines, strict=True))
    found = found_sums(columns) if len(lines) >= LEAST_LINES else []
    totals = _of_all_before(columns, called)
    within = {part for parts in totals.values() for part, _ in parts}
    # A difference among what a total adds is chance: nobody adds it too.
    return totals | {
        each.total: each.parts
        for each in found
        if each.columns >= LEAST_LINES
        and (len(each.parts) == 2 or all(sign > 0 for _, sign in each.parts))
        and each.total not in totals
        and not (each.total in within and any(sign < 0 for _, sign in each.parts))
    }


def _of_all_before(columns: Sequence[Amounts], called: Collection[int]) -> dict[int, Parts]:
    """The columns called totals that add, in every line and in two or more with something to add, every
    column from the last such one on."""
    found: dict[int, Parts] = {}
    start = 0
    for place in sorted(called) if columns else ():
        parts = range(start, place)
        lines = [[columns[part][n] or Decimal(0) for part in parts] for n in range(len(columns[place]))]
        telling = sum(sum(amount != 0 for amount in line) > 1 for line in lines)
        adds = all(total_of(line) == (columns[place][n] or 0) for n, line in enumerate(lines))
        if len(parts) > 1 and adds and telling > 1:
            found[place] = tuple((part, 1) for part in parts)
            start = place + 1
    return found
