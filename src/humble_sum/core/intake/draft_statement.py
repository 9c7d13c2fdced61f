"""A draft as a statement of a pack."""

from __future__ import annotations

from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.draft import Draft
from humble_sum.core.intake.draft_columns import is_off
from humble_sum.core.intake.draft_lines import DraftLine
from humble_sum.core.intake.kinds import usual_sign_of
from humble_sum.core.rules.rulebook import LineKind
from humble_sum.core.statements.pack import OWN_ACROSS, RATIOS, Column, Line, Statement, UsualSign


def statement_of(made: Draft, id: str, name: str) -> Statement:
    """The draft as a statement. Totals keep the amounts the source states for them, so that where
    these are not their parts' sum there is a source break, and not a quiet correction.

    Raises InputError where no column or no line is left of it.
    """
    if not made.has_figures:
        what = "No line with a figure is left of this table."
        raise InputError(
            "no-table", Fault(made.table.source, what, "Say which columns are figures, or leave it out.")
        )
    counted = {part for line in made.lines for part, _ in line.parts}
    taken_off = _taken_off(made)

    def turned(line: int) -> int:
        return -1 if line in taken_off else 1

    indents = any(line.indent for line in made.lines)
    lines = []
    for number, line in enumerate(made.lines):
        kind: LineKind = "heading" if line.heading else line.kind or "line"
        if line.parts:
            kind = "subtotal" if number in counted else "total"
        amounts = {
            column.id: _negated(amount) if number in taken_off else amount
            for column, amount in zip(made.columns, line.amounts, strict=True)
            if not line.heading
            and (not column.derived or (column.sum and _states_own(made, line, kind, column)))
            and not (line.parts and amount is None)
        }
        lines.append(
            Line.model_validate(
                {
                    "id": line.id,
                    "label": line.label,
                    "kind": kind,
                    "parts": tuple(
                        (made.lines[part].id, sign * turned(number) * turned(part))
                        for part, sign in line.parts
                    ),
                    "amounts": amounts,
                    "natural": _usual_sign(line, number in taken_off),
                    "indent": line.indent if indents else None,
                    "currency": line.currency if line.currency != made.currency else None,
                }
            )
        )
    return Statement(id=id, name=name, title=name, columns=made.columns, lines=tuple(lines))


def _states_own(made: Draft, line: DraftLine, kind: LineKind, column: Column) -> bool:
    """Whether a line has an amount of its own in a column that adds others: a ratio, or a count that is not
    what they come to."""
    if kind not in OWN_ACROSS:
        return False
    numbers = {each.id: n for n, each in enumerate(made.columns)}
    parts = tuple((numbers[id], sign) for id, sign in column.terms)
    return kind in RATIOS or is_off(line, numbers[column.id], parts)


def _taken_off(made: Draft) -> set[int]:
    """The lines that their totals take off, and the parts of those, where costs shown positive are kept as
    negative amounts."""
    if made.decided.costs != "negative":
        return set()
    uses: dict[int, list[tuple[int, int]]] = {}
    for total, line in enumerate(made.lines):
        for part, sign in line.parts:
            uses.setdefault(part, []).append((total, sign))
    signs: dict[int, int] = {}

    def sign_of(line: int) -> int:
        if line not in signs:
            signs[line] = 1
            found = {sign_of(total) * sign for total, sign in uses.get(line, ())}
            signs[line] = -1 if found == {-1} else 1
        return signs[line]

    return {line for line in range(len(made.lines)) if sign_of(line) < 0}


def _negated(amount: Decimal | None) -> Decimal | None:
    return None if amount is None else EXACT.minus(amount) if amount else amount


def _usual_sign(line: DraftLine, taken_off: bool) -> UsualSign:
    if line.heading:
        return "either"
    return usual_sign_of([_negated(amount) for amount in line.amounts] if taken_off else line.amounts)
