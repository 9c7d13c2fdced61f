"""What kind of line a row is, told from its label, its cells and what it is part of."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from decimal import Decimal

from humble_sum.core.intake.column_names import PER_EACH
from humble_sum.core.intake.measures import is_for_one, is_measure
from humble_sum.core.locales import currencies
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
# What totals are called.
TOTAL = re.compile(
    r"^(sub-?\s?)?total(e|t|en)?\b|^net\b|^gross\b|\btotal$|^sum\b|^(zwischen)?summe\b|\bgesamt$|^insgesamt\b|"
    r"^(totaal|summa|suma|razem|celkem|összesen|toplam|jumlah|yhteensä|i alt|итого|всего|σύνολο)\b|"
    r"(合|总|總|総|小)[计計]|합계|총계|소계|รวม|المجموع|إجمالي|कुल|योग",
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
    r"\b((exchange|conversion|fx|frequency|accident|incident|severity) rates?|"
    r"(share|unit|market|selling|spot|offer|fuel|oil|crude|bunker|gas|power|electricity|carbon|ticket|metal|gold|"
    r"copper|house|list|strike|Brent) price|unit cost|beta|(net )?leverage|(fleet|average) age|NPS|yield|"
    r"[CR]PIH?|HICP|"
    r"\w+ ratio|interest cover(age)?|(net )?debt ?(/|to) ?(equity|EBITDA|assets)|gearing|"
    r"(P|EV) ?/ ?(E|B|EBITDA|sales)|price[ -]to[ -](earnings|book)|book[- ]to[- ]bill|promoter score|"
    r"RO[ACE]|RO[CI][CE]|ROTE|return on (average )?(capital employed|(tangible )?equity|invested capital)|"
    r"occupancy|market share|punctuality|satisfaction|ARPU|ARPA|RevPAR|RevPOR|"
    r"(average|avg\.?|mean|median) (fare|ticket|price|(ticket|selling|room) price|yield|age|stay|speed|"
    r"temperature|wage|salary|pay|spend|basket|load|length|distance|duration|(room|daily|interest) rate)|"
    r"(price|cost|satisfaction) index|"
    r"(customer|safety|credit|satisfaction) (rating|score)|DSO|DPO|DIO|"
    r"days (sales|payables?|inventor(y|ies)|receivables?)( outstanding)?|\w+ days( outstanding)?)"
    r"(?=\s*([(,:]|at\b|[A-Z]{3} ?[:/] ?[A-Z]{3}\b|$))|"
    r"[(,] ?(in )?(days|times|ratio|pence|cents?|bps?|basis points)\)?$|\((index|score|rating|points)\)$|"
    r"\b(dividends?|EPS|earnings|price|fare|yield)\b[^()]{0,60}\((p|c|¢)\)$|"
    r"\b(taux de change|wechselkurs|tipo de cambio|tasso di cambio|taxa de câmbio|wisselkoers|prix moyen|"
    r"durchschnittspreis|precio medio|prezzo medio)\b",
    re.IGNORECASE,
)
PAIR = re.compile(r"([A-Z]{3}) ?[/:] ?([A-Z]{3})\b")
MEMO = re.compile(
    r"^(of which|thereof|whereof|including|incl\.|memo|for information|davon|darunter|dont|di cui|waarvan|"
    r"varav)\b",
    re.IGNORECASE,
)
CENT = re.compile(r"%|\bper ?cent(age)?s?\b|\bper (annum|year|quarter|month|day)\b", re.IGNORECASE)
PERCENT = re.compile(r"%|\b(margin|per cent|percentage|rate|growth|yield)\b", re.IGNORECASE)

SHARES_COUNTED = re.compile(
    r"\bshares? (used|outstanding|in issue)|\bnumber of\b|\bweighted\b", re.IGNORECASE
)
# What percentages are called that may stand without their sign: "Occupancy rate" of 81.2.
IN_POINTS = re.compile(
    r"[^\W\d_]\s*\(?%|^\W*%|\bper ?cent(age)?\b|\bpct\b|\bload factor\b|"
    r"\b(interest|tax|occupancy|vacancy|utili[sz]ation|churn|attrition|retention|growth|discount|coupon)"
    r" rate(?=\s*([(,:]|(at|on|of|for|in)\b|$))|"
    r"\b(taux d(e |['’])|tasa de |tasso di |taxa de )(?!change|cambio|câmbio)|"
    r"\w(quote|rendite)(?=\s*([(,:]|$))|\bauslastung(sgrad)?(?=\s*([(,:]|$))|"
    r"\b(WACC|IRR|TSR|LTV|loan[ -]to[ -]value|inflation|yield to maturity|cash conversion|"
    r"net interest margin|NIM|cost ?[/:-] ?income|penetration|availability|"
    r"(like[ -]for[ -]like|LFL|organic|revenue|sales|volume|earnings) ((sales|revenue) )?growth|"
    r"occupancy|market share|gearing|RO[ACE]|RO[CI][CE]|ROTE|punctuality|(customer )?satisfaction|"
    r"return on (average )?(capital employed|(tangible )?equity|invested capital))(?=\s*([(,:]|$))",
    re.IGNORECASE,
)
MOST_POINTS = 1_000

# Headings of amounts for one share, or of ratios, whatever their lines are called: Basic, Diluted.
OF_SHARES = re.compile(
    r"\b(EPS|DPS)\b|\bper (\w+ ){0,3}(shares?|ADSs?|ADRs?|certificates?)\b|"
    r"\bper (unit|aandeel|azione|aktie)\b|\bje (aktie|stück|anteil)|\bpar (action|part)\b|"
    r"\bpor acci[oó]n|\bpor a[cç][aã]o|每股|1株|주당|\bratios?\W*$",
    re.IGNORECASE,
)


def kind_under(heading: str) -> LineKind | None:
    """The kind of the lines under a heading, where it says that they are no amounts to be added."""
    return "per_unit" if OF_SHARES.search(heading) and not SHARES_COUNTED.search(heading) else None


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
    per_unit = PER_UNIT.search(label) and not CENT.search(label)
    if per_unit or _names_ratio(label):
        return "per_unit"
    if is_measure(label):
        return "count"
    if PERCENT.search(label) and present and all(abs(amount) <= 1 for amount in present):
        return "percent"
    counted = all(amount == amount.to_integral_value() for amount in present)
    return "count" if present and counted and COUNT.search(label) else None


def names_no_amount(label: str) -> bool:
    """Whether a label names a ratio, a rate or a measure, which amounts of money may be called too."""
    return _names_ratio(label) or IN_POINTS.search(label) is not None or is_measure(label)


def _names_ratio(label: str) -> bool:
    return RATIO.search(label) is not None or is_for_one(label) or _is_pair(label)


def _is_pair(label: str) -> bool:
    """Whether a label is the rate of one currency in another: EUR/USD, average."""
    found = PAIR.match(label)
    return found is not None and all(map(currencies.known, found.groups()))


def usual_sign_of(amounts: Sequence[Decimal | None]) -> UsualSign:
    """The sign all the amounts have, zeros aside."""
    signs = {amount < 0 for amount in amounts if amount}
    if len(signs) != 1:
        return "either"
    return "negative" if signs.pop() else "positive"


def is_each(heading: str) -> bool:
    """Whether a column is of amounts for one of something, or of ratios."""
    ratio = RATIO.search(heading) is not None and not IN_POINTS.search(heading)
    return ratio or PER_EACH.search(heading) is not None or is_for_one(heading)
