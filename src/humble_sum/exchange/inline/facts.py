"""Figures as facts of XBRL: what each states, to which accuracy, and how its printed text says so."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT, of_units, total
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Line
from humble_sum.exchange.inline.contexts import Dates, Undated, dates_of_lines

# Transformations (Transformation Registry 5, 2022-02-16): a number with a point or a comma, whose groups are
# told apart by blanks or the other mark, or by apostrophes too; and whatever stands for nothing.
POINT, COMMA, ZERO = "num-dot-decimal", "num-comma-decimal", "fixed-zero"
APOSTROPHES = "'`´’′"
POINT_APOS, COMMA_APOS = f"{POINT}-apos", f"{COMMA}-apos"
GROUPS = {
    POINT: ", \u00a0",
    COMMA: ". \u00a0",
    POINT_APOS: f", \u00a0{APOSTROPHES}",
    COMMA_APOS: f". \u00a0{APOSTROPHES}",
}
NUMBER = re.compile(r"[0-9](?:[0-9.,'`´’′ \u00a0\u202f]*[0-9])?")
NARROW, NO_BREAK = "\u202f", "\u00a0"  # the registry knows the wider of the two only
DIGITS = re.compile("[0-9]+")
PREFIX = "pack"  # of the concepts that an edition has of its own


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
    """A figure and what it states: `value` × 1 in `unit` over `dates`, accurate to half of 10**−`decimals`
    but for what its `note` says. In its printed text `tagged` stands from `at`; the transformation `format`
    makes a number of it, which is taken times 10**`scale`, and negated where `negative`.

    A text that no transformation reads, as of native digits, is `hidden`: the page prints it untagged, and
    the number stands beside it in digits that are read (Inline XBRL 1.1, 9)."""

    ref: FigureRef
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
    hidden: bool = False
    note: str = ""

    @property
    def id(self) -> str:
        """A name for it in its document."""
        return ".".join(("f", *self.ref))


NUDGED = (
    "Printed one step from its own rounding, so that printed sums add. The exact amount is within one unit "
    "of the last digit printed."
)
FARTHER = "Printed so that printed sums add, more than one unit of the last digit from its exact amount."
HELD = "Printed as it was agreed or published: the exact amount rounds to another number."
ROUNDED = "Rounded by at most one step, not always to the nearest unit."


@dataclass(frozen=True)
class Facts:
    """The facts of an edition, and the figures that state none although they print something: each with the
    reason."""

    stated: dict[FigureRef, Fact]
    untagged: dict[FigureRef, str]


def concept_of(statement: str, line: Line) -> str:
    """The concept of a line, a prefix and a name: of another taxonomy where it says so, or its own."""
    if line.concept is not None:
        return line.concept
    name = f"{statement}.{line.id}"
    return f"{PREFIX}:{name if name[0].isalpha() else f'c.{name}'}"


def facts_of(pack_proof: PackProof) -> Facts:
    """A fact for each figure that is a number of a dated column; missing figures, words, differences and
    shares state none. A print that no number can be made of, as of what rounds away, is left untagged. Raises
    InputError, with every reason, where a statement cannot be tagged."""
    facts: dict[FigureRef, Fact] = {}
    untagged: dict[FigureRef, str] = {}
    faults: list[Fault] = []
    for id, proof in pack_proof.proofs.items():
        try:
            on = dates_of_lines(pack_proof.pack, proof.statement)
        except Undated as undated:
            faults.append(Fault(proof.statement.name, str(undated), undated.do))
            continue
        for line in proof.statement.figured:
            units = {unit_of(line, proof.figures[line.id, column]).id for column in on[line.id]}
            if len(units) > 1:
                said = " and ".join(sorted(units))
                faults.append(Fault(f"{proof.statement.name}, {line.label}", f"It is in {said}.", "Use one."))
            for column, of in on[line.id].items():
                figure = proof.figures[line.id, column]
                try:
                    fact = _fact((id, line.id, column), line, figure, of)
                except ValueError as error:
                    untagged[id, line.id, column] = str(error)
                    continue
                if fact is not None:
                    facts[fact.ref] = fact
    faults += _at_odds(pack_proof, facts)
    if not facts and not faults:
        what = "No figure of it states a number at a date."
        faults.append(Fault("", what, "Leave the tagged page out."))
    if faults:
        raise InputError("cannot-tag", faults)
    return Facts(facts, untagged)


def _at_odds(pack_proof: PackProof, facts: dict[FigureRef, Fact]) -> Iterator[Fault]:
    """Figures under one concept, time and unit of which one states what another rules out."""
    same: dict[tuple[str, Dates, Unit], list[Fact]] = {}
    for fact in facts.values():
        same.setdefault((fact.concept, fact.dates, fact.unit), []).append(fact)
    for (concept, dates, _), several in same.items():
        least = max(EXACT.subtract(fact.value, _within(fact)) for fact in several)
        most = min(EXACT.add(fact.value, _within(fact)) for fact in several)
        if least > most:
            names = " and ".join(dict.fromkeys(_label(pack_proof, fact.ref) for fact in several))
            what = f"{names} state other amounts under {concept} for {dates.id}."
            yield Fault(concept, what, "Tag one of them with another concept.")


def _label(pack_proof: PackProof, ref: FigureRef) -> str:
    proof = pack_proof.proofs[ref[0]]
    return f"{proof.grid.labels[ref[1]]} of {proof.statement.name}"


def unit_of(line: Line, figure: Figure) -> Unit:
    """What a line's figure counts."""
    clauses = figure.clauses
    currency = clauses.currency if clauses.form == "amount" else None
    return Unit(currency, line.kind == "per_unit" and currency is not None)


