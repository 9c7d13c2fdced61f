"""Single cells: as amounts, as numbers at all, as years, as what is still to come."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, time
from decimal import Decimal
from functools import lru_cache

from humble_sum.core.intake.amount_reading import PLAIN, POINT, Convention, Reading, read
from humble_sum.core.intake.code_clauses import turns
from humble_sum.core.intake.conventions import infer
from humble_sum.core.intake.lexicon import LETTERS, leading_words
from humble_sum.core.intake.table import SheetCell
from humble_sum.core.intake.vocabulary import phrases

YEARS = range(1900, 2101)
LONGEST_TO_COME = 16  # letters of "not yet available" and its like
LONGEST_ZERO = 4  # letters of "zero", the longest word that is one


def read_cell(cell: SheetCell, convention: Convention = POINT) -> Reading:
    """A cell as an amount: a number is itself, text is read, dates and truths stay what they are."""
    value = cell.value
    if isinstance(value, Decimal):
        shown = value.copy_negate() if shows_other_sign(cell) else value
        return Reading("amount" if value else "zero", shown)
    if isinstance(value, bool):
        return Reading("text", why=("true or false, not an amount",))
    if isinstance(value, date | time):
        return Reading("text", why=("a date or time, not an amount",))
    return read(cell.text, convention)


def shows_other_sign(cell: SheetCell) -> bool:
    """Whether a number's code writes it as a credit where it is positive, or as a debit where it is not."""
    value = cell.value
    return bool(cell.code and isinstance(value, Decimal) and value and turns(cell.code)[value < 0])


def is_number(cell: SheetCell) -> bool:
    value = cell.value
    return type(value) is Decimal or (isinstance(value, str) and _reads_as_number(value.strip()))


@lru_cache(maxsize=100_000)
def _reads_as_number(text: str) -> bool:
    if not any(character.isdigit() for character in text):
        return len(text) <= LONGEST_ZERO and read(text).kind == "zero"
    if PLAIN.fullmatch(text):
        return True
    begins = LETTERS.match(text)
    if begins and begins[0] not in leading_words():
        return False
    return infer([text]).agree == 1


def says_to_come(cell: SheetCell) -> bool:
    return isinstance(cell.value, str) and is_to_come(cell.value.strip())


def is_to_come(text: str) -> bool:
    if len(text) > LONGEST_TO_COME or any(letter.isdigit() for letter in text):
        return False
    return read(text).kind == "missing" or text.lower() in phrases("to_come")


def is_year(cell: SheetCell, years: Sequence[int] = YEARS) -> bool:
    if isinstance(cell.value, Decimal) and not years[0] <= abs(cell.value) <= years[-1]:
        return False  # as nearly every number of a long table is
    amount = read_cell(cell).amount
    return amount is not None and amount == amount.to_integral_value() and int(amount) in years


def counts_up(texts: Sequence[str]) -> bool:
    """Whether texts number the lines beside them: 1), 2), 3)."""
    numbers = [int(bare) for text in texts if (bare := text.strip(".()[] ")).isdecimal()]
    return bool(numbers) and numbers == [*range(numbers[0], numbers[0] + len(texts))]
