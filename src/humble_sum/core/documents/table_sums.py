"""The sums of a table of a document, as printed: those of the pack whose parts are all there, and those
that the table itself shows."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.amounts import total as total_of
from humble_sum.core.documents.document import Place
from humble_sum.core.documents.judgement import written_like
from humble_sum.core.documents.table_figures import ReadTable
from humble_sum.core.intake.amount_reading import Convention
from humble_sum.core.intake.found_sums import found_sums
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef

Parts = tuple[tuple[int, int], ...]
LEAST_ALIKE, MOST_OF = 3, 0.7  # columns, and the share of them, in which a row adds up
MOST_OFF = 3  # units for each part that a printed total may be off and still be meant for one


@dataclass(frozen=True)
class TableSum:
    """A total of a table in one column: its row, the rows that are its parts, what they come to as printed,
    and what the total prints, in units of its last digit's place. Where it goes `across`, the parts are
    columns of the row of the total."""

    table: int
    row: int
    column: int
    label: str
    head: str
    parts: Parts
    comes_to: Decimal
    prints: Decimal
    written: tuple[str, str] = ("", "")
    across: bool = False

    @property
    def holds(self) -> bool:
        return self.comes_to == self.prints

    @property
    def place(self) -> str:
        """Where it stands, in words."""
        return Place(0, table=self.table, row=self.row, column=self.column).says


def sums_of(
    read: ReadTable,
    found: Mapping[tuple[int, int], FigureRef],
    pack_proof: PackProof,
    convention: Convention,
) -> Iterator[TableSum]:
    """Every sum of a table, down in every column that has all of its parts, and across in every row."""
    amounts = {(cell.row, cell.column): cell.number.amount for cell in read.cells}
    numbers = {(cell.row, cell.column): cell.number for cell in read.cells}
    for each in (*_down(read, found, pack_proof, amounts), *_across(read, amounts)):
        number = numbers[each.row, each.column]
        written = written_like(number, each.comes_to, convention), number.text
        yield replace(_turned_back(each) if read.turned else each, written=written)


def _down(
    read: ReadTable,
    found: Mapping[tuple[int, int], FigureRef],
    pack_proof: PackProof,
    amounts: Mapping[tuple[int, int], Decimal],
) -> Iterator[TableSum]:
    rows: dict[int, Parts] = {}
    for total, parts in _of_pack(read, found, pack_proof):
        rows.setdefault(total, parts)
    meant = set(rows)
    for total, parts in (*_of_table(read, amounts), *_of_runs(amounts), *_to_hundred(read)):
        rows.setdefault(total, parts)
    columns = sorted({column for _, column in amounts})
    for total, parts in sorted(rows.items()):
        for column in columns:
            whole = amounts.get((total, column))
            there = [amounts.get((row, column)) for row, _ in parts]
            if whole is None or any(each is None for each in there):
                continue
            signed = [
                EXACT.multiply(each, Decimal(sign))
                for each, (_, sign) in zip(there, parts, strict=True)
                if each is not None
            ]
            comes_to = total_of(signed)
            if (
                total not in meant
                and abs(comes_to) != abs(whole)
                and not _near(comes_to, whole, read, total, column, len(parts))
            ):
                continue
            if abs(comes_to) == abs(whole):
                comes_to = whole
            label, head = read.labels.get(total, ""), read.heads.get(column, "")
            yield TableSum(read.table.number, total, column, label, head, parts, comes_to, whole)


def _turned_back(of: TableSum) -> TableSum:
    """A sum of a turned table in the rows and columns of the table as it stands."""
    return replace(of, row=of.column, column=of.row, label=of.head, head=of.label, across=not of.across)


def _across(read: ReadTable, amounts: Mapping[tuple[int, int], Decimal]) -> Iterator[TableSum]:
    """Totals of the columns right before them, in every row."""
    turned = {(column, row): amount for (row, column), amount in amounts.items()}
    for total, parts in _of_runs(turned):
        for row in sorted({row for row, _ in amounts}):
            if all((row, column) in amounts for column in (*(part for part, _ in parts), total)):
                label, head = read.labels.get(row, ""), read.heads.get(total, "")
                comes_to = total_of(amounts[row, part] for part, _ in parts)
                whole = amounts[row, total]
                yield TableSum(
                    read.table.number, row, total, label, head, parts, comes_to, whole, across=True
                )


def _of_runs(amounts: Mapping[tuple[int, int], Decimal]) -> Iterator[tuple[int, Parts]]:
    """Rows that most columns show to be the total of all rows right before them, from the total before on."""
    rows = sorted({row for row, _ in amounts})
    columns = sorted({column for _, column in amounts})
    first = 0
    for place, total in enumerate(rows):
        for start in range(first, place - 1):
            parts = rows[start:place]
            full = [c for c in columns if all((row, c) in amounts for row in (*parts, total))]
            right = sum(total_of(amounts[row, c] for row in parts) == amounts[total, c] != 0 for c in full)
            if right >= LEAST_ALIKE and right >= MOST_OF * len(full):
                yield total, tuple((row, 1) for row in parts)
                first = place + 1
                break


def _to_hundred(read: ReadTable) -> Iterator[tuple[int, Parts]]:
    """Rows that print 100 per cent under percentages that come to it, or would but for their rounding."""
    shares: dict[int, dict[int, tuple[Decimal, int]]] = defaultdict(dict)
    for cell in read.cells:
        percent = cell.number.form == "percent" or "%" in read.heads.get(cell.column, "")
        if percent and cell.number.amount >= 0:
            power = 0 if cell.number.form == "percent" else -2
            amount = EXACT.scaleb(cell.number.amount, power)
            shares[cell.column][cell.row] = amount, cell.number.exponent + power
    for column in shares.values():
        first = 0
        rows = sorted(column)
        for place, row in enumerate(rows):
            if column[row][0] != 1:
                continue
            parts = rows[first:place]
            off = abs(total_of(column[part][0] for part in parts) - 1) if len(parts) > 1 else Decimal(1)
            if off <= len(parts) * Decimal(1).scaleb(max(column[part][1] for part in rows)):
                yield row, tuple((part, 1) for part in parts)
            first = place + 1


def _near(comes_to: Decimal, whole: Decimal, read: ReadTable, row: int, column: int, parts: int) -> bool:
    cell = next(each for each in read.cells if (each.row, each.column) == (row, column))
    unit = Decimal(1).scaleb(cell.number.exponent)
    return abs(comes_to - whole) <= MOST_OFF * parts * unit


def _of_pack(
    read: ReadTable, found: Mapping[tuple[int, int], FigureRef], pack_proof: PackProof
) -> Iterator[tuple[int, Parts]]:
    """Totals of the pack that the table prints with all of their parts."""
    line_at: dict[tuple[str, str], int] = {}
    for (row, _), (statement, line, _) in found.items():
        line_at.setdefault((statement, line), row)
    negative = _negatives(read)
    for (statement, id), row in line_at.items():
        total = pack_proof.proofs[statement].statement.line(id)
        signs = _signs(pack_proof, statement, id, negative)
        parts = [
            (line_at[statement, part], sign * signs.get(part, 1))
            for part, sign in (total.parts if total else ())
            if (statement, part) in line_at
        ]
        if total is not None and parts and len(parts) == len(total.parts):
            yield row, tuple(parts)


def _negatives(read: ReadTable) -> bool:
    return any(cell.number.amount < 0 for cell in read.cells)


def _signs(pack_proof: PackProof, statement: str, line: str, negative: bool) -> dict[str, int]:
    """Where a table shows costs without a sign, what the pack adds as negative is taken off; unless all
    of the parts of a total are so."""
    if negative:
        return {}
    proof = pack_proof.proofs[statement]
    row = proof.statement.line(line)
    assert row is not None
    column = proof.statement.columns[0].id
    own = {}
    for part, _ in row.parts:
        exact = proof.figures[part, column].exact if (part, column) in proof.figures else None
        own[part] = -1 if exact is not None and exact < 0 else 1
    return {} if set(own.values()) == {-1} else own


def _of_table(read: ReadTable, amounts: Mapping[tuple[int, int], Decimal]) -> Iterator[tuple[int, Parts]]:
    """Totals that the amounts of the table show."""
    rows = sorted({row for row, _ in amounts})
    columns = sorted({column for _, column in amounts})
    by_row: dict[int, list[Decimal | None]] = defaultdict(list)
    for row in rows:
        by_row[row] = [amounts.get((row, column)) for column in columns]
    for found in found_sums([by_row[row] for row in rows]):
        if found.sure:
            yield rows[found.total], tuple((rows[part], sign) for part, sign in found.parts)
