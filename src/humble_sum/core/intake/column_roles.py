"""What each column of a table is: labels, figures, codes, notes, units, currencies, sides, or times.

Each is told by signals: what heads it, how its cells are written, where it stands, and whether its figures
add up.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import islice, pairwise, takewhile
from statistics import median

from humble_sum.core.intake.arithmetic import Relation, across, down
from humble_sum.core.intake.cell_reading import counts_up, is_number, is_year, read_cell, says_to_come
from humble_sum.core.intake.column_times import columns_of_times
from humble_sum.core.intake.conventions import infer
from humble_sum.core.intake.decisions import Role
from humble_sum.core.intake.periods import names_period, period_of
from humble_sum.core.intake.signals import (
    HINTED,
    LIKE,
    MOST,
    NAMED,
    WRITTEN,
    Signal,
    Verdict,
    rising,
    settle,
)
from humble_sum.core.intake.table import SheetCell, Table, column_letters
from humble_sum.core.intake.units import NAMES, unit_of
from humble_sum.core.intake.vocabulary import says
from humble_sum.core.locales import currencies

LOOKED_AT, MOSTLY = 200, 0.6  # cells of a column, and the part of them that makes it one of something
HEADING_ROWS = 12  # rows in which a column's name is looked for
SOON = 40  # cells of a column that tell whether it may be of codes
MORE_HEADINGS = 2  # rows of headings below the first that say nothing against a column of figures
MOST_NOTE, FAR = 100, 20  # notes are numbered below; figures beside them are so many times as large
MOST_MARK_LETTERS = 3  # letters of the marks around a figure: 75 (a), 12 r
EVIDENCE_ROWS = 400  # from which the arithmetic of contested columns is drawn


@dataclass(frozen=True)
class Roles:
    """The role of every column; those that say the unit, the currency and the side of each line; and how what
    could have been something else was settled."""

    roles: Mapping[int, Role]
    unit: int | None = None
    currency: int | None = None
    side: int | None = None
    verdicts: tuple[Verdict, ...] = ()

    def of(self, role: Role) -> list[int]:
        return [index for index, each in self.roles.items() if each == role]


class Columns:
    """A table by its columns, each looked at once."""

    def __init__(self, table: Table):
        self.table = table
        self.cells = [table.column(index) for index in range(table.width)]
        self.said = [[cell for cell in cells if cell.says or cell.formula] for cells in self.cells]
        several = (n for n, row in enumerate(table.rows) if sum(cell.says for cell in row) > 1)
        self.first = next(several, 0)
        # A table further down a sheet begins with empty rows, where others stand.
        said = (n for n, row in enumerate(table.rows) if any(cell.says for cell in row))
        self.top = list(islice(said, HEADING_ROWS))
        self.titles = [sum(cell.says for cell in table.rows[n]) == 1 for n in self.top]
        self.known: dict[int, list[Decimal]] = {}

    def below_titles(self, index: int) -> list[SheetCell]:
        """What a column says below the titles at the very top, which stand in it and are not of it."""
        return [cell for cell in self.cells[index][self.first :] if cell.says or cell.formula]

    def heading_cells(self, index: int) -> list[SheetCell]:
        """The cells of a column in the first rows that say anything."""
        return [self.cells[index][n] for n in self.top]

    def heads(self, index: int) -> list[str]:
        """The texts of a column above its first number, but for titles, which stand alone in their row."""
        above = takewhile(lambda cell: not is_number(cell), self.heading_cells(index))
        return [c.text.strip() for c, title in zip(above, self.titles, strict=False) if c.says and not title]

    def named(self, index: int, *meanings: str) -> bool:
        """Whether one of the first texts of a column is called so."""
        texts = (cell.text.strip() for cell in self.heading_cells(index))
        return any(text and says(text, *meanings) for text in texts)

    def begins_with_integers(self, index: int) -> bool:
        """Whether the first numbers of a column are whole, as codes and numbers of notes all are."""
        first = [cell for cell in self.said[index][:SOON] if is_number(cell)]
        amounts = [a for cell in first if (a := read_cell(cell).amount) is not None]
        return all(amount == amount.to_integral_value() for amount in amounts)

    def amounts(self, index: int) -> list[Decimal]:
        """The numbers of a column as they are written, in the way in which most of them are."""
        if index not in self.known:
            said = self.said[index]
            convention = infer([c.value if isinstance(c.value, str) else "" for c in said]).convention
            read = (read_cell(cell, convention).amount for cell in said)
            self.known[index] = [amount for amount in read if amount is not None]
        return self.known[index]

    def size(self, index: int) -> Decimal:
        """The middle one of a column's numbers by their digits, whatever marks stand between these."""
        found = []
        for cell in self.said[index]:
            digits = "".join(filter(str.isdigit, cell.text)) if isinstance(cell.value, str) else ""
            if digits.isascii() and digits and is_number(cell):
                found.append(Decimal(digits))
            elif isinstance(cell.value, Decimal):
                found.append(cell.value.copy_abs())
        return Decimal(median(found)) if found else Decimal(0)