def _within(fact: Fact) -> Decimal:
    """Half of what it is accurate to."""
    return EXACT.divide(of_units(1, -fact.decimals), Decimal(2))


def _fact(ref: FigureRef, line: Line, figure: Figure, dates: Dates) -> Fact | None:
    units, exact = figure.units, figure.exact
    if units is None or exact is None or not figure.clauses.shown:
        return None
    value, printed = of_units(units, figure.exponent), figure.printed.full_text
    if line.concept_negated:
        value = value.copy_negate()
    shown, own = printed.replace(NARROW, NO_BREAK), figure.printed.text.replace(NARROW, NO_BREAK)
    # What stands before it by rule may have digits of its own.
    ahead = sum(len(part) + 1 for part in (figure.printed.mark, figure.printed.before) if part)
    start, tagged, format, scale = _told(value, in_ascii_digits(own))
    hidden, at = in_ascii_digits(own) != own and format != ZERO, ahead + start
    return Fact(
        *(ref, concept_of(ref[0], line), dates, unit_of(line, figure), value, -figure.exponent),
        printed=shown,
        at=at,
        tagged=tagged,
        format=format,
        scale=scale,
        negative=value < 0,
        hidden=hidden,
        note=_note(figure),
    )


def _note(figure: Figure) -> str:
    """What is said of a figure that was moved, or whose exact amount is not within half a unit of what it
    prints."""
    if figure.drift is None:
        return ""
    off = figure.drift.copy_abs()
    if figure.moved:
        return HELD if figure.held is not None else NUDGED if off <= 1 else FARTHER
    return ROUNDED if EXACT.multiply(off, Decimal(2)) > 1 else ""


def in_ascii_digits(text: str) -> str:
    """Text with the digits of any script as those of ASCII, and their marks as point and comma."""
    if text.isascii():
        return text
    plain = (str(digit) if (digit := unicodedata.decimal(c, -1)) >= 0 else c for c in text)
    return "".join(plain).replace("\u066b", ".").replace("\u066c", ",")


def _told(value: Decimal, printed: str) -> tuple[int, str, str, int]:
    """Where in a text its number stands, the number, and the transformation and scale that make the value of
    it. Raises ValueError where none do."""
    for found in NUMBER.finditer(printed):
        for format in GROUPS:
            number = transformed(found[0], format)
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
    point = "." if format in (POINT, POINT_APOS) else ","
    integer, pointed, fraction = text.partition(point)
    # A group has two digits or three, or four; a mark elsewhere is no mark of groups, and behind the point
    # there is none.
    groups = re.split(f"[{re.escape(GROUPS[format])}]", integer)
    if any(len(group) not in (2, 3, 4) for group in groups[1:]) or bool(pointed) != bool(fraction):
        return None
    plain = "".join(groups)
    if not DIGITS.fullmatch(plain) or (fraction and not DIGITS.fullmatch(fraction)):
        return None
    return Decimal(f"{plain}.{fraction}" if fraction else plain)


def _scale(number: Decimal, value: Decimal) -> int | None:
    """The power of ten that makes one number of another."""
    if not number or not value:
        return 0 if number == value else None
    ours, theirs = EXACT.normalize(number).as_tuple(), EXACT.normalize(value).as_tuple()
    if ours.digits != theirs.digits:
        return None
    return int(theirs.exponent) - int(ours.exponent)


def summations(proof: Proof, facts: dict[FigureRef, Fact]) -> Iterator[tuple[str, list[tuple[str, int]]]]:
    """The totals of a statement with their signed parts, by line, that Calculations 1.1 finds consistent in
    every column: where a source break, a missing part or another unit is in the way, nothing is stated."""
    id = proof.statement.id
    columns = {column for statement, _, column in facts if statement == id}
    stated = {line for statement, line, _ in facts if statement == id}
    turned = {line.id: -1 if line.concept_negated else 1 for line in proof.statement.lines}
    for line in proof.statement.lines:
        parts = [(part, sign * turned[part] * turned[line.id]) for part, sign in line.parts]
        if not {line.id, *(part for part, _ in line.parts)} <= stated:
            continue
        if parts and all(_consistent((id, line.id, column), parts, facts) for column in columns):
            yield line.id, parts


def _consistent(total_at: FigureRef, signed: list[tuple[str, int]], facts: dict[FigureRef, Fact]) -> bool:
    """Whether the intervals of a total and of its parts' sum meet (Calculations 1.1, 4.1); they are of one
    time and unit, which a movement and the balance it leads to are not."""
    id, _, column = total_at
    stated = facts.get(total_at)
    parts = [(facts.get((id, part, column)), sign) for part, sign in signed]
    there = [(fact, sign) for fact, sign in parts if fact is not None]
    if stated is None or not there:
        return True
    if len(there) < len(parts) or any(_context(fact) != _context(stated) for fact, _ in there):
        return False
    added = total(fact.value if sign > 0 else fact.value.copy_negate() for fact, sign in there)
    room = total(of_units(1, -fact.decimals) for fact in [stated, *(fact for fact, _ in there)])
    off = EXACT.subtract(added, stated.value).copy_abs()
    return EXACT.multiply(off, Decimal(2)) <= room


def _context(fact: Fact) -> tuple[Dates, Unit]:
    return fact.dates, fact.unit
