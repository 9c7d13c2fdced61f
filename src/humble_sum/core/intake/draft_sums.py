"""What the lines of a draft add: by the workbook's own formulas, or found."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import replace
from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.amounts import total as total_of
from humble_sum.core.intake.columns import Layout
from humble_sum.core.intake.draft_lines import DraftLine
from humble_sum.core.intake.formula_sums import formula_sums
from humble_sum.core.intake.found_sums import FoundSum, Parts, found_sums
from humble_sum.core.intake.table import Table
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.statements.pack import RATIOS

CLOSE = 20  # times what rounding allows, that a total is at least to be one by its name
LEAST_BALANCED = 3  # figures that cancel out before a total of nothing says anything


def with_sums(
    table: Table,
    layout: Layout,
    lines: list[DraftLine],
    rows: Mapping[int, int],
    decided: Mapping[int, bool],
    apart: Collection[int],
) -> tuple[list[DraftLine], tuple[FoundSum, ...], list[int]]:
    """The lines with what they add, by formula or found; the sums that were not taken; and the
    lines whose formulas go round in a circle, which add nothing."""
    headings = {n for n, line in enumerate(lines) if line.heading}
    by_formula = formula_sums(table, layout, rows, headings)
    made = list(lines)
    if by_formula:
        return _by_formula(table, layout, lines, by_formula, decided, apart)
    figured = [n for n, line in enumerate(lines) if not line.heading and line.by_itself not in RATIOS]
    sums = _among(lines, figured, apart, decided)
    plain = [n for n in figured if lines[n].by_itself != "memo"]
    if len(plain) < len(figured):
        without = _among(lines, plain, apart, decided)
        inner = _of_which(lines, apart, decided)
        if len(without) + len(inner) >= len(sums):
            for total, parts in inner.items():
                evidence = f"{len(parts)} lines below it add to it exactly"
                made[total] = replace(lines[total], parts=parts, how="found", evidence=evidence)
            figured, sums = plain, [each for each in without if plain[each.total] not in inner]
    sums += _balanced(lines, figured, sums, apart, decided)
    below = [found for found in sums if found.sure]
    covered = {at for found in below for at in (found.total, *(part for part, _ in found.parts))}
    # Where every line is in a sum below its parts, there is none above them to look for.
    headed = _headed(lines, figured, apart, decided) if len(covered) < len(figured) else {}
    if len(headed) > max(1, len(below)):
        for total, parts in headed.items():
            where = "below it" if parts[0][0] > total else "above it"
            evidence = f"{len(parts)} lines {where} add to it exactly"
            made[total] = replace(lines[total], parts=parts, how="found", evidence=evidence)
        return made, (), []
    offers = []
    for found in sums:
        total, parts = figured[found.total], tuple((figured[part], sign) for part, sign in found.parts)
        total, parts = _below(lines, total, parts, apart) or _above(lines, total, parts)
        if made[total].parts:
            continue  # it has parts of its own above, and what leaves as much below is no sum of it
        again = [sign for part, sign in parts if lines[part].label == lines[total].label]
        if again and (min(again) < 0 or not says(lines[total].label, "total")):
            continue  # no line adds itself: these come again for something else, such as another period
        named = _is_named_total(lines, total, parts) or _is_named_result(lines, made, total, parts)
        if found.sure or (named and found.columns and decided.get(total, True)):
            evidence = found.evidence if found.sure else f"{found.evidence}, and its name says so"
            made[total] = replace(lines[total], parts=parts, how="found", evidence=evidence)
        else:
            offers.append(FoundSum(total, parts, found.columns, found.sure))
    nearly = _nearly(lines, made, figured, apart, decided, _absent(table, layout, lines))
    for total, parts, agree in nearly:
        made[total] = replace(lines[total], parts=parts, how="found", evidence=_agreeing(agree))
    taken = {total for total, _, _ in nearly}
    return made, tuple(offer for offer in offers if offer.total not in taken), []


def _by_formula(
    table: Table,
    layout: Layout,
    lines: Sequence[DraftLine],
    sums: Mapping[int, Parts],
    decided: Mapping[int, bool],
    apart: Collection[int],
) -> tuple[list[DraftLine], tuple[FoundSum, ...], list[int]]:
    """The lines with what their formulas add, and those whose formulas go round in a circle. A total that was
    typed among others that are worked out is found by its name."""
    made = list(lines)
    circular = _in_circles(sums)
    for n, parts in sums.items():
        if n not in circular and decided.get(n, True):
            made[n] = replace(lines[n], parts=parts, how="formula", evidence="the workbook's own formula")
    plain = [n for n in range(len(lines)) if not lines[n].heading and lines[n].by_itself not in RATIOS]
    for total, parts, agree in _nearly(lines, made, plain, apart, decided, _absent(table, layout, lines)):
        if not _worked_out(table, layout, lines[total].row):
            made[total] = replace(lines[total], parts=parts, how="found", evidence=_agreeing(agree))
    return made, (), circular


def _absent(table: Table, layout: Layout, lines: Sequence[DraftLine]) -> Callable[[int, int], bool]:
    """Tells of a line and a column whether its cell says something that is no figure: n/a, see note 4."""
    columns = layout.figures

    def absent(n: int, at: int) -> bool:
        return lines[n].amounts[at] is None and table.rows[lines[n].row][columns[at].index].says

    return absent


def _agreeing(agree: tuple[int, int]) -> str:
    if not agree[1]:
        return "its name says so; a figure above it is missing, so it is not checked"
    return f"its name says so; the lines above it add to it in {agree[0]} of {agree[1]} columns"


def _worked_out(table: Table, layout: Layout, row: int) -> bool:
    return any(table.rows[row][column.index].formula for column in layout.figures)


def _among(
    lines: Sequence[DraftLine],
    some: Sequence[int],
    apart: Collection[int],
    decided: Mapping[int, bool],
    signed: bool = True,
) -> list[FoundSum]:
    """The sums among some of the lines, by their places among these."""
    return found_sums(
        [[amount for at, amount in enumerate(lines[n].amounts) if at not in apart] for n in some],
        {place: decided[n] for place, n in enumerate(some) if n in decided},
        signed,
        {place for place, n in enumerate(some) if lines[n].nameless or says(lines[n].label, "total")},
        _sections(lines, some),
        {place for place, n in enumerate(some) if _is_result(lines[n].label)},
    )


def _sections(lines: Sequence[DraftLine], some: Sequence[int]) -> list[int]:
    """How many headings stand above each of some lines."""
    above, count = [], 0
    for line in lines:
        count += line.heading
        above.append(count)
    return [above[n] for n in some]


def _is_result(label: str) -> bool:
    """Whether a line is called what is left of others; what was left of years before is called otherwise."""
    return says(label, "result") and not says(label, "kept")


def _of_which(
    lines: Sequence[DraftLine], apart: Collection[int], decided: Mapping[int, bool]
) -> dict[int, Parts]:
    """Lines that are, in two columns or more, just what the lines right below them say is in them."""
    found: dict[int, Parts] = {}
    start = 0
    while start < len(lines):
        end = start + 1
        while end < len(lines) and not lines[end].heading and lines[end].by_itself == "memo":
            end += 1
        below = range(start + 1, end)
        if len(below) > 1 and not lines[start].heading and decided.get(start, True):
            columns = [n for n in range(len(lines[start].amounts)) if n not in apart]
            agree = [_is_sum(lines, start, below, column) for column in columns]
            if all(agree) and sum(bool(lines[start].amounts[column]) for column in columns) > 1:
                found[start] = tuple((n, 1) for n in below)
        start = end
    return found


def _is_sum(lines: Sequence[DraftLine], total: int, parts: Collection[int], column: int) -> bool:
    known = [amount for n in parts if (amount := lines[n].amounts[column]) is not None]
    return total_of(known) == (lines[total].amounts[column] or 0)


def _is_nearly(lines: Sequence[DraftLine], total: int, parts: Sequence[int], column: int) -> bool:
    """Whether a line states what others come to, but for what rounding each of many digits may make of it."""
    known = [amount for n in parts if (amount := lines[n].amounts[column]) is not None]
    stated = lines[total].amounts[column] or Decimal(0)
    step = min(int(amount.as_tuple().exponent) for amount in (*known, stated)) if known else 0
    allowed = EXACT.scaleb(Decimal((len(known) + 1) // 2), max(step, _own_step((*known, stated))))
    off = EXACT.subtract(total_of(known), stated).copy_abs()
    return off <= allowed and stated.copy_abs() >= CLOSE * allowed


def _own_step(amounts: Sequence[Decimal]) -> int:
    """The power of ten of the last digit that any of these amounts is written with, whatever its unit."""
    steps = [int(amount.normalize().as_tuple().exponent) for amount in amounts if amount]
    return min(steps, default=0)


def _headed(
    lines: Sequence[DraftLine], figured: Sequence[int], apart: Collection[int], decided: Mapping[int, bool]
) -> dict[int, Parts]:
    """Sums of a table whose totals stand above their parts: those found from its end upwards, lines that only
    say what is in another left out."""
    upwards = [n for n in reversed(figured) if lines[n].by_itself != "memo"]
    sums: dict[int, Parts] = {}
    for each in _among(lines, upwards, apart, decided, signed=False):
        if each.sure:
            sums[upwards[each.total]] = tuple(sorted((upwards[part], 1) for part, _ in each.parts))
    # A result of such totals stands below them, as a surplus below income and costs does.
    inner = {part for parts in sums.values() for part, _ in parts}
    outer = [n for n in figured if n not in inner and lines[n].by_itself != "memo"]
    for each in _among(lines, outer, apart, decided) if sums else ():
        total, parts = outer[each.total], tuple((outer[part], sign) for part, sign in each.parts)
        if each.sure and total not in sums and all(part in sums or part == total for part, _ in parts):
            sums[total] = parts
    return sums


def _above(lines: Sequence[DraftLine], total: int, parts: Parts) -> tuple[int, Parts]:
    """A sum that reads as a line being what another leaves of the lines between is that other's sum, standing
    above its parts; unless the line is called a result."""
    (first, sign), *others = sorted(parts)
    if says(lines[total].label, "result") or sign < 0 or not others or any(each > 0 for _, each in others):
        return total, parts
    if [part for part, _ in others] != list(range(first + 1, total)):
        return total, parts
    return first, tuple((part, 1) for part in range(first + 1, total + 1))


def _below(
    lines: Sequence[DraftLine], total: int, parts: Parts, apart: Collection[int]
) -> tuple[int, Parts] | None:
    """A line that is what others leave of a total is a part where that total's figures stand once more right
    below it: equity is not total assets less loans if total equity and liabilities follows."""
    there = [part for part in sorted(parts) if any(lines[part[0]].amounts)]
    (first, sign), *others = there
    after = next((n for n in range(total + 1, len(lines)) if not lines[n].heading), None)
    if after is None or sign < 0 or not others or any(each > 0 for _, each in others):
        return None
    columns = [at for at in range(len(lines[first].amounts)) if at not in apart]
    if any(lines[first].amounts[at] != lines[after].amounts[at] for at in columns):
        return None
    return after, (*((part, 1) for part, _ in others), (total, 1))


def _nearly(
    lines: Sequence[DraftLine],
    made: Sequence[DraftLine],
    figured: Sequence[int],
    apart: Collection[int],
    decided: Mapping[int, bool],
    absent: Callable[[int, int], bool],
) -> list[tuple[int, Parts, tuple[int, int]]]:
    """Lines called totals that the lines above them, from the last sum or heading on, add to in half of the
    columns or more, and not in the others: sums whose source breaks. In how many of how many columns."""
    found = []
    start, known = 0, set(figured)
    for n, line in enumerate(lines):
        if line.heading or made[n].parts:
            start = n + 1
            continue
        if n not in known or not says(line.label, "total") or not decided.get(n, True):
            continue
        run = [part for part in range(start, n) if part in known and lines[part].by_itself != "memo"]
        if len(run) < 2:
            continue
        telling = [
            at
            for at in range(len(line.amounts))
            if at not in apart
            and line.amounts[at] is not None
            and sum(bool(lines[p].amounts[at]) for p in run) > 1
        ]
        # Where a part is missing, nothing speaks against the name.
        telling = [at for at in telling if _is_sum(lines, n, run, at) or not any(absent(p, at) for p in run)]
        agree = sum(_is_sum(lines, n, run, at) for at in telling)
        near = sum(_is_nearly(lines, n, run, at) for at in telling)
        unknown = not telling and bool(any(line.amounts))
        if unknown or (agree and 2 * agree >= len(telling)) or (near and near == len(telling)):
            found.append((n, tuple((part, 1) for part in run), (agree, len(telling))))
            start = n + 1
    return found


def _is_named_total(lines: Sequence[DraftLine], total: int, parts: Parts) -> bool:
    """Whether a line is called a total and adds lines right above it."""
    last = max(part for part, _ in parts)
    return says(lines[total].label, "total") and last == total - 1


def _is_named_result(lines: Sequence[DraftLine], made: Sequence[DraftLine], total: int, parts: Parts) -> bool:
    """Whether a line is called a result, and adds just the last sum and every line between it and itself."""
    if not _is_result(lines[total].label):
        return False
    run = [part for part, _ in parts]
    # What a total between them adds is in it.
    inner = {part for n in run for part, _ in made[n].parts}
    between = [n for n in range(run[0], total) if not lines[n].heading and n not in inner]
    return run == between and bool(made[run[0]].parts)


def _balanced(
    lines: Sequence[DraftLine],
    figured: Sequence[int],
    sums: Sequence[FoundSum],
    apart: Collection[int],
    decided: Mapping[int, bool],
) -> list[FoundSum]:
    """Totals of nothing, as of a trial balance: called totals, all their figures zero, and below lines whose
    figures cancel out in every column."""
    found = []
    totals = {each.total for each in sums if each.sure}
    for place, n in enumerate(figured):
        own = [amount for at, amount in enumerate(lines[n].amounts) if at not in apart]
        if not says(lines[n].label, "total") or any(amount != 0 for amount in own):
            continue
        start = max((total + 1 for total in totals if total < place), default=0)
        run = list(range(start, place))
        columns = list(
            zip(
                *(
                    [amount or 0 for at, amount in enumerate(lines[figured[part]].amounts) if at not in apart]
                    for part in run
                ),
                strict=True,
            )
        )
        telling = sum(sum(amount != 0 for amount in column) >= LEAST_BALANCED for column in columns)
        if telling and all(sum(column) == 0 for column in columns) and decided.get(n, True):
            found.append(FoundSum(place, tuple((part, 1) for part in run), telling, True))
    return found


def _in_circles(sums: Mapping[int, Parts]) -> list[int]:
    """The totals that are, at some depth, a part of themselves."""

    def reaches(start: int) -> bool:
        seen: set[int] = set()
        waiting = [part for part, _ in sums[start]]
        while waiting:
            line = waiting.pop()
            if line == start:
                return True
            if line in sums and line not in seen:
                seen.add(line)
                waiting += [part for part, _ in sums[line]]
        return False

    return [total for total in sums if reaches(total)]


def with_counted(lines: Sequence[DraftLine]) -> list[DraftLine]:
    """The lines, with those marked that a total counts: whatever they are called, they add."""
    counted = {part for line in lines for part, _ in line.parts}
    return [
        line if line.counted == (n in counted) else replace(line, counted=not line.counted)
        for n, line in enumerate(lines)
    ]
