"""The measure of each line: money, percentages, amounts for one of something, or counts.

What a line is called, how its cells are written and what adds up with it are weighed together. Lines of one
sum are of one measure, so that no word makes something else of a line than of the lines it adds up with.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from humble_sum.core.intake.arithmetic import Relation, bits_of, down, groups
from humble_sum.core.intake.decisions import OwnKind
from humble_sum.core.intake.named_measures import MEASURE_OF, MEASURES, measure_signals
from humble_sum.core.intake.signals import (
    DECIDED,
    HINTED,
    MOST,
    NAMED,
    USUAL,
    WRITTEN,
    Signal,
    Verdict,
    settle,
    weighed,
)
from humble_sum.core.intake.vocabulary import says, words_of

Amounts = Sequence[Decimal | None]
LINK = 6.0  # bits from which lines that add up are of one measure
LONGEST = 3_000  # lines from which the arithmetic of a line is not asked
OWN_WORDS = {"percent": "percentages", "per_one": "amounts for one of something", "count": "counts"}


@dataclass(frozen=True)
class LineSeen:
    """A line as it is written: its label, its amounts in columns of money, the forms of its cells, what was
    decided of it, what the heading it stands under says of its measure, and the words of what the unit of its
    table is not of."""

    label: str
    amounts: Amounts
    forms: frozenset[str]
    told: OwnKind | None = None
    under: str | None = None
    place: str = ""
    excepted: tuple[str, ...] = ()


def line_measures(lines: Sequence[LineSeen]) -> list[Verdict]:
    """The measure of every line, and how it was settled."""
    signals = [list(_signals(line)) for line in lines]
    relations = _relations(lines, signals)
    of, strongest = groups(relations, LINK), bits_of(relations)
    members: dict[int, list[int]] = {}
    for place, first in of.items():
        members.setdefault(first, []).append(place)
    found = []
    for place, line in enumerate(lines):
        own = signals[place]
        together = members.get(of[place], [place]) if place in of else [place]
        if len(together) == 1 or line.told is not None:
            found.append(settle(line.label, own, MEASURES, "money"))
            continue
        bits = weighed((signal for n in together for signal in signals[n]), MEASURES)
        best = max(MEASURES, key=lambda reading: bits[reading])
        relation = strongest[place]
        own = [*own, Signal(best, min(relation.bits, MOST), _adding(lines, place, relation))]
        found.append(replace(settle(line.label, own, MEASURES, "money"), reading=best))
    return found


def _adding(lines: Sequence[LineSeen], place: int, relation: Relation) -> str:
    """What a line adds up with, in words."""
    others = [relation.total, *(part for part, _ in relation.parts)]
    named = [lines[n].label for n in others if n != place]
    shown = ", ".join(named[:3]) + (f" and {len(named) - 3} more" if len(named) > 3 else "")
    return f"it adds up with {shown}"


def _relations(lines: Sequence[LineSeen], signals: Sequence[Sequence[Signal]]) -> list[Relation]:
    """What adds up among lines, asked where some line could be something else than money."""
    contested = any(s.reading != "money" and s.bits > NAMED / 2 for some in signals for s in some)
    if not contested or len(lines) > LONGEST:
        return []
    apart = {n for n, line in enumerate(lines) if says(line.label, "memo") or line.told is not None}
    apart |= {n for n, line in enumerate(lines) if "percent" in line.forms or "multiple" in line.forms}
    called = {n for n, line in enumerate(lines) if says(line.label, "total")}
    return down([line.amounts for line in lines], apart, called)


def _signals(line: LineSeen) -> Iterator[Signal]:
    yield Signal("money", USUAL, "most lines are amounts of money")
    if line.told is not None:
        yield Signal(
            MEASURE_OF.get(line.told if line.told != "line" else None, "money"), DECIDED, "it was decided so"
        )
    present = [abs(amount) for amount in line.amounts if amount is not None]
    if present and line.forms == {"percent"}:
        yield Signal("percent", WRITTEN, "each of its cells is written as a percentage")
    elif line.forms - {"amount"}:
        # Cells that say what they are in are in that: 12.5p, 3.4x.
        yield Signal("percent", -NAMED, "its cells are written otherwise")
    yield from measure_signals(line.label, line.amounts, (line.place,) if line.place else ())
    said = words_of(line.label)
    if any(f"{word}s" in said or says(line.label, "shares_counted") for word in line.excepted):
        whole = all(amount == amount.to_integral_value() for amount in present)
        reading = "count" if whole else "per_one"
        yield Signal(reading, HINTED, f"the unit of the table is not of {', '.join(line.excepted)}")
    if line.under is not None:
        yield Signal(line.under, NAMED, f"the heading above says {OWN_WORDS.get(line.under, line.under)}")


def in_points(line: LineSeen) -> bool:
    """Whether the percentages of a line are written without their sign and in points: "Margin %" of 41.7."""
    present = [abs(amount) for amount in line.amounts if amount is not None]
    return bool(present) and not (line.forms - {"amount"}) and max(present) > 1
