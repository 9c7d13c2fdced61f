"""Rolling a pack forward: new figures into the same layout, last period's as published beside them."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from humble_sum.core.amounts import EXACT, of_units
from humble_sum.core.changes.members import choose
from humble_sum.core.changes.places_forward import dashboard_forward, edition_forward
from humble_sum.core.changes.structure import answers_left
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.ids import new_id
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.rules.rulebook import Rulebook
from humble_sum.core.statements.marks import Hold
from humble_sum.core.statements.names import MOST_REASON, shortened
from humble_sum.core.statements.pack import OWN_ACROSS, Column, Line, Pack, Statement, Tie
from humble_sum.core.statements.relations import exact_amounts
from humble_sum.core.statements.validation import check, in_place

Fate = Literal["kept", "new", "gone"]


@dataclass(frozen=True)
class Compared:
    """A line then and now: its figure of the last period, the new one, and what became of it."""

    line: str
    label: str
    fate: Fate
    was: Decimal | None
    now: Decimal | None

    @property
    def moved(self) -> Decimal | None:
        """By how much it moved; None where there is nothing to compare."""
        if self.was is None or self.now is None:
            return None
        return EXACT.subtract(self.now, self.was)


@dataclass(frozen=True)
class Restated:
    """A figure that was published, and that the new figures state differently."""

    line: str
    column: str
    label: str
    published: Decimal
    restated: Decimal


@dataclass(frozen=True)
class Comparison:
    """What new figures bring to one statement. `then` and `now` are the columns compared."""

    statement: str
    then: str
    now: str
    lines: tuple[Compared, ...]
    restated: tuple[Restated, ...]


@dataclass(frozen=True)
class Rolled:
    """The next period's pack, what differs from the last, and the statements with no new figures."""

    pack: Pack
    comparisons: tuple[Comparison, ...]
    left_out: tuple[str, ...]


@dataclass(frozen=True)
class _Columns:
    """How columns carry over: old ids to the new ones in their places, and which new figures
    each column takes (`taken`: new id to incoming id). `published` maps a comparative's id to
    its id in the old pack; `sums` are columns that ratios have figures of their own in."""

    columns: tuple[Column, ...]
    new_columns: Mapping[str, str]
    taken: Mapping[str, str]
    published: Mapping[str, str]
    restated: Mapping[str, str]
    sums: Mapping[str, str]
    then: str
    now: str


def roll_forward(
    pack_proof: PackProof, brought: Mapping[str, Statement], period: str, restate: bool = False
) -> Rolled:
    """The pack of the next period: `brought` has the new figures of each statement, by its id.

    Lines are matched by code, then by label. Where the new figures have a column of their own,
    it takes the first place, the others move along and the last one leaves; figures that were
    published are held at what they printed. Where every new column has its namesake in the
    layout, the figures fill those columns. `restate` takes restated comparatives in place of
    what was published. Statements with no new figures are left out.

    Raises InputError where nothing matches or the result would not hold together.
    """
    statements, comparisons, holds = [], [], []
    moved: dict[str, _Columns] = {}
    for old in pack_proof.pack.statements:
        if old.id not in brought:
            continue
        new = brought[old.id]
        columns = _columns(old, new)
        matched = _matched(old, new)
        made = _statement(old, new, columns, matched, restate)
        statements.append(made)
        moved[old.id] = columns
        compared = _comparison(old, new, made, columns, matched)
        comparisons.append(compared)
        changed = {(each.line, each.column) for each in compared.restated} if restate else set()
        holds += [
            hold
            for hold in _published(pack_proof.pack, pack_proof.proofs[old.id], columns)
            if (hold.line, hold.column) not in changed
        ]
    if not statements:
        raise InputError(
            "nothing-matches", Fault("statements", "None of the new figures has a statement to go to.")
        )
    pack = pack_proof.pack.model_copy(
        update={
            "period": period,
            "statements": tuple(statements),
            "ties": tuple(_ties(pack_proof.pack.ties, moved)),
            "holds": tuple(holds),
            "nudges": (),
            "taken": (),
            "points": (),
            "signatures": (),
            "editions": tuple(edition_forward(each, _periods(moved)) for each in pack_proof.pack.editions),
            "dashboards": tuple(
                dashboard_forward(each, _places(moved)) for each in pack_proof.pack.dashboards
            ),
        }
    )
    rules = _rulebook(pack_proof.pack.rulebook, moved).rules
    kept = tuple(rule for each in rules if (rule := in_place(pack, each)))
    pack = pack.model_copy(update={"rulebook": Rulebook(rules=kept)})
    check(pack)
    left_out = tuple(
        statement.name for statement in pack_proof.pack.statements if statement.id not in brought
    )
    return Rolled(pack, tuple(comparisons), left_out)


