"""The proof of a statement: every figure printed, every relation checked as printed."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from itertools import groupby

from humble_sum.core.locales import currencies, locale
from humble_sum.core.once import ByIdentity
from humble_sum.core.printing.clause_values import RECORD, SignificantDigits
from humble_sum.core.printing.figure import fitted
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.rounding import round_many
from humble_sum.core.printing.scaling import caption_word
from humble_sum.core.proof.checks import Check, check
from humble_sum.core.proof.figures import UNCOUNTED, Alike, Figures
from humble_sum.core.rules.headings import headings
from humble_sum.core.rules.rulebook import Decided, decide_all
from humble_sum.core.statements.grid import Grid, grid_of
from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.core.statements.relations import LineColumn


@dataclass(frozen=True)
class Proof:
    """A statement proved: figures in page order, checks in relation order, captions.

    `grid` is its exact side, with which a change of rules is proved again. `units` are the whole units that
    figures print, by figure number, None for what prints no number. `heads` are what stands over its columns.
    """

    statement: Statement
    grid: Grid
    figures: Figures
    units: Sequence[int | None]
    checks: tuple[Check, ...]
    caption: str
    exceptions: tuple[str, ...]
    heads: tuple[str, ...]

    @property
    def gaps(self) -> list[Check]:
        return [check for check in self.checks if check.status == "gap"]

    @property
    def breaks(self) -> list[Check]:
        return [check for check in self.checks if check.status == "break"]


def prove(pack: Pack, statement: Statement, before: Proof | None = None) -> Proof:
    """Check every relation of the statement as printed. Of `before`, a proof of the same statement under
    other rules or marks, what they leave alone is taken over."""
    grid = before.grid if before else grid_of(statement)
    lines = [(line.id, line.kind) for line in statement.figured]
    columns = [column.id for column in statement.columns]
    decided = decide_all(pack.rulebook, statement.id, lines, columns, edition=pack.shown)
    alike = _alike(decided)
    settled = _settled(grid, pack, decided, [each.clauses for each, _ in alike])
    if settled is not decided:
        decided, alike = settled, _alike(settled)
    holds = {(h.line, h.column): h for h in pack.holds if h.statement == statement.id}
    nudges = {(n.line, n.column): n for n in pack.nudges if n.statement == statement.id}
    policy = pack.policy_of(statement)
    figures = Figures(
        grid,
        decided,
        alike,
        holds,
        nudges,
        policy.at_most,
        following(statement),
        before.figures if before else None,
    )
    units, exponents = _printed_units(grid, alike, figures, {*holds, *nudges})
    checks = tuple(check(each, units, exponents) for each in grid.relations)
    caption, exceptions = _captions(statement, decided, alike)
    if any(check.status == "noted" for check in checks):
        exceptions = (*exceptions, policy.note)
    width = len(columns)
    dated = [(column.label, column.date) for column in statement.columns]
    heads = headings(dated, [decided[n::width] for n in range(width)])
    return Proof(statement, grid, figures, units, checks, caption, exceptions, heads)


def _alike(decided: Sequence[Decided]) -> Alike:
    """Figures that share what decided them, together."""
    ids = list(map(id, decided))
    found: dict[int, tuple[Decided, list[int]]] = {}
    for key, run in groupby(range(len(ids)), ids.__getitem__):
        numbers = list(run)
        found.setdefault(key, (decided[numbers[0]], []))[1].extend(numbers)
    return tuple(found.values())


def _settled(
    grid: Grid, pack: Pack, decided: list[Decided], distinct: Sequence[ResolvedClauses]
) -> list[Decided]:
    """Clauses with what hangs on the figures settled: a line's own currency, and a scale that fits
    a column, which is chosen by the column's largest amount under the rule. `distinct` has each once."""
    own = [line.currency or pack.currency for line in grid.statement.figured]
    # What an edition does not translate never takes the sign of what it translates to.
    apart = [pack.translates and currency != pack.currency for currency in own]
    if not any(apart) and not any(each.currency == RECORD or each.scale == "fit" for each in distinct):
        return decided
    width = len(grid.statement.columns)
    largest: dict[tuple[int, int], Decimal] = {}
    for number, each in enumerate(decided):
        amount = grid.amounts[number]
        if each.clauses.scale == "fit" and amount is not None:
            key = (id(each), number % width)
            largest[key] = max(largest.get(key, Decimal(0)), amount.copy_abs())
    known: dict[tuple[int, str | None, int | None], Decided] = {}
    result = []
    for number, each in enumerate(decided):
        currency = each.clauses.currency
        if currency == RECORD or (apart[number // width] and currency is not None):
            currency = own[number // width]
        most = largest.get((id(each), number % width))
        power = None if most is None else fitted(most, each.clauses.at(currency=currency)).power
        made = known.get((id(each), currency, power))
        if made is None:
            made = known[id(each), currency, power] = _with_unit(ByIdentity(each), currency, power)
        result.append(made)
    return result


@lru_cache(maxsize=4_096)
def _with_unit(decided: ByIdentity[Decided], currency: str | None, power: int | None) -> Decided:
    """What was decided, with its currency and the power of ten that its scale came to."""
    return Decided(decided.one.clauses.at(currency=currency, fitted=power), decided.one.origins)


def _printed_units(
    grid: Grid, alike: Alike, figures: Figures, marked: Collection[LineColumn]
) -> tuple[list[int | None], list[int | None]]:
    """The whole units every figure prints, and the exponent of its unit, by figure number; None for
    what prints no number."""
    units: list[int | None] = [None] * len(grid.cells)
    exponents: list[int | None] = [None] * len(grid.cells)
    for each, numbers in alike:
        clauses = each.clauses
        if clauses.form in UNCOUNTED:
            continue
        if isinstance(clauses.decimals, SignificantDigits):
            for number in numbers:
                figure = figures[grid.cells[number]]
                units[number], exponents[number] = figure.units, figure.exponent
            continue
        amounts = map(grid.integers.__getitem__, numbers)
        shift = clauses.exponent + grid.decimal_places
        rounding = round_many(amounts, shift, clauses.rounding, clauses.multiple)
        for number, rounded_to in zip(numbers, rounding, strict=True):
            units[number], exponents[number] = rounded_to, clauses.exponent
    for cell in marked:
        if cell in grid.number:
            units[grid.number[cell]] = figures[cell].units
    return units, exponents


def following(statement: Statement) -> Callable[[LineColumn], bool]:
    """Which figures print whatever makes their relation add: those of rounding lines, and of totals
    and derived columns that are printed from printed figures."""
    rounding = {line.id for line in statement.lines if line.rounding}
    lines = {line.id: line for line in statement.lines if line.adds and _printed(line)}
    columns = {column.id: column for column in statement.columns if column.terms and _printed(column)}

    def follows(cell: LineColumn) -> bool:
        line, column = lines.get(cell[0]), columns.get(cell[1])
        return (
            cell[0] in rounding
            or (line is not None and line.answer_in(cell[1]) == "printed")
            or (column is not None and column.answer_on(cell[0]) == "printed")
        )

    return follows


def _printed(sum_of: Line | Column) -> bool:
    """Whether any figure of a total or a derived column is printed from printed figures."""
    return "printed" in (sum_of.answer, *sum_of.answers.values())


def unit_said(clauses: ResolvedClauses) -> str:
    """What a caption says of figures printed under these clauses: "₹ lakhs", "€", or nothing."""
    if clauses.form not in ("amount", "number"):
        return ""
    words = []
    if clauses.form == "amount" and clauses.currency and clauses.money_shown == "caption":
        words.append(currencies.sign(clauses.currency, clauses.money_sign, locale(clauses.locale)))
    if clauses.scale not in ("ones", "fit") and clauses.scale_word == "caption":
        words.append(caption_word(clauses.locale, clauses.scale))
    return " ".join(word for word in words if word)


def _captions(statement: Statement, decided: Sequence[Decided], alike: Alike) -> tuple[str, tuple[str, ...]]:
    """The unit most figures print in, and what says otherwise, by column where most of one does."""
    known = {id(each): unit_said(each.clauses) for each, _ in alike}
    if len(set(known.values())) <= 1:
        return next(iter(known.values()), ""), ()
    said = [known[id(each)] for each in decided]
    main = Counter(said).most_common(1)[0][0]
    width = len(statement.columns)
    exceptions, usual = [], []
    for place, column in enumerate(statement.columns):
        usual.append(Counter(said[place::width]).most_common(1)[0][0])
        if usual[-1] != main:
            exceptions.append(f"{column.label} in {usual[-1] or 'ones'}")
    for number, line in enumerate(statement.figured):
        own = said[number * width : (number + 1) * width]
        others = {unit for unit, expected in zip(own, usual, strict=True) if unit != expected}
        exceptions += [f"{line.label} in {unit or 'ones'}" for unit in sorted(others)]
    return main, tuple(exceptions)
