"""Accepted drafts as a pack, with a first house rule to print it by."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from pathlib import PurePath
from typing import Any

from humble_sum.core.amounts import EXACT
from humble_sum.core.ids import new_id
from humble_sum.core.intake.draft import Draft, stated_units
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.found_ties import found_ties
from humble_sum.core.intake.scale_words import SCALE_NAMES
from humble_sum.core.printing.clause_values import RECORD
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.rules.clause_registry import FORMS, GROUPINGS, NEGATIVES
from humble_sum.core.rules.clause_sayings import describe_decimals
from humble_sum.core.rules.rulebook import LineKind, Reach, Rule, Rulebook
from humble_sum.core.statements.names import UNPRINTABLE
from humble_sum.core.statements.pack import Column, Pack, Statement, Tie
from humble_sum.core.statements.relations import exact_amounts
from humble_sum.core.statements.validation import check


def name_of(made: Draft) -> str:
    """What to call a draft's statement until its owner says: the sheet, or the file."""
    names = (made.table.name, PurePath(made.table.source).stem, "Statement")
    return next(said for name in names if (said := UNPRINTABLE.sub("", name).strip()))


@dataclass(frozen=True)
class Kept:
    """A draft to keep as a statement: what to call it, and whether to print it as its codes say."""

    draft: Draft
    name: str
    look: bool = True


def pack_of(
    drafts: Sequence[Kept],
    entity: str,
    period: str,
    currency: str | None = None,
    without_ties: Collection[str] = (),
) -> Pack:
    """A pack of the drafts under their names, with a house rule and a rule for each look kept.

    The currency is the one given, or the only one the drafts found. Ties found between the
    statements are kept but for those named. Raises InputError where the statements do not hold
    together, such as sums that go round in a circle.
    """
    found = {kept.draft.currency for kept in drafts if kept.draft.currency}
    chosen = currency or (found.pop() if len(found) == 1 else None)
    statements = statements_of(drafts)
    units = {unit.power or 0 for kept in drafts for unit in stated_units(kept.draft)}
    apart = any(line.currency for statement in statements for line in statement.lines)
    rules = [house_rule(RECORD if apart and chosen else chosen, units.pop() if len(units) == 1 else 0)]
    for kept, statement in zip(drafts, statements, strict=True):
        if kept.look and kept.draft.look.clauses:
            clauses = Clauses.model_validate(kept.draft.look.clauses)
            id = f"look-{statement.id}"[:64]
            rules.append(Rule(id=id, name=kept.name, reach=Reach(statement=statement.id), clauses=clauses))
        rules += _rules_apart(kept.draft, statement, len(rules))
        if kept.look:
            rules += _rules_of_looks(kept.draft, statement, len(rules))
    pack = Pack(
        entity=entity,
        period=period,
        currency=chosen,
        statements=tuple(statements),
        rulebook=Rulebook(rules=tuple(rules)),
    )
    check(pack)
    if len(statements) == 1:
        return pack
    ties = found_ties([(kept.draft, statement) for kept, statement in zip(drafts, statements, strict=True)])
    kept_ties = tuple(found.tie for found in ties if found.tie.id not in without_ties)
    pack = pack.model_copy(update={"ties": kept_ties, "statements": _repeated(statements, kept_ties)})
    check(pack)
    return pack


def _repeated(statements: Sequence[Statement], ties: Sequence[Tie]) -> tuple[Statement, ...]:
    """The statements, where a line repeats another's amount by a formula that has no saved value,
    with that amount."""
    exact = {statement.id: exact_amounts(statement) for statement in statements}
    given: dict[tuple[str, str], dict[str, Decimal]] = {}
    for tie in ties:
        known = [
            amount for owner, *cell in tie.figures if (amount := exact[owner][cell[0], cell[1]]) is not None
        ]
        for owner, line, column in tie.figures if known else ():
            if exact[owner][line, column] is None:
                given.setdefault((owner, line), {})[column] = known[0]
    return tuple(
        statement.model_copy(
            update={
                "lines": tuple(
                    line.model_copy(update={"amounts": line.amounts | given[statement.id, line.id]})
                    if (statement.id, line.id) in given and line.kind != "heading" and not line.parts
                    else line
                    for line in statement.lines
                )
            }
        )
        for statement in statements
    )


def statements_of(drafts: Sequence[Kept]) -> list[Statement]:
    """The drafts as statements, with ids made of their names."""
    taken: set[str] = set()
    return [statement_of(kept.draft, new_id(kept.name, taken).lower(), kept.name) for kept in drafts]


APART_CLAUSES: dict[LineKind, dict[str, Any]] = {
    "percent": {"form": "percent", "decimals": {"fixed": 1}},
    "count": {"form": "number", "scale": "ones", "decimals": {"fixed": 0}},
    "per_unit": {"scale": "ones", "decimals": "currency"},
}
MOST_PLACES = 3


