"""The unit a source states: "₹ in lakhs" over a table, "£'000" in a heading, "EUR m" beside a line.

Only what is a statement of a unit and nothing else counts: a currency, a scale, or both, with the words
that lead up to them. "Revenue in Europe" states none.
"""

from __future__ import annotations

import re
import tomllib
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files

from humble_sum.core.intake.lexicon import currency_ends, currency_signs, normal
from humble_sum.core.intake.money_words import SOME, with_codes
from humble_sum.core.intake.named_measures import is_for_one
from humble_sum.core.intake.scale_words import POWERS, SCALE_NAMES, may_be, power_of
from humble_sum.core.intake.vocabulary import says, words_of
from humble_sum.core.locales import currencies


def _words() -> dict[str, str]:
    """What stands around a unit in a statement of one, by its part in it, as patterns."""
    told = tomllib.loads((files("humble_sum.core.intake") / "words/units.toml").read_text(encoding="utf-8"))
    return {part: "|".join(filter(None, map(str.strip, words.split("|")))) for part, words in told.items()}


WORDS = _words()
LEADS = re.compile(rf"\b(?:{WORDS['leads']})(?!\w)|\bd['’](?=\w)", re.IGNORECASE)
# What a unit is not of, which may name anything.
EXCEPTED = re.compile(rf"[\s,;(]+(?:{WORDS['except']})(?![a-z])(.*)$", re.IGNORECASE | re.DOTALL)
UNIT_IS = re.compile(rf"^.*(?:{WORDS['unit_is']})\s*:?\s*", re.DOTALL)
SIGNS = "百佰千仟万萬亿億백천만억"
IN_SIGNS = re.compile(
    rf"([{SIGNS}]*)(人民[币幣]|新[台臺][币幣]|港[币幣]?|美|日)?\s*([{SIGNS}]*)\s*([元円圓원])|人民[币幣]"
)
NOUGHTS = {
    sign: count
    for count, signs in ((2, "百佰백"), (3, "千仟천"), (4, "万萬만"), (8, "亿億억"))
    for sign in signs
}
MONEY = {"新": "TWD", "港": "HKD", "美": "USD", "日": "JPY", "人": "CNY", "元": "CNY", "원": "KRW"}
TWICE = re.compile(r"\b([A-Z]{3})\b[\s(]+\1\b\)?")
# Letters of what may be a scale and mostly is something else, as the m of metres is, and of what hardly is.
SHORT, LONG = 2, 6
NEUTRAL = " ,.;:()[]–-/"
EDGES = " ,;:()[]–-/"  # a full stop belongs to the word before it: "mln."
SMALL = re.compile(r"[^\W\dA-Z]{1,2}[.,:]?")  # prepositions, beside money and a scale, of whatever language
# A scale without a currency, where it ends a heading: "2026 in thousands", "2026 '000".
LED = re.compile(rf"^(?:{WORDS['in']})\s|^['\u2019`]000|^000s", re.IGNORECASE)
NAMES = re.compile(rf"^\W*(?:{WORDS['names']})(?!\w)", re.IGNORECASE)


@dataclass(frozen=True)
class Unit:
    """A unit as a source states it: its currency and its power of ten, where it says them; the text that
    states it."""

    currency: str | None
    power: int | None
    said: str
    excepted: tuple[str, ...] = ()  # the words of what it is not of: share

    @property
    def name(self) -> str:
        """The unit in words: "INR lakhs"."""
        scale = SCALE_NAMES.get(self.power, "") if self.power else ""
        return " ".join(word for word in (self.currency or "", scale) if word) or "ones"

    def over(self, broader: Unit | None) -> Unit:
        """This unit, with what it leaves open as a broader statement has it."""
        if broader is None:
            return self
        currency = self.currency or broader.currency
        power = self.power if self.power is not None else broader.power
        return Unit(currency, power, self.said or broader.said, self.excepted or broader.excepted)