def _periods(moved: Mapping[str, _Columns]) -> Mapping[str, Mapping[str, str]]:
    """Columns by what period they are of: old ids to what the same periods are called now."""
    return {id: {old: new for new, old in columns.published.items()} for id, columns in moved.items()}


def _places(moved: Mapping[str, _Columns]) -> Mapping[str, Mapping[str, str]]:
    """Columns by their place: old ids to those that have taken their places."""
    return {id: columns.new_columns for id, columns in moved.items()}


def best_statement(pack: Pack, new: Statement) -> str | None:
    """The statement that new figures most likely belong to: the one with most lines in common."""
    shares = {old.id: len(_matched(old, new)) for old in pack.statements}
    best = max(shares, key=lambda id: shares[id])
    return best if shares[best] * 2 >= len(new.figured) else None


def _plain(label: str) -> str:
    """A label with what people vary taken out: case, accents of dashes, spaces and stops."""
    text = unicodedata.normalize("NFKC", label).casefold()
    return "".join(character for character in text if character.isalnum())


def _matched(old: Statement, new: Statement) -> dict[str, str]:
    """Ids of new lines to ids of the old lines they are, by code, then by label."""
    found: dict[str, str] = {}
    ids = {line.id.casefold(): line.id for line in old.figured}
    labels: dict[str, str | None] = {}
    for line in old.figured:
        labels[_plain(line.label)] = None if _plain(line.label) in labels else line.id
    for line in new.figured:
        if line.id.casefold() in ids:
            found[line.id] = ids[line.id.casefold()]
    for line in new.figured:
        match = labels.get(_plain(line.label))
        if line.id not in found and match is not None and match not in found.values():
            found[line.id] = match
    return found


def _columns(old: Statement, new: Statement) -> _Columns:
    given = [column for column in old.columns if not column.derived]
    incoming = [column for column in new.columns if not column.derived]
    named = {_plain(column.label): column.id for column in new.columns}
    names = {name: c.id for c in given for name in (_plain(c.label), c.id.casefold())}
    same = {c.id: names.get(_plain(c.label)) or names.get(c.id.casefold()) for c in incoming}
    fresh = [column for column in incoming if same[column.id] is None]
    known = {was: id for id, was in same.items() if was is not None}
    sums = {c.id: named[_plain(c.label)] for c in old.columns if c.sum and _plain(c.label) in named}
    if not fresh:
        return _filled(old, given, known, sums)
    fresh = fresh[: len(given)]
    used = {column.id.casefold() for column in old.columns}
    heads = [Column(id=new_id(c.id, used), label=c.label) for c in fresh]
    line_up = [*heads, *given][: len(given)]
    new_columns = {was.id: becomes.id for was, becomes in zip(given, line_up, strict=True)}
    new_columns |= {column.id: column.id for column in old.columns if column.derived}
    kept = {column.id for column in line_up} & {column.id for column in given}
    after = iter(line_up)
    columns = tuple(_moved(column, new_columns) if column.derived else next(after) for column in old.columns)
    return _Columns(
        columns,
        new_columns,
        {head.id: column.id for head, column in zip(heads, fresh, strict=True)},
        {id: id for id in kept},
        {was: id for was, id in known.items() if was in kept},
        sums,
        given[0].id,
        line_up[0].id,
    )


