"""ECMA-376 number codes (part 1, 18.8.31) that show an exact cell as its printed figure."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import scaled
from humble_sum.core.locales import locale
from humble_sum.core.printing.batch import print_texts
from humble_sum.core.printing.clause_values import FixedDecimals, Word
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.relations import LineColumn

MOST_CODE = 255  # characters of a code
NOTHING = '"";'  # a section that shows nothing
OUTSIDE_QUOTES = re.compile(r'"[^"]*"|\\.')
# A code scales down by a thousand for each comma after its digits, and by nothing else.
COMMAS = {"ones": "", "thousands": ",", "millions": ",,", "billions": ",,,", "trillions": ",,,,"}


@dataclass(frozen=True)
class Coded:
    """What a rule's codes are made of: the rule as the code would print it, and the code itself."""

    shown: ResolvedClauses
    code: str


def codes_of(
    proof: Proof,
    amounts: Mapping[LineColumn, Decimal | None],
    scale_down: bool,
    fixed: Collection[LineColumn],
) -> dict[LineColumn, str]:
    """The codes of all figures of a statement that have an amount, told many at a time. `amounts` are what
    the cells hold, in the unit of the page where they are to be scaled down.

    Codes know thousands and groups of three, round half away from zero and write the reader's own marks.
    Where that gives the printed figure, the code is live: it goes on printing by the rule if the cell
    changes. Elsewhere (lakhs over amounts in ones, amounts that round away, and those of `fixed`, such as
    nudged ones) it is the printed text itself, which the cell shows over its exact amount.
    """
    figures = proof.figures
    texts = figures.texts
    alike: dict[tuple[int, bool], list[tuple[LineColumn, Decimal, str]]] = {}
    clauses: dict[int, ResolvedClauses] = {}
    found: dict[LineColumn, str] = {}
    for cell, decided, text in zip(figures, figures.decided, texts, strict=True):
        amount = amounts[cell]
        if amount is None:
            continue
        if cell in fixed:
            found[cell] = _shows(text, amount)
            continue
        clauses[id(decided.clauses)] = decided.clauses
        key = (id(decided.clauses), figures[cell].money)
        alike.setdefault(key, []).append((cell, amount, text))
    for (rule, money), cells in alike.items():
        own = clauses[rule]
        scaled_down = scale_down and own.form == "amount" and own.scale != "ones"
        coded = _coded(own.at(scale="ones") if scaled_down else own, money)
        same: list[str] | None = None
        if coded is not None and coded.shown.money_shown != "first_and_totals" and own.negative != "unsigned":
            same = print_texts([amount for _, amount, _ in cells], coded.shown)
        for place, (cell, amount, text) in enumerate(cells):
            if coded is None:
                found[cell] = _shows(text, amount)
                continue
            again = same[place] if same else print_amount(amount, coded.shown, money=money).full_text
            # What the code shows, were its marks the printed ones, in its own groups.
            live = again == text and len(coded.code) <= MOST_CODE
            found[cell] = coded.code if live else _shows(text, amount)
    return found


def is_live(code: str) -> bool:
    """Whether a code prints by a rule, and is not one text whatever its cell holds."""
    return any(digit in OUTSIDE_QUOTES.sub("", code) for digit in "0#")


def _shows(text: str, amount: Decimal) -> str:
    """A code that shows a text whatever its cell holds: a section each for positive, negative and zero. Where
    that is longer than a code may be, one that shows it for the amount that is there."""
    said = quoted(text) or '""'
    every, alone = f"{said};{said};{said}", f"{NOTHING * ((amount <= 0) + (not amount))}{said}"
    return next((code for code in (every, alone) if len(code) <= MOST_CODE), "General")


def _coded(clauses: ResolvedClauses, money: bool) -> Coded | None:
    """The code of a rule; None where codes cannot print by it."""
    commas = "" if clauses.form == "percent" else COMMAS.get(clauses.scale)
    if commas is None or clauses.form not in ("amount", "number", "percent"):
        return None
    if not isinstance(clauses.decimals, FixedDecimals) and clauses.decimals != "currency":
        return None
    if any((clauses.bands, clauses.before, clauses.after, clauses.words, clauses.width, clauses.step)):
        return None
    if (
        clauses.plus == "always"
        or clauses.digits == "native"
        or locale(clauses.locale, clauses.digits).digits
    ):
        return None
    grouping = "none" if clauses.grouping == "none" else "threes"
    shown = clauses.at(rounding="half_up", grouping=grouping, rounds_away="signed")
    digits = "0" if grouping == "none" else "#,##0"
    digits += ("." + "0" * clauses.decimal_places if clauses.decimal_places else "") + commas
    before, after = _around(print_amount(scaled(Decimal(1), clauses.power), clauses, money=money).text)
    if clauses.form == "percent":
        # The percent sign itself makes a code multiply, so it cannot stand in quotes.
        after = "".join("%" if mark == "%" else quoted(mark) for mark in after)
        digits = f"{quoted(before)}{digits}{after}"
    else:
        digits = f"{quoted(before)}{digits}{quoted(after)}"
    return Coded(shown, f"{digits};{_negative(digits, clauses)};{_zero(digits, clauses)}")


def _negative(digits: str, clauses: ResolvedClauses) -> str:
    return {
        "minus": f'"\u2212"{digits}',
        "trailing_minus": f'{digits}"\u2212"',
        "brackets": f'"("{digits}")"',
        "cr": f'{digits}"\u00a0CR"',
        "triangle": f'"\u25b3"{digits}',
        "unsigned": digits,
    }[clauses.negative]


def _zero(digits: str, clauses: ResolvedClauses) -> str:
    if isinstance(clauses.zero, Word):
        return quoted(clauses.zero.word)
    return {"figure": digits, "dash": quoted("\u2013"), "blank": '""'}[clauses.zero]


def _around(text: str) -> tuple[str, str]:
    """What stands before the first and after the last digit."""
    positions = [n for n, character in enumerate(text) if character.isdigit()]
    return text[: positions[0]], text[positions[-1] + 1 :]


def quoted(text: str) -> str:
    """Literal text in a number code. A quotation mark is escaped, since quotes cannot hold it."""
    if not text:
        return ""
    return '\\"'.join(f'"{piece}"' if piece else "" for piece in text.split('"'))
