"""The unit a source states: "₹ in lakhs" over a table, "£'000" in a heading, "EUR m" beside a line.

Only what is a statement of a unit and nothing else counts: a currency, a scale, or both, with the words
that lead up to them. "Revenue in Europe" states none.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from humble_sum.core.intake.lexicon import currency_ends, currency_signs, normal
from humble_sum.core.locales import currencies

POWERS = {
    "lakh": 5,
    "lakhs": 5,
    "lac": 5,
    "lacs": 5,
    "crore": 7,
    "crores": 7,
    "cr": 7,
    "cr.": 7,
    "thousand": 3,
    "thousands": 3,
    "tausend": 3,
    "tsd": 3,
    "tsd.": 3,
    "milliers": 3,
    "millier": 3,
    "miles": 3,
    "migliaia": 3,
    "milhares": 3,
    "duizenden": 3,
    "duizend": 3,
    "tusen": 3,
    "tusental": 3,
    "ten-thousand": 4,
    "hundred-million": 8,
    "тыс": 3,
    "тыс.": 3,
    "हज़ार": 3,
    "हजार": 3,
    "लाख": 5,
    "करोड़": 7,
    "'000": 3,
    "'000s": 3,
    "000": 3,
    "000s": 3,
    "000's": 3,
    "k": 3,
    "million": 6,
    "millions": 6,
    "millionen": 6,
    "mio": 6,
    "mio.": 6,
    "millones": 6,
    "milioni": 6,
    "milhões": 6,
    "miljoen": 6,
    "miljoenen": 6,
    "miljoner": 6,
    "mln": 6,
    "mln.": 6,
    "млн": 6,
    "млн.": 6,
    "mn": 6,
    "m": 6,
    "billion": 9,
    "billions": 9,
    "bn": 9,
    "mrd": 9,
    "mrd.": 9,
    "md": 9,
    "milliarden": 9,
    "milliards": 9,
    "miliardi": 9,
    "miljarder": 9,
    "miljard": 9,
    "млрд": 9,
    "млрд.": 9,
}
SCALE_NAMES = {
    3: "thousands",
    4: "ten thousands",
    5: "lakhs",
    6: "millions",
    7: "crores",
    8: "hundred millions",
    9: "billions",
}
POWERS_BY_NAME = {"ones": 0} | {name: power for power, name in SCALE_NAMES.items()}
# What may stand around a unit in a statement of one, and says nothing of it.
LEADS = re.compile(
    r"\b(all|amounts?|figures?|values?|currency|are|is|stated|expressed|presented|reported|shown|given|rounded|"
    r"in|of|to|the|nearest|unless|otherwise|indicated|noted|specified|except|where|betr[aä]ge|angaben|alle|"
    r"scale|units?|denomination|denominated|reporting|unaudited|audited|"
    # The same in other languages: figures, all, stated, in, of, unless otherwise stated.
    r"montants?|chiffres|exprim[ée]s?|tous|toutes|les|des|de|en|sauf|indication|contraire|einheit|werte?|"
    r"sofern|nicht|anders|angegeben|soweit|importi|valori|cifras|importes|valores|expresad[oa]s|em|di|"
    r"bedragen|alla|belopp|i|x|сумм[аы]|в|में)(?!\w)|\bd['’](?=\w)",
    re.IGNORECASE,
)
# What a unit is not of, which may name anything.
EXCEPTED = re.compile(r"[\s,;(]+(except|excluding|other than|save for)\b.*$", re.IGNORECASE | re.DOTALL)
# Names of currencies as they are called in prose, and scales written in one word with one.
SAID_SO: tuple[tuple[re.Pattern[str], str], ...] = tuple(
    (re.compile(pattern, re.IGNORECASE), said)
    for pattern, said in (
        (r"\b(U\.? ?S\.?( ?A\.?)?|United States|American) ?dollars?\b", "USD"),
        (r"\b(pounds? sterling|British pounds?|UK pounds?)\b", "GBP"),
        (r"\b(Indian )?rupees?\b", "INR"),
        (r"\b(Japanese )?yen\b", "JPY"),
        (r"\b(RMB|renminbi|Chinese yuan|yuan)(?![a-z])", "CNY"),
        (r"\b(dollars)\b", "$"),
        (r"\beuros?\b", "EUR"),
        (r"\bT€", "EUR k"),
        (r"\bk€", "EUR k"),
        (r"\bMd€", "EUR bn"),
        (r"\bM€", "EUR m"),
        (r"\b(francs suisses|schweizer franken|swiss francs|franken)\b", "CHF"),
        (r"\b(svenska )?kronor\b", "SEK"),
        (r"\btkr\b", "SEK k"),
        (r"\b(mnkr|mkr)\b", "SEK m"),
        (r"\bS\$", "SGD "),
        (r"\bR(m|bn)\b", r"ZAR \1"),
        (r"\bруб(лей|\.)?(?!\w)", "RUB"),
        (r"रुपये|रुपए|रु\.", "INR"),
        (r"\bk(EUR|USD|GBP|CHF)\b", r"\1 k"),
    )
)
# What leads up to a unit in Chinese, Japanese and Korean, after whoever the table is of; and the unit: 万元.
UNIT_IS = re.compile(r"^.*(?:[单單単]位|단위)\s*:?\s*", re.DOTALL)
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
NEUTRAL = " ,.;:()[]–-/"
# Words that lead up to a unit in a sentence, and name what stands below in a heading.
NAMES = re.compile(r"^\W*(amounts?|values?|figures?)\b", re.IGNORECASE)


@dataclass(frozen=True)
class Unit:
    """A unit as a source states it: its currency and its power of ten, where it says them; the text that
    states it."""

    currency: str | None
    power: int | None
    said: str

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
        return Unit(currency, power, self.said or broader.said)


# A thousand in digits, which is a unit only where words lead up to it: "in CHF 1000".
IN_DIGITS = re.compile(r"\b(in|x|en|em|i)\b(.*?)\b1[.,'\u2019 ]?000\b", re.IGNORECASE)
LONGEST = 120  # letters of what states a unit


def unit_of(text: str) -> Unit | None:
    """The unit that a text states if it states one and nothing else."""
    plain = normal(text).replace("\u2019", "'").replace("`", "'").strip()
    return _unit_of(plain, text.strip()) if plain and len(plain) <= LONGEST else None


@lru_cache(maxsize=10_000)  # headings are looked at for one more than once
def _unit_of(plain: str, said: str) -> Unit | None:
    plain = EXCEPTED.sub("", plain)
    plain = IN_SIGNS.sub(_in_letters, UNIT_IS.sub("", plain))
    for called, instead in SAID_SO:
        plain = called.sub(instead, plain)
    plain = TWICE.sub(r"\1", IN_DIGITS.sub(r"in \2 thousand", plain))
    rest = LEADS.sub(" ", plain).strip(NEUTRAL + "'")
    rest = _restored(rest, plain)
    currency, rest = _currency(rest)
    power, rest = _power(rest)
    if currency is None:
        currency, rest = _currency(rest)
    if rest.strip(NEUTRAL) or (currency is None and power is None):
        return None
    # A bare letter, such as the M of a heading or the R of rand, is a name; a sign or a code is not.
    bare = plain.strip(NEUTRAL)
    if (len(bare) == 1 and bare.isalpha()) or bare.lower() in ("cr", "m", "mn", "bn", "md"):
        return None
    return Unit(currency, power, said)


def _in_letters(found: re.Match[str]) -> str:
    """A unit in signs as a code and a word: 新台幣仟元 is TWD thousand."""
    power = sum(NOUGHTS[sign] for sign in (found[1] or "") + (found[3] or ""))
    word = next((word for word, each in POWERS.items() if each == power), "") if power else ""
    return f" {MONEY.get((found[2] or found[4] or found[0])[0], 'JPY')} {word} "


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
    for count in (3, 2, 1):
        if len(words) <= count:
            continue
        if (unit := unit_of(" ".join(words[-count:]))) and unit.currency:
            return unit, " ".join(words[:-count]).rstrip(" ,–-").removesuffix(" in")
        if (unit := unit_of(" ".join(words[:count]))) and unit.currency:
            return unit, " ".join(words[count:])
    return None, own


def is_unit_alone(text: str) -> bool:
    """Whether a text states a unit and names nothing that has it."""
    return unit_of(text) is not None and not NAMES.search(text)


def _restored(rest: str, plain: str) -> str:
    """An apostrophe before noughts is part of a scale, and not of what leads up to it."""
    return f"'{rest}" if rest.startswith("000") and "'000" in plain else rest


def _currency(text: str) -> tuple[str | None, str]:
    """A currency's sign, code or name at either end of a text, and the rest."""
    stripped = text.strip(NEUTRAL)
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


def _power(text: str) -> tuple[int | None, str]:
    stripped = text.strip(" ,;:()[]–-/").lower()
    for word, power in POWERS.items():
        if stripped == word:
            return power, ""
    first, _, others = stripped.partition(" ")
    if first in POWERS and others:
        return POWERS[first], others
    head, _, last = stripped.rpartition(" ")
    if last in POWERS and head:
        return POWERS[last], text.strip(" ,;:()[]–-/")[: len(head)]
    return None, text
