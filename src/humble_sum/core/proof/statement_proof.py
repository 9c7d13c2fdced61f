"""The proof of a statement: every figure printed, every relation checked as printed."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.locales import currencies, locale
from humble_sum.core.once import once
from humble_sum.core.printing.batch import print_texts
from humble_sum.core.printing.clause_values import RECORD, SignificantDigits
from humble_sum.core.printing.dressing import UsualSign
from humble_sum.core.printing.figure import Printed, fitted, print_amount, rounded, unit_exponent
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.rounding import Position, position, round_units
from humble_sum.core.printing.scaling import caption_word
from humble_sum.core.proof.checks import Check, check
from humble_sum.core.rules.headings import heading
from humble_sum.core.rules.rulebook import Decided, decide_all
from humble_sum.core.statements.grid import Grid, grid_of
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.core.statements.relations import Cell

UNCOUNTED = ("text", "yes_no", "date", "time")  # forms that print no number of units


@dataclass(frozen=True)
class Figure:
    """One figure as printed, with what decided it.

    `nudge` is in force; one made at another unit, or past what the plan allows, is `resting`.
    `drift` is printed minus exact in units, None where there is nothing to round.
    """

    cell: Cell
    exact: Decimal | None
    decided: Decided
    money: bool
    held: Hold | None = None
    nudge: Nudge | None = None
    resting: Nudge | None = None
    usual_sign: UsualSign = "either"

    @property
    def clauses(self) -> ResolvedClauses:
        return self.decided.clauses

    @once
    def exponent(self) -> int:
        """One unit is 10**exponent."""
        return self.clauses.exponent if self.exact is None else unit_exponent(self.exact, self.clauses)

    @once
    def position(self) -> Position | None:
        if self.exact is None or self.clauses.form in UNCOUNTED:
            return None
        return position(self.exact, self.exponent)

    @once
    def own_rounding(self) -> int | None:
        """The whole units of its own rounding."""
        if self.position is None:
            return None
        return rounded(self.position, self.clauses.rounding, self.clauses.multiple)

    @once
    def units(self) -> int | None:
        """The whole units it prints."""
        if self.position is None:
            return None
        held = held_units(self.held, self.clauses) if self.held else None
        if held is not None:
            return held
        return self.nudge.units if self.nudge and not self.held else self.own_rounding

    @once
    def printed(self) -> Printed:
        moved = self.units if self.moved else None
        return print_amount(self.exact, self.clauses, moved, self.money, self.usual_sign)

    @property
    def drift(self) -> Decimal | None:
        where, units = self.position, self.units
        return None if where is None or units is None else where.drift(units)

    @property
    def moved(self) -> bool:
        return self.units != self.own_rounding


Alike = Sequence[tuple[Decided, Sequence[int]]]  # what decided, and the numbers of figures it did


class Figures(Mapping[Cell, Figure]):
    """The figures of a statement in page order, each printed when it is first asked for."""

    def __init__(
        self,
        grid: Grid,
        decided: Sequence[Decided],
        alike: Alike,
        holds: Mapping[Cell, Hold],
        nudges: Mapping[Cell, Nudge],
        at_most: int,
        following: Callable[[Cell], bool],
    ):
        self._grid = grid
        self._decided = decided
        self._alike = alike
        self._holds = holds
        self._nudges = nudges
        self._at_most = at_most
        self._following = following
        self._made: dict[Cell, Figure] = {}
        first = grid.cells[0][0] if grid.cells else ""
        # Where a rule shows money on the first line and totals only, these are its lines.
        self._money = {line.id for line in grid.statement.figured if line.adds} | {first}
        self._usual = {line.id: line.usual_sign for line in grid.statement.figured}

    def __getitem__(self, cell: Cell) -> Figure:
        figure = self._made.get(cell)
        if figure is None:
            number = self._grid.number[cell]
            figure = self._made[cell] = _figure(
                cell,
                self._grid.amounts[number],
                self._decided[number],
                cell[0] in self._money,
                self._holds.get(cell),
                self._nudges.get(cell),
                self._usual[cell[0]],
                None if self._following(cell) else self._at_most,
            )
        return figure

    def __iter__(self) -> Iterator[Cell]:
        return iter(self._grid.cells)

    def __len__(self) -> int:
        return len(self._grid.cells)

    def __contains__(self, cell: object) -> bool:
        return cell in self._grid.number

    @property
    def decided(self) -> Sequence[Decided]:
        """The clauses of every figure, in page order; figures decided alike share theirs."""
        return self._decided

    @once
    def texts(self) -> list[str]:
        """Every figure as printed, in page order; those printed by one rule are printed together."""
        texts = [""] * len(self._decided)
        cells, amounts = self._grid.cells, self._grid.amounts
        for each, numbers in self._alike:
            clauses = each.clauses
            # These look at the line too, not only at the amount.
            if clauses.money_shown == "first_and_totals" or clauses.negative == "unsigned":
                found = [self[cells[number]].printed.whole for number in numbers]
            else:
                found = print_texts([amounts[number] for number in numbers], clauses)
            for number, text in zip(numbers, found, strict=True):
                texts[number] = text
        for cell in {*self._holds, *self._nudges}:
            if cell in self:
                texts[self._grid.number[cell]] = self[cell].printed.whole
        return texts

    @property
    def nudged(self) -> int:
        """How many figures print a nudge that is in force."""
        return sum(self[cell].nudge is not None for cell in self._nudges if cell in self)


@dataclass(frozen=True)
class Proof:
    """A statement proved: figures in page order, checks in relation order, captions.

    `grid` is its exact side, with which a change of rules is proved again. `heads` are what stands
    over its columns.
    """

    statement: Statement
    grid: Grid
    figures: Figures
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


def prove(pack: Pack, statement: Statement, grid: Grid | None = None) -> Proof:
    """Check every relation of the statement as printed; `grid` where it is at hand already."""
    grid = grid or grid_of(statement)
    lines = [(line.id, line.kind) for line in statement.figured]
    columns = [column.id for column in statement.columns]
    decided = _settled(
        grid, pack, decide_all(pack.rulebook, statement.id, lines, columns, edition=pack.shown)
    )
    holds = {(h.line, h.column): h for h in pack.holds if h.statement == statement.id}
    nudges = {(n.line, n.column): n for n in pack.nudges if n.statement == statement.id}
    alike = _alike(decided)
    policy = pack.policy_of(statement)
    figures = Figures(grid, decided, alike, holds, nudges, policy.at_most, following(statement))
    units, exponents = _printed_units(grid, alike, figures, {*holds, *nudges})
    checks = tuple(check(each, units, exponents) for each in grid.relations)
    caption, exceptions = _captions(statement, decided, alike)
    if any(check.status == "noted" for check in checks):
        exceptions = (*exceptions, policy.note)
    width = len(columns)
    heads = tuple(heading(c.label, c.date, decided[n::width]) for n, c in enumerate(statement.columns))
    return Proof(statement, grid, figures, checks, caption, exceptions, heads)


def _alike(decided: Sequence[Decided]) -> Alike:
    """Figures that share what decided them, together."""
    found: dict[int, tuple[Decided, list[int]]] = {}
    for number, each in enumerate(decided):
        group = found.get(id(each))
        if group is None:
            group = found[id(each)] = (each, [])
        group[1].append(number)
    return tuple(found.values())


def _settled(grid: Grid, pack: Pack, decided: Sequence[Decided]) -> list[Decided]:
    """Clauses with what hangs on the figures settled: a line's own currency, and a scale that fits
    a column, which is chosen by the column's largest amount under the rule."""
    distinct = {id(each): each.clauses for each in decided}.values()
    own = [line.currency or pack.currency for line in grid.statement.figured]
    # What an edition does not translate never takes the sign of what it translates to.
    apart = [pack.translates and currency != pack.currency for currency in own]
    if not any(apart) and not any(each.currency == RECORD or each.scale == "fit" for each in distinct):
        return list(decided)
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
            clauses = each.clauses.at(currency=currency, fitted=power)
            made = known[id(each), currency, power] = Decided(clauses, each.origins)
        result.append(made)
    return result


