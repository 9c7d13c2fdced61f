"""What a chart shows, worked out and printed: nothing of numbers is left to whoever draws it.

Points that are missing stay missing, ticks are round and distinct as printed, shares print to 100 and
bridges add as printed.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal
from functools import partial

from humble_sum.core.amounts import EXACT, of_units, scaled, total
from humble_sum.core.places.placed_figure import Placed, Placer, unit_of
from humble_sum.core.places.printed_parts import footed_parts
from humble_sum.core.printing.clause_values import FixedDecimals
from humble_sum.core.printing.figure import fitted, print_amount, unit_exponent
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof, unit_said
from humble_sum.core.statements.placed import Chart, Shows, Style
from humble_sum.core.statements.relations import QUOTIENT

STEPS = (Decimal(1), Decimal(2), Decimal(5))
MOST_TICKS = 6
TEXTUAL = ("yes_no", "date", "time", "text")
OTHERS = "Other changes"
NOTHING = "Every amount of this chart is missing, so there is nothing to draw."


@dataclass(frozen=True)
class Point:
    """One value of a series: its exact amount, None where it is missing; from where to where it is drawn,
    and what it prints. `drawn` differs from the amount where parts print to their whole."""

    amount: Decimal | None
    text: str
    drawn: Decimal | None
    base: Decimal = Decimal(0)
    name: str = ""
    moved: bool = False


@dataclass(frozen=True)
class Series:
    """A line of the statement over the chart's columns, or the steps of a bridge."""

    name: str
    points: tuple[Point, ...]


@dataclass(frozen=True)
class Tick:
    """A value of the axis and what it prints."""

    amount: Decimal
    text: str


@dataclass(frozen=True)
class ChartData:
    """A chart, ready to be drawn. `heads` are under it, one for each point of a series; `caption` is its
    unit. `fault` says why there is none to be drawn; `notes` what a reader should know."""

    style: Style
    label: str
    caption: str = ""
    heads: tuple[str, ...] = ()
    series: tuple[Series, ...] = ()
    ticks: tuple[Tick, ...] = ()
    fault: str = ""
    notes: tuple[str, ...] = ()

    @property
    def floor(self) -> Decimal:
        return self.ticks[0].amount if self.ticks else Decimal(0)

    @property
    def ceiling(self) -> Decimal:
        return self.ticks[-1].amount if self.ticks else Decimal(1)


def chart_fault(chart: Chart, pack_proof: PackProof, placer: Placer) -> str:
    """Why a chart over columns cannot be drawn; empty where it can."""
    proof = pack_proof.proofs.get(chart.statement)
    if proof is None or _gone(chart, proof):
        return chart_data(chart, pack_proof, placer).fault
    decided = {
        id(each): each
        for line in chart.lines
        for column in chart.columns
        if (each := placer.decided((chart.statement, line, column), chart.clauses))
    }
    _, fault = _axis_clauses([each.clauses for each in decided.values()])
    amounts = proof.figures
    if not fault and all(amounts[line, c].exact is None for line in chart.lines for c in chart.columns):
        return NOTHING
    return fault


def _gone(chart: Chart, proof: Proof) -> list[str]:
    """What a chart names that its statement does not have."""
    named = (*chart.lines, *([chart.total] if chart.total else []))
    first = proof.statement.columns[0].id
    gone = [id for id in named if (id, first) not in proof.figures]
    gone += [id for id in chart.columns if id not in proof.grid.heads]
    return list(dict.fromkeys(gone))


def chart_data(chart: Chart, pack_proof: PackProof, placer: Placer) -> ChartData:
    """What a chart shows. What cannot be drawn is said, never raised."""
    proof = pack_proof.proofs.get(chart.statement)
    if proof is None:
        return _none(chart, f'There is no statement "{chart.statement}" any more.')
    if gone := _gone(chart, proof):
        return _none(chart, f"There is no {' or '.join(gone)} in {proof.statement.name} any more.")
    return WORKED_OUT[chart.style](chart, proof, placer)


