"""What a label or a heading says of its figures: money, a count, a percentage, or for one of something."""

from __future__ import annotations

import re
from collections.abc import Sequence
from decimal import Decimal
from functools import lru_cache

from humble_sum.core.intake.lexicon import currency_signs
from humble_sum.core.intake.scale_words import power_of
from humble_sum.core.intake.signals import HINTED, NAMED, NAMING, STATED, Signal
from humble_sum.core.intake.vocabulary import Match, matches, meanings, phrases, says, words_of
from humble_sum.core.locales import currencies
from humble_sum.core.rules.rulebook import LineKind

MEASURES = ("money", "per_one", "percent", "count")
KIND_OF: dict[str, LineKind | None] = {
    "money": None,
    "percent": "percent",
    "per_one": "per_unit",
    "count": "count",
}
MEASURE_OF = {kind: measure for measure, kind in KIND_OF.items()}
MOST_POINTS = 1_000  # percentages in points are below
OF_ONE = re.compile(r"[(\[,]\s*([^()\[\],/]+?)\s*/\s*([^\W\d][\w²³ ]*?)\s*[)\]]?\s*$")
PAIR = re.compile(r"([A-Z]{3}) ?[/:] ?([A-Z]{3})\b")
ENDINGS = tuple(phrases("with_ending"))
TIMES = frozenset(("per_time",))


def measure_signals(
    text: str, amounts: Sequence[Decimal | None], cells: tuple[str, ...] = ()
) -> list[Signal]:
    """What a name says of the measure of its figures, with these amounts as they are written."""
    found = [Signal(reading, bits, f"“{said}” in its name", cells) for reading, bits, said in _named(text)]
    present = [abs(amount) for amount in amounts if amount is not None]
    if not present:
        return found
    integers = all(amount == amount.to_integral_value() for amount in present)
    fractions = max(present) <= 1
    kept = []
    for signal in found:
        if signal.reading == "points":
            if max(present) < MOST_POINTS or signal.bits >= STATED:
                kept.append(signal._replace(reading="percent"))
        elif signal.reading == "fraction":
            if fractions:
                kept.append(signal._replace(reading="percent"))
        elif signal.reading != "integers" or integers:
            kept.append(signal._replace(reading="count") if signal.reading == "integers" else signal)
    return kept


@lru_cache(maxsize=20_000)
def _named(text: str) -> tuple[tuple[str, float, str], ...]:
    """The readings that a name speaks for: `points` for percentages that stand without their sign, `fraction`
    for what is one where it is at most 1, `integers` for counts where the figures are whole."""
    words = words_of(text)
    found: list[tuple[str, float, str]] = []
    said = meanings(text)
    for match in matches(text):
        reading, bits = _reading_of(match, words, said)
        if reading:
            weak = match.start > 0 and _is_amount_before(words, match.start)
            found.append((reading, NAMING if weak else bits, match.phrase))
    for at, word in enumerate(words):
        if word == "%" and not (at and _is_amount_before(words, at)):
            found.append(("points", STATED, "%"))
        elif word.endswith(ENDINGS) and (at + 1 == len(words) or words[at + 1] in "(,:"):
            found.append(("points", NAMED, word))
    if is_for_one(text):
        found.append(("per_one", NAMED, text.strip()[-20:]))
    if is_pair(text):
        found.append(("per_one", NAMED, text.strip()[:7]))
    # The strongest of each reading: two words for one thing are no more evidence than one.
    best: dict[str, tuple[str, float, str]] = {}
    for each in found:
        if each[0] not in best or best[each[0]][1] < each[1]:
            best[each[0]] = each
    return tuple(best.values())


def _reading_of(match: Match, words: Sequence[str], said: frozenset[str]) -> tuple[str, float]:
    """The reading that a phrase speaks for, and how much."""
    meaning = match.meaning
    if meaning == "per_one":
        return ("", 0.0) if said & TIMES or "%" in words else ("per_one", NAMED)
    if meaning == "small_money":
        return ("per_one", NAMED) if "of_one_share" in said else ("", 0.0)
    if meaning == "measure_or_scale":
        return ("count", NAMED) if "dimension" in said else ("", 0.0)
    of = {
        "ratio": ("per_one", NAMED),
        "people": ("count", NAMED),
        "measure": ("count", STATED),
        "count": ("integers", NAMED),
        "in_points": ("points", NAMED),
        "rate_of": ("points", NAMED),
        "shares_counted": ("integers", NAMED),
        "per_each": ("per_one", NAMED),
        "for_shares": ("per_one", NAMED) if "shares_counted" not in said else ("", 0.0),
        "percent_word": ("fraction", HINTED) if match.phrase != "%" else ("", 0.0),
    }
    return of.get(meaning, ("", 0.0))


def _is_amount_before(words: Sequence[str], at: int) -> bool:
    """Whether a number stands before a word, with or without a unit between: 5.5 %, 30 days, 12.5 p per."""
    before = [word for word in words[:at] if word.isalnum()]
    if words[at - 1] in "([,":
        return False
    if before and before[-1].isdigit():
        return True
    return len(before) > 1 and before[-2].isdigit() and len(before[-1]) <= 2 and before[-1].isalpha()


@lru_cache(maxsize=20_000)
def is_for_one(text: str) -> bool:
    """Whether a name ends with what is given for one of something: (€/t), and not (€/mln)."""
    found = OF_ONE.search(text)
    if found is None:
        return False
    given, of = found[1].strip(), found[2].strip()
    money = _is_money(given) or says(f"({given})", "small_money", "measure")
    return money and power_of(of) is None


def _is_money(text: str) -> bool:
    """Whether a text is a sign or a code of a currency and nothing else."""
    before, _ = currency_signs()
    named = any(sign == text for sign, _ in before.get(text[:1], ()))
    return named or (len(text) == 3 and text.isupper()) or text in ("Rs", "Rs.")


def is_pair(label: str) -> bool:
    """Whether a label is the rate of one currency in another: EUR/USD, average."""
    found = PAIR.match(label)
    return found is not None and all(map(currencies.known, found.groups()))


def is_measure(label: str) -> bool:
    """Whether a label ends with a measure of what it counts, or with people."""
    said = meanings(label)
    return bool(said & {"measure", "people"}) or ("measure_or_scale" in said and "dimension" in said)


def kind_under(heading: str) -> LineKind | None:
    """The kind of the lines under a heading, where it says that they are no amounts to be added."""
    said = meanings(heading)
    return "per_unit" if "for_shares" in said and "shares_counted" not in said else None