def column_roles(table: Table, told: Mapping[int, Role]) -> Roles:
    """The role of every column of a table, but for those that were decided."""
    columns = Columns(table)
    numeric = [n for n in range(table.width) if n not in told and mostly_figures(columns.below_titles(n))]
    side = next((n for n in range(table.width) if n not in told and _is_of_sides(columns, n)), None)
    numeric = [n for n in numeric if n != side]
    currency = [n for n in range(table.width) if n not in numeric and _is_of_currencies(columns, n)]
    units = [n for n in range(table.width) if n not in numeric and _is_of_units(columns, n)]
    apart = {*currency, *units, *([] if side is None else [side])}
    label = next((n for n, role in told.items() if role == "label"), None)
    if label is None:
        label = _label(columns, numeric, apart, {*told, *([] if side is None else [side])})
    contested, verdicts = _contested(columns, numeric, label, told)
    roles: dict[int, Role] = dict.fromkeys(range(table.width), "other")
    for index in numeric:
        roles[index] = contested.get(index, "figures")
    for index in range(table.width):
        if index not in numeric and index != label and index not in apart and index not in told:
            roles[index] = _of_words(columns, index)
    if label is not None:
        roles[label] = "label"
    for index in _times(columns, [n for n in numeric if roles[n] == "figures"], label):
        roles[index] = "other"
    roles |= told
    free = [n for n in apart if n not in told and n != label]
    return Roles(
        roles,
        unit=next((n for n in units if n in free and n not in currency), None),
        currency=next((n for n in reversed(currency) if n in free), None),
        side=side,
        verdicts=tuple(verdicts),
    )


def mostly_figures(said: Sequence[SheetCell]) -> bool:
    """Whether more of the cells that say anything, the headings aside, are numbers than not; what is said to
    be missing or to come is neither."""
    if not any(is_number(cell) or cell.formula is not None for cell in said):
        return False
    # A heading that comes again, on a new page, says nothing against figures.
    again = said[0].value if said else None
    again = again if isinstance(again, str) else None
    body = [c for c in said[1:] if not _is_neutral(c) and (again is None or c.value != again)]
    body = body if len(said) > 1 else list(said)
    headings = list(takewhile(lambda cell: not is_number(cell) and cell.formula is None, body))
    body = body[len(headings) :] if len(headings) <= MORE_HEADINGS else body
    numbers = sum(is_number(cell) or cell.formula is not None for cell in body)
    return numbers * 2 > len(body)


def _is_neutral(cell: SheetCell) -> bool:
    """Whether a cell says nothing against figures: no figure yet, a text in place of one, or a unit."""
    if says_to_come(cell):
        return True
    return isinstance(cell.value, str) and (
        says(cell.value, "instead") or unit_of(cell.value.strip()) is not None
    )


def _of_words(columns: Columns, index: int) -> Role:
    """The role of a column of words: figures with marks under a period, codes that are headed as such, or
    nothing that is kept."""
    if columns.named(index, "notes"):
        return "other"
    if _is_of_period(columns, index):
        return "figures"
    if columns.named(index, "codes") or (
        columns.named(index, "line_or_account") and _has_digits(columns.said[index])
    ):
        return "code"
    return "other"


def _contested(
    columns: Columns, numeric: Sequence[int], label: int | None, told: Mapping[int, Role]
) -> tuple[dict[int, Role], list[Verdict]]:
    """The columns of numbers that could be codes or notes, and what they were read as."""
    found: dict[int, Role] = {}
    verdicts = []
    evidence: tuple[list[Relation], list[Relation]] | None = None
    for index in numeric:
        if not (
            columns.named(index, "notes", "codes", "line_or_account", "account_number")
            or columns.begins_with_integers(index)
        ):
            continue
        signals = list(_of_codes_or_notes(columns, index, numeric, label))
        if not any(signal.bits >= LIKE for signal in signals if signal.reading != "figures"):
            continue
        if evidence is None:
            evidence = _arithmetic(columns, numeric)
        signals += _of_figures(columns, index, numeric, evidence)
        letters = column_letters(index)
        verdict = settle(f"column {letters}", signals, ("figures", "code", "notes"), "figures")
        verdicts.append(verdict)
        found[index] = {"figures": "figures", "code": "code", "notes": "other"}[verdict.reading]  # type: ignore[assignment]
    return found, verdicts


