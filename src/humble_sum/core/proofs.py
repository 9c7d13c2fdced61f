"""The proof of a statement: every figure printed, every relation checked as printed."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from typing import Literal

from humble_sum.core import currencies
from humble_sum.core.clauses import InForce
from humble_sum.core.grid import Grid, GridRelation, grid_of
from humble_sum.core.locales import locale
from humble_sum.core.printing import Printed, print_amount
from humble_sum.core.relations import Cell, Relation
from humble_sum.core.rounding import Mode, Position, position, round_units
from humble_sum.core.rules import Decided, decide_all
from humble_sum.core.statements import Hold, Nudge, Pack, Statement

Status = Literal["foots", "gap", "break", "incomplete", "mixed"]


@dataclass(frozen=True)
class Figure:
    """One figure as printed, with what decided it.

    `nudge` is in force; a nudge made at another unit is `resting`. `drift` is printed minus
    exact in units, None where there is nothing to round.
    """

    cell: Cell
    exact: Decimal | None
    decided: Decided
    money: bool
    held: Hold | None = None
    nudge: Nudge | None = None
    resting: Nudge | None = None

    @property
    def clauses(self) -> InForce:
        return self.decided.clauses

    @cached_property
    def position(self) -> Position | None:
        return None if self.exact is None else position(self.exact, self.clauses.exponent)

    @cached_property
    def natural(self) -> int | None:
        """The whole units of its own rounding."""
        return None if self.position is None else round_units(self.position, self.clauses.rounding)

    @cached_property
    def units(self) -> int | None:
        """The whole units it prints."""
        if self.exact is None:
            return None
        held = held_units(self.held, self.clauses) if self.held else None
        if held is not None:
            return held
        return self.nudge.units if self.nudge and not self.held else self.natural

    @cached_property
    def printed(self) -> Printed:
        return print_amount(self.exact, self.clauses, self.units, self.money)

    @property
    def drift(self) -> Decimal | None:
        where, units = self.position, self.units
        return None if where is None or units is None else where.drift(units)

    @property
    def moved(self) -> bool:
        return self.units != self.natural


@dataclass(frozen=True)
class Check:
    """A relation as printed.

    `gap` is printed total less printed parts, in units (status "gap" or "foots"); `miss` the
    same of the exact amounts, not zero in a source break. "incomplete" has a missing part that
    the total counts; "mixed" has figures printed in different units.
    """

    relation: Relation
    status: Status
    gap: int = 0
    miss: Decimal = Decimal(0)


class Figures(Mapping[Cell, Figure]):
    """The figures of a statement in page order, each printed when it is first asked for."""

    def __init__(
        self,
        grid: Grid,
        decided: Sequence[Decided],
        holds: Mapping[Cell, Hold],
        nudges: Mapping[Cell, Nudge],
    ):
        self._grid = grid
        self._decided = decided
        self._holds = holds
        self._nudges = nudges
        self._made: dict[Cell, Figure] = {}
        first = grid.cells[0][0] if grid.cells else ""
        # Where a rule shows money on the first line and totals only, these are its lines.
        self._money = {line.id for line in grid.statement.figured if line.adds} | {first}

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
            )
        return figure

    def __iter__(self) -> Iterator[Cell]:
        return iter(self._grid.cells)

    def __len__(self) -> int:
        return len(self._grid.cells)

    def __contains__(self, cell: object) -> bool:
        return cell in self._grid.number

    @property
    def nudged(self) -> int:
        """How many figures print a nudge that is in force."""
        return sum(self[cell].nudge is not None for cell in self._nudges if cell in self)


@dataclass(frozen=True)
class Proof:
    """A statement proved: figures in page order, checks in relation order, captions.

    `grid` is its exact side, with which a change of rules is proved again.
    """

    statement: Statement
    grid: Grid
    figures: Figures
    checks: tuple[Check, ...]
    caption: str
    exceptions: tuple[str, ...]

    @property
    def gaps(self) -> list[Check]:
        return [check for check in self.checks if check.status == "gap"]

    @property
    def breaks(self) -> list[Check]:
        return [check for check in self.checks if check.status == "break"]


def prove(pack: Pack, statement: Statement, grid: Grid | None = None) -> Proof:
    """Check every relation of the statement as printed; `grid` where it is at hand already."""
    grid = grid or grid_of(statement)
    lines = [line.id for line in statement.figured]
    columns = [column.id for column in statement.columns]
    decided = decide_all(pack.rulebook, statement.id, lines, columns)
    holds = {(h.line, h.column): h for h in pack.holds if h.statement == statement.id}
    nudges = {(n.line, n.column): n for n in pack.nudges if n.statement == statement.id}
    figures = Figures(grid, decided, holds, nudges)
    units, exponents = _printed_units(grid, decided, figures, {*holds, *nudges})
    checks = tuple(_check(each, units, exponents) for each in grid.relations)
    caption, exceptions = _captions(statement, decided)
    return Proof(statement, grid, figures, checks, caption, exceptions)


def _printed_units(
    grid: Grid, decided: Sequence[Decided], figures: Figures, marked: Collection[Cell]
) -> tuple[list[int | None], list[int]]:
    """The whole units every figure prints, and the exponent of its unit, by figure number."""
    units: list[int | None] = []
    exponents: list[int] = []
    known: dict[int, tuple[int, Mode]] = {}
    for number, each in enumerate(decided):
        found = known.get(id(each))
        if found is None:
            found = known[id(each)] = (each.clauses.exponent, each.clauses.rounding)
        exponent, mode = found
        where = grid.position(number, exponent)
        units.append(None if where is None else round_units(where, mode))
        exponents.append(exponent)
    for cell in marked:
        if cell in grid.number:
            units[grid.number[cell]] = figures[cell].units
    return units, exponents


def _figure(
    cell: Cell,
    exact: Decimal | None,
    decided: Decided,
    money: bool,
    hold: Hold | None,
    nudge: Nudge | None,
) -> Figure:
    clauses = decided.clauses
    if exact is None:
        return Figure(cell, exact, decided, money, hold)
    active = resting = None
    if nudge is not None:
        where = position(exact, clauses.exponent)
        applies = (
            nudge.exponent == clauses.exponent
            and nudge.natural == round_units(where, clauses.rounding)
            and nudge.units in (where.floor, where.floor + 1)
            and not where.whole
        )
        active, resting = (nudge, None) if applies else (None, nudge)
    return Figure(cell, exact, decided, money, hold, active, resting)


def held_units(hold: Hold, clauses: InForce) -> int | None:
    """The whole units a hold has its figure print under these clauses; None for its rounding."""
    if hold.printed is None:
        return None
    return round_units(position(hold.printed, clauses.exponent), clauses.rounding)


def _check(each: GridRelation, units: Sequence[int | None], exponents: Sequence[int]) -> Check:
    relation = each.relation
    if each.miss is None:
        return Check(relation, "incomplete")
    if each.miss:
        return Check(relation, "incomplete" if each.short else "break", miss=each.miss)
    unit, whole = exponents[each.total], units[each.total]
    if any(exponents[part] != unit for part, _ in each.parts):
        return Check(relation, "mixed")
    assert whole is not None
    gap = whole - sum(sign * (units[part] or 0) for part, sign in each.parts)
    return Check(relation, "gap" if gap else "foots", gap)


def unit_said(clauses: InForce) -> str:
    """What a caption says of figures printed under these clauses: "₹ lakhs", "€", or nothing."""
    if clauses.form == "percent":
        return ""
    of = locale(clauses.locale)
    words = []
    if clauses.form == "amount" and clauses.currency and clauses.money_shown == "caption":
        words.append(currencies.sign(clauses.currency, clauses.money_sign, of))
    if clauses.scale != "ones" and clauses.scale_word == "caption":
        words.append(of.caption[clauses.scale])
    return " ".join(word for word in words if word)


def _captions(statement: Statement, decided: Sequence[Decided]) -> tuple[str, tuple[str, ...]]:
    """The unit most figures print in, and what says otherwise, by column where most of one does."""
    known: dict[int, str] = {}
    for each in decided:
        if id(each) not in known:
            known[id(each)] = unit_said(each.clauses)
    said = [known[id(each)] for each in decided]
    if not said:
        return "", ()
    main = Counter(said).most_common(1)[0][0]
    width = len(statement.columns)
    exceptions, usual = [], []
    for place, column in enumerate(statement.columns):
        usual.append(Counter(said[place::width]).most_common(1)[0][0])
        if usual[-1] != main:
            exceptions.append(f"{column.label} in {usual[-1] or 'ones'}")
    if len(known) > 1:
        for number, line in enumerate(statement.figured):
            own = said[number * width : (number + 1) * width]
            others = {unit for unit, expected in zip(own, usual, strict=True) if unit != expected}
            exceptions += [f"{line.label} in {unit or 'ones'}" for unit in sorted(others)]
    return main, tuple(exceptions)
