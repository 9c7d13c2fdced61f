"""A rule said as a sentence whose words are its controls."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from humble_sum.core.amounts import scaled
from humble_sum.core.locales import OFFERED, currencies, locale, name_of, resolve
from humble_sum.core.printing.clauses import (
    POWERS,
    RECORD,
    Band,
    Clauses,
    CountWords,
    Decimals,
    FixedDecimals,
    InForce,
    SignificantDigits,
    UpToDecimals,
    Word,
    YesNoWords,
)
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.rounding import ROUNDINGS
from humble_sum.core.printing.scaling import caption_word
from humble_sum.core.printing.specimens import IN_UNITS
from humble_sum.core.rules.rulebook import Decided

OFFERED_CURRENCIES = ("INR", "EUR", "USD", "GBP", "JPY", "KWD")
OFFERED_DECIMALS = 4
FORMS = {
    "amount": "amounts",
    "number": "numbers",
    "percent": "percentages",
    "basis_points": "basis points",
    "points": "percentage points",
    "multiple": "multiples",
    "yes_no": "yes or no",
    "date": "dates",
    "time": "times",
    "text": "text, as it is",
}
LADDERS_SAID = {
    None: "the locale’s sizes",
    "western": "K, M, B",
    "indian": "K, lakh, crore",
    "myriad": "10⁴, 10⁸",
}
TONES = {"plain": "in plain ink", "rust": "in rust"}
DIGITS = {"locale": "the locale’s", "latin": "Latin", "native": "native"}
PLUS = {"never": "no plus", "always": "a plus"}
LINE_UP = {True: "lined up past brackets", False: "not lined up"}
RISES = ({"when": {"above": "0"}, "mark": "▲"}, {"when": {"below": "0"}, "mark": "▼"})
# Clauses a sentence leaves unsaid until they decide something, and what they are called.
MORE = {
    "step": "a rounding step",
    "plus": "a plus sign",
    "negative_tone": "a tone for negatives",
    "bands": "marks by condition",
    "before": "text before",
    "after": "text after",
    "words": "words for units, or for yes and no",
    "width": "a width",
    "digits": "other digits",
    "line_up": "digits lined up",
}
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


Free = Literal["currency", "word", "locale", "step", "beside", "threshold", "units", "width"]
FREE: dict[str, Free] = {
    "currency": "currency",
    "zero": "word",
    "missing": "word",
    "locale": "locale",
    "step": "step",
    "before": "beside",
    "after": "beside",
    "bands": "threshold",
    "words": "units",
    "width": "width",
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

    `free` says what may be typed besides the choices.
    """

    clause: str
    label: str
    value: Any
    level: str
    rule: str | None
    rule_name: str
    choices: tuple[Choice, ...]
    free: Free | None = None


def sentence(decided: Decided) -> list[str | SentenceWord]:
    """The clauses of one figure as text and words. Clauses that decide nothing are left unsaid."""
    clauses = decided.clauses

    def word(clause: str) -> SentenceWord:
        return word_of(clause, decided)

    said: list[str | SentenceWord] = ["Show", word("form")]
    numeric = clauses.form not in ("yes_no", "date", "time", "text")
    if clauses.form == "amount":
        said += ["in", word("currency"), word("scale")]
    elif clauses.form in ("number", "multiple"):
        said += ["in", word("scale")]
    if clauses.scale == "fit" and numeric:
        said += ["of", word("ladder")]
    if numeric:
        said += ["with", word("decimals"), ", digits grouped", word("grouping"), "."]
    if clauses.form == "amount" and clauses.currency is not None:
        said += ["Currency", word("money_sign")]
        said += [word("money_shown"), "."] if clauses.money_sign != "none" else ["."]
    if clauses.form in ("amount", "number") and clauses.scale != "ones":
        said += ["Scale said", word("scale_word"), "."]
    if numeric:
        said += ["Negatives", word("negative"), ", exact zeros as", word("zero")]
        said += [", small amounts as", word("rounds_away"), ", missing as", word("missing"), "."]
        said += ["Round", word("rounding"), ", marks as in", word("locale"), "."]
    else:
        said += [", missing as", word("missing"), ", as in", word("locale"), "."]
    for clause, lead in LEADS.items():
        if _decides(clause, decided):
            said += [lead, word(clause), "."]
    return said