# A thousand in digits, which is a unit only where words lead up to it: "in CHF 1000".
IN_DIGITS = re.compile(rf"\b({WORDS['in_digits']})\b(.*?)\b1[.,'\u2019 ]?000\b", re.IGNORECASE)
LONGEST_SMALL = 3  # letters of prepositions, and of "and"
LONGEST = 120  # letters of what states a unit


def unit_of(text: str) -> Unit | None:
    """The unit that a text states if it states one and nothing else."""
    plain = normal(text).replace("\u2019", "'").replace("`", "'").strip()
    return _unit_of(plain, text.strip()) if plain and len(plain) <= LONGEST else None


@lru_cache(maxsize=10_000)  # headings are looked at for one more than once
def _unit_of(plain: str, said: str) -> Unit | None:
    if is_for_one(f"({plain.strip(NEUTRAL)})"):
        return None
    exception = EXCEPTED.search(plain)
    plain = EXCEPTED.sub("", plain)
    plain = IN_SIGNS.sub(_in_letters, UNIT_IS.sub("", plain))
    plain = with_codes(plain)
    plain = TWICE.sub(r"\1", IN_DIGITS.sub(r"in \2 thousand", plain))
    rest = LEADS.sub(" ", plain).strip(NEUTRAL + "'")
    rest = _restored(rest, plain)
    currency, rest = _currency(rest)
    power, rest = _power(rest, currency)
    if currency is None:
        currency, rest = _currency(rest)
        if currency is not None and power is None:
            power, rest = _power(rest, currency)
    if currency is not None and power is not None:
        rest = " ".join(word for word in rest.split() if not SMALL.fullmatch(word))
    if rest.strip(NEUTRAL) or (currency is None and power is None):
        return None
    # A bare letter, such as the M of a heading or the R of rand, is a name; a sign or a code is not.
    bare = plain.strip(NEUTRAL)
    if (len(bare) == 1 and bare.isalpha()) or bare.lower() in ("cr", "m", "mn", "bn", "md"):
        return None
    if currency == SOME and power is None:
        return None
    excepted = _excepted(exception[1]) if exception is not None else ()
    return Unit(None if currency == SOME else currency, power, said, excepted)


def _excepted(said: str) -> tuple[str, ...]:
    """The words of an exception that name what it is of."""
    return tuple(
        word.removesuffix("s") for word in words_of(said) if len(word) > LONGEST_SMALL and not means(word)
    )


def means(word: str) -> bool:
    """Whether a word of an exception only leads up to what it is of."""
    return says(word, "leads")


def _in_letters(found: re.Match[str]) -> str:
    """A unit in signs as a code and a word: 新台幣仟元 is TWD thousand."""
    power = sum(NOUGHTS[sign] for sign in (found[1] or "") + (found[3] or ""))
    word = next((word for word, each in POWERS.items() if each == power), "") if power else ""
    return f" {MONEY.get((found[2] or found[4] or found[0])[0], 'JPY')} {word} "


# Letters of scales that lines are counted in: passengers, in m. Of lengths and times m is metres or minutes.
LETTERS_OF_SCALES = {"k": 3, "m": 6, "mn": 6, "mln": 6, "mm": 6, "bn": 9}


def counted_in(letters: str, label: str) -> Unit | None:
    """The scale that a line's unit is, where it is only its letter: of passengers, and not of lengths."""
    text = letters.strip(" ()[].")
    power = LETTERS_OF_SCALES.get(text)
    return None if power is None or says(label, "dimension") else Unit(None, power, letters)


