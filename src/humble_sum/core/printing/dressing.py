"""What stands around the digits of a figure: marks, groups, sign, currency and scale."""

from __future__ import annotations

from typing import Literal

from humble_sum.core.locales import Locale, Pattern, currencies
from humble_sum.core.printing.clause_values import CountWords
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.scaling import NO_BREAK, with_fitting_word, with_word

TRIANGLE = "\u25b3"
UsualSign = Literal["either", "positive", "negative"]
MONEY_FORMS = ("amount",)


def number_text(digits: str, clauses: ResolvedClauses, of: Locale, money: bool = False) -> str:
    """Plain digits in the locale's marks and digits, grouped."""
    integer, _, decimals = digits.partition(".")
    group, point = (of.money_group, of.money_decimal) if money else (of.group, of.decimal)
    text = grouped(integer, clauses, of, group) + (point + decimals if decimals else "")
    return text.translate(of.digits) if of.digits else text


def grouped(integer: str, clauses: ResolvedClauses, of: Locale, mark: str) -> str:
    """Group marks put into a run of digits, sizes from the right, the last repeating."""
    sizes = {"threes": (3,), "lakhs": (3, 2), "fours": (4,), "none": ()}.get(clauses.grouping, of.grouping)
    least = of.minimum_grouping if clauses.grouping == "locale" else 1
    if clauses.scale == "fit":
        least = max(least, 2)
    if not sizes or len(integer) < sizes[0] + least:
        return integer
    groups, end = [], len(integer)
    for size in sizes:
        groups.append(integer[max(end - size, 0) : end])
        end -= size
        if end <= 0:
            break
    while end > 0:
        groups.append(integer[max(end - sizes[-1], 0) : end])
        end -= sizes[-1]
    return mark.join(reversed(groups))


def dressed(
    digits: str,
    mark: str,
    signed: str,
    clauses: ResolvedClauses,
    of: Locale,
    money: bool,
    usual_sign: UsualSign,
) -> tuple[str, str]:
    """The text of a figure, and the end of it that hangs past the digits."""
    sign = money_sign(digits, clauses, of) if money or clauses.money_shown == "every" else ""
    shows_money = bool(sign)
    number = number_text(digits, clauses, of, shows_money)
    if clauses.form in MONEY_FORMS or clauses.form == "number":
        number = _with_scale(number, digits, clauses, of)
    pattern = of.number
    if clauses.form == "percent":
        pattern = of.percent
    elif clauses.form == "basis_points":
        number += f"{NO_BREAK}bps"
    elif clauses.form == "points":
        number += f"{NO_BREAK}pp"
    elif clauses.form == "multiple":
        number += "\u00d7"
    elif isinstance(clauses.words, CountWords):
        number += NO_BREAK + (clauses.words.one if digits == "1" else clauses.words.many)
    if shows_money and clauses.money_sign == "name":
        named = of.named.get(currencies.plural_form(digits, of), of.named["other"])
        before, _, after = named.replace(" ", NO_BREAK).partition("{0}")
        name = sign.replace(" ", NO_BREAK)
        before, after = before.replace("{1}", name), after.replace("{1}", name)
        pattern = Pattern(before, after, f"-{before}", after, ())
    elif shows_money:
        pattern = _money_pattern(sign, of)
    else:
        sign = ""
    if mark:
        pattern = _marked(pattern, mark)
    return _signed(number, pattern, sign, signed, clauses, of, usual_sign)


def _marked(pattern: Pattern, mark: str) -> Pattern:
    """A pattern with a mark before all but the minus: <₹1, −<₹1."""
    before, minus_before = mark + pattern.before, pattern.minus_before
    place = minus_before.find("-") + 1
    minus_before = minus_before[:place] + mark + minus_before[place:]
    return Pattern(before, pattern.after, minus_before, pattern.minus_after, pattern.grouping)


def money_sign(digits: str, clauses: ResolvedClauses, of: Locale) -> str:
    """The text that stands for the currency in this figure; empty where none does."""
    if clauses.form != "amount" or clauses.currency is None or clauses.money_sign == "none":
        return ""
    if clauses.money_shown == "caption":
        return ""
    one = digits if clauses.scale == "ones" else "2"
    return currencies.sign(clauses.currency, clauses.money_sign, of, one)


def _with_scale(number: str, digits: str, clauses: ResolvedClauses, of: Locale) -> str:
    if clauses.power <= 0:
        return number
    if clauses.scale == "fit":
        length: Literal["short", "full"] = "full" if clauses.scale_word == "full" else "short"
        return with_fitting_word(number, digits, clauses.power, length, clauses.ladder, of)
    if clauses.scale_word not in ("short", "full"):
        return number
    return with_word(number, digits, clauses.scale, clauses.power, clauses.scale_word, of)


def _money_pattern(sign: str, of: Locale) -> Pattern:
    """UTS #35 currency spacing: a sign that ends in a letter beside the digits stands off."""
    beside = sign[-1] if "¤" in of.money.before else sign[0]
    return of.money if currencies.stands_close(beside) else _spaced(of.money_letters)


def _spaced(pattern: Pattern) -> Pattern:
    """A pattern whose sign has a space between it and the digits, where it had none."""

    def before(text: str) -> str:
        return text + NO_BREAK if text.endswith("¤") else text

    def after(text: str) -> str:
        return NO_BREAK + text if text.startswith("¤") else text

    return Pattern(
        before(pattern.before),
        after(pattern.after),
        before(pattern.minus_before),
        after(pattern.minus_after),
        pattern.grouping,
    )


def _signed(
    number: str,
    pattern: Pattern,
    sign: str,
    signed: str,
    clauses: ResolvedClauses,
    of: Locale,
    usual_sign: UsualSign,
) -> tuple[str, str]:
    """The figure in its pattern with its sign, and the part of it that hangs past the digits."""

    def put(before: str, after: str, mark: str = "") -> str:
        text = f"{before}{number}{after}"
        text = text.replace("-", mark, 1) if mark else text
        return text.replace("¤", sign) if sign else text

    positive = put(pattern.before, pattern.after)
    if clauses.negative == "unsigned" and usual_sign == "negative":
        return (positive, "") if signed == "minus" or number.strip("0.,") == "" else (f"({positive})", ")")
    if signed == "plus":
        return put(pattern.minus_before, pattern.minus_after, of.plus), ""
    if not signed:
        return positive, ""
    match clauses.negative:
        case "minus":
            return put(pattern.minus_before, pattern.minus_after, of.minus), ""
        case "trailing_minus":
            return positive + of.minus, of.minus
        case "brackets":
            return f"({positive})", ")"
        case "cr":
            return f"{positive}{NO_BREAK}CR", f"{NO_BREAK}CR"
        case "triangle":
            return TRIANGLE + positive, ""
        case "unsigned":
            return positive, ""
