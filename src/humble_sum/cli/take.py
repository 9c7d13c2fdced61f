"""Taking figures in from files: what was read and how, and a pack of what is accepted."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path

from humble_sum.core.changes.roll_forward import Rolled, best_statement, roll_forward
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.amounts import ARABIC, COMMA, POINT, Convention
from humble_sum.core.intake.draft import Draft, draft, stated_units, statement_of
from humble_sum.core.intake.found_ties import found_ties
from humble_sum.core.intake.kinds import KINDS
from humble_sum.core.intake.packing import Kept, column_said, look_said, name_of, statements_of
from humble_sum.core.intake.table import Table, column_letters
from humble_sum.core.intake.units import POWERS_BY_NAME
from humble_sum.core.printing.clauses import ResolvedClauses
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.proof.findings import describe_tie
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.pack import Pack, Statement
from humble_sum.exchange.sources.opening import open_source
from humble_sum.exchange.sources.progress import Progress, unheard

CONVENTIONS: Mapping[str, Convention] = {"point": POINT, "comma": COMMA, "arabic": ARABIC}
HEADING_ROWS = 12  # rows a column's heading is looked for in
PLAIN = ResolvedClauses()


def take(
    files: Sequence[tuple[str, bytes]],
    conventions: Sequence[str] = (),
    progress: Progress = unheard,
    unit: str | None = None,
) -> list[Draft]:
    """A draft of every table in the files, each column read by what it shows or by a convention
    chosen for it: "comma" for every column, "2025-26=comma" or "C=comma" for one. Amounts are in the unit
    that the source states, or in this one."""
    if unit is not None and unit not in POWERS_BY_NAME:
        what = f'"{unit}" is no unit.'
        raise InputError("bad-convention", Fault("--unit", what, f"Use {', '.join(POWERS_BY_NAME)}."))
    power = None if unit is None else POWERS_BY_NAME[unit]
    chosen = [_convention(each) for each in conventions]
    drafts = []
    for name, data in files:
        for table in open_source(name, data, progress):
            by_column: dict[int, Convention] = {}
            for column, convention in chosen:
                by_column |= dict.fromkeys(_columns(table, column), convention)
            drafts.append(draft(table, by_column, power=power))
    unused = [column for column, _ in chosen if column and not any(_columns(d.table, column) for d in drafts)]
    if unused:
        what = f'No column is headed or lettered "{unused[0]}".'
        raise InputError("bad-convention", Fault("--convention", what))
    return drafts


def _convention(text: str) -> tuple[str, Convention]:
    """The column named ("" for every one) and the convention chosen for it."""
    column, _, name = text.rpartition("=")
    if name not in CONVENTIONS:
        names = ", ".join(CONVENTIONS)
        raise InputError("bad-convention", Fault("--convention", f'"{name}" is not one.', f"Use {names}."))
    return column, CONVENTIONS[name]


def _columns(table: Table, named: str) -> list[int]:
    """The columns of a table with this letter, or this text in one of their first cells."""
    if not named:
        return list(range(table.width))
    head = table.rows[:HEADING_ROWS]
    return [
        column
        for column in range(table.width)
        if named == column_letters(column) or any(row[column].text.strip() == named for row in head)
    ]


def read_files(paths: Sequence[Path]) -> list[tuple[str, bytes]]:
    """The files' names and bytes."""
    found = []
    for path in paths:
        try:
            found.append((path.name, path.read_bytes()))
        except OSError as error:
            raise InputError("no-file", Fault(str(path), f"{error.strerror or error}.")) from None
    return found


def said(made: Draft) -> Iterator[str]:
    """What was read and how, line by line, for people."""
    yield f"{made.table.source}{f', {made.table.name}' if made.table.name else ''}: {name_of(made)}"
    for note in made.table.notes:
        yield f"  note: {note.what} {note.remedy}".rstrip()
    for unit in stated_units(made):
        source = f", as “{unit.said}” says" if unit.said else ""
        yield f"  unit: {unit.name}{source}; amounts are kept in ones"
    for column in made.layout.columns:
        what = f"  column {column.heading or column.index + 1}: {column.role}"
        if column.inferred and column.inferred.numbers:
            agree = f"{column.inferred.agree} of {column.inferred.numbers} cells agree"
            reasons = "; ".join(column.inferred.reasons)
            what += f", {column.inferred.convention}, {agree}" + (f" ({reasons})" if reasons else "")
        yield what
    for line in made.lines:
        amounts = (
            "  ".join(exact_text(amount, PLAIN) or "·" for amount in line.amounts) if not line.heading else ""
        )
        yield f"    {line.label:<40.40} {amounts}"
        if line.parts:
            parts = " ".join(
                f"{'+' if sign > 0 else '−'} {made.lines[part].label}" for part, sign in line.parts
            )
            yield f"      = {parts}  [{line.evidence}]"
        elif line.kind is not None:
            yield f"      {KINDS[line.kind]}, which no total counts"
    for derived in made.columns:
        if derived.derived:
            yield f"  {column_said(made, derived)}"
    if made.look.clauses:
        unheld = f"; not held: {', '.join(made.look.unheld)}" if made.look.unheld else ""
        yield f"  its number codes print {look_said(made)}{unheld}"
    for offer in made.offers:
        names = " and ".join(made.lines[part].label for part, _ in offer.parts)
        yield f"  perhaps {made.lines[offer.total].label} adds {names} ({offer.evidence}); not taken"
    for doubt in made.doubts:
        yield f"  look at {doubt.place}: {doubt.text!r}, {doubt.why}"


def ties_said(drafts: Sequence[Kept]) -> Iterator[str]:
    """The ties found between drafts, each with its evidence."""
    statements = statements_of(drafts)
    pack = Pack(entity="Entity", period="Period", statements=tuple(statements))
    for found in found_ties([(kept.draft, of) for kept, of in zip(drafts, statements, strict=True)]):
        yield f"{describe_tie(pack, found.tie)}  [{found.evidence}]"


def bring_into(pack: Pack, drafts: Sequence[Draft], period: str, restate: bool) -> Rolled:
    """The pack rolled forward with each draft in the statement that has most of its lines."""
    brought: dict[str, Statement] = {}
    for number, made in enumerate(drafts):
        new = statement_of(made, f"draft-{number}", name_of(made))
        id = best_statement(pack, new)
        if id is not None and id not in brought:
            brought[id] = new
    return roll_forward(prove_pack(pack), brought, period, restate)


def compared_said(rolled: Rolled) -> Iterator[str]:
    """What came, went and moved, line by line."""
    for compared in rolled.comparisons:
        yield f"{compared.statement}: {compared.then} → {compared.now}"
        for line in compared.lines:
            was, now, moved = (
                exact_text(amount, PLAIN) or "·" for amount in (line.was, line.now, line.moved)
            )
            mark = {"kept": " ", "new": "+", "gone": "−"}[line.fate]
            yield f"  {mark} {line.label:<40.40} {was:>20} {now:>20} {moved:>18}"
        for each in compared.restated:
            restated, published = exact_text(each.restated, PLAIN), exact_text(each.published, PLAIN)
            yield f"  restated: {each.label}, published {published}, now stated {restated}"
    for name in rolled.left_out:
        yield f"left out, as it has no new figures: {name}"
