"""Every clause as people meet it: how it is led up to, said, chosen and typed.

The sentence, the rulebook, the margin, history and the documentation all read these entries. A new
clause is a field of `Clauses` and of `ResolvedClauses`, its printing, and its entry here.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from humble_sum.core.amounts import scaled
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.locales import OFFERED, name_of
from humble_sum.core.printing.clause_values import (
    POWERS,
    RECORD,
    FixedDecimals,
    SignificantDigits,
    UpToDecimals,
    Word,
)
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.rounding import ROUNDINGS
from humble_sum.core.printing.specimens import IN_UNITS
from humble_sum.core.rules.clause_sayings import (
    RISES,
    describe_bands,
    describe_currency,
    describe_decimals,
    describe_locale,
    describe_scale,
    describe_words,
    read_threshold,
    read_two_words,
    read_width,
)

Values = list[tuple[Any, str]]
TEXTUAL = ("yes_no", "date", "time", "text")
OFFERED_CURRENCIES = ("INR", "EUR", "USD", "GBP", "JPY", "KWD")
OFFERED_DECIMALS = 4


@dataclass(frozen=True)
class Free:
    """What may be typed besides the choices: as the menu calls it, the field's name, an example, and
    how the text is read, which raises ValueError saying what would do."""

    menu: str
    name: str
    example: str
    read: Callable[[str], Any]


@dataclass(frozen=True)
class ClauseEntry:
    """One clause in words.

    It is led up to by `lead` where it begins a sentence and by `joined` where it goes on with one.
    `says` is what its word says now; `values` are its choices with their names. A clause that `adds`
    something is left unsaid until it decides; the others are said where they `apply`. `sort` is the
    specimen that shows what a choice would print.
    """

    lead: str
    joined: str
    says: Callable[[ResolvedClauses], str]
    values: Callable[[ResolvedClauses], Values]
    adds: str = ""
    applies: Callable[[ResolvedClauses], bool] = lambda clauses: True
    sort: str = "negative"
    free: Free | None = None


def numeric(clauses: ResolvedClauses) -> bool:
    return clauses.form not in TEXTUAL


def _listed(labels: Mapping[Any, str]) -> Callable[[ResolvedClauses], Values]:
    return lambda clauses: list(labels.items())


def _named(clause: str, labels: Mapping[Any, str]) -> dict[str, Any]:
    """A clause whose values have one name each."""
    return {"says": lambda clauses: labels[getattr(clauses, clause)], "values": _listed(labels)}


def _bare(sort: str, clauses: ResolvedClauses) -> str:
    """A specimen without currency or scale word, which other words of the sentence say."""
    bare = clauses.at(money_sign="none", scale_word="none", before="", after="", bands=(), words=None)
    if clauses.scale == "fit":
        bare = bare.at(scale="ones")
    if clauses.form in TEXTUAL:
        bare = bare.at(form="number")
    return print_amount(scaled(IN_UNITS[sort], bare.exponent), bare).text


# --- form, money and scale

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


def _currency_values(clauses: ResolvedClauses) -> Values:
    values: Values = [(code, code) for code in OFFERED_CURRENCIES]
    values += [(RECORD, "each line’s own"), (None, "no currency")]
    if clauses.currency not in (None, RECORD, *OFFERED_CURRENCIES):
        values.insert(0, (clauses.currency, str(clauses.currency)))
    return values


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
LADDERS = {
    None: "the locale’s sizes",
    "western": "K, M, B",
    "indian": "K, lakh, crore",
    "myriad": "10⁴, 10⁸",
}
SCALE_WORDS = {
    "caption": "in the caption",
    "short": "after the figure, short",
    "full": "after the figure, in full",
    "none": "nowhere",
}


# --- digits and rounding


def _decimals_values(clauses: ResolvedClauses) -> Values:
    fixed = sorted({*range(OFFERED_DECIMALS + 1), clauses.decimal_places})
    values: Values = [({"fixed": n}, describe_decimals(FixedDecimals(fixed=n))) for n in fixed]
    values.append(("currency", describe_decimals("currency")))
    values += [({"up_to": n}, describe_decimals(UpToDecimals(up_to=n))) for n in (2, 4)]
    values += [({"significant": n}, describe_decimals(SignificantDigits(significant=n))) for n in (3, 4)]
    return values


GROUPINGS = {
    "locale": "as the locale does",
    "threes": "in threes",
    "lakhs": "in lakhs",
    "fours": "in fours",
    "none": "not at all",
}
STEPS: dict[str | None, str] = {None: "the last digit"} | {s: s for s in ("0.05", "0.5", "5", "50")}
DIGITS = {"locale": "the locale’s", "latin": "Latin", "native": "native"}


def _locale_values(clauses: ResolvedClauses) -> Values:
    values: Values = [(tag, name_of(tag)) for tag in OFFERED]
    if clauses.locale not in OFFERED:
        values.insert(0, (clauses.locale, describe_locale(clauses.locale)))
    return values


# --- signs, zeros and what is missing

NEGATIVES = {
    "minus": "with a minus",
    "brackets": "in brackets",
    "trailing_minus": "with a minus after",
    "cr": "with CR",
    "triangle": "with a triangle",
    "unsigned": "unsigned",
}
TONES = {"plain": "in plain ink", "rust": "in rust"}
ROUNDS_AWAY = {
    "figure": "a zero",
    "signed": "a signed zero",
    "dash": "a dash",
    "less_than": "less than one unit",
    "reveal": "enough decimals to show",
}
PLUS = {"never": "no plus", "always": "a plus"}
SHOWN = {True: "printed", False: "hidden, and counts all the same"}
LINE_UP = {True: "lined up past brackets", False: "not lined up"}


def _words_of(now: str | Word, usual: str) -> Values:
    words = {usual: None} | ({now.word: None} if isinstance(now, Word) else {})
    return [({"word": word}, f"the word {word}") for word in words]


def _zero_values(clauses: ResolvedClauses) -> Values:
    named = [("figure", "a figure"), ("dash", "a dash"), ("blank", "a blank")]
    return [*named, *_words_of(clauses.zero, "nil")]


def _missing_values(clauses: ResolvedClauses) -> Values:
    return [("blank", "a blank"), ("dash", "a dash"), *_words_of(clauses.missing, "n/a")]


# --- what stands beside a figure


UNITS = [
    (None, "no words"),
    ({"one": "litre", "many": "litres"}, "litre, litres"),
    ({"yes": "on", "no": "off"}, "on or off"),
]
WIDTHS = [
    (None, "any width"),
    ({"most": 8, "gives_way": "decimals"}, "8 characters, fewer decimals"),
    ({"most": 8, "gives_way": "scale"}, "8 characters, a larger scale"),
]


BESIDE = Free("text…", "Text", "net", str)
A_WORD = Free("another word…", "Word", "nil", lambda word: {"word": word})

ENTRIES: dict[str, ClauseEntry] = {
    "form": ClauseEntry("Show", "", **_named("form", FORMS)),
    "currency": ClauseEntry(
        "Show in",
        "in",
        describe_currency,
        _currency_values,
        applies=lambda clauses: clauses.form == "amount",
        free=Free("another currency…", "ISO 4217 code", "CHF", str.upper),
    ),
    "scale": ClauseEntry(
        "Show in",
        "in",
        lambda clauses: describe_scale(clauses.scale, clauses),
        lambda clauses: [(scale, describe_scale(scale, clauses)) for scale in (*POWERS, "fit")],
        applies=lambda clauses: clauses.form in ("amount", "number", "multiple"),
    ),
    "ladder": ClauseEntry(
        "Show sizes of",
        "of",
        **_named("ladder", LADDERS),
        applies=lambda clauses: clauses.scale == "fit" and numeric(clauses),
        sort="",
    ),
    "decimals": ClauseEntry(
        "Show with",
        "with",
        lambda clauses: describe_decimals(clauses.decimals),
        _decimals_values,
        applies=numeric,
    ),
    "grouping": ClauseEntry(
        "Digits grouped",
        ", digits grouped",
        lambda clauses: _bare("large", clauses),
        _listed(GROUPINGS),
        applies=numeric,
        sort="large",
    ),
    "money_sign": ClauseEntry(
        "Currency",
        "",
        **_named("money_sign", MONEY_SIGNS),
        applies=lambda clauses: clauses.form == "amount" and clauses.currency is not None,
    ),
    "money_shown": ClauseEntry(
        "Currency shown",
        "",
        **_named("money_shown", MONEY_SHOWN),
        applies=lambda clauses: (
            clauses.form == "amount" and clauses.currency is not None and clauses.money_sign != "none"
        ),
    ),
    "scale_word": ClauseEntry(
        "Scale said",
        ", scale said",
        **_named("scale_word", SCALE_WORDS),
        applies=lambda clauses: clauses.form in ("amount", "number") and clauses.scale != "ones",
    ),
    "negative": ClauseEntry("Negatives", "", **_named("negative", NEGATIVES), applies=numeric),
    "zero": ClauseEntry(
        "Exact zeros as",
        ", exact zeros as",
        lambda clauses: _bare("zero", clauses) or "a blank",
        _zero_values,
        applies=numeric,
        sort="zero",
        free=A_WORD,
    ),
    "rounds_away": ClauseEntry(
        "Small amounts as",
        ", small amounts as",
        lambda clauses: _bare("rounds away", clauses),
        _listed(ROUNDS_AWAY),
        applies=numeric,
        sort="rounds away",
    ),
    "missing": ClauseEntry(
        "Missing as",
        ", missing as",
        lambda clauses: print_amount(None, clauses).text or "a blank",
        _missing_values,
        free=A_WORD,
    ),
    "rounding": ClauseEntry(
        "Round",
        ", rounded",
        lambda clauses: ROUNDINGS[clauses.rounding].lower(),
        lambda clauses: [(mode, said.lower()) for mode, said in ROUNDINGS.items()],
        applies=numeric,
        sort="tie",
    ),
    "locale": ClauseEntry(
        "Marks as in",
        ", marks as in",
        lambda clauses: describe_locale(clauses.locale),
        _locale_values,
        sort="",
        free=Free("another locale…", "Language tag", "sv-SE", str),
    ),
    "step": ClauseEntry(
        "Round to steps of",
        ", to steps of",
        lambda clauses: clauses.step or "the last digit",
        _listed(STEPS),
        adds="a rounding step",
        free=Free("another step…", "Step", "0.05", str),
    ),
    "plus": ClauseEntry("Rises have", ", rises with", **_named("plus", PLUS), adds="a plus sign"),
    "negative_tone": ClauseEntry(
        "Negatives stand", "", **_named("negative_tone", TONES), adds="a tone for negatives"
    ),
    "bands": ClauseEntry(
        "Mark",
        ", marked",
        lambda clauses: describe_bands(clauses.bands),
        lambda clauses: [([], "nothing"), (RISES, "▲ above 0, ▼ below 0")],
        adds="marks by condition",
        free=Free("▲ ▼, with a threshold for rust…", "Falls in rust below", "-0.10", read_threshold),
    ),
    "before": ClauseEntry(
        "Before it",
        ", before it",
        lambda clauses: clauses.before or "nothing",
        lambda clauses: [("", "nothing")],
        adds="text before",
        free=BESIDE,
    ),
    "after": ClauseEntry(
        "After it",
        ", after it",
        lambda clauses: clauses.after or "nothing",
        lambda clauses: [("", "nothing")],
        adds="text after",
        free=BESIDE,
    ),
    "words": ClauseEntry(
        "Say",
        ", said with",
        describe_words,
        lambda clauses: list(UNITS),
        adds="words for units, or for yes and no",
        free=Free("other words…", "One, many", "litre, litres", read_two_words),
    ),
    "width": ClauseEntry(
        "At most",
        ", at most",
        lambda clauses: f"{clauses.width.most} characters" if clauses.width else "any width",
        lambda clauses: list(WIDTHS),
        adds="a width",
        free=Free("another width…", "Most characters", "8", read_width),
    ),
    "digits": ClauseEntry("Digits are", ", digits", **_named("digits", DIGITS), adds="other digits"),
    "line_up": ClauseEntry("Digits are", "", **_named("line_up", LINE_UP), adds="digits lined up"),
    "shown": ClauseEntry("It is", ", and is", **_named("shown", SHOWN), adds="hidden or shown", sort=""),
}
# The clauses that stand together in a sentence; each other one has a sentence of its own.
SENTENCES: tuple[tuple[str, ...], ...] = (
    ("form", "currency", "scale", "ladder", "decimals", "grouping"),
    ("money_sign", "money_shown"),
    ("scale_word",),
    ("negative", "zero", "rounds_away", "missing"),
    ("rounding", "locale"),
    *((clause,) for clause, entry in ENTRIES.items() if entry.adds),
)


def clause_name(clause: str) -> str:
    """What a clause is called where its value is not said: money sign."""
    return clause.replace("_", " ")


def describe_clause(clause: str, clauses: ResolvedClauses) -> str:
    """What a clause says now. Zeros and small amounts say the very text they print."""
    return ENTRIES[clause].says(clauses)


def decides(clause: str, clauses: ResolvedClauses) -> bool:
    """Whether a clause is other than what prints when no rule speaks."""
    return bool(getattr(clauses, clause) != Clauses.model_fields[clause].default)


def example(clause: str, value: Any, clauses: ResolvedClauses) -> str:
    """What a value of a clause would print, beside the other clauses in force."""
    chosen = getattr(Clauses.model_validate({clause: value}), clause)
    tried = clauses.at(**{clause: chosen})
    if clause == "missing":
        return print_amount(None, tried).text
    sort = ENTRIES[clause].sort
    if tried.form in TEXTUAL or not sort:
        return ""
    # The same exact amount for every choice, so that the choices can be told apart.
    return print_amount(scaled(IN_UNITS[sort], clauses.exponent), tried).full_text


def read_typed(clause: str, text: str) -> Any:
    """A clause's value from text that was typed. Raises InputError, saying what would do."""
    entry = ENTRIES.get(clause)
    if entry is None or entry.free is None:
        what = f'Nothing can be typed for "{clause}".'
        raise InputError("bad-rule", Fault(f"clauses.{clause}", what, "Choose one of its values."))
    try:
        return entry.free.read(text.strip())
    except ValueError as error:
        what = f'"{text.strip()}" cannot be used: {error}.'
        raise InputError("bad-rule", Fault(f"clauses.{clause}", what)) from None
