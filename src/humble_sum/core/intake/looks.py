"""What a workbook's number codes say of a table: of most of it, of single columns, and of single lines."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field

from humble_sum.core.intake.code_clauses import Look, look_of
from humble_sum.core.intake.columns import Layout
from humble_sum.core.intake.draft_lines import DraftLine
from humble_sum.core.intake.table import SheetCell, Table

NONE = Look({})


@dataclass(frozen=True)
class Looks:
    """The look that more than half of the amounts have, and by place those of columns and lines whose cells
    all have another."""

    common: Look = NONE
    columns: dict[int, Look] = field(default_factory=dict)
    lines: dict[int, Look] = field(default_factory=dict)

    def own(self, look: Look) -> dict[str, object]:
        """What a look says otherwise than the common one."""
        return {name: said for name, said in look.clauses.items() if self.common.clauses.get(name) != said}


def looks_of(table: Table, layout: Layout, lines: Sequence[DraftLine], apart: Collection[int]) -> Looks:
    """The looks of a table's figures; those of shares and of lines that stand apart say nothing of most."""
    codes = {
        n: {
            place: code
            for place, column in enumerate(layout.figures)
            if place not in apart and (code := _code(table.rows[line.row][column.index]))
        }
        for n, line in enumerate(lines)
        if not line.heading
    }
    read = {code: look_of(code) for of_line in codes.values() for code in set(of_line.values())}
    amounts = [of_line for n, of_line in codes.items() if lines[n].kind in (None, "memo")]
    telling = [code for of_line in amounts for code in of_line.values() if read[code].clauses]
    common = NONE
    if telling:
        code, most = Counter(telling).most_common(1)[0]
        common = read[code] if most * 2 > len(telling) else NONE
    columns = {}
    for place in range(len(layout.figures)):
        own = _one([read[of_line[place]] for of_line in amounts if place in of_line])
        if own is not None and own.clauses != common.clauses and len(layout.figures) > 1:
            columns[place] = own
    # Every column otherwise than the others is no exception where each line has one code.
    by_lines = all(_one([read[code] for code in of_line.values()]) for of_line in amounts if of_line)
    if by_lines and len(columns) == len(layout.figures):
        columns = {}
    found = {}
    for n, of_line in codes.items():
        own = _one([read[code] for place, code in of_line.items() if place not in columns])
        if own is not None and own.clauses != common.clauses:
            found[n] = own
    return Looks(common, columns, found)


def _code(cell: SheetCell) -> str:
    """The number code of a cell that says something."""
    return cell.code if cell.code and cell.says else ""


def _one(looks: Sequence[Look]) -> Look | None:
    """The one look that all have which say anything; None where there are several or none."""
    said = [look for look in looks if look.clauses]
    return said[0] if said and all(look.clauses == said[0].clauses for look in said) else None
