"""Printing values under a rule by themselves, for other programs to use the house rules."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from decimal import Decimal
from itertools import repeat
from typing import TYPE_CHECKING, Any, TypeAlias, cast

from humble_sum.core.amounts import MOST_DIGITS, read_amount
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.printing.batch import Texts
from humble_sum.core.printing.clause_values import RECORD, Tone
from humble_sum.core.printing.figure import Kind, Printed, print_amount
from humble_sum.core.printing.plain_rule import plainly_named
from humble_sum.core.printing.resolved_clauses import ResolvedClauses

if TYPE_CHECKING:
    from humble_sum.core.printing.clauses import Clauses

Rule: TypeAlias = "Clauses | ResolvedClauses | Mapping[str, Any]"
Value = Decimal | int | str | None
EXACT_ALREADY = {Decimal, type(None)}
PLAIN = MOST_DIGITS // 2  # digits on either side of the point that need no look


FIELDS = ("text", "units", "exponent", "sort", "mark", "tone", "hang", "too_wide")


class Shown:
    """A printed value: its text, and what else is known of it, worked out when it is first asked for.

    `text` is all of it, with its mark and what stands before and after. `units` is the whole
    number printed, each 10**`exponent`; None for what prints no number. `sort` tells look-alikes
    apart: an exact zero, an amount that rounds away, a missing one. `hang` is the end of the
    text that stands past the digits, to line figures up by.
    """

    __slots__ = ("_amount", "_clauses", "_made", "text")

    def __init__(self, text: str, amount: Decimal | None, clauses: ResolvedClauses):
        self.text = text
        self._amount = amount
        self._clauses = clauses

    @property
    def _printed(self) -> Printed:
        try:
            return self._made
        except AttributeError:
            self._made: Printed = print_amount(self._amount, self._clauses)
            return self._made

    @property
    def units(self) -> int | None:
        return self._printed.units

    @property
    def exponent(self) -> int:
        return self._printed.exponent

    @property
    def sort(self) -> Kind:
        return self._printed.kind

    @property
    def mark(self) -> str:
        return self._printed.mark

    @property
    def tone(self) -> Tone:
        return self._printed.tone

    @property
    def hang(self) -> str:
        return "" if self._printed.after else self._printed.hang

    @property
    def too_wide(self) -> bool:
        return self._printed.too_wide

    def as_dict(self) -> dict[str, Any]:
        """All that is known of it, by name."""
        return {name: getattr(self, name) for name in FIELDS}

    def __repr__(self) -> str:
        return f"Shown({self.text!r}, units={self.units}, exponent={self.exponent}, sort={self.sort!r})"

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, Shown):
            return NotImplemented
        return (self.text, self._printed) == (other.text, other._printed)

    def __hash__(self) -> int:
        return hash((self.text, self._printed))


class Printer:
    """A rule made ready once, to print values by: one as text, many as texts, or all that is known of each.

    The rule is clauses as rulebook files spell them, read already, or decided. Values are exact: decimals,
    whole numbers, or text such as "-1250.40"; None is missing. A float is refused, since its digits are not
    its owner's. Making one raises InputError, naming the clause that is wrong; printing
    raises it with the value.

    >>> printer = Printer({"locale": "en-IN", "scale": "lakhs", "negative": "brackets"})
    >>> printer("-277037049.75")
    '(2,770)'
    >>> printer.many([Decimal("184400000"), 40000, None])
    ['1,844', '0', '']
    """

    def __init__(self, rule: Rule):
        clauses = rule if isinstance(rule, ResolvedClauses) else ResolvedClauses.of(_named(rule))
        # Values by themselves have no record to say their currency.
        self.clauses = clauses.at(currency=None) if clauses.currency == RECORD else clauses
        self._texts = Texts(self.clauses)

    def __call__(self, value: Value) -> str:
        plain = type(value) is Decimal and value.is_finite() and -PLAIN < value.adjusted() < PLAIN
        return self._texts.one(cast(Decimal, value) if plain else _read([value])[0])

    def many(self, values: Iterable[Value]) -> list[str]:
        """The text of each value."""
        return self._texts.many(_read(list(values)))

    def show(self, values: Iterable[Value]) -> list[Shown]:
        """Each value printed, with its units and what tells look-alikes apart."""
        amounts = _read(list(values))
        return list(map(Shown, self._texts.many(amounts), amounts, repeat(self.clauses)))


def _named(rule: Any) -> dict[str, Any]:
    """The clauses that a rule names, checked."""
    named = plainly_named(rule) if isinstance(rule, Mapping) else None
    if named is None:
        # Loaded for who needs it: it takes longer than a figure takes to print.
        from humble_sum.core.printing.clauses import Clauses, read_clauses

        said = dict(rule) if isinstance(rule, Mapping) else rule
        named = (said if isinstance(said, Clauses) else read_clauses(said)).named()
    return named


def _read(values: Sequence[Value]) -> Sequence[Decimal | None]:
    """The exact amounts of values, refused by number where one is none."""
    types = set(map(type, values))
    if types <= EXACT_ALREADY:
        decimals = values if len(types) == 1 and Decimal in types else [v for v in values if v is not None]
        if _plain(decimals):
            return cast(Sequence[Decimal | None], values)
    found = []
    for number, value in enumerate(values, 1):
        try:
            found.append(None if value is None else read_amount(value))
        except ValueError as error:
            raise InputError("bad-amount", Fault(f"value {number}", f"{error}.")) from None
    return found


def _plain(decimals: Sequence[Any]) -> bool:
    """Whether decimals are all numbers of ordinary size, so that they need no reading."""
    if not all(map(Decimal.is_finite, decimals)):
        return False
    sizes = list(map(Decimal.adjusted, decimals))
    return max(sizes, default=0) < PLAIN and min(sizes, default=0) > -PLAIN


def show(values: Iterable[Value], rule: Rule) -> list[Shown]:
    """Print each value under a rule: clauses as rulebook files spell them, or read already.

    Values are exact: decimals, whole numbers, or text such as "-1250.40"; None is missing. A
    float is refused, since its digits are not its owner's. Raises InputError, naming the clause or
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
    return Printer(rule).show(values)