LEADS = {
    "step": "Round to steps of",
    "plus": "Rises have",
    "negative_tone": "Negatives stand",
    "bands": "Mark",
    "before": "Before it",
    "after": "After it",
    "words": "Say",
    "width": "At most",
    "digits": "Digits are",
    "line_up": "Digits are",
}


def more_words(decided: Decided) -> list[SentenceWord]:
    """The words a sentence does not have yet, each to be added with one of its choices."""
    return [word_of(clause, decided) for clause in MORE if not _decides(clause, decided)]


def word_of(clause: str, decided: Decided) -> SentenceWord:
    """One clause of a figure as a word that opens."""
    rule, clauses = decided.origins[clause], decided.clauses
    return SentenceWord(
        clause,
        label(clause, clauses),
        clauses.model_dump(mode="json", by_alias=True, include={clause})[clause],
        rule.reach.level if rule else "default",
        rule.id if rule else None,
        rule.name if rule else "Default",
        _choices(clause, clauses),
        FREE.get(clause),
    )


def _decides(clause: str, decided: Decided) -> bool:
    """Whether a clause is other than what prints when no rule speaks."""
    return bool(getattr(decided.clauses, clause) != Clauses.model_fields[clause].default)


def label(clause: str, clauses: InForce) -> str:
    """What the word says now. Zeros and small amounts say the very text they print."""
    match clause:
        case "form":
            return FORMS[clauses.form]
        case "currency":
            if clauses.currency is None:
                return "no currency"
            if clauses.currency == RECORD:
                return "each line’s currency"
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
            return locale_said(clauses.locale)
        case "grouping":
            return _bare("large", clauses)
        case "negative":
            return NEGATIVES[clauses.negative]
        case "zero":
            return _bare("zero", clauses) or "a blank"
        case "rounds_away":
            return _bare("rounds away", clauses)
        case "missing":
            return print_amount(None, clauses).text or "a blank"
        case "ladder":
            return LADDERS_SAID[clauses.ladder]
        case "step":
            return clauses.step or "the last digit"
        case "plus":
            return PLUS[clauses.plus]
        case "negative_tone":
            return TONES[clauses.negative_tone]
        case "digits":
            return DIGITS[clauses.digits]
        case "line_up":
            return LINE_UP[clauses.line_up]
        case "before":
            return clauses.before or "nothing"
        case "after":
            return clauses.after or "nothing"
        case "bands":
            return bands_said(clauses.bands)
        case "words":
            return _words_said(clauses.words)
        case _:
            return f"{clauses.width.most} characters" if clauses.width else "any width"


def locale_said(tag: str) -> str:
    """What a locale is called; one that is not known says whose data it is printed by."""
    resolved = resolve(tag)
    return name_of(tag) if resolved.exact else f"{name_of(tag)} (as {name_of(resolved.data)})"


def bands_said(bands: tuple[Band, ...]) -> str:
    """Marks by condition in words: "▲ above 0, ▼ below 0"."""
    said = []
    for band in bands:
        when = band.when.model_dump(mode="json", by_alias=True, exclude_none=True)
        bounds = " and ".join(f"{word} {amount}" for word, amount in when.items())
        tone = " in rust" if band.tone == "rust" else ""
        said.append(f"{band.mark or 'no mark'} {bounds}{tone}")
    return ", ".join(said) or "nothing"


def _words_said(words: YesNoWords | CountWords | None) -> str:
    if isinstance(words, YesNoWords):
        return f"{words.yes} or {words.no}"
    return f"{words.one}, {words.many}" if words else "no words"


def decimals_said(decimals: Decimals) -> str:
    """A number of decimals in words."""
    match decimals:
        case FixedDecimals(fixed=n):
            return {0: "no decimals", 1: "one decimal"}.get(n, f"{n} decimals")
        case UpToDecimals(up_to=n):
            return "up to one decimal" if n == 1 else f"up to {n} decimals"
        case SignificantDigits(significant=n):
            return f"{n} significant digits"
        case _:
            return "the currency’s own decimals"


def _scale(scale: str, clauses: InForce) -> str:
    if scale == "fit":
        return "whatever scale fits"
    return "ones" if scale == "ones" else caption_word(clauses.locale, scale)


