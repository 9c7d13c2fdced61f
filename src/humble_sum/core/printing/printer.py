"""Printing values under a rule by themselves, for other programs to use the house rules."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from humble_sum.core.amounts import read_amount
from humble_sum.core.errors import Fault, Refused
from humble_sum.core.printing.clauses import RECORD, Clauses, InForce, Tone, read_clauses
from humble_sum.core.printing.figure import Kind, print_amount

Value = Decimal | int | str | None


@dataclass(frozen=True)
class Shown:
    """A printed value.

    `text` is all of it, with its mark and what stands before and after. `units` is the whole
    number printed, each 10**`exponent`; None for what prints no number. `sort` tells look-alikes
    apart: an exact zero, an amount that rounds away, a missing one. `hang` is the end of the
    text that stands past the digits, to line figures up by.
    """

    text: str
    units: int | None
    exponent: int
    sort: Kind
    mark: str
    tone: Tone
    hang: str
    too_wide: bool


def show(values: Iterable[Value], rule: Clauses | Mapping[str, Any]) -> list[Shown]:
    """Print each value under a rule: clauses as rulebook files spell them, or read already.

    Values are exact: decimals, whole numbers, or text such as "-1250.40"; None is missing. A
    float is refused, since its digits are not its owner's. Raises Refused, naming the clause or
    the value that is wrong.

    Under a statement's usual rule a zero, an amount that rounds away and a missing one differ:

    >>> rule = {"locale": "en-IN", "scale": "lakhs", "negative": "brackets", "zero": "dash"}
    >>> [shown.text for shown in show(["-277037049.75", "0", "40000", None], rule)]
    ['(2,770)', '–', '0', '']
    >>> [shown.sort for shown in show(["0", "40000", None], rule)]
    ['zero', 'rounds_away', 'missing']

    The whole number printed comes with its unit, so that nobody has to read the text back:

    >>> shown, = show([1234567], {"currency": "INR", "locale": "en-IN", "scale": "lakhs",
    ...                           "decimals": {"fixed": 2}, "scale_word": "full"})
    >>> shown.text, shown.units, shown.exponent
    ('₹12.35\\u202flakh', 1235, 3)

    Bands put marks beside a figure, and say in which tone it stands:

    >>> fall = {"form": "percent", "decimals": {"fixed": 1}, "locale": "de-DE",
    ...         "bands": [{"when": {"below": "-0.1"}, "mark": "▼", "tone": "rust"}]}
    >>> [(s.text, s.mark, s.tone) for s in show(["-0.125", "0.02"], fall)]
    [('▼\\xa0−12,5\\xa0%', '▼', 'rust'), ('2,0\\xa0%', '', 'plain')]

    Dates and times are whole numbers too, such as 20260331 and 1430:

    >>> [show([20260331], {"form": "date", "locale": tag})[0].text for tag in ("en-GB", "mr-IN")]
    ['31 March 2026', '३१ मार्च, २०२६']
    """
    clauses = InForce(**(rule if isinstance(rule, Clauses) else read_clauses(dict(rule))).named())
    if clauses.currency == RECORD:
        clauses = clauses.at(currency=None)  # values by themselves have no record to say it
    shown = []
    for number, value in enumerate(values, 1):
        try:
            amount = None if value is None else read_amount(value)
        except ValueError as error:
            raise Refused("bad-amount", Fault(f"value {number}", f"{error}.")) from None
        made = print_amount(amount, clauses)
        hang = "" if made.after else made.hang
        shown.append(
            Shown(made.whole, made.units, made.exponent, made.kind, made.mark, made.tone, hang, made.too_wide)
        )
    return shown