def _none(chart: Chart, fault: str) -> ChartData:
    return ChartData(chart.style, chart.label, fault=fault)


def _placed(chart: Chart, placer: Placer, line: str, column: str) -> Placed:
    return placer.shown(point_of(chart, line, column))


def point_of(chart: Chart, line: str, column: str) -> Shows:
    """One point of a chart as a placed figure."""
    return Shows.model_construct(
        figure=(chart.statement, line, column),
        measure="figure",
        against=None,
        columns=(),
        printed=False,
        clauses=chart.clauses,
        accepted="",
    )


def _heads(proof: Proof, columns: Sequence[str]) -> tuple[str, ...]:
    heads = dict(zip((column.id for column in proof.statement.columns), proof.heads, strict=True))
    return tuple(heads[id] for id in columns)


def _over_columns(chart: Chart, proof: Proof, placer: Placer, stacks: bool = False) -> ChartData:
    rows = [[_placed(chart, placer, line, column) for column in chart.columns] for line in chart.lines]
    every = [placed for row in rows for placed in row]
    shared, fault = _axis_clauses([each.clauses for each in every if each.clauses is not None])
    if shared is None:
        return _none(chart, fault)
    if not any(placed.exact is not None for placed in every):
        return _none(chart, NOTHING)
    axis = _fitted_axis(every, shared)
    heads = _heads(proof, chart.columns)
    series = []
    bases = [{1: Decimal(0), -1: Decimal(0)} for _ in chart.columns]
    for line, row in zip(chart.lines, rows, strict=True):
        points = []
        for place, placed in enumerate(row):
            drawn = placed.exact
            base = Decimal(0)
            if stacks and drawn is not None:
                side = -1 if drawn < 0 else 1
                base = bases[place][side]
                bases[place][side] = EXACT.add(base, drawn)
            text = _at_axis(placed, axis)
            points.append(
                Point(placed.exact, text, drawn, base, f"{proof.grid.labels[line]}, {heads[place]}")
            )
        series.append(Series(proof.grid.labels[line], tuple(points)))
    reach = [
        EXACT.add(point.base, point.drawn)
        for one in series
        for point in one.points
        if point.drawn is not None
    ]
    alone = chart.style == "lines" and len(chart.columns) == 1
    notes = ("Only one point: there is no course to see.",) if alone else ()
    # Bars stand on nothing; a line may begin where its figures do, and ours begins at nothing too.
    return ChartData(
        chart.style, chart.label, unit_said(axis), heads, tuple(series), _ticks(reach, axis), notes=notes
    )


def _axis_clauses(clauses: Sequence[ResolvedClauses]) -> tuple[ResolvedClauses | None, str]:
    """The clauses of the axis; None where the figures have no one unit, and why."""
    first = clauses[0]
    if any(each.form in TEXTUAL for each in clauses):
        return None, "Some of these print no number, and a chart needs numbers."
    units = {
        (
            each.form in ("amount", "number"),
            each.form if each.form not in ("amount", "number") else "",
            each.currency if each.form == "amount" else None,
            each.scale,
        )
        for each in clauses
    }
    if len(units) > 1:
        said = sorted({unit_said(each) or each.form for each in clauses})
        return None, f"These print in different units, and one axis cannot have them all: {', '.join(said)}."
    return first, ""


def _fitted_axis(every: Sequence[Placed], clauses: ResolvedClauses) -> ResolvedClauses:
    """The clauses of the axis, with a scale that fits come to that of the largest amount."""
    largest = max(
        (placed.exact.copy_abs() for placed in every if placed.exact is not None), default=Decimal(0)
    )
    return fitted(largest, clauses.at(fitted=None)) if clauses.scale == "fit" else clauses


