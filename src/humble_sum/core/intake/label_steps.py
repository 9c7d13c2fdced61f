"""Labels in several columns: one for each step of the outline, or names of groups beside their first line."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from itertools import groupby

from humble_sum.core.intake.columns import Layout
from humble_sum.core.intake.decisions import ColumnDecided
from humble_sum.core.intake.table import EMPTY, SheetCell, Table, column_letters

LEAST_LETTERS = 3  # of a group's name; fewer are numbers of lines, such as IV


def with_one_label(table: Table, layout: Layout, decided: Mapping[str, ColumnDecided]) -> Table:
    """The table with its labels in one column: of a row's labels the last is its line's, and those before it
    are headings, each in a row of its own above. The same table where no other column has any; one whose role
    was decided has none."""
    if layout.label is None or not layout.figures:
        return table
    settled = {letters for letters, told in decided.items() if told.role is not None}
    steps = _steps(table, layout, settled)
    if len(steps) == 1:
        return table
    rows: list[tuple[SheetCell, ...]] = []
    origins: dict[tuple[int, int], tuple[int, int]] = {}
    moved: list[int] = []  # where each row came to stand
    at = layout.label.index
    empty = [EMPTY] * table.width

    def put(cells: Sequence[SheetCell], row: int, step: int | None) -> None:
        """A row with the label of this step, if any."""
        made = list(cells)
        origins.update({(len(rows), n): table.origin(row, n) for n in range(table.width)})
        if step is not None:
            origins[len(rows), at] = table.origin(row, step)
            cell = table.rows[row][step]
            made = [EMPTY if n in steps else each for n, each in enumerate(made)]
            made[at] = cell._replace(indent=cell.indent + steps.index(step))
        rows.append(tuple(made))

    group = ""
    for row, cells in enumerate(table.rows):
        said = [step for step in steps if cells[step].text.strip()] if _is_line(cells, layout, row) else []
        if len(said) > 1 and cells[said[0]].text == group:
            said = said[1:]  # the same group as in the row above, named again
        elif said and said[0] != steps[-1]:
            group = cells[said[0]].text
        for step in said[:-1]:
            put(empty, row, step)
        moved.append(len(rows))
        put(cells, row, said[-1] if said else None)
    hidden = frozenset(moved[row] for row in table.hidden)
    merged = tuple((moved[a], b, moved[c], d) for a, b, c, d in table.merged if b not in steps)
    return replace(table, rows=tuple(rows), hidden=hidden, merged=merged, origins=origins)


def label_columns(table: Table, layout: Layout) -> list[int]:
    """The columns that a table's labels were taken from: more than one where they became one."""
    if layout.label is None:
        return []
    at = layout.label.index
    if table.origins is None:
        return [at]
    return sorted({at} | {table.origin(row, at)[1] for row in range(len(table.rows))})


def _is_line(cells: Sequence[SheetCell], layout: Layout, row: int) -> bool:
    """Whether a row is a line or a heading among lines: of those above the first line only what says nothing
    over the figures."""
    return row >= layout.first_row or not any(cells[column.index].says for column in layout.figures)


def _steps(table: Table, layout: Layout, settled: Collection[str]) -> list[int]:
    """The columns that have labels, from the left, but for those that are settled by hand."""
    assert layout.label is not None
    main, first = layout.label.index, min(column.index for column in layout.figures)
    # A heading may stand over the first line, below what heads the figures; else it is a title.
    begins = layout.first_row
    while begins and _is_line(table.rows[begins - 1], layout, begins - 1):
        begins -= 1
    rows = table.rows[begins or layout.first_row :]
    apart = {layout.unit_column, layout.currency_column}
    found = [main]
    for index in (c.index for c in layout.columns if c.role == "other" and c.index < first):
        words = [row for row in rows if row[index].text.strip()]
        beside = sum(bool(row[main].text.strip()) for row in words)
        if index in apart or not words or column_letters(index) in settled:
            continue
        further = index > main
        again = _are_named_again(table, rows, min(main, index), max(main, index))
        if again or (not beside if further else _are_groups(table, rows, index, beside, main)):
            found.append(index)
    return sorted(found)


def _are_groups(
    table: Table, rows: Sequence[Sequence[SheetCell]], index: int, beside: int, main: int
) -> bool:
    """Whether a column before the labels has names of groups: words, and beside few labels only, where a row
    may be put in above."""
    said = [text for row in rows if (text := row[index].text.strip())]
    labels = sum(bool(row[main].text.strip()) for row in rows)
    worded = all(sum(letter.isalpha() for letter in text) >= LEAST_LETTERS for text in said)
    fixed = beside and not _may_grow(table)
    return worded and not fixed and 2 * beside <= labels and len({*said}) == len(said)


def _are_named_again(table: Table, rows: Sequence[Sequence[SheetCell]], left: int, right: int) -> bool:
    """Whether the left of two columns names groups, in every row of each, and the right one their lines.
    Where most lines come in several groups, it is asked about (`long_form.other_forms`)."""
    pairs = [(row[left].text.strip(), row[right].text.strip()) for row in rows if row[left].says]
    groups = [group for group, _ in groupby(group for group, _ in pairs)]
    worded = all(any(letter.isalpha() for letter in line) for _, line in pairs)
    told_apart = len({*pairs}) == len(pairs) and len({*groups}) == len(groups)
    times = Counter(line for _, line in pairs)
    shared = sum(count > 1 for count in times.values())
    grouped = 2 * len(groups) <= len(pairs) and 2 * shared <= len(times)
    return worded and told_apart and grouped and _may_grow(table)


def _may_grow(table: Table) -> bool:
    """Whether rows may be put in: where formulas go by rows, or they were set out before, none may."""
    return table.origins is None and not any(cell.formula for row in table.rows for cell in row)
