"""Formulas of a workbook worked out in exact decimals, where no value was saved with them.

Takes plus, minus, times, divided by, percent signs, comparisons and the functions named in `FUNCTIONS`, over
cells, ranges and other sheets. Anything else is not worked out and is named. Quotients are cut at 34 digits.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import ROUND_DOWN, ROUND_HALF_UP, ROUND_UP, Decimal, DecimalException

from humble_sum.core.amounts import EXACT
from humble_sum.core.intake.formula_parser import RANKS, Cells, Node, Unworkable, cells_in, taken_apart
from humble_sum.core.intake.table import SheetCell, Table
from humble_sum.core.statements.relations import QUOTIENT

At = tuple[str, int, int]  # sheet, row, column
Value = Decimal | str | bool | None
MOST_CELLS = 20_000  # of one range
MOST_WORK = 2_000_000  # cells looked at for one workbook


@dataclass
class Worked:
    """What the formulas of a workbook come to, by cell; and why others are not worked out."""

    values: dict[At, Value]
    why_not: dict[At, str]


def work_out(tables: Sequence[Table], wanted: Sequence[At]) -> Worked:
    """Work out formulas, with all that they need of other formulas without a value. Never raises."""
    return _Work(tables).all(wanted)


class _Work:
    def __init__(self, tables: Sequence[Table]):
        self.sheets: Mapping[str, Table] = {table.name.lower(): table for table in tables}
        self.values: dict[At, Value] = {}
        self.why_not: dict[At, str] = {}
        self.nodes: dict[At, Node] = {}
        self.looked = 0

    def all(self, wanted: Sequence[At]) -> Worked:
        for sheet, row, column in wanted:
            self._settle((sheet.lower(), row, column))
        return Worked(
            {at: self.values[key] for at in wanted if (key := (at[0].lower(), *at[1:])) in self.values},
            {at: self.why_not[key] for at in wanted if (key := (at[0].lower(), *at[1:])) in self.why_not},
        )

    def _cell(self, at: At) -> SheetCell | None:
        table = self.sheets.get(at[0])
        if table is None:
            raise Unworkable(f"there is no sheet “{at[0]}”")
        if at[1] >= len(table.rows) or at[2] >= table.width:
            return None
        return table.rows[at[1]][at[2]]

    def _settle(self, first: At) -> None:
        """Work out a cell after all that it needs, without going deeper for a long chain of cells."""
        waiting, inside = [first], set[At]()
        while waiting:
            at = waiting[-1]
            if at in self.values or at in self.why_not:
                waiting.pop()
                inside.discard(at)
                continue
            try:
                needs = [need for need in self._needs(at) if need not in self.values]
                failed = next((need for need in needs if need in self.why_not), None)
                if failed is not None:
                    raise Unworkable(self.why_not[failed])
                if at in inside:
                    if needs:
                        raise Unworkable("it goes round in a circle")
                    self.values[at] = self._value(self.nodes[at], at[0])
                elif needs:
                    inside.add(at)
                    waiting += needs
                    continue
                else:
                    self.values[at] = self._value(self.nodes[at], at[0])
            except Unworkable as reason:
                self.why_not[at] = str(reason)
            except (DecimalException, OverflowError, ValueError):
                self.why_not[at] = "its numbers are too large"

    def _needs(self, at: At) -> list[At]:
        """The cells with formulas that have no value, which a formula asks for."""
        if at not in self.nodes:
            cell = self._cell(at)
            if cell is None or cell.formula is None:
                raise Unworkable("there is no formula")
            self.nodes[at] = taken_apart(cell.formula)
        found = []
        for cells in cells_in(self.nodes[at]):
            for place in self._places(cells):
                sheet_place = ((cells.sheet or at[0]).lower(), *place)
                cell = self._cell(sheet_place)
                if cell is not None and cell.formula is not None and cell.value in (None, ""):
                    found.append(sheet_place)
        return found

    def _places(self, cells: Cells) -> Iterator[tuple[int, int]]:
        rows, columns = cells.last[0] - cells.first[0] + 1, cells.last[1] - cells.first[1] + 1
        self.looked += rows * columns
        if rows * columns > MOST_CELLS or self.looked > MOST_WORK:
            raise Unworkable("it asks for too many cells")
        return cells.places()

    def _of(self, at: At) -> Value:
        cell = self._cell(at)
        if cell is None:
            return None
        if cell.formula is not None and cell.value in (None, ""):
            return self.values.get(at)
        value = cell.value
        return value if value is None or isinstance(value, Decimal | str | bool) else str(value)

    def _value(self, node: Node, sheet: str) -> Value:
        if isinstance(node, Cells):
            if not node.alone:
                raise Unworkable("it takes a range for one value")
            return self._of(((node.sheet or sheet).lower(), *node.first))
        if not isinstance(node, tuple):
            return node
        name, terms = node
        if name in RANKS:
            return _operated(name, *(self._value(term, sheet) for term in terms))
        function = FUNCTIONS.get(name)
        if function is None:
            raise Unworkable(f"{name} is not worked out here")
        return function(self, terms, sheet)

    def numbers(self, terms: Sequence[Node], sheet: str, without_subtotals: bool = False) -> list[Decimal]:
        """The numbers among arguments; of cells, texts and truths are passed over as workbooks do."""
        found: list[Decimal] = []
        for term in terms:
            if not isinstance(term, Cells):
                found.append(_number(self._value(term, sheet)))
                continue
            for place in self._places(term):
                at = ((term.sheet or sheet).lower(), *place)
                cell = self._cell(at)
                again = cell is not None and "SUBTOTAL(" in (cell.formula or "").upper()
                value = self._of(at)
                if isinstance(value, Decimal) and not (without_subtotals and again):
                    found.append(value)
        return found


def _number(value: Value) -> Decimal:
    if value is None or value == "":
        return Decimal(0)
    if isinstance(value, bool):
        return Decimal(int(value))
    if isinstance(value, Decimal):
        return value
    raise Unworkable(f"“{value[:20]}” is no number")


def _operated(mark: str, left: Value, right: Value) -> Value:
    if mark == "&":
        raise Unworkable("it joins texts")
    if mark in ("=", "<>", "<", ">", "<=", ">="):
        if isinstance(left, str) or isinstance(right, str):
            same = str(left or "").lower() == str(right or "").lower()
            if mark in ("=", "<>"):
                return same == (mark == "=")
            raise Unworkable("it compares texts by order")
        a, b = _number(left), _number(right)
        return {"=": a == b, "<>": a != b, "<": a < b, ">": a > b, "<=": a <= b, ">=": a >= b}[mark]
    a, b = _number(left), _number(right)
    if mark == "/":
        if not b:
            raise Unworkable("it divides by zero")
        return QUOTIENT.normalize(QUOTIENT.divide(a, b))
    if mark == "^":
        if b != b.to_integral_value() or abs(b) > 12:
            raise Unworkable("it raises to a power that is not worked out here")
        return EXACT.power(a, int(b)) if b >= 0 else QUOTIENT.divide(Decimal(1), EXACT.power(a, -int(b)))
    return {"+": EXACT.add, "-": EXACT.subtract, "*": EXACT.multiply}[mark](a, b)


def _sum(work: _Work, terms: Sequence[Node], sheet: str) -> Value:
    total = Decimal(0)
    for number in work.numbers(terms, sheet):
        total = EXACT.add(total, number)
    return total


def _subtotal(work: _Work, terms: Sequence[Node], sheet: str) -> Value:
    """A sum that passes over other subtotals; only sums of it are worked out."""
    kind = _number(work._value(terms[0], sheet)) if terms else Decimal(0)
    if kind not in (9, 109):
        raise Unworkable("this sort of SUBTOTAL is not worked out here")
    total = Decimal(0)
    for number in work.numbers(terms[1:], sheet, without_subtotals=True):
        total = EXACT.add(total, number)
    return total


def _least(work: _Work, terms: Sequence[Node], sheet: str) -> Value:
    return min(work.numbers(terms, sheet), default=Decimal(0))


def _most(work: _Work, terms: Sequence[Node], sheet: str) -> Value:
    return max(work.numbers(terms, sheet), default=Decimal(0))


def _size(work: _Work, terms: Sequence[Node], sheet: str) -> Value:
    return _number(work._value(_only(terms, 1)[0], sheet)).copy_abs()


def _if(work: _Work, terms: Sequence[Node], sheet: str) -> Value:
    if len(terms) not in (2, 3):
        raise Unworkable("IF in it has not two or three parts")
    told = work._value(terms[0], sheet)
    if told if isinstance(told, bool) else bool(_number(told)):
        return work._value(terms[1], sheet)
    return work._value(terms[2], sheet) if len(terms) == 3 else False


def _rounding(mode: str) -> Callable[[_Work, Sequence[Node], str], Value]:
    def rounded(work: _Work, terms: Sequence[Node], sheet: str) -> Value:
        amount, decimal_places = (_number(work._value(term, sheet)) for term in _only(terms, 2))
        if decimal_places != decimal_places.to_integral_value() or abs(decimal_places) > 60:
            raise Unworkable("it rounds to a place that is not worked out here")
        step = Decimal(1).scaleb(-int(decimal_places))
        return amount.quantize(step, rounding=mode, context=EXACT_BUT_ROUNDED)

    return rounded


EXACT_BUT_ROUNDED = EXACT.copy()
EXACT_BUT_ROUNDED.clear_traps()


def _only(terms: Sequence[Node], count: int) -> Sequence[Node]:
    if len(terms) != count:
        raise Unworkable("a function in it has other parts than are known here")
    return terms


FUNCTIONS: dict[str, Callable[[_Work, Sequence[Node], str], Value]] = {
    "SUM": _sum,
    "SUBTOTAL": _subtotal,
    "MIN": _least,
    "MAX": _most,
    "ABS": _size,
    "IF": _if,
    "ROUND": _rounding(ROUND_HALF_UP),
    "ROUNDUP": _rounding(ROUND_UP),
    "ROUNDDOWN": _rounding(ROUND_DOWN),
}