def _at_axis(placed: Placed, axis: ResolvedClauses) -> str:
    """A point's text: in the unit of the axis, which a scale that fits has come to."""
    if axis.scale != "fit" or placed.exact is None:
        return placed.text
    return print_amount(placed.exact, axis).full_text


def _ticks(reach: Sequence[Decimal], clauses: ResolvedClauses) -> tuple[Tick, ...]:
    """Round amounts from below the least to above the largest, zero among them, each printing otherwise."""
    low, high = min([*reach, Decimal(0)]), max([*reach, Decimal(0)])
    if low == high:
        high = of_units(1, unit_exponent(Decimal(1), clauses))
    plain = clauses.at(bands=(), before="", after="", width=None, words=None, rounds_away="figure")
    unit = of_units(plain.multiple, plain.exponent)
    step = _step(EXACT.subtract(high, low), unit)
    first = int((low / step).to_integral_value(ROUND_FLOOR))
    last = int((high / step).to_integral_value(ROUND_CEILING))
    amounts = [EXACT.multiply(step, Decimal(number)) for number in range(first, last + 1)]
    # Ticks have no more decimals than their step needs.
    exponent = step.normalize().as_tuple().exponent
    assert isinstance(exponent, int)
    if isinstance(plain.decimals, FixedDecimals):
        needed = max(0, plain.power - exponent)
        plain = plain.at(decimals=FixedDecimals(fixed=min(plain.decimals.fixed, needed)))
    return tuple(Tick(amount, print_amount(amount, plain).full_text) for amount in amounts)


def _step(span: Decimal, unit: Decimal) -> Decimal:
    """A round step of which no more than so many span it, and never less than a unit of the print."""
    exponent = (span / MOST_TICKS).adjusted()
    for power in range(exponent, exponent + 3):
        for times in STEPS:
            step = scaled(times, power)
            if step >= unit and span / step <= MOST_TICKS and not step % unit:
                return step
    return unit * (int(span / unit / MOST_TICKS) + 1)


def _shares(chart: Chart, proof: Proof, placer: Placer) -> ChartData:
    """Lines as shares of a total in one column; they print to 100 where they are all of it."""
    column = chart.columns[0]
    if chart.total is None:
        return _none(chart, "Shares need a total that they are of.")
    figures = proof.figures
    of = figures[chart.total, column].exact
    amounts = [figures[line, column].exact for line in chart.lines]
    if of is None or not of:
        said = "missing" if of is None else "zero"
        return _none(chart, f"{proof.grid.labels[chart.total]} is {said}, and there are no shares of that.")
    there = [amount for amount in amounts if amount is not None]
    clauses = placer.decided((chart.statement, chart.lines[0], column), chart.clauses, "share").clauses
    quotients = [QUOTIENT.divide(amount, of) for amount in there]
    notes: tuple[str, ...] = ()
    units: list[int] | None = None
    complete = total(there) == of
    if complete:
        # Of quotients without an end the last one takes what the others leave of the whole.
        quotients[-1] = EXACT.subtract(Decimal(1), total(quotients[:-1]))
        units = footed_parts(quotients, 10 ** max(0, -clauses.exponent), clauses.exponent, clauses)
    else:
        come_to = print_amount(QUOTIENT.divide(total(there), of), clauses).full_text
        notes = (f"These are not all of {proof.grid.labels[chart.total]}: they come to {come_to}.",)
    points = []
    at = 0
    for line, amount in zip(chart.lines, amounts, strict=True):
        name = f"{proof.grid.labels[line]}, {proof.grid.heads[column]}"
        if amount is None:
            points.append(Point(None, print_amount(None, clauses).full_text, None, name=name))
            continue
        own = print_amount(quotients[at], clauses)
        printed = print_amount(quotients[at], clauses, units[at]) if units else own
        points.append(
            Point(amount, printed.full_text, quotients[at], name=name, moved=printed.units != own.units)
        )
        at += 1
    heads = tuple(proof.grid.labels[line] for line in chart.lines)
    reach = [point.drawn for point in points if point.drawn is not None]
    return ChartData(
        chart.style,
        chart.label,
        f"of {proof.grid.labels[chart.total]}",
        heads,
        (Series(proof.grid.labels[chart.total], tuple(points)),),
        _ticks(reach, clauses.at(decimals=FixedDecimals(fixed=0))),
        notes=notes,
    )


