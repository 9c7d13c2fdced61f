"""Figures as facts of XBRL: what each states, to which accuracy, and how its printed text says so."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT, of_units, total
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Line
from humble_sum.exchange.inline.periods import Dates, Undated, dates_of, dates_on

# Transformations (Transformation Registry 4, 2020-02-12): a number with a point or a comma, whose groups
# are told apart by blanks, apostrophes or the other mark; and whatever stands for nothing.
POINT, COMMA, ZERO = "num-dot-decimal", "num-comma-decimal", "fixed-zero"
GROUPS = {POINT: ",'`´’′ \u00a0", COMMA: ".'`´’′ \u00a0"}
NUMBER = re.compile(r"[0-9](?:[0-9.,'`´’′ \u00a0\u202f]*[0-9])?")
NARROW, NO_BREAK = "\u202f", "\u00a0"  # the registry knows the wider of the two only
PREFIX = "pack"  # of the concepts that an edition has of its own
MOST_DIGITS_LESS = 30  # that a figure may be less accurate than it looks


@dataclass(frozen=True)
class Unit:
    """What is counted: a currency, a pure number, or a currency for each of something."""

    currency: str | None
    each: bool = False

    @property
    def id(self) -> str:
        return f"{self.currency}-each" if self.currency and self.each else self.currency or "pure"

    @property
    def measures(self) -> str:
        """What is counted, over what where it is for each of something."""
        return f"{self.currency}/pure" if self.each else self.currency or "pure"


@dataclass(frozen=True)
class Fact:
    """A figure and what it states: `value` × 1 in `unit` over `dates`, within half of 10**−`decimals`. In its
    printed text `tagged` stands from `at`; the transformation `format` makes a number of it, which is taken
    times 10**`scale`, and negated where `negative`."""

    spot: FigureRef
    concept: str
    dates: Dates
    unit: Unit
    value: Decimal
    decimals: int
    printed: str
    at: int
    tagged: str
    format: str
    scale: int
    negative: bool

    @property
    def within(self) -> Decimal:
        """Half of what it is accurate to."""
        return EXACT.divide(of_units(1, -self.decimals), Decimal(2))


def concept_of(statement: str, line: Line) -> str:
    """The concept of a line, a prefix and a name: of another taxonomy where it says so, or its own."""
    if line.concept is not None:
        return line.concept
    name = f"{statement}.{line.id}"
    return f"{PREFIX}:{name if name[0].isalpha() else f'c.{name}'}"


def facts_of(whole: PackProof) -> dict[FigureRef, Fact]:
    """A fact for each figure that is a number of a dated column; missing figures, words, differences and
    shares state none. Raises InputError, with every reason, where a figure cannot be tagged."""
    facts: dict[FigureRef, Fact] = {}
    faults: list[Fault] = []
    for id, proof in whole.proofs.items():
        try:
            dates = dates_of(whole.pack, proof.statement)
            on = {line.id: _on(line, dates) for line in proof.statement.figured}
        except Undated as undated:
            faults.append(Fault(proof.statement.name, str(undated), undated.do))
            continue
        for line in proof.statement.figured:
            units = {unit_of(line, proof.figures[line.id, column]).id for column in dates}
            if len(units) > 1:
                said = " and ".join(sorted(units))
                faults.append(Fault(f"{proof.statement.name}, {line.label}", f"It is in {said}.", "Use one."))
            for column, of in on[line.id].items():
                figure = proof.figures[line.id, column]
                try:
                    fact = _fact((id, line.id, column), line, figure, of)
                except ValueError as error:
                    where = f"{proof.statement.name}, {line.label}, {proof.grid.heads[column]}"
                    faults.append(Fault(where, str(error), "Print it in another way."))
                    continue
                if fact is not None:
                    facts[fact.spot] = fact
    faults += _at_odds(whole, facts)
    if faults:
        raise InputError("cannot-tag", faults)
    return facts


def _on(line: Line, dates: Mapping[str, Dates]) -> dict[str, Dates]:
    """A line's own dates in each column. Raises Undated where it is a balance in some of them only."""
    found = {column: dates_on(line, of) for column, of in dates.items()}
    if len({of.first is None for of in found.values()}) > 1:
        what = f"{line.label}: it is a balance at a day of some columns only."
        raise Undated(what, "Say in its label that it is at the beginning or at the end.")
    return found


def _at_odds(whole: PackProof, facts: dict[FigureRef, Fact]) -> Iterator[Fault]:
    """Figures under one concept, time and unit of which one states what another rules out."""
    same: dict[tuple[str, Dates, Unit], list[Fact]] = {}
    for fact in facts.values():
        same.setdefault((fact.concept, fact.dates, fact.unit), []).append(fact)
    for (concept, dates, _), several in same.items():
        least = max(EXACT.subtract(fact.value, fact.within) for fact in several)
        most = min(EXACT.add(fact.value, fact.within) for fact in several)
        if least > most:
            names = " and ".join(dict.fromkeys(_label(whole, fact.spot) for fact in several))
            what = f"{names} state other amounts under {concept} for {dates.id}."
            yield Fault(concept, what, "Tag one of them with another concept.")


def _label(whole: PackProof, spot: FigureRef) -> str:
    proof = whole.proofs[spot[0]]
    return f"{proof.grid.labels[spot[1]]} of {proof.statement.name}"


