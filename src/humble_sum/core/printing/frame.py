"""What stands around the digits of figures, told once for a rule where they differ in nothing else."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from humble_sum.core.locales import locale
from humble_sum.core.once import ByIdentity
from humble_sum.core.printing.clause_values import FixedDecimals
from humble_sum.core.printing.dressing import dressed, money_sign
from humble_sum.core.printing.resolved_clauses import DEFAULTS, NAMES, ResolvedClauses

# The clauses that a frame knows. Under one that it does not know figures are printed one by one, so that a
# new clause is never left out in silence.
KNOWN = frozenset(
    [
        "form",
        "currency",
        "money_sign",
        "money_shown",
        "scale",
        "ladder",
        "scale_word",
        "decimals",
        "rounding",
        "step",
        "locale",
        "digits",
        "grouping",
        "negative",
        "negative_tone",
        "zero",
        "rounds_away",
        "missing",
        "plus",
        "before",
        "after",
        "bands",
        "words",
        "line_up",
        "shown",
        "width",
    ]
)
UNKNOWN = tuple(name for name in NAMES if name not in KNOWN)


@dataclass(frozen=True)
class Around:
    """The text before the digits and after them, and the end of it that hangs past them."""

    before: str
    after: str
    hang: str


@dataclass(frozen=True)
class Frame:
    """A rule's figures above and below zero, and what their digits are written with.

    `write` gives the digits of a whole number of units, zero or more. `sizes` are those of groups from the
    right, the last repeating, () for none; a number has groups from `grouped_from` on.
    """

    plain: Around
    minus: Around
    write: Callable[[int], str]
    sizes: tuple[int, ...]
    grouped_from: int
    group: str
    point: str


def frame_of(clauses: ResolvedClauses) -> Frame | None:
    """The frame of a rule; None where more than the digits differs from figure to figure, or they are not
    Latin ones in groups of three, or of two above thousands."""
    return _frame(ByIdentity(clauses))


@lru_cache(maxsize=4_096)
def _frame(same: ByIdentity[ResolvedClauses]) -> Frame | None:
    clauses = same.one
    of = locale(clauses.locale, clauses.digits)
    fixed = isinstance(clauses.decimals, FixedDecimals) or clauses.decimals == "currency"
    worded = clauses.words or clauses.scale_word in ("short", "full") or clauses.money_sign == "name"
    by_line = clauses.money_shown == "first_and_totals" or clauses.negative == "unsigned"
    by_amount = clauses.scale == "fit" or clauses.bands or clauses.width
    sizes = {"threes": (3,), "lakhs": (3, 2), "fours": (4,), "none": ()}.get(clauses.grouping, of.grouping)
    if any(getattr(clauses, name) != DEFAULTS[name] for name in UNKNOWN):
        return None
    if clauses.form not in ("amount", "number", "percent") or not clauses.shown:
        return None
    if (
        not fixed
        or worded
        or by_line
        or by_amount
        or of.digits is not None
        or sizes not in ((3,), (3, 2), ())
    ):
        return None
    money = clauses.money_shown == "every" and money_sign("2", clauses, of) != ""
    group, point = (of.money_group, of.money_decimal) if money else (of.group, of.decimal)
    # What stands around the digits is told from figures dressed the long way.
    plain = "11." + "0" * clauses.decimal_places if clauses.decimal_places else "11"
    written = plain.replace(".", point)
    found = []
    for sign in ("plus" if clauses.plus == "always" else "", "minus"):
        text, hang = dressed(plain, "", sign, clauses, of, True, "either")
        if text.count(written) != 1:
            return None
        before, after = text.split(written)
        found.append(Around(before, after, hang))
    grouped_from = 10 ** (2 + (of.minimum_grouping if clauses.grouping == "locale" else 1))
    write = _writer(clauses.decimal_places, sizes, grouped_from, group, point)
    return Frame(found[0], found[1], write, sizes, grouped_from, group, point)


def _writer(
    decimal_places: int, sizes: tuple[int, ...], grouped_from: int, group: str, point: str
) -> Callable[[int], str]:
    one, lakh = 10**decimal_places, 100_000 if sizes == (3, 2) else None

    def write(units: int) -> str:
        integer, parts = divmod(units, one)
        if not sizes or integer < grouped_from:
            text = str(integer)
        elif lakh is not None and integer >= lakh:
            text = in_lakhs(str(integer))
        else:
            text = f"{integer:,}"
        if group != ",":
            text = text.replace(",", group)
        return f"{text}{point}{parts:0{decimal_places}d}" if decimal_places else text

    return write


def in_lakhs(integer: str) -> str:
    """A whole number with a comma after every two digits from the thousands up."""
    head, grouped = integer[:-3], integer[-3:]
    while len(head) > 2:
        head, grouped = head[:-2], f"{head[-2:]},{grouped}"
    return f"{head},{grouped}"