def _of_codes_or_notes(
    columns: Columns, index: int, numeric: Sequence[int], label: int | None
) -> Iterator[Signal]:
    """What speaks for a column of numbers being codes of the lines, or numbers of notes."""
    amounts = columns.amounts(index)
    if amounts and all(amount < 0 for amount in amounts):
        amounts = [-amount for amount in amounts]  # (1), (2): brackets around each are no sign
    integers = bool(amounts) and all(a >= 0 and a == a.to_integral_value() for a in amounts)
    if columns.named(index, "notes"):
        yield Signal("notes", WRITTEN, "it is headed as notes are")
    elif columns.heads(index):
        yield Signal("notes", -NAMED, "something else heads it")
    if columns.named(index, "codes"):
        yield Signal("code", NAMED + HINTED if integers else LIKE, "it is headed as codes are")
    elif columns.named(index, "line_or_account", "account_number") and integers:
        yield Signal("code", NAMED, "it is headed as accounts are")
    if not integers:
        return
    if all(low < high for low, high in pairwise(amounts)):
        if max(amounts) < MOST_NOTE:
            yield Signal("notes", rising(len(amounts)), f"its {len(amounts)} whole numbers only ever rise")
        if label is not None and index < label:
            yield Signal("code", rising(len(amounts)), f"its {len(amounts)} whole numbers only ever rise")
            yield Signal("code", LIKE, "it stands before the labels")
            if amounts == [*range(1, len(amounts) + 1)] and len(amounts) > 1:
                yield Signal("code", HINTED, "it counts the lines from one")
            yield Signal("figures", -LIKE, "it stands before the labels")
    # Numbers before the labels are codes themselves.
    beside = [n for n in numeric if n != index and columns.amounts(n) and (label is None or n > label)]
    far = [n for n in beside if columns.size(n) >= FAR * max(amounts)]
    if max(amounts) < MOST_NOTE and beside:
        if len(far) == len(beside):
            yield Signal("notes", LIKE, "the figures beside it are far larger")
        if label is not None and index == label + 1:
            yield Signal("notes", LIKE, "it stands right behind the labels")
        if not columns.heads(index) and all(map(columns.heads, beside)):
            yield Signal("notes", LIKE, "nothing heads it, and something heads each of the others")
        if len(amounts) < max(len(columns.amounts(n)) for n in beside):
            yield Signal("notes", LIKE, "some lines have none")


def _of_figures(
    columns: Columns,
    index: int,
    numeric: Sequence[int],
    evidence: tuple[list[Relation], list[Relation]],
) -> Iterator[Signal]:
    """What speaks for a column of numbers being figures."""
    yield Signal("figures", HINTED, "it is of numbers")
    heads = columns.heads(index)
    if any(names_period(head) or NAMES.search(head) or unit_of(head) for head in heads):
        yield Signal("figures", NAMED, "a period or a unit heads it")
    place = numeric.index(index)
    wide, deep = evidence
    for relation in wide:
        if place == relation.total or any(part == place for part, _ in relation.parts):
            yield Signal("figures", min(relation.bits, MOST), "it adds up with the columns beside it")
            break
    # Numbers in even steps always come to each other by differences, so only sums count, and in two columns.
    plain = [relation for relation in deep if all(sign > 0 for _, sign in relation.parts)]
    own = [relation for relation in plain if relation.holds > 1]
    if own and (bits := sum(_down_in(columns, index, relation) for relation in own)) > 0:
        yield Signal("figures", min(bits, MOST), "its lines add up to its totals")


def _down_in(columns: Columns, index: int, relation: Relation) -> float:
    """The bits of a relation among rows in one column."""
    cells = columns.cells[index]
    total = read_cell(cells[relation.total]).amount
    parts = [read_cell(cells[part]).amount for part, _ in relation.parts]
    if total is None or any(part is None for part in parts):
        return 0.0
    adds = sum(sign * (part or 0) for part, (_, sign) in zip(parts, relation.parts, strict=True)) == total
    return math.log2(abs(int(total)) + 1) if adds else 0.0


def _arithmetic(columns: Columns, numeric: Sequence[int]) -> tuple[list[Relation], list[Relation]]:
    """What adds among columns of numbers, across and down, as far as it is looked at."""
    rows = [
        [read_cell(row[n]).amount if row[n].says else None for n in numeric]
        for row in columns.table.rows[:EVIDENCE_ROWS]
    ]
    return across(rows), down(rows)


