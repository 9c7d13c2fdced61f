"""What a text may say of a pack besides its figures: changes, and shares of a total; found by their
amounts."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Context, Decimal
from functools import cached_property
from typing import Literal

from humble_sum.core.amounts import EXACT
from humble_sum.core.documents.judgement import at_unit
from humble_sum.core.documents.naming import Column, Names
from humble_sum.core.proof.figures import Figure
from humble_sum.core.statements.names import FigureRef

Measure = Literal["figure", "change", "change_percent", "share", "ratio", "sum"]
QUOTIENT = Context(prec=40)


@dataclass(frozen=True)
class Meaning:
    """What a number may be: a measure of a figure, against another one; `amounts` are its sizes, from exact
    amounts and from printed ones, and `sign` the way it goes."""

    measure: Measure
    figure: FigureRef
    against: FigureRef | None
    amounts: tuple[Decimal, ...]
    sign: int

    @cached_property
    def digits(self) -> tuple[tuple[int, str], ...]:
        """Each amount but zero by the power of ten of its first digit, and its digits."""
        return tuple(
            (amount.adjusted(), "".join(map(str, amount.as_tuple().digits)))
            for amount in self.amounts
            if amount
        ) or ((-(10**6), "0"),)


class Meanings:
    """Every measure of a pack that a text may say, by line and by rounded size."""

    def __init__(self, names: Names):
        self.names = names
        self.by_line: dict[tuple[str, str], list[Meaning]] = defaultdict(list)
        for statement in names.columns:
            for meaning in self._of_statement(statement):
                self.by_line[meaning.figure[:2]].append(meaning)
        self.count = max(2, sum(map(len, self.by_line.values())))
        self._rounded: dict[int, dict[int, list[Meaning]]] = {}

    def at(self, amount: Decimal, exponent: int) -> list[Meaning]:
        """The measures that print this amount in units of 10**exponent."""
        if exponent not in self._rounded:
            found: dict[int, list[Meaning]] = defaultdict(list)
            for meanings in self.by_line.values():
                for meaning in meanings:
                    for units in {_units(amount, exponent) for amount in meaning.amounts}:
                        found[units].append(meaning)
            self._rounded[exponent] = found
        return self._rounded[exponent].get(_units(amount.copy_abs(), exponent), [])

    def ratio(self, one: FigureRef, other: FigureRef) -> Meaning | None:
        """The ratio of two figures of one column; None where one of them is zero or missing."""
        pairs = self._pairs(one, other)
        sizes = tuple(QUOTIENT.divide(x, y) for x, y in pairs)
        return Meaning("ratio", one, other, sizes, 0) if sizes else None

    def sum(self, one: FigureRef, other: FigureRef) -> Meaning | None:
        """The sum of two figures of one column; None where one is zero or missing, or only one is money."""
        if self.names.is_money(one) != self.names.is_money(other):
            return None
        pairs = self._pairs(one, other)
        sizes = tuple(EXACT.add(x, y) for x, y in pairs)
        return Meaning("sum", one, other, sizes, 0) if sizes else None

    def _pairs(self, one: FigureRef, other: FigureRef) -> list[tuple[Decimal, Decimal]]:
        """The sizes of two figures, exact and as printed; none where one is zero or missing."""
        a, b = self.names.figure(one), self.names.figure(other)
        if not a.exact or not b.exact:
            return []
        pairs = [(a.exact.copy_abs(), b.exact.copy_abs())]
        if a.units and b.units:
            pairs.append((_printed(a), _printed(b)))
        return pairs

    def _of_statement(self, statement: str) -> Iterator[Meaning]:
        proof = self.names.pack_proof.proofs[statement]
        columns = [column for column in self.names.columns[statement] if not column.derived]
        totals = _totals(self.names, statement)
        for line in proof.statement.figured:
            for column in self.names.columns[statement]:
                ref = (statement, line.id, column.id)
                figure = self.names.figure(ref)
                if figure.exact is None:
                    continue
                yield Meaning("figure", ref, None, _sizes(figure), 0)
                other = _before(column, columns)
                if other is not None and not column.derived:
                    yield from self._changes(ref, (statement, line.id, other.id))
                for total in totals.get(line.id, ()):
                    yield from self._share(ref, (statement, total, column.id))

    def _changes(self, one: FigureRef, other: FigureRef) -> Iterator[Meaning]:
        now, then = self.names.figure(one), self.names.figure(other)
        if now.exact is None or then.exact is None:
            return
        pairs = [(now.exact.copy_abs(), then.exact.copy_abs())]
        if now.units is not None and then.units is not None:
            pairs.append((_printed(now), _printed(then)))
        changes = [EXACT.subtract(a, b) for a, b in pairs]
        sign = (changes[0] > 0) - (changes[0] < 0)
        yield Meaning("change", one, other, tuple(each.copy_abs() for each in changes), sign)
        shares = [
            QUOTIENT.divide(change, b).copy_abs() for change, (_, b) in zip(changes, pairs, strict=True) if b
        ]
        if shares and now.clauses.form != "percent":
            yield Meaning("change_percent", one, other, tuple(shares), sign)

    def _share(self, one: FigureRef, total: FigureRef) -> Iterator[Meaning]:
        part, whole = self.names.figure(one), self.names.figure(total)
        if part.exact is None or not whole.exact:
            return
        shares = [QUOTIENT.divide(part.exact, whole.exact).copy_abs()]
        if part.units is not None and whole.units:
            shares.append(QUOTIENT.divide(_printed(part), _printed(whole)))
        yield Meaning("share", one, total, tuple(shares), 0)


def _units(amount: Decimal, exponent: int) -> int:
    return int(EXACT.scaleb(at_unit(amount, exponent), -exponent))


def _printed(figure: Figure) -> Decimal:
    return Decimal(abs(figure.units or 0)).scaleb(figure.exponent)


def _sizes(figure: Figure) -> tuple[Decimal, ...]:
    exact = (figure.exact or Decimal(0)).copy_abs()
    return (exact,) if figure.units is None else (exact, _printed(figure))


def _before(column: Column, columns: list[Column]) -> Column | None:
    """The column of the period before: the nearest earlier one of the same length, as far as labels say."""
    if column.period is None:
        return None
    earlier = [
        each
        for each in columns
        if each.period is not None
        and each.period.year == column.period.year - 1
        and (each.period.month, each.months) == (column.period.month, column.months)
    ]
    return earlier[0] if len(earlier) == 1 else None


def _totals(names: Names, statement: str) -> dict[str, list[str]]:
    """The totals that each line is added in, with those that they are added in."""
    lines = names.pack_proof.proofs[statement].statement.lines
    above: dict[str, list[str]] = defaultdict(list)
    for line in lines:
        for part, sign in line.parts:
            if sign > 0:
                above[part].append(line.id)
    return {id: [*totals, *(t for one in totals for t in above.get(one, ()))] for id, totals in above.items()}