def _filled(
    old: Statement, given: Sequence[Column], known: Mapping[str, str], sums: Mapping[str, str]
) -> _Columns:
    """Columns that stay where they are, some of them filled with the new figures."""
    columns = tuple(c.model_copy(update={"absent": c.absent and c.id not in known}) for c in old.columns)
    said = {id for line in old.lines for id, amount in line.amounts.items() if amount is not None}
    stay = {column.id: column.id for column in given if column.id not in known and column.id in said}
    now = next(column.id for column in given if column.id in known)
    before = [column.id for column in given if column.id in stay]
    then = now if now in said or not before else before[-1]
    new_columns = {column.id: column.id for column in old.columns}
    return _Columns(columns, new_columns, known, stay, {}, sums, then, now)


def _moved(column: Column, new_columns: Mapping[str, str]) -> Column:
    """A derived column made of the columns now in those places."""
    return column.model_copy(
        update={
            "difference": column.difference and tuple(new_columns[id] for id in column.difference),
            "sum": column.sum and tuple(new_columns[id] for id in column.sum),
            "share": column.share and (new_columns[column.share[0]], column.share[1]),
        }
    )


def _statement(
    old: Statement, new: Statement, columns: _Columns, matched: Mapping[str, str], restate: bool
) -> Statement:
    came = {was: line for line in new.figured if (was := matched.get(line.id)) is not None}
    lines = []
    for line in old.lines:
        if line.kind == "heading":
            lines.append(line)
            continue
        amounts = {id: line.amounts[id] for id in columns.published if id in line.amounts}
        incoming = came.get(line.id)
        if incoming is not None:
            taken = dict(columns.taken) | (dict(columns.restated) if restate else {})
            taken |= columns.sums if line.kind in OWN_ACROSS else {}
            amounts |= {id: incoming.amounts[of] for id, of in taken.items() if of in incoming.amounts}
        lines.append(line.model_copy(update={"amounts": amounts, "absent": not amounts and not line.adds}))
    lines = _with_new_lines(lines, new, columns, matched)
    made = answers_left(old.model_copy(update={"columns": columns.columns, "lines": tuple(lines)}))
    for listed in old.members:
        made = choose(made, listed.id, listed)
    return made


def _with_new_lines(
    lines: Sequence[Line], new: Statement, columns: _Columns, matched: Mapping[str, str]
) -> list[Line]:
    """Lines the layout does not have, each below the one it follows in the new figures and a part
    of the total that counts it there, or else of those that count its neighbour."""
    found = list(lines)
    becomes = dict(matched)
    used = {line.id.casefold() for line in lines}
    above: str | None = None
    for line in new.figured:
        if line.id in becomes:
            above = becomes[line.id]
            continue
        id = new_id(line.id, used)
        becomes[line.id] = id
        amounts = {to: line.amounts[of] for to, of in columns.taken.items() if of in line.amounts}
        parts = tuple((becomes[part], sign) for part, sign in line.parts if part in becomes)
        kind = line.kind if parts or not line.adds else "line"
        made = line.model_copy(update={"id": id, "kind": kind, "parts": parts, "amounts": amounts})
        at = next((n + 1 for n, each in enumerate(found) if each.id == above), len(found))
        if not parts and line.kind == "line":
            found = _counted(found, id, above, _totals_in(new, line.id, becomes))
        found.insert(at, made)
        above = id
    return found


def _totals_in(new: Statement, line: str, becomes: Mapping[str, str]) -> dict[str, Literal[1, -1]]:
    """The totals that count a line in the new figures, by their ids in the layout."""
    return {
        becomes[total.id]: sign
        for total in new.lines
        for part, sign in total.parts
        if part == line and total.id in becomes
    }