def _printed_units(
    grid: Grid, alike: Alike, figures: Figures, marked: Collection[Cell]
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
        rounding = _rounding(grid, clauses)
        for number in numbers:
            units[number] = rounding(number)
            exponents[number] = clauses.exponent
    for cell in marked:
        if cell in grid.number:
            units[grid.number[cell]] = figures[cell].units
    return units, exponents


def _rounding(grid: Grid, clauses: ResolvedClauses) -> Callable[[int], int | None]:
    """What rounds figures by number under these clauses, as whole numbers."""
    whole, exponent = grid.whole, clauses.exponent
    shift = exponent + grid.places
    if clauses.multiple == 1 and shift <= 0:
        finer: int = 10**-shift

        def exactly(number: int) -> int | None:
            amount = whole[number]
            return None if amount is None else amount * finer

        return exactly
    half: int = 10**shift
    if clauses.rounding == "half_up" and clauses.multiple == 1:

        def usual(number: int) -> int | None:
            # The rounding of nearly every page: half a unit more, and the rest cut off.
            amount = whole[number]
            if amount is None or amount >= 0:
                return None if amount is None else (2 * amount + half) // (2 * half)
            return -((half - 2 * amount) // (2 * half))

        return usual

    def other(number: int) -> int | None:
        where = grid.position(number, exponent)
        return None if where is None else rounded(where, clauses.rounding, clauses.multiple)

    return other


def _figure(
    cell: Cell,
    exact: Decimal | None,
    decided: Decided,
    money: bool,
    hold: Hold | None,
    nudge: Nudge | None,
    usual_sign: UsualSign,
    at_most: int | None,
) -> Figure:
    figure = Figure(cell, exact, decided, money, hold, usual_sign=usual_sign)
    if nudge is None or (where := figure.position) is None:
        return figure
    applies = nudge.exponent == figure.exponent and nudge.own_rounding == figure.own_rounding
    if at_most is not None:
        applies &= where.floor - at_most < nudge.units <= where.floor + at_most and not where.whole
    active, resting = (nudge, None) if applies else (None, nudge)
    return Figure(cell, exact, decided, money, hold, active, resting, usual_sign)


def following(statement: Statement) -> Callable[[Cell], bool]:
    """Which figures print whatever makes their relation add: those of rounding lines, and of totals
    and derived columns that are printed from printed figures."""
    rounding = {line.id for line in statement.lines if line.rounding}
    lines = {line.id: line for line in statement.lines if line.adds and _printed(line)}
    columns = {column.id: column for column in statement.columns if column.terms and _printed(column)}

    def follows(cell: Cell) -> bool:
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


def held_units(hold: Hold, clauses: ResolvedClauses) -> int | None:
    """The whole units a hold has its figure print under these clauses; None for its rounding."""
    if hold.printed is None:
        return None
    return round_units(position(hold.printed, clauses.exponent), clauses.rounding)


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