def unit_of(line: Line, figure: Figure) -> Unit:
    """What a line's figure counts."""
    clauses = figure.clauses
    currency = clauses.currency if clauses.form == "amount" else None
    return Unit(currency, line.kind == "per_unit" and currency is not None)


def _fact(spot: FigureRef, line: Line, figure: Figure, dates: Dates) -> Fact | None:
    units, exact = figure.units, figure.exact
    if units is None or exact is None or not figure.clauses.shown:
        return None
    value, printed = of_units(units, figure.exponent), figure.printed.whole
    if line.concept_negated:
        value, exact = value.copy_negate(), exact.copy_negate()
    at, tagged, format, scale = _told(value, printed)
    accuracy = _accuracy(value, exact, figure.exponent)
    shown = printed.replace(NARROW, NO_BREAK)
    return Fact(
        *(spot, concept_of(spot[0], line), dates, unit_of(line, figure), value, -accuracy),
        *(shown, at, tagged.replace(NARROW, NO_BREAK), format, scale, value < 0),
    )


def _told(value: Decimal, printed: str) -> tuple[int, str, str, int]:
    """Where in a text its number stands, the number, and the transformation and scale that make the value of
    it. Raises ValueError where none do."""
    for found in NUMBER.finditer(printed):
        for format in (POINT, COMMA):
            number = transformed(found[0].replace(NARROW, NO_BREAK), format)
            scale = None if number is None else _scale(number, value.copy_abs())
            if scale is not None:
                return found.start(), found[0], format, scale
    if not value and printed.strip() and not any(character.isdigit() for character in printed):
        return 0, printed, ZERO, 0
    raise ValueError(f"No transformation makes {value.normalize():f} of {printed or 'a blank'}.")


def transformed(text: str, format: str) -> Decimal | None:
    """The number that a transformation makes of a text; None where it takes no such text."""
    if format == ZERO:
        return Decimal(0)
    point = "." if format == POINT else ","
    plain = "".join(character for character in text if character not in GROUPS[format])
    if plain.count(point) > 1 or not re.fullmatch(rf"[0-9]+(?:\{point}[0-9]+)?", plain):
        return None
    # A group has two digits or three, or four; a mark elsewhere is no mark of groups.
    whole = text.partition(point)[0]
    groups = re.split(f"[{re.escape(GROUPS[format])}]", whole)
    if any(len(group) not in (2, 3, 4) for group in groups[1:]):
        return None
    return Decimal(plain.replace(point, "."))


def _scale(number: Decimal, value: Decimal) -> int | None:
    """The power of ten that makes one number of another."""
    if not number or not value:
        return 0 if number == value else None
    ours, theirs = EXACT.normalize(number).as_tuple(), EXACT.normalize(value).as_tuple()
    if ours.digits != theirs.digits:
        return None
    return int(theirs.exponent) - int(ours.exponent)


def _accuracy(value: Decimal, exact: Decimal, exponent: int) -> int:
    """The least power of ten, from that of the figure's unit, half of which is no less than what the figure
    is off: so the interval that it states holds the exact amount."""
    off = EXACT.subtract(value, exact).copy_abs()
    for more in range(MOST_DIGITS_LESS):
        if off <= EXACT.divide(of_units(1, exponent + more), Decimal(2)):
            return exponent + more
    raise ValueError("It is too far from its exact amount for any accuracy.")


def summations(proof: Proof, facts: dict[FigureRef, Fact]) -> Iterator[tuple[str, list[tuple[str, int]]]]:
    """The totals of a statement with their signed parts, by line, that Calculations 1.1 finds consistent in
    every column: where a source break, a missing part or another unit is in the way, nothing is stated."""
    id = proof.statement.id
    columns = {column for statement, _, column in facts if statement == id}
    turned = {line.id: -1 if line.concept_negated else 1 for line in proof.statement.lines}
    for line in proof.statement.lines:
        parts = [(part, sign * turned[part] * turned[line.id]) for part, sign in line.parts]
        if parts and all(_consistent((id, line.id, column), parts, facts) for column in columns):
            yield line.id, parts


def _consistent(total_at: FigureRef, signed: list[tuple[str, int]], facts: dict[FigureRef, Fact]) -> bool:
    """Whether the intervals of a total and of its parts' sum meet (Calculations 1.1, 4.1); they are of one
    time and unit, which a movement and the balance it leads to are not."""
    id, _, column = total_at
    whole = facts.get(total_at)
    parts = [(facts.get((id, part, column)), sign) for part, sign in signed]
    there = [(fact, sign) for fact, sign in parts if fact is not None]
    if whole is None or not there:
        return True
    if len(there) < len(parts) or any(_context(fact) != _context(whole) for fact, _ in there):
        return False
    added = total(fact.value if sign > 0 else fact.value.copy_negate() for fact, sign in there)
    room = total(of_units(1, -fact.decimals) for fact in [whole, *(fact for fact, _ in there)])
    off = EXACT.subtract(added, whole.value).copy_abs()
    return EXACT.multiply(off, Decimal(2)) <= room


def _context(fact: Fact) -> tuple[Dates, Unit]:
    return fact.dates, fact.unit