def _times(columns: Columns, numeric: Sequence[int], label: int | None) -> list[int]:
    if label is None:
        return []
    times = columns_of_times(columns.table, numeric)
    return times if len(times) < len(numeric) else []


def _is_of_sides(columns: Columns, index: int) -> bool:
    """Whether a column says of each line whether it is a debit or a credit, and nothing else."""
    if not all(isinstance(cell.value, str) for cell in columns.said[index][:HEADING_ROWS]):
        return False
    said = [cell.text.strip() for cell in columns.said[index]]
    headed = bool(said) and not says(said[0], "debit", "credit")
    body = [text for text in said if text != said[0]] if headed else said
    if len(body) < 2 or not all(len(text) <= 8 and says(text, "debit", "credit") for text in body):
        return False
    named = len(body) < len(said) and says(said[0], "sides")
    both = any(says(text, "debit") for text in body) and any(says(text, "credit") for text in body)
    return named or both


def _is_of_currencies(columns: Columns, index: int) -> bool:
    """Whether a column is headed as one of currencies, or most of its first cells are codes of them."""
    said = [cell.text.strip() for cell in columns.said[index][:LOOKED_AT]]
    codes = sum(len(text) == 3 and text.isupper() and currencies.known(text) for text in said)
    return columns.named(index, "currencies") or (codes > 1 and codes >= MOSTLY * len(said))


def _is_of_units(columns: Columns, index: int) -> bool:
    """Whether a column is headed as one of units."""
    return columns.named(index, "units")


def _is_of_period(columns: Columns, index: int) -> bool:
    """Whether a column of which not most cells are plain numbers is headed by a period and has figures with
    marks: [25], 75 (a)."""
    said = [cell.text.strip() for cell in columns.said[index] if cell.text.strip()]
    if not said or not (names_period(said[0]) or period_of(said[0])):
        return False
    digits = [text for text in said[1:] if any(c.isdigit() for c in text)]
    if counts_up(digits):
        return False
    plain = [text for text in said[1:] if sum(c.isalpha() for c in text) <= MOST_MARK_LETTERS]
    return bool(digits) and len(plain) == len(said) - 1


def _has_digits(said: Sequence[SheetCell]) -> bool:
    """Whether a third of a column's cells have digits, as codes of accounts do and their names do not."""
    texts = [cell.text for cell in said if cell.says]
    return 3 * sum(any(c.isdigit() for c in text) for text in texts) >= len(texts) - 1


def _label(
    columns: Columns, numeric: Sequence[int], apart: Collection[int], never: Collection[int]
) -> int | None:
    """The column of labels: words in most rows; else years as rows; else currencies or units, which are what
    the lines are then called by."""
    coded = {
        n for n in range(columns.table.width) if columns.named(n, "codes") and _has_digits(columns.said[n])
    }
    for left_out in ({*numeric, *apart, *never, *coded}, {*numeric, *apart, *never}):
        if (words := _most_words(columns, left_out)) is not None:
            return words
    years = _years_down(columns, [n for n in numeric if n not in never])
    return _most_words(columns, {*numeric, *never}) if years is None else years


def _most_words(columns: Columns, left_out: Collection[int]) -> int | None:
    """The column with words in most rows, of those the one that says most, the leftmost of equals."""
    best, most = None, (0, 0)
    for index in range(columns.table.width):
        if index in left_out:
            continue
        letters = [sum(c.isalpha() for c in cell.text) for cell in columns.said[index]]
        said = (sum(map(bool, letters)), sum(letters))
        if said > most:
            best, most = index, said
    return best


def _years_down(columns: Columns, numeric: Sequence[int]) -> int | None:
    """The first column with nothing but years between its titles and a total or note at its end, beside
    others of numbers: periods as rows."""
    if len(numeric) < 2:
        return None
    for index in numeric:
        again = {cell.text for cell in columns.said[index][:HEADING_ROWS] if not is_number(cell)}
        said = [cell for cell in columns.said[index] if cell.text.strip()]
        numbers = [n for n, cell in enumerate(said) if is_number(cell)]
        if not numbers or numbers[0] >= HEADING_ROWS:
            continue
        years = [cell for cell in said[numbers[0] : numbers[-1] + 1] if cell.text not in again]
        distinct = len({cell.text.strip() for cell in years}) == len(years)
        if len(years) > 1 and distinct and all(map(is_year, years)):
            return index
    return None