def _rules_apart(made: Draft, statement: Statement, taken: int) -> list[Rule]:
    """Rules for lines and columns that no amount rule suits: shares, percentages, counts."""
    rules: list[Rule] = []

    def add(name: str, clauses: dict[str, Any], **reach: str) -> None:
        id = f"apart-{taken + len(rules) + 1}"
        reached = Reach(statement=statement.id, **reach)
        rules.append(Rule(id=id, name=name, reach=reached, clauses=Clauses.model_validate(clauses)))

    for line in statement.lines:
        if line.kind in APART_CLAUSES:
            clauses = APART_CLAUSES[line.kind]
            if line.kind == "count" and (decimals := _decimals(line.amounts.values())):
                clauses = {**clauses, "decimals": {"up_to": decimals}}
            add(f"Line {line.label}"[:120], clauses, line=line.id)
    for column, read in zip(statement.columns, made.layout.figures, strict=True):
        if column.share or column.apart:
            clauses = APART_CLAUSES["per_unit" if read.per_unit else "percent"]
            add(f"Column {column.label}"[:120], clauses, column=column.id)
    return rules


def _decimals(amounts: Iterable[Decimal | None]) -> int:
    """The decimals that the amounts of a measure need, as far as any reader wants them."""
    plain = [EXACT.normalize(amount).as_tuple().exponent for amount in amounts if amount is not None]
    most = max((-place for place in plain if isinstance(place, int)), default=0)
    return min(max(most, 0), MOST_PLACES)


def _rules_of_looks(made: Draft, statement: Statement, taken: int) -> list[Rule]:
    """Rules for the columns and lines whose number codes say otherwise than most: those that say the same
    are one."""
    alike: dict[str, tuple[dict[str, Any], list[str], list[str]]] = {}
    for place, look in made.looks.columns.items():
        own = made.looks.own(look)
        alike.setdefault(f"{sorted(own.items(), key=str)}", (own, [], []))[1].append(made.columns[place].id)
    for number, look in made.looks.lines.items():
        own = made.looks.own(look)
        alike.setdefault(f"{sorted(own.items(), key=str)}", (own, [], []))[2].append(made.lines[number].id)
    rules: list[Rule] = []

    def add(name: str, clauses: dict[str, Any], reach: dict[str, Any]) -> None:
        id = f"code-{taken + len(rules) + 1}"
        reached = Reach(statement=statement.id, **reach)
        rules.append(Rule(id=id, name=name[:120], reach=reached, clauses=Clauses.model_validate(clauses)))

    for own, columns, lines in alike.values():
        for column in columns if own else ():
            add(f"Codes of column {column}", own, {"column": column})
        if own and lines:
            labels = ", ".join(line.label for id in lines if (line := statement.line(id)))
            add(f"Codes of {labels}", own, {"line": lines[0]} if len(lines) == 1 else {"lines": tuple(lines)})
    return rules


def look_said(made: Draft) -> str:
    """What the number codes of a draft say about printing, in words."""
    clauses = ResolvedClauses.of(Clauses.model_validate(made.look.clauses).named())
    said = {
        "form": FORMS[clauses.form],
        "scale": "" if clauses.scale == "ones" else f"in {clauses.scale}",
        "currency": f"in {clauses.currency}",
        "decimals": describe_decimals(clauses.decimals),
        "grouping": f"digits grouped {GROUPINGS[clauses.grouping]}",
        "negative": f"negatives {NEGATIVES[clauses.negative]}",
        "zero": f"zeros as {print_amount(Decimal(0), clauses).text or 'a blank'}",
    }
    most = [said[name] for name in said if name in made.look.clauses and said[name]]
    own = [
        f"{len(odd)} {word if len(odd) == 1 else f'{word}s'} otherwise"
        for word, odd in (("column", made.looks.columns), ("line", made.looks.lines))
        if odd
    ]
    return ", ".join([*most, *own])


def column_said(made: Draft, column: Column) -> str:
    """What a derived column is made of: "Change = 2025-26 − 2024-25"."""
    labels = {each.id: each.label for each in made.columns}
    if column.share:
        base = next(line.label for line in made.lines if line.id == column.share[1])
        return f"{column.label} = {labels[column.share[0]]} as a share of {base}"
    words = []
    for id, sign in column.terms:
        words += ["−" if sign < 0 else "+", labels[id]]
    return f"{column.label} = {' '.join(words[1:])}"


# Units of sources that nothing prints in: the next smaller one that something does.
PRINTED_IN = {4: "thousands", 8: "millions"}


def house_rule(currency: str | None, power: int = 0) -> Rule:
    """Whole units with the unit in the caption, in the scale that the source states: what a statement prints
    by before anything is chosen."""
    clauses = {
        "form": "amount",
        "currency": currency,
        "money_shown": "caption",
        "scale": PRINTED_IN.get(power, SCALE_NAMES.get(power, "ones")),
        "scale_word": "caption",
        "decimals": {"fixed": 0},
        "locale": "en-IN" if currency == "INR" else "en-US",
        "negative": "brackets",
        "zero": "dash",
        "missing": {"word": "n/a"},
    }
    return Rule(id="house", name="House rule", clauses=Clauses.model_validate(clauses))
