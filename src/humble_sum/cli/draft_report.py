"""Taking figures in from files: what was read and how, and a pack of what is accepted."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Sequence
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

from humble_sum.cli.files import write_file
from humble_sum.cli.pack_files import open_pack
from humble_sum.cli.terminal_progress import on_terminal
from humble_sum.core.amounts import amount_text
from humble_sum.core.changes.cost_signs import in_signs_of
from humble_sum.core.changes.roll_forward import Rolled, best_statement, roll_forward
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.intake.decisions import (
    CONVENTIONS,
    UNDECIDED,
    Decisions,
    NamedTable,
    merged,
    read_decisions,
)
from humble_sum.core.intake.draft import Draft, draft, stated_units
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.found_ties import found_ties
from humble_sum.core.intake.kinds import KINDS
from humble_sum.core.intake.packing import Kept, look_said, name_of, pack_of, statements_of
from humble_sum.core.intake.questions import Question, questions
from humble_sum.core.intake.reading_report import settled
from humble_sum.core.intake.reasons import reasons
from humble_sum.core.intake.scale_words import POWERS_BY_NAME
from humble_sum.core.intake.source_breaks import source_breaks
from humble_sum.core.intake.table import Table, column_letters
from humble_sum.core.intake.table_sentence import adding
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.proof.findings import describe_tie
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.pack import Pack, Statement
from humble_sum.exchange.pack_json import write_pack
from humble_sum.exchange.sources.opening import open_source
from humble_sum.exchange.sources.progress import Progress, unheard
from humble_sum.exchange.sources.sql_source import is_address, read_database

HEADING_ROWS = 12  # rows a column's heading is looked for in
MOST_PLACES = 12  # cells of one question that are named
PLAIN = ResolvedClauses()


@dataclass(frozen=True)
class Wanted:
    """What `humble-sum take` was asked for, as its options say."""

    files: Sequence[str]
    as_pack: Path | None
    conventions: Sequence[str]
    into: Path | None
    restate: bool
    entity: str | None
    period: str
    currency: str | None
    unit: str | None
    decisions: Path | None
    decisions_out: Path | None
    as_json: bool
    quiet: bool
    query: str = ""


def take_in(wanted: Wanted) -> bool:
    """Say what the files were read as, and write what is asked for; whether there is something to ask, or a
    total that does not foot in its source."""
    decided = open_decisions(wanted.decisions) if wanted.decisions is not None else None
    addresses = [each for each in wanted.files if is_address(each)]
    files = read_files([Path(each) for each in wanted.files if each not in addresses])
    read = [table for each in addresses for table in read_database(each, wanted.query)]
    every = take(files, wanted.conventions, on_terminal, wanted.unit, decided, wanted.query, read)
    drafts = [made for made in every if not made.decided.left_out]
    asked = [questions(made, [each for each in drafts if each is not made]) for made in drafts]
    if wanted.as_json:
        tables = [told(made, of) for made, of in zip(drafts, asked, strict=True)]
        print(json.dumps({"tables": tables}, ensure_ascii=False, indent=1))
    else:
        for made, of in zip(drafts, asked, strict=True):
            for line in said(made, of, wanted.quiet):
                print(line)
    if wanted.decisions_out is not None:
        text = decisions_of(every, wanted, decided).model_dump_json(exclude_defaults=True, indent=1)
        write_file(wanted.decisions_out, f"{text}\n".encode())
    made_of = _next_period(wanted, drafts) if wanted.into is not None else _new_pack(wanted, drafts, decided)
    if wanted.as_pack is not None:
        write_file(wanted.as_pack, write_pack(made_of()))
    return any(asked) or any(True for made in drafts for _ in source_breaks(made))


def _next_period(wanted: Wanted, drafts: Sequence[Draft]) -> Callable[[], Pack]:
    assert wanted.into is not None
    rolled = bring_into(open_pack(wanted.into, None), drafts, wanted.period, wanted.restate)
    for line in () if wanted.as_json else compared_said(rolled):
        print(line)
    return lambda: rolled.pack


def _new_pack(wanted: Wanted, drafts: Sequence[Draft], decided: Decisions | None) -> Callable[[], Pack]:
    before = decided or Decisions()
    named = [Kept(made, made.decided.name or name_of(made), made.decided.look) for made in drafts]
    for line in () if wanted.as_json or wanted.quiet else ties_said(named):
        print(line)
    entity, currency = wanted.entity or before.entity or "Entity", wanted.currency or before.currency
    return lambda: pack_of(named, entity, wanted.period, currency, before.without_ties)


def take(
    files: Sequence[tuple[str, bytes]],
    conventions: Sequence[str] = (),
    progress: Progress = unheard,
    unit: str | None = None,
    decisions: Decisions | None = None,
    query: str = "",
    read: Sequence[Table] = (),
) -> list[Draft]:
    """A draft of every table in the files, and of those that were `read` of databases, as a file of decisions
    says; over it each column by a convention chosen for it ("comma" for every column, "2025-26=comma" or
    "C=comma" for one), and the amounts in a unit. Those that were decided to be left out are among them, and
    say so."""
    if unit is not None and unit not in POWERS_BY_NAME:
        what = f'"{unit}" is not a unit.'
        raise InputError("bad-convention", Fault("--unit", what, f"Use {', '.join(POWERS_BY_NAME)}."))
    chosen = [_convention(each) for each in conventions]
    of_files = (table for name, data in files for table in open_source(name, data, progress, query))
    tables = [*read, *of_files]
    unused = [column for column, _ in chosen if column and not any(_columns(t, column) for t in tables)]
    if unused:
        what = f'No column is headed or lettered "{unused[0]}".'
        raise InputError("bad-convention", Fault("--convention", what))
    drafts = []
    for number, table in enumerate(tables):
        by_column = {
            column_letters(index): {"convention": convention}
            for column, convention in chosen
            for index in _columns(table, column)
        }
        over: dict[str, Any] = {"columns": by_column} | ({"unit": unit} if unit else {})
        decided = merged(decisions.of(table, number) if decisions else UNDECIDED, over)
        drafts.append(draft(table, decided))
    return drafts


def open_decisions(file: Path) -> Decisions:
    """A file of decisions. Raises InputError."""
    ((_, data),) = read_files([file])
    try:
        return read_decisions(json.loads(data))
    except ValueError as error:
        raise InputError("bad-decisions", Fault(str(file), f"This is no JSON: {error}.")) from None


def decisions_of(drafts: Sequence[Draft], wanted: Wanted, before: Decisions | None) -> Decisions:
    """What every table was read by, left out ones too, as a file for next month."""
    before = before or Decisions()
    tables = tuple(
        NamedTable(table=made.table.name or str(number + 1), decided=made.decided)
        for number, made in enumerate(drafts)
        if made.decided != UNDECIDED
    )
    return Decisions(
        entity=wanted.entity or before.entity,
        currency=wanted.currency or before.currency,
        tables=tables,
        without_ties=before.without_ties,
    )


def _convention(text: str) -> tuple[str, str]:
    """The column named ("" for every one) and the convention chosen for it."""
    column, _, name = text.rpartition("=")
    if name not in CONVENTIONS:
        names = ", ".join(CONVENTIONS)
        raise InputError("bad-convention", Fault("--convention", f'"{name}" is not one.', f"Use {names}."))
    return column, name


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


def said(made: Draft, asked: Sequence[Question], quiet: bool) -> Iterator[str]:
    """What was read and how, line by line, for people; `quiet` says only what there is to ask."""
    yield f"{made.table.source}{f', {made.table.name}' if made.table.name else ''}: {name_of(made)}"
    if not quiet:
        for each in settled(made):
            yield f"  {each}"
        yield from _lines_said(made)
        if look_said(made):
            unheld = f"; not held: {', '.join(made.look.unheld)}" if made.look.unheld else ""
            yield f"  its number codes print {look_said(made)}{unheld}"
    for broken in source_breaks(made):
        yield f"  source break: {broken}"
    for question in asked:
        yield f"  ask: {question.asks}"
        more = len(question.places) - MOST_PLACES
        if question.places:
            others = f" and {more} more" if more > 0 else ""
            yield f"       at {', '.join(question.places[:MOST_PLACES])}{others}"
        yield f"       {question.says}"
        yield f"       {' | '.join(answer.label for answer in question.answers)}"


def _lines_said(made: Draft) -> Iterator[str]:
    for line in made.lines:
        amounts = (
            "  ".join(exact_text(amount, PLAIN) or "·" for amount in line.amounts) if not line.heading else ""
        )
        yield f"    {line.label:<40.40} {amounts}"
        if line.parts:
            yield f"      = {adding(made, line.parts)}  [{line.evidence}]"
        elif line.kind is not None:
            yield f"      {KINDS[line.kind]}, which no total counts"


def told(made: Draft, asked: Sequence[Question]) -> dict[str, Any]:
    """The same for programs."""
    name = made.decided.name or name_of(made)
    statement = statement_of(made, "draft", name) if made.has_figures else None
    return {
        "source": made.table.source,
        "table": made.table.name,
        "currency": made.currency,
        "units": [unit.name for unit in stated_units(made)],
        "read": list(settled(made)),
        "reasons": [asdict(each) for each in reasons(made)],
        "source_breaks": [
            {"cell": each.place, "line": each.line, "column": each.column, "says": str(each)}
            | {"stated": amount_text(each.stated), "comes_to": amount_text(each.comes_to)}
            for each in source_breaks(made)
        ],
        "questions": [asdict(each) for each in asked],
        "statement": statement and statement.model_dump(mode="json", exclude_defaults=True),
        "decided": made.decided.model_dump(mode="json", exclude_defaults=True),
    }


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
            old = pack.statement(id)
            brought[id] = in_signs_of(old, new) if old is not None and made.decided.costs is None else new
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
