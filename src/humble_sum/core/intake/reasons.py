"""Why each thing was read as it was: the signals that say most for it and against it, in words."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from humble_sum.core.intake.columns import ColumnRead
from humble_sum.core.intake.draft import Draft
from humble_sum.core.intake.draft_lines import DraftLine
from humble_sum.core.intake.signals import Signal, Verdict
from humble_sum.core.intake.table import column_letters

MOST_SHOWN = 4  # signals of one reading: the strongest
# What readings are called on screens and in files.
CALLED = {
    "money": "amounts of money",
    "percent": "percentages",
    "per_one": "amounts for one of something",
    "count": "counts",
    "figures": "figures",
    "code": "line codes",
    "notes": "numbers of notes",
}


@dataclass(frozen=True)
class Reason:
    """One piece of evidence: whether it speaks for what was read, how strongly in bits, why, and where."""

    speaks: str  # "for" or "against"
    bits: float
    because: str
    cells: tuple[str, ...] = ()


@dataclass(frozen=True)
class Reasoned:
    """What something was read as, by how many bits before the next best reading, and why."""

    of: str
    read_as: str
    margin: float
    reasons: tuple[Reason, ...]


def column_reasons(made: Draft, column: ColumnRead) -> list[Reasoned]:
    """Why a column is what it is, and why its figures are of their measure."""
    name = f"column {column_letters(column.index)}"
    roles = [verdict for verdict in made.layout.verdicts if verdict.subject == name]
    found = [_reasoned(name, verdict) for verdict in roles]
    if column.verdict is not None:
        found.append(_reasoned(name, column.verdict))
    inferred = column.inferred
    if inferred is not None and inferred.reasons:
        why = tuple(Reason("for", 0.0, reason) for reason in inferred.reasons)
        found.append(Reasoned(name, f"numbers with a {inferred.convention}", 0.0, why))
    return found


def line_reasons(made: Draft, line: DraftLine) -> list[Reasoned]:
    """Why a line's figures are of their measure, and why it is a total; empty where nothing but what is usual
    speaks for it."""
    found = []
    verdict = line.verdict
    if verdict is not None and not line.heading and len(verdict.signals) > 1:
        found.append(_reasoned(line.label, verdict))
    if line.parts:
        parts = ", ".join(made.lines[part].label for part, _ in line.parts[:MOST_SHOWN])
        more = f" and {len(line.parts) - MOST_SHOWN} more" if len(line.parts) > MOST_SHOWN else ""
        found.append(
            Reasoned(line.label, f"a total of {parts}{more}", 0.0, (Reason("for", 0.0, line.evidence),))
        )
    return found


def reasons(made: Draft) -> Iterator[Reasoned]:
    """Every decision of a draft that evidence speaks for, columns first."""
    for column in made.layout.columns:
        yield from column_reasons(made, column)
    for line in made.lines:
        yield from line_reasons(made, line)


def _reasoned(of: str, verdict: Verdict) -> Reasoned:
    """A verdict with its strongest signals, those that speak for what was read first."""
    told = list(dict.fromkeys(_reason(each, verdict.reading) for each in verdict.strongest if each.bits))
    ours = [reason for reason in told if reason.speaks == "for"][:MOST_SHOWN]
    theirs = [reason for reason in told if reason.speaks == "against"][:MOST_SHOWN]
    read_as = CALLED.get(verdict.reading, verdict.reading)
    return Reasoned(of, read_as, round(verdict.margin, 1), (*ours, *theirs))


def _reason(signal: Signal, reading: str) -> Reason:
    ours = (signal.reading == reading) == (signal.bits > 0)
    because = signal.because
    if signal.reading != reading and signal.bits > 0:
        because = f"{because}, which speaks for {CALLED.get(signal.reading, signal.reading)}"
    return Reason("for" if ours else "against", round(abs(signal.bits), 1), because, signal.cells)