def _bare(sort: str, clauses: InForce) -> str:
    """A specimen without currency or scale word, which other words of the sentence say."""
    bare = clauses.at(money_sign="none", scale_word="none", before="", after="", bands=(), words=None)
    if clauses.scale == "fit":
        bare = bare.at(scale="ones")
    if clauses.form in ("yes_no", "date", "time", "text"):
        bare = bare.at(form="number")
    return print_amount(scaled(IN_UNITS[sort], bare.exponent), bare).text


EXAMPLE_SORT = {"zero": "zero", "rounds_away": "rounds away", "grouping": "large", "rounding": "tie"}


def _choices(clause: str, clauses: InForce) -> tuple[Choice, ...]:
    values: list[tuple[Any, str]]
    match clause:
        case "form":
            values = list(FORMS.items())
        case "currency":
            values = [(code, code) for code in OFFERED_CURRENCIES]
            values += [(RECORD, "each line’s own"), (None, "no currency")]
            if clauses.currency not in (None, RECORD, *OFFERED_CURRENCIES):
                values.insert(0, (clauses.currency, str(clauses.currency)))
        case "money_sign":
            values = list(MONEY_SIGNS.items())
        case "money_shown":
            values = list(MONEY_SHOWN.items())
        case "scale":
            values = [(scale, _scale(scale, clauses)) for scale in (*POWERS, "fit")]
        case "scale_word":
            values = list(SCALE_WORDS.items())
        case "decimals":
            fixed = sorted({*range(OFFERED_DECIMALS + 1), clauses.places})
            values = [({"fixed": n}, decimals_said(FixedDecimals(fixed=n))) for n in fixed]
            values.append(("currency", decimals_said("currency")))
            values += [({"up_to": n}, decimals_said(UpToDecimals(up_to=n))) for n in (2, 4)]
            values += [({"significant": n}, decimals_said(SignificantDigits(significant=n))) for n in (3, 4)]
        case "rounding":
            values = [(mode, said.lower()) for mode, said in ROUNDINGS.items()]
        case "locale":
            values = [(tag, name_of(tag)) for tag in OFFERED]
            if clauses.locale not in OFFERED:
                values.insert(0, (clauses.locale, locale_said(clauses.locale)))
        case "grouping":
            values = list(GROUPINGS.items())
        case "negative":
            values = list(NEGATIVES.items())
        case "zero":
            values = [("figure", "a figure"), ("dash", "a dash"), ("blank", "a blank")]
            values += _words(clauses.zero, "nil")
        case "rounds_away":
            values = list(ROUNDS_AWAY.items())
        case "missing":
            values = [("blank", "a blank"), ("dash", "a dash"), *_words(clauses.missing, "n/a")]
        case "ladder":
            values = list(LADDERS_SAID.items())
        case "step":
            values = [(None, "the last digit"), *((step, step) for step in ("0.05", "0.5", "5", "50"))]
        case "plus":
            values = list(PLUS.items())
        case "negative_tone":
            values = list(TONES.items())
        case "digits":
            values = list(DIGITS.items())
        case "line_up":
            values = list(LINE_UP.items())
        case "bands":
            values = [([], "nothing"), (list(RISES), "▲ above 0, ▼ below 0")]
        case "words":
            litres = {"one": "litre", "many": "litres"}
            values = [
                (None, "no words"),
                (litres, "litre, litres"),
                ({"yes": "on", "no": "off"}, "on or off"),
            ]
        case "width":
            values = [
                (None, "any width"),
                ({"most": 8, "gives_way": "decimals"}, "8 characters, fewer decimals"),
            ]
            values.append(({"most": 8, "gives_way": "scale"}, "8 characters, a larger scale"))
        case _:
            values = [("", "nothing")]
    return tuple(Choice(value, said, _example(clause, value, clauses)) for value, said in values)


def _words(now: str | Word, usual: str) -> list[tuple[Any, str]]:
    words = {usual: None} | ({now.word: None} if isinstance(now, Word) else {})
    return [({"word": word}, f"the word {word}") for word in words]


def _example(clause: str, value: Any, clauses: InForce) -> str:
    chosen = getattr(Clauses.model_validate({clause: value}), clause)
    tried = clauses.at(**{clause: chosen})
    if clause == "missing":
        return print_amount(None, tried).text
    if tried.form in ("date", "time", "yes_no", "text") or clause in ("locale", "ladder"):
        return ""
    sort = EXAMPLE_SORT.get(clause, "negative")
    # The same exact amount for every choice, so that the choices can be told apart.
    return print_amount(scaled(IN_UNITS[sort], clauses.exponent), tried).whole
