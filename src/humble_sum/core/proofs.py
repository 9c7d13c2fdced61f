"""The proof of a statement: every figure printed, every relation checked as printed."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from humble_sum.core import currencies
from humble_sum.core.clauses import InForce
from humble_sum.core.locales import locale
from humble_sum.core.printing import Printed, print_amount
from humble_sum.core.relations import Cell, Relation, exact_amounts, exact_miss, relations
from humble_sum.core.rounding import Position, position, round_units
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
    printed: Printed
    money: bool
    held: Hold | None = None
    nudge: Nudge | None = None
    resting: Nudge | None = None

    @property
    def clauses(self) -> InForce:
        return self.decided.clauses

    @property
    def position(self) -> Position | None:
        return None if self.exact is None else position(self.exact, self.printed.exponent)

    @property
    def drift(self) -> Decimal | None:
        where = self.position
        return None if where is None or self.printed.units is None else where.drift(self.printed.units)

    @property
    def moved(self) -> bool:
        return self.printed.units != self.printed.natural


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


@dataclass(frozen=True)
class Proof:
    """A statement proved: figures in page order, checks in relation order, captions."""

    statement: Statement
    figures: dict[Cell, Figure]
    checks: tuple[Check, ...]
    caption: str
    exceptions: tuple[str, ...]

    @property
    def gaps(self) -> list[Check]:
        return [check for check in self.checks if check.status == "gap"]

    @property
    def breaks(self) -> list[Check]:
        return [check for check in self.checks if check.status == "break"]


def prove(pack: Pack, statement: Statement) -> Proof:
    """Print every figure of the statement and check every relation."""
    exact = exact_amounts(statement)
    figured = statement.figured
    columns = [column.id for column in statement.columns]
    decided = decide_all(pack.rulebook, statement.id, [line.id for line in figured], columns)
    holds = {(h.line, h.column): h for h in pack.holds if h.statement == statement.id}
    nudges = {(n.line, n.column): n for n in pack.nudges if n.statement == statement.id}
    figures = {}
    for number, line in enumerate(figured):
        for column in columns:
            cell = (line.id, column)
            money = number == 0 or line.adds
            figures[cell] = _figure(
                cell, exact[cell], decided[cell], money, holds.get(cell), nudges.get(cell)
            )
    shares = {column.id: column.share[0] for column in statement.columns if column.share}
    checks = tuple(
        _check(relation, figures, exact, exact_miss(relation, exact, shares))
        for relation in relations(statement)
    )
    caption, exceptions = _captions(statement, figures)
    return Proof(statement, figures, checks, caption, exceptions)


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
        return Figure(cell, exact, decided, print_amount(None, clauses), money, hold)
    where = position(exact, clauses.exponent)
    applies = (
        nudge is not None
        and nudge.exponent == clauses.exponent
        and nudge.natural == round_units(where, clauses.rounding)
        and nudge.units in (where.floor, where.floor + 1)
        and not where.whole
    )
    active = nudge if applies else None
    resting = None if applies else nudge
    units = active.units if active else None
    if hold is not None:
        units = held_units(hold, clauses)
    return Figure(
        cell, exact, decided, print_amount(exact, clauses, units, money), money, hold, active, resting
    )


def held_units(hold: Hold, clauses: InForce) -> int | None:
    """The whole units a hold has its figure print under these clauses; None for its rounding."""
    if hold.printed is None:
        return None
    return round_units(position(hold.printed, clauses.exponent), clauses.rounding)


def _check(
    relation: Relation,
    figures: dict[Cell, Figure],
    exact: dict[Cell, Decimal | None],
    miss: Decimal | None,
) -> Check:
    if miss is None:
        return Check(relation, "incomplete")
    if miss:
        missing = any(exact[cell] is None for cell, _ in relation.parts)
        return Check(relation, "incomplete" if missing else "break", miss=miss)
    total = figures[relation.total].printed
    parts = [(figures[cell].printed, sign) for cell, sign in relation.parts]
    if any(part.exponent != total.exponent for part, _ in parts):
        return Check(relation, "mixed")
    assert total.units is not None
    gap = total.units - sum(sign * part.units for part, sign in parts if part.units is not None)
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


def _captions(statement: Statement, figures: dict[Cell, Figure]) -> tuple[str, tuple[str, ...]]:
    """The unit most figures print in, and what says otherwise, by column where most of one does."""
    said = {cell: unit_said(figure.clauses) for cell, figure in figures.items()}
    if not said:
        return "", ()
    main = Counter(said.values()).most_common(1)[0][0]
    exceptions, usual = [], {}
    for column in statement.columns:
        units = Counter(said[line.id, column.id] for line in statement.figured)
        usual[column.id] = units.most_common(1)[0][0]
        if usual[column.id] != main:
            exceptions.append(f"{column.label} in {usual[column.id] or 'ones'}")
    for line in statement.figured:
        others = {said[line.id, id] for id, unit in usual.items() if said[line.id, id] != unit}
        exceptions += [f"{line.label} in {unit or 'ones'}" for unit in sorted(others)]
    return main, tuple(exceptions)
