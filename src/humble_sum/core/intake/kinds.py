"""What kind of line a row is, told from its label, its cells and what it is part of."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from decimal import Decimal

from humble_sum.core.rules.rulebook import LineKind
from humble_sum.core.statements.pack import UsualSign

KINDS: dict[LineKind, str] = {
    "line": "a line",
    "memo": "a memo line",
    "count": "a count",
    "per_unit": "an amount per unit",
    "percent": "a percentage",
    "subtotal": "a subtotal",
    "total": "a total",
    "heading": "a heading",
}
PER_UNIT = re.compile(
    r"\b(per|a head|each|EPS|DPS|NAVPS|je (aktie|stück|anteil)|par action|por acci[oó]n|por a[cç][aã]o)\b",
    re.IGNORECASE,
)
COUNT = re.compile(
    r"^(number|no\.?|nos\.?|count|anzahl) of\b|^(anzahl|nombre de)\b|"
    r"[(,] ?(number|nos?\.?|count|units|nrs?\.?)\)?$|"
    r"\b(headcount|carried(?! (forward|down|over))|employees|units sold|fte|mitarbeiter|vollzeitstellen|"
    r"effectifs?|empleados|dipendenti|antal anställda)\b",
    re.IGNORECASE,
)
# Prices, rates of exchange and ratios, by names that no amount of money has where they end the label or stand
# before what is said of them: "Closing share price (₹)", and not "Selling price variance".
RATIO = re.compile(
    r"\b((exchange|conversion|fx) rates?|(share|unit|market|selling|spot|offer) price|"
    r"(current|quick|liquidity|debt|equity|combined|loss|solvency|payout|adequacy|coverage?|gearing|leverage|"
    r"turnover) ratio|interest cover(age)?|(net )?debt ?(/|to) ?(equity|EBITDA|assets)|"
    r"(P|EV) ?/ ?(E|B|EBITDA|sales)|price[ -]to[ -](earnings|book)|promoter score|DSO|DPO|DIO|"
    r"\w+ days( outstanding)?)(?=\s*([(,:]|at\b|$))|[(,] ?(in )?(days|times|ratio)\)?$",
    re.IGNORECASE,
)
MEMO = re.compile(
    r"^(of which|thereof|whereof|including|incl\.|memo|for information|davon|darunter|dont|di cui|waarvan|"
    r"varav)\b",
    re.IGNORECASE,
)
PERCENT = re.compile(r"%|\b(margin|per cent|percentage|rate|growth|yield)\b", re.IGNORECASE)


def kind_apart(label: str, amounts: Sequence[Decimal | None], forms: Collection[str]) -> LineKind | None:
    """The kind of a line that no total counts, or None for an ordinary one.

    `forms` are those its cells are written in. A word alone is not enough for a percentage or a
    count: the figures have to look like one.
    """
    present = [amount for amount in amounts if amount is not None]
    if present and set(forms) == {"percent"}:
        return "percent"
    if MEMO.search(label):
        return "memo"
    if RATIO.search(label) or (PER_UNIT.search(label) and not PERCENT.search(label)):
        return "per_unit"
    if PERCENT.search(label) and present and all(abs(amount) <= 1 for amount in present):
        return "percent"
    whole = all(amount == amount.to_integral_value() for amount in present)
    return "count" if present and whole and COUNT.search(label) else None


def usual_sign_of(amounts: Sequence[Decimal | None]) -> UsualSign:
    """The sign all the amounts have, zeros aside."""
    signs = {amount < 0 for amount in amounts if amount}
    if len(signs) != 1:
        return "either"
    return "negative" if signs.pop() else "positive"
