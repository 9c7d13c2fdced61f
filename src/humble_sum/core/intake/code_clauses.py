"""Number codes of workbooks (ECMA-376 part 1, 18.8.31) read into clauses.

A code has up to four sections, for positive, negative, zero and text. What it says that no
clause can hold is named, not lost.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from humble_sum.core.intake.lexicon import currency_signs, normal
from humble_sum.core.printing.clause_values import MOST_DECIMALS

TOKEN = re.compile(
    r'"(?P<quoted>[^"]*)"|\\(?P<escaped>.)|\[(?P<bracket>[^\]]*)\]|_(?P<skipped>.)|\*(?P<filled>.)'
    r"|(?P<digits>[#0?][#0?,.]*)|(?P<other>.)",
    re.DOTALL,
)
CURRENCY = re.compile(r"\$(?P<sign>[^-]*)(-[0-9A-Fa-f]+)?")
COLOURS = {"black", "blue", "cyan", "green", "magenta", "red", "white", "yellow"}
SCALES = ("ones", "thousands", "millions", "billions", "trillions")
WORD = re.compile(r"[^\W\d_]+")
DATE_LETTERS = set("dmyhs")
DASHES = {"-", "\u2013", "\u2014", "\u2212"}


@dataclass(frozen=True)
class Look:
    """Clauses as rulebook files spell them, and what no clause holds."""

    clauses: dict[str, Any]
    unheld: tuple[str, ...] = ()


@dataclass
class _Section:
    """One section taken apart: literal text before and after its digits, and the rest."""

    before: str = ""
    digits: str = ""
    after: str = ""
    percent: bool = False
    colour: str = ""
    condition: bool = False
    currency: str = ""


def look_of(code: str) -> Look:
    """What a number code says about printing. "General" and codes for dates say nothing."""
    if not code or code.lower() == "general" or code == "@":
        return Look({})
    sections = [_section(text) for text in _split(code)]
    first = sections[0]
    if not first.digits or any(letter in DATE_LETTERS for letter in bare_letters(code)):
        return Look({})
    unheld: list[str] = []
    clauses: dict[str, Any] = {}
    _digits(first, clauses, unheld)
    if any(section.condition for section in sections):
        # Sections by size: the second is of smaller amounts, and none need be of negative ones.
        if clauses["grouping"] != "lakhs":
            unheld.append("a condition on the size of the amount")
        return Look(clauses, tuple(unheld))
    if len(sections) > 1:
        _negative(sections[1], clauses, unheld)
    if len(sections) > 2:
        _zero(sections[2], clauses)
    return Look(clauses, tuple(unheld))


@lru_cache(maxsize=1_024)
def divides_by(code: str) -> int:
    """The power of ten that a code divides by before it prints: 6 where it shows millions, 0 mostly."""
    scale = look_of(code).clauses.get("scale", "ones")
    return 3 * SCALES.index(scale)


@lru_cache(maxsize=1_024)
def turns(code: str) -> tuple[bool, bool]:
    """Whether a code says that a positive number is a credit ("300.25 Cr") and a negative one a debit: then
    the figure it shows has the other sign than the number behind it. "Cr" alone may be crores as well."""
    if '"' not in code and "\\" not in code:
        return False, False  # words are literal, so most codes have none
    sections = [_section(text) for text in _split(code)]
    if any(section.condition for section in sections):
        return False, False
    said = [{word.lower() for word in WORD.findall(f"{s.before} {s.after}")} for s in sections]
    both = len(said) > 1 and "cr" in said[0] and "dr" in said[1]
    return both, both


@lru_cache(maxsize=1_024)
def words_around(code: str) -> tuple[str, str]:
    """The words that a code puts before and after a positive whole number, or before a date; none where it
    does more with it than to show it, by groups, decimals, percent or a condition."""
    text = _split(code)[0]
    section = _section(text)
    more = section.percent or section.condition or {",", ".", "\u066c"} & {*section.digits}
    around, shown = ["", ""], False
    for match in TOKEN.finditer(text):
        shown = shown or bool(match["digits"]) or (match["other"] or "").lower() in DATE_LETTERS
        around[shown] += match["quoted"] or match["escaped"] or ""
    return ("", "") if more or not any(map(str.isalnum, "".join(around))) else (around[0], around[1])


def _split(code: str) -> list[str]:
    """Sections, split at semicolons that are neither quoted nor escaped."""
    parts = [""]
    for match in TOKEN.finditer(code):
        if match["other"] == ";":
            parts.append("")
        else:
            parts[-1] += match[0]
    return parts


def _section(text: str) -> _Section:
    section = _Section()
    for match in TOKEN.finditer(text):
        literal = match["quoted"] or match["escaped"] or ""
        if (bracket := match["bracket"]) is not None:
            if found := CURRENCY.fullmatch(bracket):
                section.currency = found["sign"]
            elif bracket.lower() in COLOURS or bracket.lower().startswith("color"):
                section.colour = bracket.lower()
            elif bracket[:1] in "<>=":
                section.condition = True
        elif match["digits"]:
            section.digits += match["digits"]
        elif match["other"] == "%":
            section.percent = True
        elif match["other"]:
            literal = match["other"]
        elif literal and section.digits and literal == ",":
            # An escaped comma between digits is how codes write lakhs.
            section.digits += "\u066c"
            literal = ""
        if section.digits:
            section.after += literal
        else:
            section.before += literal
    return section


def bare_letters(code: str) -> str:
    """Letters of the code that are not literal text, in lower case: those of its dates are d, m and y."""
    return "".join(match["other"] or "" for match in TOKEN.finditer(code)).lower()


def _digits(section: _Section, clauses: dict[str, Any], unheld: list[str]) -> None:
    """Decimals, grouping, scale, form and currency, from the section for positive amounts."""
    digits = section.digits.rstrip(",")
    commas = len(section.digits) - len(digits)
    integer, _, decimals = digits.partition(".")
    clauses["decimals"] = {"fixed": min(sum(mark in "0#?" for mark in decimals), MOST_DECIMALS)}
    if "#" in decimals or "?" in decimals:
        unheld.append("decimals that are left out when they are zero")
    if "\u066c" in integer:
        clauses["grouping"] = "lakhs"
    else:
        clauses["grouping"] = "threes" if "," in integer else "none"
    if section.percent:
        clauses["form"] = "percent"
    elif commas < len(SCALES):
        clauses["scale"] = SCALES[commas]
        currency = _currency(section)
        clauses["form"] = "amount" if currency else "number"
        if currency:
            clauses |= {"currency": currency, "money_shown": "every"}
    else:
        unheld.append("a scale beyond trillions")
    if len(re.sub(r"[^0]", "", integer)) > 1:
        unheld.append("zeros in front of the figure")


def _currency(section: _Section) -> str | None:
    for text in (section.currency, section.before, section.after):
        sign = normal(text)
        if not sign:
            continue
        before, _ = currency_signs()
        for known, code in before.get(sign[:1], ()):
            if known == sign:
                return code
    return None


def _negative(section: _Section, clauses: dict[str, Any], unheld: list[str]) -> None:
    if "(" in section.before and ")" in section.after:
        clauses["negative"] = "brackets"
    elif any(dash in section.after for dash in DASHES):
        clauses["negative"] = "trailing_minus"
    elif any(dash in section.before for dash in DASHES):
        clauses["negative"] = "minus"
    elif "\u25b3" in section.before or "\u25b2" in section.before:
        clauses["negative"] = "triangle"
    elif section.digits:
        clauses["negative"] = "unsigned"
    if section.colour:
        unheld.append(f"negatives in {section.colour}")


def _zero(section: _Section, clauses: dict[str, Any]) -> None:
    if section.digits and not set(section.digits) <= {"?"}:
        return
    text = (section.before + section.after).strip()
    if text in DASHES:
        clauses["zero"] = "dash"
    else:
        clauses["zero"] = {"word": text[:24]} if text else "blank"
