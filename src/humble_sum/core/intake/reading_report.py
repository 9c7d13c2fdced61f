"""What was read of a table without a question, in short sentences."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from humble_sum.core.intake.cell_reading import shows_other_sign
from humble_sum.core.intake.columns import ColumnRead
from humble_sum.core.intake.conventions import Inferred
from humble_sum.core.intake.draft import Draft, stated_units
from humble_sum.core.intake.entries import Entries
from humble_sum.core.intake.label_steps import label_columns
from humble_sum.core.intake.line_units import shows
from humble_sum.core.intake.packing import column_said
from humble_sum.core.intake.scale_words import SCALE_NAMES
from humble_sum.core.intake.table import column_letters
from humble_sum.core.intake.table_sentence import across_said

MOST_NAMED = 6


def settled(made: Draft) -> Iterator[str]:
    """What was read without a question: units, columns, sums, what is hidden, and what was left out."""
    for note in made.table.notes:
        yield f"{note.what} {note.remedy}".strip()
    if made.across is not None:
        where = " and ".join(map(column_letters, made.across.by))
        columns = "columns" if len(made.across.by) > 1 else "column"
        of = "entry" if isinstance(made.across, Entries) else "amount"
        yield f"one row an {of}, set out with {across_said(made.across)} ({columns} {where})"
    elif (labelled := _labelled(made)) is not None:
        yield labelled
    for unit in stated_units(made):
        if unit.said:
            yield f"{unit.name}, as “{unit.said}” says; amounts are kept in ones"
        if any(shows(cell, unit) for row in made.table.rows for cell in row):
            yield f"number codes show them in {SCALE_NAMES[unit.power or 0]}; their cells are in ones already"
    if any(shows_other_sign(cell) for row in made.table.rows for cell in row):
        yield "number codes say Cr or Dr; what they show as credits is below zero"
    yield from _columns(made)
    yield from _sums(made)
    for derived in made.columns:
        if derived.derived:
            yield column_said(made, derived)
    hidden = [line.label for line in made.lines if line.hidden]
    if hidden:
        yield f"{_counted(len(hidden), 'row')} hidden in the source: {_named(hidden)}"
    apart = [line.label for line in made.lines if line.kind is not None]
    if apart:
        yield f"no total counts {_named(apart)}"
    for doubt in made.doubts:
        if not doubt.asks:
            yield f"{doubt.place.rpartition(', ')[2]} “{doubt.text}”: {doubt.why}"


def _columns(made: Draft) -> Iterator[str]:
    """How the columns that are no labels were read."""
    labels = label_columns(made.table, made.layout)
    for column in made.layout.columns:
        if column.index in labels:
            continue
        if column.index == made.layout.currency_column:
            yield f"column {column_letters(column.index)} read as the currency of each line"
        elif column.index == made.layout.unit_column:
            yield f"column {column_letters(column.index)} read as the unit of each line"
        elif said := _column_read(column, next(_texts(made, column), "")):
            yield said


def _texts(made: Draft, column: ColumnRead) -> Iterator[str]:
    """What a column says beside the lines."""
    for cell in made.table.column(column.index)[made.layout.first_row :]:
        if text := cell.text.strip():
            yield text


def _labelled(made: Draft) -> str | None:
    """The columns that labels were taken from, where they are several."""
    names = [column_letters(column) for column in label_columns(made.table, made.layout)]
    return (
        f"labels of columns {', '.join(names[:-1])} and {names[-1]} read as one" if len(names) > 1 else None
    )


def _column_read(column: ColumnRead, first: str) -> str:
    """What a column was read as, where that is to be told; `first` is the first it says beside the lines."""
    letters = column_letters(column.index)
    if column.role == "code":
        return f"column {letters}, {column.heading or 'no heading'}, read as codes of the lines"
    if column.role == "other":
        named = column.heading or f"“{first[:40]}”"
        return f"column {letters}, {named}, left out" if first else ""
    inferred = column.inferred
    if inferred is None or not inferred.numbers or not _is_told(inferred):
        return ""
    reasons = "; ".join(inferred.reasons)
    said = "" if reasons.startswith("read with") else f"written with a {inferred.convention}: "
    return f"column {letters} {said}{reasons}"


def _is_told(inferred: Inferred) -> bool:
    """Whether there is anything to say of how a column is written: other marks among its cells, or a
    convention that is not the usual one."""
    settled = any(reason.startswith("read with") for reason in inferred.reasons)
    return settled or len(inferred.reasons) > 1 or inferred.convention.decimal != "."


def _sums(made: Draft) -> Iterator[str]:
    ways = Counter(line.how for line in made.lines if line.parts)
    if ways["formula"]:
        yield f"{_counted(ways['formula'], 'sum')} from formulas"
    if ways["found"]:
        yield f"{_counted(ways['found'], 'sum')} found from the figures"


def _counted(number: int, word: str) -> str:
    return f"{number} {word}" if number == 1 else f"{number} {word}s"


def _named(labels: list[str]) -> str:
    more = f" and {len(labels) - MOST_NAMED} more" if len(labels) > MOST_NAMED else ""
    return ", ".join(labels[:MOST_NAMED]) + more
