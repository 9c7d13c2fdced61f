"""Which figures of a pack the cells of a table are: rows and columns taken together.

Rows are known by their labels, columns by their heads, and both by what most cells print. The unit is the one
that is stated, or the one in which most cells agree.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.documents.document import Table
from humble_sum.core.documents.naming import Column, Line, Names, meets, period_key, stems
from humble_sum.core.documents.numbers import Number, numbers_in
from humble_sum.core.documents.word_forms import forms
from humble_sum.core.intake.amount_reading import Convention
from humble_sum.core.intake.units import Unit, unit_of, unit_within
from humble_sum.core.statements.names import FigureRef

NAMED = 0.6  # share of a label that has to be said for a row to be its line
NEARLY = 0.8  # share of the cells that agree, from which a reading of a table is taken
POWERS = (0, 3, 5, 6, 7, 9)
HEAD_BITS, AGREES_BITS, LABEL_BITS = 4.0, 3.0, 6.0


@dataclass(frozen=True)
class Cell:
    """A number in a cell of a table, in the unit of the table, and `plain` as it stands: counts among
    amounts in thousands are in ones."""

    row: int
    column: int
    number: Number
    plain: Number


@dataclass(frozen=True)
class Matched:
    """A cell with the figure that it is, and what speaks for that."""

    cell: Cell
    figure: FigureRef | None
    because: tuple[str, ...]


@dataclass(frozen=True)
class ReadTable:
    """A table with its numbers, the unit they are in, what each row is called and what heads each column.
    One that is `turned` was read with its rows as columns."""

    table: Table
    cells: tuple[Cell, ...]
    labels: dict[int, str]
    heads: dict[int, str]
    unit: Unit | None
    turned: bool = False


def read_table(table: Table, above: str, convention: Convention, turned: bool = False) -> ReadTable:
    """The numbers of a table. `above` is the text before it, which may state its unit."""
    if turned:
        width = max((len(row) for row in table.rows), default=0)
        rows = tuple(tuple(row[n] if n < len(row) else "" for row in table.rows) for n in range(width))
        table = replace(table, rows=rows)
    named_by = _label_column(table)
    first = _first_row(table, named_by, convention)
    labels = {n: _label(row) for n, row in enumerate(table.rows)}
    heads = {
        column: " ".join(
            row[column].strip() for row in table.rows[:first] if column < len(row) and row[column].strip()
        )
        for column in range(max((len(row) for row in table.rows), default=0))
    }
    unit = _unit(table, above, first)
    power = unit.power if unit and unit.power else 0
    cells = []
    for n, row in enumerate(table.rows[first:], first):
        for column, text in enumerate(row):
            if column == named_by or not text.strip():
                continue
            found = [each for each in numbers_in(text, convention, in_cell=True) if not each.other]
            if len(found) == 1:
                cells.append(Cell(n, column, _scaled(found[0], power), found[0]))
    return ReadTable(table, tuple(cells), labels, heads, unit, turned)


def _scaled(number: Number, power: int) -> Number:
    """A number of a cell in the unit of its table; one with its own scale or a percent sign stays."""
    if not power or number.scaled or number.form != "amount":
        return number
    return replace(number, amount=EXACT.scaleb(number.amount, power), exponent=number.exponent + power)


def _label_column(table: Table) -> int:
    """The column that names the rows: where the first words of most rows stand."""
    firsts = (_first_words(row) for row in table.rows)
    counted = Counter(column for column in firsts if column is not None)
    return min(counted, key=lambda column: (-counted[column], column), default=0)


def _first_words(row: Sequence[str]) -> int | None:
    return next((n for n, text in enumerate(row) if any(c.isalpha() for c in text)), None)


def _first_row(table: Table, named_by: int, convention: Convention) -> int:
    """The first row that has amounts: those above it are heads."""
    for n, row in enumerate(table.rows):
        label = _label(row)
        amounts = [
            number
            for column, text in enumerate(row)
            if column != named_by
            for number in numbers_in(text, convention, in_cell=True)
            if not number.other and not _is_head(text)
        ]
        if amounts and label and not _is_head(label):
            return n
    return len(table.rows)


def _is_head(text: str) -> bool:
    bare = text.strip()
    return bool(period_key(bare)) and len(bare) <= 24


def _label(row: Sequence[str]) -> str:
    return next((text.strip() for text in row if any(c.isalpha() for c in text)), "")


def _unit(table: Table, above: str, first: int) -> Unit | None:
    """The unit that is stated in the corner, over the columns, or right above."""
    for row in table.rows[:first]:
        for text in row:
            if (found := unit_of(text.strip())) and (found.power or found.currency):
                return found
    for text in (*(cell for row in table.rows[:first] for cell in row), above):
        found = unit_within(text)[0] if text.strip() else None
        if found is not None and found.power:
            return found
    return None


def match_table(read: ReadTable, names: Names) -> Iterator[Matched]:
    """Every cell with the figure that it most likely is, or with none."""
    best: tuple[float, list[Matched]] = (0.0, [])
    rows = sorted({cell.row for cell in read.cells})
    candidates = {row: _lines(read.labels[row], names) for row in rows}
    for power in _powers(read):
        scaled = read if not power else _all_scaled(read, power)
        bits, found = _matched(scaled, names, candidates)
        if bits > best[0]:
            best = bits, found
        if _settles(found, scaled, names):
            break
    by_cell = {(each.cell.row, each.cell.column): each for each in best[1]}
    for cell in read.cells:
        yield by_cell.get((cell.row, cell.column), Matched(cell, None, ()))


def _all_scaled(read: ReadTable, power: int) -> ReadTable:
    return replace(read, cells=tuple(replace(c, number=_scaled(c.number, power)) for c in read.cells))


def _powers(read: ReadTable) -> tuple[int, ...]:
    return (0,) if read.unit is not None and read.unit.power else POWERS


def _matched(
    read: ReadTable, names: Names, candidates: dict[int, list[tuple[Line, float]]]
) -> tuple[float, list[Matched]]:
    """The reading of a table by one statement for each block of rows, with its bits."""
    votes: Counter[str] = Counter()
    for found in candidates.values():
        for line, share in found:
            votes[line.statement] += int(share * 10)
    best: tuple[float, list[Matched]] = (0.0, [])
    for statement, _ in votes.most_common(4):
        bits, found_cells = _by_statement(read, names, statement, candidates)
        if bits > best[0]:
            best = bits, found_cells
        if _settles(found_cells, read, names):
            break
    return best


def _settles(found: list[Matched], read: ReadTable, names: Names) -> bool:
    """Whether nearly every cell is a figure that it agrees with, so that no other reading is better."""
    agreeing = sum(each.figure is not None and agrees(each.cell.number, names, each.figure) for each in found)
    return agreeing >= max(3, NEARLY * len(read.cells))


def _lines(label: str, names: Names) -> list[tuple[Line, float]]:
    words = stems(label)
    found = []
    for line, said in names.named(words, least=NAMED - 0.3):
        more = len(set(words) - set(line.words))
        share = said - 0.15 * more + (0.3 if line.label.casefold() == label.casefold() else 0)
        if share >= NAMED:
            found.append((line, share))
    return sorted(found, key=lambda each: -each[1])[:12]


def _by_statement(
    read: ReadTable, names: Names, statement: str, candidates: dict[int, list[tuple[Line, float]]]
) -> tuple[float, list[Matched]]:
    columns = names.columns[statement]
    own = {
        row: [each for each in found if each[0].statement == statement] for row, found in candidates.items()
    }
    by_column: dict[int, list[Cell]] = defaultdict(list)
    for cell in read.cells:
        by_column[cell.column].append(cell)
    chosen: dict[int, Column] = {}
    bits = 0.0
    taken: set[str] = set()
    scores = []
    for place, cells in by_column.items():
        for column in columns:
            scores.append((_column_bits(read.heads.get(place, ""), cells, own, column, names), place, column))
    for score, place, column in sorted(scores, key=lambda each: -each[0]):
        if score > 0 and place not in chosen and column.id not in taken:
            chosen[place] = column
            taken.add(column.id)
            bits += score
    lines = {row: _line(row, found, read, chosen, names) for row, found in own.items() if found}
    matched = []
    plain = {row for row, (line, _) in lines.items() if _is_plain(row, line, read, chosen, names)}
    for cell in read.cells:
        line = lines[cell.row][0] if cell.row in lines else None
        if cell.row in plain:
            cell = replace(cell, number=cell.plain)
        at = chosen.get(cell.column)
        if line is None or at is None or not _same_form(cell.number, names, (statement, line.id, at.id)):
            continue
        because = (f"the row is called {line.label}", f"the column is {at.label}")
        matched.append(Matched(cell, (statement, line.id, at.id), because))
    bits += sum(share for _, share in lines.values()) * LABEL_BITS / max(1, len(lines))
    return bits + len(matched) * 0.1, matched


def _column_bits(
    head: str, cells: Sequence[Cell], own: dict[int, list[tuple[Line, float]]], column: Column, names: Names
) -> float:
    """What speaks for a column being one of the statement: its head, and the cells that agree."""
    bits = 0.0
    key = period_key(head)
    if head and head.casefold() == column.label.casefold():
        bits += HEAD_BITS + 2
    elif key:
        bits += HEAD_BITS if meets(key, column) else -HEAD_BITS
    elif head and {*stems(head)} & {*stems(column.label)}:
        bits += HEAD_BITS
    agreeing = looked = 0
    for cell in cells:
        lines = own.get(cell.row, ())
        if not lines:
            continue
        looked += 1
        agreeing += any(_cell_agrees(cell, names, (line.statement, line.id, column.id)) for line, _ in lines)
    if looked:
        bits += AGREES_BITS * (agreeing - 0.5 * (looked - agreeing))
    return bits if looked else -1.0


def _line(
    row: int, found: list[tuple[Line, float]], read: ReadTable, chosen: dict[int, Column], names: Names
) -> tuple[Line, float]:
    """Of several lines that a row may be, the one whose figures it prints, and else the best named."""

    def bits(each: tuple[Line, float]) -> float:
        line, share = each
        cells = [cell for cell in read.cells if cell.row == row and cell.column in chosen]
        agreeing = sum(
            _cell_agrees(cell, names, (line.statement, line.id, chosen[cell.column].id)) for cell in cells
        )
        return share * LABEL_BITS + AGREES_BITS * agreeing

    return max(found, key=bits)


def _is_plain(row: int, line: Line, read: ReadTable, chosen: dict[int, Column], names: Names) -> bool:
    """Whether a row is in ones whatever the unit of the table: most of its cells agree so, or it is no
    money and none agrees otherwise."""
    cells = [cell for cell in read.cells if cell.row == row and cell.column in chosen]
    refs = [(line.statement, line.id, chosen[cell.column].id) for cell in cells]
    scaled = sum(agrees(cell.number, names, ref) for cell, ref in zip(cells, refs, strict=True))
    plain = sum(agrees(cell.plain, names, ref) for cell, ref in zip(cells, refs, strict=True))
    return plain > scaled or (plain == scaled and not line.money)


def _cell_agrees(cell: Cell, names: Names, ref: FigureRef) -> bool:
    return agrees(cell.number, names, ref) or (
        cell.plain is not cell.number and agrees(cell.plain, names, ref)
    )


def _same_form(number: Number, names: Names, ref: FigureRef) -> bool:
    figure = names.figure(ref)
    if figure.exact is None:
        return False
    percent = figure.clauses.form in ("percent", "basis_points", "points")
    return (number.form == "percent") == percent or number.form == "amount"


def agrees(number: Number, names: Names, ref: FigureRef) -> bool:
    """Whether a number is a rounding of a figure, or what its page prints, whatever its sign."""
    figure = names.figure(ref)
    said = number.amount.copy_abs()
    if figure.clauses.form == "percent" and number.form == "amount":
        return EXACT.scaleb(said, -2) == names.rounded(ref, number.exponent - 2)
    if said == names.rounded(ref, number.exponent):
        return True
    return figure.units is not None and said == Decimal(abs(figure.units)).scaleb(figure.exponent)


def is_total(label: str) -> bool:
    """Whether a row is called a total in some language."""
    return bool({word.lower() for word in label.split()} & forms("total"))
