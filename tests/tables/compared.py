"""Made-up tables read as the desk reads them, and compared with their truth."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from decimal import Decimal

from humble_sum.core.intake.decisions import merged
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.questions import Question, questions
from humble_sum.core.intake.regions import has_figures, regions
from tests.tables.written import Made, Place


@dataclass
class Read:
    """What was made of one table: the cells that were wrong, and which a question would mend."""

    made: Made
    drafts: list[Draft] = field(default_factory=list)
    amounts: int = 0
    silent: list[tuple[Place, Decimal | None, Decimal | None]] = field(default_factory=list)
    asked: list[Place] = field(default_factory=list)
    questions: list[Question] = field(default_factory=list)
    needless: int = 0
    sums: int = 0
    found: int = 0
    false: list[str] = field(default_factory=list)


def amounts_of(drafts: list[Draft]) -> dict[Place, Decimal | None]:
    """Every amount that was read, by its cell."""
    found: dict[Place, Decimal | None] = {}
    for made in drafts:
        for line in made.lines:
            for column, amount in zip(made.layout.figures, line.amounts, strict=True):
                if not line.heading:
                    found[made.table.origin(line.row, column.index)] = amount
    return found


def read(made: Made) -> Read:
    """Read one table as the desk would, and compare it."""
    parts = [part for part in regions(made.table) if has_figures(part)]
    drafts = [draft(part) for part in parts]
    result = Read(made, drafts)
    have = amounts_of(drafts)
    result.questions = [q for each in drafts for q in questions(each, [d for d in drafts if d is not each])]
    wrong = _wrong(made, have)
    mended: set[Place] = set()
    useful = 0
    for each in drafts:
        for question in questions(each, [d for d in drafts if d is not each]):
            gains = _gains(made, each, question, have)
            mended |= gains
            # A statement has one currency: of a table with two, it is asked.
            here = (made, *([made.below] if made.below else []))
            touches = bool(made.truth.open) or any(
                h.power is not None for each in here for h in each.content.heads
            )
            useful += bool(gains or touches or any(each.style.fault == "text" for each in here))
    result.needless = max(0, len(result.questions) - useful)
    result.amounts = len(made.truth.amounts)
    for place in wrong:
        if place in mended:
            result.asked.append(place)
        else:
            result.silent.append((place, made.truth.amounts.get(place), have.get(place)))
    _sums(result, drafts)
    return result


def _wrong(made: Made, have: dict[Place, Decimal | None]) -> list[Place]:
    wrong = [place for place, amount in made.truth.amounts.items() if have.get(place) != amount]
    wrong += [p for p, amount in have.items() if amount is not None and p not in made.truth.amounts]
    return wrong


def _gains(made: Made, one: Draft, question: Question, have: dict[Place, Decimal | None]) -> set[Place]:
    """The wrong cells that another answer of a question would put right."""
    found: set[Place] = set()
    for answer in question.answers[1:]:
        again = amounts_of([draft(one.table, merged(one.decided, answer.decide))])
        found |= {
            place
            for place, amount in again.items()
            if place in made.truth.amounts
            and made.truth.amounts[place] == amount
            and have.get(place) != amount
        }
    return found


def _sums(result: Read, drafts: list[Draft]) -> None:
    wanted = dict(result.made.truth.sums)
    have = {}
    for each in drafts:
        rows = [each.table.origin(line.row, 0)[0] for line in each.lines]
        for line, row in zip(each.lines, rows, strict=True):
            if line.parts:
                have[row] = frozenset((rows[n], sign) for n, sign in line.parts)
    result.sums = len(wanted)
    for row in wanted:
        result.found += row in have and _same(row, have, wanted)
    for row in have:
        if row not in wanted or not _same(row, have, wanted):
            result.false.append(f"row {row + 1}")


Sums = dict[int, frozenset[tuple[int, int]]]


def _same(row: int, have: Sums, wanted: Sums) -> bool:
    """Whether a total has the parts that it is made of, or lines that come to the same."""
    return have[row] == wanted[row] or _leaves(have[row], have) == _leaves(wanted[row], wanted)


def _leaves(parts: frozenset[tuple[int, int]], sums: dict[int, frozenset[tuple[int, int]]]) -> Counter[int]:
    found: Counter[int] = Counter()
    for row, sign in parts:
        if row in sums:
            for leaf, count in _leaves(sums[row], sums).items():
                found[leaf] += sign * count
        else:
            found[row] += sign
    return found