def _counted(
    lines: Sequence[Line], id: str, above: str | None, totals: Mapping[str, Literal[1, -1]]
) -> list[Line]:
    found = []
    for line in lines:
        beside = next((n for n, (part, _) in enumerate(line.parts) if part == above), None)
        sign = totals.get(line.id)
        if sign is None and not totals and beside is not None:
            sign = line.parts[beside][1]
        if line.adds and sign is not None:
            at = len(line.parts) if beside is None else beside + 1
            line = line.model_copy(update={"parts": (*line.parts[:at], (id, sign), *line.parts[at:])})
        found.append(line)
    return found


def _comparison(
    old: Statement, new: Statement, made: Statement, columns: _Columns, matched: Mapping[str, str]
) -> Comparison:
    before, after, stated = exact_amounts(old), exact_amounts(made), exact_amounts(new)
    known = {line.id for line in old.figured}
    came = set(matched.values())
    adding = {line.id for line in made.lines if line.adds}
    found = []
    for line in made.figured:
        was, now = before.get((line.id, columns.then)), after.get((line.id, columns.now))
        fate: Fate = "kept"
        if line.id not in known:
            fate = "new"
        elif line.id not in came and line.id not in adding:
            fate, now = "gone", None
        if not (line.absent and fate == "gone" and was is None):
            found.append(Compared(line.id, line.label, fate, was, now))
    then, now_head = old.column(columns.then), made.column(columns.now)
    assert then is not None and now_head is not None
    restated = tuple(_restated(old, new, before, stated, columns, matched))
    return Comparison(made.id, then.label, now_head.label, tuple(found), restated)


def _restated(
    old: Statement,
    new: Statement,
    before: Mapping[tuple[str, str], Decimal | None],
    stated: Mapping[tuple[str, str], Decimal | None],
    columns: _Columns,
    matched: Mapping[str, str],
) -> Iterator[Restated]:
    for line in new.figured:
        was = matched.get(line.id)
        for column, of in columns.restated.items():
            if was is None:
                continue
            published, restated = before[was, column], stated[line.id, of]
            head = old.column(column)
            if published is not None and restated is not None and published != restated and head:
                yield Restated(was, column, f"{line.label}, {head.label}", published, restated)


def _published(pack: Pack, proof: Proof, columns: _Columns) -> Iterator[Hold]:
    """Holds on comparatives at what they printed when they were published."""
    for figure in proof.figures.values():
        line, column = figure.cell
        id = columns.published.get(column)
        if id is None or figure.units is None:
            continue
        yield Hold(
            statement=proof.statement.id,
            line=line,
            column=id,
            printed=of_units(figure.units, figure.exponent),
            reason=shortened(f"As published, {pack.period}", MOST_REASON),
        )


def _ties(ties: Sequence[Tie], moved: Mapping[str, _Columns]) -> Iterator[Tie]:
    for tie in ties:
        refs = tuple((s, line, moved[s].new_columns[c]) for s, line, c in tie.figures if s in moved)
        if len(refs) > 1:
            yield tie.model_copy(update={"figures": refs})


def _rulebook(rulebook: Rulebook, moved: Mapping[str, _Columns]) -> Rulebook:
    """The rules of statements that stay, each column's rule going with its place."""
    rules = []
    for rule in rulebook.rules:
        reach = rule.reach
        named = tuple(id for id in reach.owners if id in moved)
        if reach.owners and not named:
            continue
        if reach.statements:
            reach = reach.model_copy(update={"statements": named})
            rule = rule.model_copy(update={"reach": reach})
        owners = [moved[id] for id in named] if named else list(moved.values())
        column = reach.column
        new_columns = (
            {each.new_columns[column] for each in owners if column in each.new_columns} if column else set()
        )
        if len(new_columns) == 1:
            rule = rule.model_copy(update={"reach": reach.model_copy(update={"column": new_columns.pop()})})
        rules.append(rule)
    return Rulebook(rules=tuple(rules))
