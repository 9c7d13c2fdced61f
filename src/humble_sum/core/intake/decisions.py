"""What was decided by hand of how a table is read: a small file, by which next month's is read the same way.

Decisions go by what stays from month to month: columns by their letter, lines by their label, and a cell by
its place and the text it has. One that meets nothing in a table decides nothing there, and is named.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationError, WithJsonSchema

from humble_sum.core.amount_field import Amount
from humble_sum.core.errors import InputError, faults_of
from humble_sum.core.intake.amount_reading import ARABIC, COMMA, POINT, Convention
from humble_sum.core.intake.table import SheetCell, Table, column_index
from humble_sum.core.printing.clause_checks import Currency
from humble_sum.core.statements.names import Label

ConventionId = Literal["point", "comma", "arabic"]
Role = Literal["label", "code", "figures", "other"]
UnitName = Literal[
    "ones",
    "thousands",
    "ten thousands",
    "lakhs",
    "millions",
    "crores",
    "hundred millions",
    "billions",
]
CONVENTIONS: dict[ConventionId, Convention] = {"point": POINT, "comma": COMMA, "arabic": ARABIC}
MISSING = "missing"
OwnKind = Literal["line", "memo", "count", "per_unit", "percent"]


def _is_across(told: str) -> str:
    if told != "rows" and column_index(told) is None:
        raise ValueError(f'"{told}" is neither rows nor the letters of a column, such as B')
    return told


Across = Annotated[
    str, AfterValidator(_is_across), WithJsonSchema({"type": "string", "pattern": "^(rows|[A-Z]{1,3})$"})
]


class _Decided(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class ColumnDecided(_Decided):
    """How a column is read: its role, the marks of its numbers, what it is called, whether its numbers are
    percentages, and the unit they are in where that is not the table's."""

    role: Role | None = None
    convention: ConventionId | None = None
    heading: Label | None = None
    percent: bool | None = None
    unit: UnitName | None = None


class RowDecided(_Decided):
    """How a row is read: as a line, a heading or not at all; what it is called and what kind of line it is;
    whether it is a total; and the unit of its figures, or of those under a heading."""

    role: Literal["line", "heading", "left_out"] | None = None
    label: Label | None = None
    kind: OwnKind | None = None
    total: bool | None = None
    unit: UnitName | None = None


class CellDecided(_Decided):
    """What a cell with this text says: an amount as the source means it, in its own unit, or nothing."""

    text: Annotated[str, Field(max_length=4000)]
    read: Literal["missing"] | Amount


class TableDecided(_Decided):
    """What was decided of one table. Columns go by letter, rows by label (the second of one name as
    "Fares #2"), cells by place."""

    left_out: bool = False
    name: Label | None = None
    first_row: Annotated[int, Field(ge=1, le=1_048_576)] | None = None
    unit: UnitName | None = None
    currency: Currency = None
    costs: Literal["positive", "negative"] | None = Field(
        default=None, description="What is taken off kept as it stands, or as negative amounts."
    )
    across: Across | None = Field(
        default=None,
        description="Where lines come again: the column that each of its values is to have a column for, or "
        "rows, each a line.",
    )
    look: bool = Field(default=True, description="Print as the number codes of the source say.")
    columns: dict[str, ColumnDecided] = {}
    rows: dict[str, RowDecided] = {}
    cells: dict[str, CellDecided] = {}


UNDECIDED = TableDecided()


class NamedTable(_Decided):
    """A table by the name of its sheet or its place among the tables, and what was decided of it."""

    table: str
    decided: TableDecided


class Decisions(_Decided):
    """A file of decisions: whose figures these are, and how each table is read."""

    kind: Literal["humble-sum/decisions"] = "humble-sum/decisions"
    version: Literal[1] = 1
    entity: Label | None = None
    currency: Currency = None
    tables: tuple[NamedTable, ...] = ()
    without_ties: tuple[str, ...] = ()

    def of(self, table: Table, number: int) -> TableDecided:
        """What was decided of a table: by its name, or else by its number among several."""
        names = (table.name, str(number + 1)) if table.name else (str(number + 1),)
        found = (each.decided for name in names for each in self.tables if each.table == name)
        return next(found, UNDECIDED)


def read_decisions(data: Any) -> Decisions:
    """A file of decisions from its JSON. Raises InputError with what is wrong, and where."""
    try:
        return Decisions.model_validate(data)
    except ValidationError as error:
        raise InputError("bad-decisions", faults_of(error)) from None


def merged(decided: TableDecided, patch: Mapping[str, Any]) -> TableDecided:
    """The decisions with a merge patch (RFC 7396): what is given is decided, null is undecided again.
    Raises InputError."""
    told = _merge(decided.model_dump(mode="json", exclude_defaults=True), patch)
    try:
        return TableDecided.model_validate(told)
    except ValidationError as error:
        raise InputError("bad-decisions", faults_of(error)) from None


def _merge(target: Any, patch: Any) -> Any:
    if not isinstance(patch, Mapping):
        return patch
    made = dict(target) if isinstance(target, Mapping) else {}
    for name, value in patch.items():
        if value is None:
            made.pop(name, None)
        else:
            merged_in = _merge(made.get(name), value)
            if merged_in == {}:
                made.pop(name, None)
            else:
                made[name] = merged_in
    return made


def with_cells(table: Table, cells: Mapping[str, CellDecided]) -> Table:
    """The table with the cells that were decided, where they still say what they said then."""
    if not cells:
        return table
    rows = [list(row) for row in table.rows]
    for place, decided in cells.items():
        at = table.find(place)
        if at is None:
            continue
        row, column = at
        if rows[row][column].text.strip() == decided.text.strip():
            value = None if decided.read == MISSING else decided.read
            rows[row][column] = SheetCell(value, code=rows[row][column].code)
    return table.with_rows(tuple(tuple(row) for row in rows))


def row_keys(labels: Sequence[str]) -> list[str]:
    """The name by which each line is decided: its label, with a number where an earlier one has it too."""
    seen: dict[str, int] = {}
    keys = []
    for label in labels:
        seen[label] = seen.get(label, 0) + 1
        keys.append(label if seen[label] == 1 else f"{label} #{seen[label]}")
    return keys


def unmet(decided: TableDecided, table: Table, keys: Iterable[str]) -> list[str]:
    """What was decided and meets nothing in this table, in words."""
    known = set(keys)
    found = [f"line “{key}”" for key in decided.rows if key not in known]
    for letters in decided.columns:
        index = column_index(letters)
        if index is None or index >= table.width:
            found.append(f"column {letters}")
    for place, cell in decided.cells.items():
        at = table.find(place)
        if at is None or table.rows[at[0]][at[1]].text.strip() != cell.text.strip():
            found.append(f"cell {place} with “{cell.text}”")
    return found
