"""How a table, a column or a row is read, as sentences whose words open; each choice is a decision."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from humble_sum.core.intake.columns import ColumnRead
from humble_sum.core.intake.decisions import CONVENTIONS, OwnKind
from humble_sum.core.intake.draft import Draft, stated_units
from humble_sum.core.intake.draft_lines import DraftLine
from humble_sum.core.intake.entries import Entries
from humble_sum.core.intake.kinds import KINDS
from humble_sum.core.intake.label_steps import label_columns
from humble_sum.core.intake.long_form import LongForm
from humble_sum.core.intake.odd_lines import table_power
from humble_sum.core.intake.packing import name_of
from humble_sum.core.intake.scale_words import POWERS_BY_NAME, SCALE_NAMES
from humble_sum.core.intake.table import column_letters

ROLES = {"label": "labels", "figures": "figures", "code": "line codes", "other": "left out"}
MARKS = {"point": "a decimal point", "comma": "a decimal comma", "arabic": "Arabic marks"}
MOST_HEADS = 14  # rows that the lines may be said to begin at


@dataclass(frozen=True)
class Pick:
    """One way a word can be, and the merge patch of decisions that makes it so."""

    label: str
    decide: Mapping[str, Any]


@dataclass(frozen=True)
class Open:
    """A word that opens. `typed` is where in the patch a typed text goes; none where none is typed."""

    name: str
    label: str
    picks: tuple[Pick, ...] = ()
    chosen: int = -1
    typed: tuple[str, ...] = ()
    example: str = ""


Told = list[str | Open]
Decide = Callable[..., Mapping[str, Any]]


def table_sentence(made: Draft) -> Told:
    """What a table is, in what unit, from which row, and how its costs are shown."""
    decided, table = made.decided, made.table
    name = decided.name or name_of(made)
    where = f"Sheet {table.name} of {table.source}" if table.name else table.source
    found: Told = [where, "is"]
    kept = (
        Pick("a statement", {"left_out": None}),
        Pick("left out", {"left_out": True}),
    )
    found.append(Open("what it is", kept[decided.left_out].label, kept, int(decided.left_out)))
    if decided.left_out:
        return [*found, "."]
    found += [", called", Open("name", name, typed=("name",), example="Income")]
    found += [", in", _currency(made), _unit(made)]
    if any(sign < 0 for line in made.lines for _, sign in line.parts):
        costs = (
            Pick("kept as they stand and taken off", {"costs": None}),
            Pick("kept as negative amounts", {"costs": "negative"}),
        )
        negative = decided.costs == "negative"
        found += [", its costs", Open("costs", costs[negative].label, costs, int(negative))]
    if made.across is not None:
        return [*found, ". It has", _across(made), "."]
    found += [". Its lines begin", _first_row(made)]
    if decided.across is not None:
        found += [", with", _across(made)]
    return [*found, "."]


def _across(made: Draft) -> Open:
    """Whether rows that are of one line in several periods are set out as columns."""
    rows = Pick("a line for each row", {"across": "rows"})
    if made.across is None:
        return Open("across", rows.label, (rows, Pick("what they seem to be", {"across": None})), 0)
    by = {"across": column_letters(made.across.by[0])} if made.decided.across else {"across": None}
    picks = (Pick(across_said(made.across), by), rows)
    typed = ("across",) if isinstance(made.across, Entries) else ()
    return Open("across", across_said(made.across), picks, 0, typed, "C" if typed else "")


def across_said(form: LongForm | Entries) -> str:
    """What a table of one row an amount, or an entry, is set out with."""
    if isinstance(form, Entries):
        return f"its entries added up, with a column for each {form.name}"
    return f"a column for each {form.name}"


def _currency(made: Draft) -> Open:
    picks = [Pick("as the source says", {"currency": None})] if made.decided.currency else []
    return Open("currency", made.currency or "no currency", tuple(picks), -1, ("currency",), "INR")


def _unit(made: Draft) -> Open:
    names = {SCALE_NAMES.get(unit.power or 0, "ones") for unit in stated_units(made)} or {"ones"}
    now = made.decided.unit or (names.pop() if len(names) == 1 else "several units")
    picks = [Pick(name, {"unit": name}) for name in POWERS_BY_NAME]
    chosen = next((n for n, pick in enumerate(picks) if pick.label == now), -1)
    if made.decided.unit is not None:
        picks.append(Pick("as the source says", {"unit": None}))
    return Open("unit", now, tuple(picks), chosen)


def _first_row(made: Draft) -> Open:
    first = made.layout.first_row
    rows = range(min(max(MOST_HEADS, first + 4), len(made.table.rows)))
    named = [made.table.sheet_row(row) + 1 for row in rows]
    picks = [
        Pick(f"at row {name}: {_shown(made, row)}", {"first_row": name})
        for row, name in zip(rows, named, strict=True)
    ]
    if made.decided.first_row is not None:
        picks.append(Pick("where they seem to", {"first_row": None}))
    now = made.table.sheet_row(first) + 1
    return Open("first row", f"at row {now}", tuple(picks), first if first < len(rows) else -1)


def _shown(made: Draft, row: int) -> str:
    texts = [cell.text.strip() for cell in made.table.rows[row] if cell.text.strip()]
    return " · ".join(texts)[:60] or "empty"


def column_sentence(made: Draft, column: ColumnRead) -> Told:
    """What a column holds, how it is headed, and how its numbers are written."""
    letters = column_letters(column.index)

    def decide(**said: Any) -> Mapping[str, Any]:
        return {"columns": {letters: said}}

    roles = tuple(Pick(said, decide(role=role)) for role, said in ROLES.items())
    use, now = _of_lines(made, column), list(ROLES).index(column.role)
    found: Told = [f"Column {letters} is", Open("role", use or roles[now].label, roles, -1 if use else now)]
    if column.role == "figures":
        heading = column.heading or f"column {letters}"
        found += [", headed", Open("heading", heading, typed=("columns", letters, "heading"), example="2026")]
        if column.inferred and column.inferred.numbers:
            marks = tuple(Pick(said, decide(convention=id)) for id, said in MARKS.items())
            way = [CONVENTIONS[id] for id in CONVENTIONS].index(column.inferred.convention)
            found += [", written with", Open("marks", marks[way].label, marks, way)]
        shares = (
            Pick("amounts", decide(percent=False)),
            Pick("percentages", decide(percent=True)),
        )
        found += [", holding", Open("form", shares[column.percent].label, shares, int(column.percent))]
        if not column.percent:
            found += ["in", _unit_of_column(made, column, decide)]
    return [*found, "."]


def _of_lines(made: Draft, column: ColumnRead) -> str:
    """What a column without figures says of each line; nothing where it is left out."""
    if column.index == made.layout.currency_column:
        return "the currency of each line"
    if column.index == made.layout.unit_column:
        return "the unit of each line"
    joined = column.role != "label" and column.index in label_columns(made.table, made.layout)
    return "labels, read as one with the others" if joined else ""


def _unit_of_column(made: Draft, column: ColumnRead, decide: Decide) -> Open:
    told = made.decided.columns.get(column_letters(column.index))
    now = SCALE_NAMES.get(column.unit.power or 0, "ones") if column.unit else "ones"
    return _unit_word(now, told is not None and told.unit is not None, decide)


def _unit_of_line(made: Draft, line: DraftLine, decide: Decide) -> Open:
    told, power = made.decided.rows.get(line.key), table_power(made)
    now = line.unit or ("several units" if power is None else SCALE_NAMES.get(power, "ones"))
    return _unit_word(now, told is not None and told.unit is not None, decide)


def _unit_word(now: str, told: bool, decide: Decide) -> Open:
    """The unit that figures are in, with all that they can be in."""
    names = tuple(POWERS_BY_NAME)
    picks = [Pick(name, decide(unit=name)) for name in names]
    if told:
        picks.append(Pick("as the source says", decide(unit=None)))
    return Open("unit", now, tuple(picks), names.index(now) if now in names else -1)


def row_sentence(made: Draft, row: int) -> Told:
    """What a row is, what it is called, its kind, and whether it is a total."""
    line = next((each for each in made.lines if each.row == row), None)
    number = made.table.sheet_row(row) + 1
    if line is None:
        left_out = any(told.role == "left_out" for told in made.decided.rows.values())
        return _left_out(made, row) if left_out else [f"Row {number} is no line of the statement."]
    key = line.key

    def decide(**said: Any) -> Mapping[str, Any]:
        return {"rows": {key: said}}

    roles = (
        Pick("a line", decide(role="line")),
        Pick("a heading", decide(role="heading")),
        Pick("left out", decide(role="left_out")),
    )
    found: Told = [f"Row {number} is", Open("role", roles[line.heading].label, roles, int(line.heading))]
    found += [", called", Open("label", line.label, typed=("rows", key, "label"), example="Fares")]
    if line.heading:
        return [*found, ", what stands under it in", _unit_of_line(made, line, decide), "."]
    if line.kind != "percent":
        found += [", in", _unit_of_line(made, line, decide)]
    names: tuple[OwnKind, ...] = ("line", "memo", "count", "per_unit", "percent")
    kinds = tuple(Pick(KINDS[name], decide(kind=name)) for name in names)
    kind = names.index(line.kind) if line.kind in names else 0
    if not line.parts:
        found += [", of the kind:", Open("kind", kinds[kind].label, kinds, kind)]
    offered = any(made.lines[offer.total] is line for offer in made.offers)
    told = made.decided.rows.get(key)
    if line.parts or offered or (told is not None and told.total is not None):
        totals = (Pick("a total", decide(total=True)), Pick("no total", decide(total=False)))
        found += [". It is", Open("total", totals[not line.parts].label, totals, int(not line.parts))]
        if line.parts:
            found.append(f"of {adding(made, line.parts)}")
    return [*found, "."]


def _left_out(made: Draft, row: int) -> Told:
    label, number = made.layout.label, made.table.sheet_row(row) + 1
    said = made.table.rows[row][label.index].text.strip() if label else ""
    keys = [key for key in made.decided.rows if key == said or key.startswith(f"{said} #")]
    keys = keys or [f"row {number}"]
    picks = tuple(Pick("a line again", {"rows": {key: None}}) for key in keys[:1])
    return [f"Row {number} is", Open("role", "left out", picks, -1), "."]


def adding(made: Draft, parts: Sequence[tuple[int, int]]) -> str:
    """Signed parts in words: "Fares + Freight − Fuel"."""
    words: list[str] = []
    for part, sign in parts:
        words.append("−" if sign < 0 else "+" if words else "")
        words.append(made.lines[part].label)
    return " ".join(word for word in words if word)
