"""A rule said as a sentence whose words are its controls."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from humble_sum.core import currencies
from humble_sum.core.amounts import scaled
from humble_sum.core.clauses import POWERS, Clauses, FixedDecimals, InForce, Word
from humble_sum.core.locales import NAMES as LOCALE_NAMES
from humble_sum.core.locales import TAGS, locale
from humble_sum.core.printing import print_amount
from humble_sum.core.rules import Decided
from humble_sum.core.specimens import IN_UNITS
from humble_sum.core.tracing import ROUNDINGS

OFFERED_CURRENCIES = ("INR", "EUR", "USD", "GBP", "JPY", "KWD")
OFFERED_DECIMALS = 4
FORMS = {"amount": "amounts", "number": "numbers", "percent": "percentages"}
MONEY_SIGNS = {
    "symbol": "as a symbol",
    "short": "as a short symbol",
    "code": "as a code",
    "name": "by name",
    "none": "not shown",
}
MONEY_SHOWN = {
    "every": "on every figure",
    "first_and_totals": "on the first line and totals",
    "caption": "in the caption",
}
SCALE_WORDS = {
    "caption": "in the caption",
    "short": "after the figure, short",
    "full": "after the figure, in full",
    "none": "nowhere",
}
NEGATIVES = {
    "minus": "with a minus",
    "brackets": "in brackets",
    "trailing_minus": "with a minus after",
    "cr": "with CR",
    "triangle": "with a triangle",
    "unsigned": "unsigned",
}
GROUPINGS = {
    "locale": "as the locale does",
    "threes": "in threes",
    "lakhs": "in lakhs",
    "fours": "in fours",
    "none": "not at all",
}
ROUNDS_AWAY = {
    "figure": "a zero",
    "signed": "a signed zero",
    "dash": "a dash",
    "less_than": "less than one unit",
    "reveal": "enough decimals to show",
}


@dataclass(frozen=True)
class Choice:
    """One value a word can take: its JSON, what it is called, and a figure printed by it."""

    value: Any
    label: str
    example: str


@dataclass(frozen=True)
class SentenceWord:
    """A word of the sentence that opens: its clause, the value now, where that was decided.

    `free` says what may be typed besides the choices: a currency code or a word.
    """

    clause: str
    label: str
    value: Any
    level: str
    rule: str | None
    rule_name: str
    choices: tuple[Choice, ...]
    free: Literal["currency", "word"] | None = None


def sentence(decided: Decided) -> list[str | SentenceWord]:
    """The clauses of one figure as text and words. Clauses that decide nothing are left unsaid."""
    clauses = decided.clauses

    def word(clause: str) -> SentenceWord:
        rule = decided.origins[clause]
        value = clauses.model_dump(mode="json")[clause]
        return SentenceWord(
            clause,
            label(clause, clauses),
            value,
            rule.reach.level if rule else "default",
            rule.id if rule else None,
            rule.name if rule else "Default",
            _choices(clause, clauses),
            {"currency": "currency", "zero": "word", "missing": "word"}.get(clause),  # type: ignore[arg-type]
        )

    said: list[str | SentenceWord] = ["Show", word("form")]
    if clauses.form == "amount":
        said += ["in", word("currency")]
    if clauses.form != "percent":
        said += [word("scale") if clauses.form == "amount" else "in"]
        said += [] if clauses.form == "amount" else [word("scale")]
    said += ["with", word("decimals"), ", digits grouped", word("grouping"), "."]
    if clauses.form == "amount" and clauses.currency is not None:
        said += ["Currency", word("money_sign")]
        said += [word("money_shown"), "."] if clauses.money_sign != "none" else ["."]
    if clauses.form != "percent" and clauses.scale != "ones":
        said += ["Scale said", word("scale_word"), "."]
    said += ["Negatives", word("negative"), ", exact zeros as", word("zero")]
    said += [", small amounts as", word("rounds_away"), ", missing as", word("missing"), "."]
    said += ["Round", word("rounding"), ", marks as in", word("locale"), "."]
    return said


def label(clause: str, clauses: InForce) -> str:
    """What the word says now. Zeros and small amounts say the very text they print."""
    match clause:
        case "form":
            return FORMS[clauses.form]
        case "currency":
            if clauses.currency is None:
                return "no currency"
            form = "symbol" if clauses.money_sign == "none" else clauses.money_sign
            return currencies.sign(clauses.currency, form, locale(clauses.locale))
        case "money_sign":
            return MONEY_SIGNS[clauses.money_sign]
        case "money_shown":
            return MONEY_SHOWN[clauses.money_shown]
        case "scale":
            return _scale(clauses.scale, clauses)
        case "scale_word":
            return SCALE_WORDS[clauses.scale_word]
        case "decimals":
            return decimals_said(clauses.decimals)
        case "rounding":
            return ROUNDINGS[clauses.rounding].lower()
        case "locale":
            return LOCALE_NAMES[clauses.locale]
        case "grouping":
            return _bare("large", clauses)
        case "negative":
            return NEGATIVES[clauses.negative]
        case "zero":
            return _bare("zero", clauses) or "a blank"
        case "rounds_away":
            return _bare("rounds away", clauses)
        case _:
            return print_amount(None, clauses).text or "a blank"


def decimals_said(decimals: FixedDecimals | str) -> str:
    """A number of decimals in words."""
    if not isinstance(decimals, FixedDecimals):
        return "the currency’s own decimals"
    return {0: "no decimals", 1: "one decimal"}.get(decimals.fixed, f"{decimals.fixed} decimals")


def _scale(scale: str, clauses: InForce) -> str:
    return "ones" if scale == "ones" else locale(clauses.locale).caption[scale]


def _bare(sort: str, clauses: InForce) -> str:
    """A specimen without currency or scale word, which other words of the sentence say."""
    bare = clauses.model_copy(update={"money_sign": "none", "scale_word": "none"})
    return print_amount(scaled(IN_UNITS[sort], clauses.exponent), bare).text


EXAMPLE_SORT = {"zero": "zero", "rounds_away": "rounds away", "grouping": "large", "rounding": "tie"}


def _choices(clause: str, clauses: InForce) -> tuple[Choice, ...]:
    values: list[tuple[Any, str]]
    match clause:
        case "form":
            values = list(FORMS.items())
        case "currency":
            values = [(code, code) for code in OFFERED_CURRENCIES] + [(None, "no currency")]
            if clauses.currency not in (None, *OFFERED_CURRENCIES):
                values.insert(0, (clauses.currency, str(clauses.currency)))
        case "money_sign":
            values = list(MONEY_SIGNS.items())
        case "money_shown":
            values = list(MONEY_SHOWN.items())
        case "scale":
            values = [(scale, _scale(scale, clauses)) for scale in POWERS]
        case "scale_word":
            values = list(SCALE_WORDS.items())
        case "decimals":
            fixed = sorted({*range(OFFERED_DECIMALS + 1), clauses.places})
            values = [({"fixed": n}, decimals_said(FixedDecimals(fixed=n))) for n in fixed]
            values.append(("currency", "the currency’s own decimals"))
        case "rounding":
            values = [(mode, said.lower()) for mode, said in ROUNDINGS.items()]
        case "locale":
            values = [(tag, LOCALE_NAMES[tag]) for tag in TAGS]
        case "grouping":
            values = list(GROUPINGS.items())
        case "negative":
            values = list(NEGATIVES.items())
        case "zero":
            values = [("figure", "a figure"), ("dash", "a dash"), ("blank", "a blank")]
            values += _words(clauses.zero, "nil")
        case "rounds_away":
            values = list(ROUNDS_AWAY.items())
        case _:
            values = [("blank", "a blank"), ("dash", "a dash"), *_words(clauses.missing, "n/a")]
    return tuple(Choice(value, said, _example(clause, value, clauses)) for value, said in values)


def _words(now: str | Word, usual: str) -> list[tuple[Any, str]]:
    words = {usual: None} | ({now.word: None} if isinstance(now, Word) else {})
    return [({"word": word}, f"the word {word}") for word in words]


def _example(clause: str, value: Any, clauses: InForce) -> str:
    chosen = getattr(Clauses.model_validate({clause: value}), clause)
    tried = clauses.model_copy(update={clause: chosen})
    if clause == "missing":
        return print_amount(None, tried).text
    sort = EXAMPLE_SORT.get(clause, "negative")
    # The same exact amount for every choice, so that the choices can be told apart.
    return print_amount(scaled(IN_UNITS[sort], clauses.exponent), tried).text
