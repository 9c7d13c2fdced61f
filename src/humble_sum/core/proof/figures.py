"""The figures of a statement as printed, each with what decided it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.once import once
from humble_sum.core.printing.batch import print_texts
from humble_sum.core.printing.dressing import UsualSign
from humble_sum.core.printing.figure import Printed, print_amount, unit_exponent
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.rounding import Position, Rounded, position, round_units, rounding_of
from humble_sum.core.rules.rulebook import Decided
from humble_sum.core.statements.grid import Grid
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.relations import LineColumn

UNCOUNTED = ("text", "yes_no", "date", "time")  # forms that print no number of units


@dataclass(eq=False)
class Figure:
    """One figure as printed, with what decided it.

    `nudge` is in force; one made at another unit, or past what the plan allows, is `resting`.
    `drift` is printed minus exact in units, None where there is nothing to round.
    """

    cell: LineColumn
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
    def rounding(self) -> Rounded | None:
        """Where it lies among its units, and its own rounding; None where it prints no number of units."""
        clauses = self.clauses
        if self.exact is None or clauses.form in UNCOUNTED:
            return None
        return rounding_of(self.exact, self.exponent, clauses.rounding, clauses.multiple)

    @property
    def position(self) -> Position | None:
        return None if self.rounding is None else self.rounding.position

    @property
    def own_rounding(self) -> int | None:
        """The whole units of its own rounding."""
        return None if self.rounding is None else self.rounding.units

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
        return print_amount(self.exact, self.clauses, moved, self.money, self.usual_sign, self.rounding)

    @property
    def drift(self) -> Decimal | None:
        where, units = self.position, self.units
        return None if where is None or units is None else where.drift(units)

    @property
    def moved(self) -> bool:
        return self.units != self.own_rounding


Alike = Sequence[tuple[Decided, Sequence[int]]]  # what decided, and the numbers of figures it did


class Figures(Mapping[LineColumn, Figure]):
    """The figures of a statement in page order, each printed when it is first asked for."""

    def __init__(
        self,
        grid: Grid,
        decided: Sequence[Decided],
        alike: Alike,
        holds: Mapping[LineColumn, Hold],
        nudges: Mapping[LineColumn, Nudge],
        at_most: int,
        following: Callable[[LineColumn], bool],
        before: Figures | None = None,
    ):
        self._grid = grid
        self._decided = decided
        self._alike = alike
        self._holds = holds
        self._nudges = nudges
        self._at_most = at_most
        self._following = following
        self._made: dict[LineColumn, Figure] = before._left_alone(self) if before else {}
        first = grid.cells[0][0] if grid.cells else ""
        # Where a rule shows money on the first line and totals only, these are its lines.
        self._money = {line.id for line in grid.statement.figured if line.adds} | {first}
        self._usual = {line.id: line.usual_sign for line in grid.statement.figured}

    def __getitem__(self, cell: LineColumn) -> Figure:
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

    def _left_alone(self, after: Figures) -> dict[LineColumn, Figure]:
        """The figures made so far that print alike after a change of rules or marks: what they are printed by
        is the same, and nobody marked them before or since."""
        number, decided = self._grid.number, after._decided
        marked = {*self._holds, *self._nudges, *after._holds, *after._nudges}
        return {
            cell: figure
            for cell, figure in self._made.copy().items()
            if figure.decided is decided[number[cell]] and cell not in marked
        }

    def __iter__(self) -> Iterator[LineColumn]:
        return iter(self._grid.cells)

    def __len__(self) -> int:
        return len(self._grid.cells)

    def __contains__(self, cell: object) -> bool:
        return cell in self._grid.number

    @property
    def decided(self) -> Sequence[Decided]:
        """The clauses of every figure, in page order; figures decided alike share theirs."""
        return self._decided

    @property
    def distinct(self) -> list[Decided]:
        """What decides any figure, each once."""
        return [each for each, _ in self._alike]

    @once
    def texts(self) -> list[str]:
        """Every figure as printed, in page order; those printed by one rule are printed together."""
        texts = [""] * len(self._decided)
        cells, amounts = self._grid.cells, self._grid.amounts
        for each, numbers in self._alike:
            clauses = each.clauses
            # These look at the line too, not only at the amount.
            if clauses.money_shown == "first_and_totals" or clauses.negative == "unsigned":
                found = [self[cells[number]].printed.full_text for number in numbers]
            else:
                found = print_texts([amounts[number] for number in numbers], clauses)
            for number, text in zip(numbers, found, strict=True):
                texts[number] = text
        for cell in {*self._holds, *self._nudges}:
            if cell in self:
                texts[self._grid.number[cell]] = self[cell].printed.full_text
        return texts

    @property
    def nudged(self) -> int:
        """How many figures print a nudge that is in force."""
        return sum(self[cell].nudge is not None for cell in self._nudges if cell in self)


def _figure(
    cell: LineColumn,
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
        applies &= where.floor - at_most < nudge.units <= where.floor + at_most and not where.exact
    active, resting = (nudge, None) if applies else (None, nudge)
    return Figure(cell, exact, decided, money, hold, active, resting, usual_sign)


def held_units(hold: Hold, clauses: ResolvedClauses) -> int | None:
    """The whole units a hold has its figure print under these clauses; None for its rounding."""
    if hold.printed is None:
        return None
    return round_units(position(hold.printed, clauses.exponent), clauses.rounding)