def unit_within(text: str) -> tuple[Unit | None, str]:
    """The unit at the end of a heading, in brackets, after a comma or behind its other words, and the
    heading without it: "2026 £'000" is 2026 in thousands of pounds."""
    own = text.strip()
    unit = unit_of(own)
    if unit and not NAMES.search(own):
        return unit, ""
    for found in re.finditer(r"[(\[]([^()\[\]]+)[)\]]", own):
        if unit := unit_of(found[1]):
            return unit, " ".join((own[: found.start()] + own[found.end() :]).split()).strip(" ,")
    head, comma, tail = own.rpartition(",")
    if comma and head.strip() and (unit := unit_of(tail)) and unit.currency:
        return unit, head.strip()
    words = own.split()
    for count in (4, 3, 2, 1):
        if len(words) <= count:
            continue
        tail = " ".join(words[-count:])
        if (unit := unit_of(tail)) and (unit.currency or LED.match(tail)):
            return unit, " ".join(words[:-count]).rstrip(" ,–-").removesuffix(" in")
        if (unit := unit_of(" ".join(words[:count]))) and unit.currency:
            return unit, " ".join(words[count:])
    return None, own


def scale_within(text: str) -> int | None:
    """The power of ten of a word of scale that a text has, whatever else it says; other words that a scale
    can be count beside money."""
    plain = with_codes(normal(text).replace("\u2019", "'"))
    money = SOME in plain or any(currencies.known(word) for word in re.findall(r"\b[A-Z]{3}\b", plain))
    for word in re.findall(r"'?[\w]+'?\w*\.?", plain):
        power = power_of(word, beside_money=len(word) > (SHORT if money else LONG))
        power = may_be(word) if power is None and money else power
        if power is not None and len(word) > SHORT:
            return power
    return None


def is_unit_alone(text: str) -> bool:
    """Whether a text states a unit and names nothing that has it."""
    return unit_of(text) is not None and not NAMES.search(text)


def _restored(rest: str, plain: str) -> str:
    """An apostrophe before noughts is part of a scale, and not of what leads up to it."""
    return f"'{rest}" if rest.startswith("000") and "'000" in plain else rest


def _currency(text: str) -> tuple[str | None, str]:
    """A currency's sign, code or name at either end of a text, and the rest."""
    stripped = text.strip(NEUTRAL)
    if stripped.startswith(SOME):
        return SOME, stripped[1:]
    if stripped.endswith(SOME):
        return SOME, stripped[:-1]
    before, _ = currency_signs()
    first, last = currency_ends()
    for sign, code in before[stripped[0]] if stripped.startswith(first.get(stripped[:1], ())) else ():
        after = stripped[len(sign) :]
        if stripped.startswith(sign) and not (sign[-1].isalpha() and after[:1].isalpha()):
            return code, after
    words = stripped.split()
    if words and words[0].lower() in ("rupees", "rupee"):
        return "INR", " ".join(words[1:])
    for at in (0, -1):
        if words and len(words[at]) == 3 and words[at].isupper() and currencies.known(words[at]):
            kept = words[1:] if at == 0 else words[:-1]
            return words[at], " ".join(kept)
    # TEUR and the like: thousands of a currency in one word.
    if (
        words
        and len(words) == 1
        and len(stripped) == 4
        and stripped[0] in "TM"
        and currencies.known(stripped[1:])
    ):
        return stripped[1:], "k" if stripped[0] == "T" else "m"
    ends = stripped.endswith(last.get(stripped[-1:], ()))
    for sign, code in currency_signs()[1][stripped[-1]] if ends else ():
        ahead = stripped[: -len(sign)]
        if stripped.endswith(sign) and not (sign[0].isalpha() and ahead[-1:].isalpha()):
            return code, ahead
    return None, text


def _power(text: str, currency: str | None) -> tuple[int | None, str]:
    """A word for a power of ten at either end of a text, and the rest."""
    stripped = text.strip(EDGES)
    beside_money = currency is not None

    def said(word: str) -> int | None:
        return power_of(word, currency, beside_money)

    if (power := said(stripped)) is not None:
        return power, ""
    words = stripped.split()
    for count in range(1, min(3, len(words))):
        head, tail = words[:count], words[count:]
        if (power := said(" ".join(head))) is not None:
            return power, " ".join(tail)
        head, tail = words[:-count], words[-count:]
        if (power := said(" ".join(tail))) is not None:
            return power, " ".join(head)
    return None, text