def _bridge(chart: Chart, proof: Proof, placer: Placer) -> ChartData:
    """From a total in one column to the same in another, by what its lines changed."""
    if chart.total is None or len(chart.columns) != 2:
        return _none(chart, "A bridge needs a total and two columns, from one to the other.")
    start, end = chart.columns
    ends = [_placed(chart, placer, chart.total, column) for column in (start, end)]
    steps = [[_placed(chart, placer, line, column) for column in (start, end)] for line in chart.lines]
    every = [*ends, *(placed for pair in steps for placed in pair)]
    shared, fault = _axis_clauses([each.clauses for each in every if each.clauses is not None])
    if shared is None:
        return _none(chart, fault)
    from_, to = ends[0].exact, ends[1].exact
    if from_ is None or to is None:
        return _none(chart, f"{proof.grid.labels[chart.total]} is missing in one of the columns.")
    axis = _fitted_axis(every, shared).at(plus="never")
    changes = [EXACT.subtract(pair[1].exact or Decimal(0), pair[0].exact or Decimal(0)) for pair in steps]
    names = [proof.grid.labels[line] for line in chart.lines]
    if rest := EXACT.subtract(EXACT.subtract(to, from_), total(changes)):
        changes.append(rest)
        names.append(OTHERS)
    units = [_units(placed, axis) for placed in ends]
    exponent = unit_of(from_, axis)
    moved = footed_parts(changes, units[1] - units[0], exponent, axis)
    notes = (
        () if moved is not None else ("Its steps do not add as printed: one step up or down is not enough.",)
    )
    own = [print_amount(change, axis) for change in changes]
    prints = own if moved is None else [print_amount(c, axis, m) for c, m in zip(changes, moved, strict=True)]
    heads = _heads(proof, chart.columns)
    points = [
        Point(
            from_,
            print_amount(from_, axis, units[0]).full_text,
            from_,
            name=f"{proof.grid.labels[chart.total]}, {heads[0]}",
        )
    ]
    at = from_
    for name, change, printed, rounding in zip(names, changes, prints, own, strict=True):
        points.append(Point(change, printed.full_text, change, at, name, printed.units != rounding.units))
        at = EXACT.add(at, change)
    points.append(
        Point(
            to,
            print_amount(to, axis, units[1]).full_text,
            to,
            name=f"{proof.grid.labels[chart.total]}, {heads[1]}",
        )
    )
    reach = [EXACT.add(point.base, point.drawn) for point in points if point.drawn is not None]
    return ChartData(
        chart.style,
        chart.label,
        unit_said(axis),
        (heads[0], *names, heads[1]),
        (Series(proof.grid.labels[chart.total], tuple(points)),),
        _ticks(reach, axis),
        notes=notes,
    )


def _units(placed: Placed, axis: ResolvedClauses) -> int:
    """The units that an end of a bridge prints in the axis' unit: its own where they are the same."""
    assert placed.exact is not None
    printed = placed.printed
    if axis.scale != "fit" and printed is not None and printed.units is not None:
        return printed.units
    again = print_amount(placed.exact, axis).units
    assert again is not None
    return again


WORKED_OUT: dict[Style, Callable[[Chart, Proof, Placer], ChartData]] = {
    "bars": _over_columns,
    "grouped": _over_columns,
    "stacked": partial(_over_columns, stacks=True),
    "lines": _over_columns,
    "shares": _shares,
    "bridge": _bridge,
}
