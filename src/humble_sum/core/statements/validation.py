"""The checks that make a pack whole: nothing twice, unknown or going round in a circle."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from graphlib import CycleError, TopologicalSorter

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.rules.rulebook import Reach, Rule
from humble_sum.core.statements.edition import OWN, Edition
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.pack import APART, OWN_ACROSS, Column, Line, Pack, Statement
from humble_sum.core.statements.taxonomy import TAKEN


def check(pack: Pack) -> None:
    """Raise InputError with every duplicate, unknown or circular id in the pack."""
    faults = list(_twice([s.id for s in pack.statements], "statements"))
    for number, statement in enumerate(pack.statements):
        faults += _statement_faults(statement, f"statements[{number}]")
    faults += _tie_faults(pack)
    faults += _tagging_faults(pack)
    faults += _twice([rule.id for rule in pack.rulebook.rules], "rulebook.rules")
    for number, rule in enumerate(pack.rulebook.rules):
        faults += _reach_faults(pack, rule.reach, f"rulebook.rules[{number}].reach")
    faults += _marks_faults(pack, pack.holds, "holds")
    faults += _marks_faults(pack, pack.nudges, "nudges")
    faults += _twice([edition.id for edition in pack.editions], "editions")
    faults += _twice([point.id for point in pack.points], "points")
    faults += _said_twice(pack)
    for number, taken in enumerate(pack.taken):
        faults += _mark_faults(pack, *taken.figure, f"taken[{number}].figure")
    faults += _twice(["/".join(taken.figure) for taken in pack.taken], "taken")
    for number, edition in enumerate(pack.editions):
        faults += _edition_faults(pack, edition, f"editions[{number}]")
    faults += _twice([dashboard.id for dashboard in pack.dashboards], "dashboards")
    for number, dashboard in enumerate(pack.dashboards):
        where = f"dashboards[{number}]"
        faults += _twice([item.id for item in dashboard.items], f"{where}.items")
        if dashboard.edition != OWN and pack.edition(dashboard.edition) is None:
            faults.append(Fault(f"{where}.edition", f'There is no edition "{dashboard.edition}".'))
    if faults:
        raise InputError("bad-pack", faults)


def _said_twice(pack: Pack) -> Iterator[Fault]:
    """Signatures given twice, and two answers about the same number of a document."""
    signed = Counter(each.own_key for each in pack.signatures)
    for each in {each.own_key: each for each in pack.signatures}.values():
        if signed[each.own_key] > 1:
            what = f"{each.author or 'Somebody'} signed {each.statement or each.dashboard} twice"
            yield Fault("signatures", f"{what} as {each.role}.", "Leave one of them.")
    answered = Counter(each.key for each in pack.document_answers)
    for (around, _), count in answered.items():
        if count > 1:
            yield Fault("document_answers", f'"{around}" is answered twice.', "Leave one of them.")


def _tagging_faults(pack: Pack) -> Iterator[Fault]:
    """Taxonomies twice or under a prefix that is taken, and concepts of none that is named."""
    prefixes = [taxonomy.prefix for taxonomy in pack.taxonomies]
    yield from _twice(prefixes, "taxonomies")
    for number, prefix in enumerate(prefixes):
        if prefix.lower() in TAKEN:
            what = f'The prefix "{prefix}" is taken by what every tagged document has.'
            yield Fault(f"taxonomies[{number}].prefix", what, "Give it another.")
    for n, statement in enumerate(pack.statements):
        for m, line in enumerate(statement.lines):
            prefix = (line.concept or "").partition(":")[0]
            if prefix and prefix not in prefixes:
                what = f'{line.label}: there is no taxonomy with the prefix "{prefix}".'
                yield Fault(f"statements[{n}].lines[{m}].concept", what, "Name the taxonomy first.")


def has_place(pack: Pack, reach: Reach) -> bool:
    """Whether the statement, line and column a reach names are in the pack."""
    return next(_reach_faults(pack, reach, ""), None) is None


def in_place(pack: Pack, rule: Rule) -> Rule | None:
    """The rule with what its reach names of this pack; None where it has no place here."""
    reach = rule.reach
    if reach.statements:
        there = tuple(id for id in reach.statements if pack.statement(id))
        reach = reach.model_copy(update={"statements": there})
    if reach.lines:
        owners = [s for s in pack.statements if reach.in_statement(s.id)]
        there = tuple(id for id in reach.lines if any(s.line(id) for s in owners))
        reach = reach.model_copy(update={"lines": there})
    if (rule.reach.statements and not reach.statements) or (rule.reach.lines and not reach.lines):
        return None
    return rule.model_copy(update={"reach": reach}) if has_place(pack, reach) else None


def _reach_faults(pack: Pack, reach: Reach, where: str) -> Iterator[Fault]:
    for owner in reach.owners or (None,):
        yield from _place_faults(pack, owner, None, None, where)
    among = [s for s in pack.statements if reach.in_statement(s.id)]
    if not among:
        return
    for id in reach.rows:
        if not any(s.line(id) for s in among):
            yield Fault(f"{where}.line", f'There is no line "{id}".')
    if reach.column is not None and not any(s.column(reach.column) for s in among):
        yield Fault(f"{where}.column", f'There is no column "{reach.column}".')


def sound(statement: Statement) -> bool:
    """Whether a statement holds together by itself."""
    return next(_statement_faults(statement, ""), None) is None


def _twice(ids: Sequence[str], where: str) -> Iterator[Fault]:
    seen: set[str] = set()
    for number, id in enumerate(ids):
        if id in seen:
            yield Fault(f"{where}[{number}]", f'"{id}" is there twice.', "Give each one an id of its own.")
        seen.add(id)


def _place_faults(
    pack: Pack, statement: str | None, line: str | None, column: str | None, where: str
) -> Iterator[Fault]:
    among = [s for s in pack.statements if statement in (None, s.id)]
    if not among:
        yield Fault(f"{where}.statement", f'There is no statement "{statement}".')
        return
    if line is not None and not any(s.line(line) for s in among):
        yield Fault(f"{where}.line", f'There is no line "{line}".')
    if column is not None and not any(s.column(column) for s in among):
        yield Fault(f"{where}.column", f'There is no column "{column}".')


def _marks_faults(pack: Pack, marks: Sequence[Hold | Nudge], where: str) -> Iterator[Fault]:
    for number, mark in enumerate(marks):
        yield from _mark_faults(pack, mark.statement, mark.line, mark.column, f"{where}[{number}]")
    yield from _twice([f"{mark.statement}/{mark.line}/{mark.column}" for mark in marks], where)


def _edition_faults(pack: Pack, edition: Edition, where: str) -> Iterator[Fault]:
    if edition.id == OWN:
        yield Fault(f"{where}.id", f'"{OWN}" is the pack’s own edition.', "Give this one another id.")
    for number, rate in enumerate(edition.rates):
        yield from _place_faults(pack, rate.statement, rate.line, rate.column, f"{where}.rates[{number}]")
        if rate.line is not None and rate.statement is None:
            yield Fault(
                f"{where}.rates[{number}]", "It is for a line.", "Name the statement of the line too."
            )
    columns = [
        "/".join(filter(None, (rate.statement or "every statement", rate.line, rate.column)))
        for rate in edition.rates
    ]
    yield from _twice(columns, f"{where}.rates")
    if edition.rates and not edition.currency:
        yield Fault(f"{where}.currency", "It has rates and no currency.", "Say what it is translated to.")
    for id in edition.apart:
        yield from _place_faults(pack, id, None, None, f"{where}.apart")
    yield from _marks_faults(pack, edition.holds, f"{where}.holds")
    yield from _marks_faults(pack, edition.nudges, f"{where}.nudges")


def _mark_faults(pack: Pack, statement: str, line: str, column: str, where: str) -> Iterator[Fault]:
    """Faults of a hold's or a nudge's figure."""
    found = list(_place_faults(pack, statement, line, column, where))
    yield from found
    owner = pack.statement(statement)
    row = owner.line(line) if owner else None
    if row is not None and row.kind == "heading":
        yield Fault(f"{where}.line", f'"{line}" is a heading and has no figure.')


def _tie_faults(pack: Pack) -> Iterator[Fault]:
    yield from _twice([tie.id for tie in pack.ties], "ties")
    for number, tie in enumerate(pack.ties):
        for place, ref in enumerate(tie.figures):
            yield from _mark_faults(pack, *ref, f"ties[{number}].figures[{place}]")
        yield from _twice(["/".join(ref) for ref in tie.figures], f"ties[{number}].figures")


def _statement_faults(statement: Statement, where: str) -> Iterator[Fault]:
    yield from _twice([line.id for line in statement.lines], f"{where}.lines")
    yield from _twice([column.id for column in statement.columns], f"{where}.columns")
    columns = {column.id: column for column in statement.columns}
    lines = {line.id: line for line in statement.lines}
    for number, column in enumerate(statement.columns):
        place = f"{where}.columns[{number}]"
        if sum(made is not None for made in (column.difference, column.sum, column.share)) > 1:
            yield Fault(place, f'The column "{column.id}" is derived in two ways.', "Keep one of them.")
        if column.apart and column.derived:
            what = f'The column "{column.id}" is derived from others and stands apart.'
            yield Fault(f"{place}.apart", what, "Keep one of them.")
        if column.share and column.share[0] not in columns:
            yield Fault(f"{place}.share", f'There is no column "{column.share[0]}".')
        if column.share and (column.share[1] not in lines or lines[column.share[1]].kind == "heading"):
            yield Fault(f"{place}.share", f'There is no line "{column.share[1]}" with figures.')
        for id, _ in column.terms:
            if id not in columns:
                named = "difference" if column.difference else "sum"
                yield Fault(f"{place}.{named}", f'There is no column "{id}".')
        yield from _twice([id for id, _ in column.terms], place)
        for id in column.answers:
            if id not in lines:
                yield Fault(f"{place}.answers", f'There is no line "{id}".')
    for number, line in enumerate(statement.lines):
        yield from _line_faults(line, lines, columns, f"{where}.lines[{number}]")
    yield from _twice([members.id for members in statement.members], f"{where}.members")
    derived = {c.id: [id for id in _needs(c) if id in columns] for c in statement.columns}
    summed = {line.id: [id for id, _ in line.parts if id in lines] for line in statement.lines}
    yield from _circle(derived, f"{where}.columns", "The derived columns go round in a circle")
    yield from _circle(summed, f"{where}.lines", "The sums go round in a circle")


def _needs(column: Column) -> list[str]:
    return [id for id, _ in column.terms] + ([column.share[0]] if column.share else [])


def _line_faults(
    line: Line, lines: Mapping[str, Line], columns: Mapping[str, Column], where: str
) -> Iterator[Fault]:
    if line.kind == "heading" and (line.amounts or line.parts):
        yield Fault(where, f'The heading "{line.id}" has amounts or parts.', 'Make it a "line" or a "total".')
    if line.kind != "heading" and not line.adds and line.parts:
        yield Fault(
            f"{where}.parts",
            f'The {line.kind.replace("_", " ")} "{line.id}" has parts.',
            'Make it a "subtotal" or a "total".',
        )
    if line.adds and not line.parts:
        yield Fault(f"{where}.parts", f'The {line.kind} "{line.id}" has no parts.', "Say what it adds.")
    for number, (id, _) in enumerate(line.parts):
        if id not in lines:
            yield Fault(f"{where}.parts[{number}]", f'There is no line "{id}".')
        elif lines[id].kind == "heading":
            yield Fault(f"{where}.parts[{number}]", f'"{id}" is a heading and adds nothing.')
        elif lines[id].kind in APART:
            what = f'"{id}" is a {lines[id].kind.replace("_", " ")} and no total counts it.'
            yield Fault(f"{where}.parts[{number}]", what, "Make it a line, or leave it out.")
    yield from _twice([id for id, _ in line.parts], f"{where}.parts")
    for id in line.answers:
        if id not in columns:
            yield Fault(f"{where}.answers", f'There is no column "{id}".')
    for id in line.amounts:
        if id not in columns:
            yield Fault(f"{where}.amounts", f'There is no column "{id}".')
        elif columns[id].derived and not (columns[id].sum and line.kind in OWN_ACROSS):
            yield Fault(
                f"{where}.amounts.{id}",
                f'The column "{id}" is derived, so its amounts follow from others.',
                "Leave the amount out.",
            )


def _circle(needs: Mapping[str, Sequence[str]], where: str, what: str) -> Iterator[Fault]:
    try:
        TopologicalSorter(needs).prepare()
    except CycleError as error:
        yield Fault(where, f"{what}: {' → '.join(reversed(error.args[1]))}.", "Take one of them out.")
