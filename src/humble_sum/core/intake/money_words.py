"""Currencies as statements of a unit call them, put into codes: "Canadian dollars", "tys. zł", "RM'000"."""

from __future__ import annotations

import re
from functools import cache

from humble_sum.core.intake.scale_words import power_of
from humble_sum.core.locales import currencies, locale

SOME = "\u00a4"  # the sign of a currency that is not named: pesos, francs, dollars of somewhere
# Names and short names; a scale that is one word with them is put beside them.
CALLED: tuple[tuple[re.Pattern[str], str], ...] = tuple(
    (re.compile(pattern, re.IGNORECASE), said)
    for pattern, said in (
        (r"\b(U\.? ?S\.?( ?A\.?)?|United States|American) ?dollars?\b", "USD"),
        (r"\b(pounds? sterling|sterling pounds?|British pounds?|UK pounds?|sterling)\b", "GBP"),
        (r"\bIndian rupees?\b", "INR"),
        (r"\b(Japanese )?yen\b", "JPY"),
        (r"\b(RMB|renminbi|Chinese yuan|yuan)(?![a-z])", "CNY"),
        (r"\b((South )?Korean|KR) won\b", "KRW"),
        (r"\b(francs suisses|schweizer franken|swiss francs|franken|franchi svizzeri)\b", "CHF"),
        (r"\b(svenska )?kronor\b", "SEK"),
        (r"\b(danske|danish) kron\w+|\bd\.?kr\.(?!\w)", "DKK"),
        (r"\b(norske|norwegian) kron\w+", "NOK"),
        (r"\btkr\b", "SEK k"),
        (r"\bt\.? ?kr\.(?!\w)", f"{SOME} k"),
        (r"\b(mnkr|mkr)\b", "SEK m"),
        (r"\b(mdkr|mdrkr)\b", "SEK bn"),
        (r"\bC\$", "CAD "),
        (r"\bS\$", "SGD "),
        (r"\bJ\$", "JMD "),
        (r"\bTT\$", "TTD "),
        (r"\b(B|Bds)\$", f"{SOME} "),
        (r"\bруб(л[а-я]*|\.)?(?!\w)", "RUB"),
        (r"रुपये|रुपए|रु\.", "INR"),
        # The euro as it is spelled and bent in Europe.
        (r"\beur(os?|a|oa|oina|oja|ot|odes|ó|óban|oban|ų|ais|ech|ách|ach|u)?\b", "EUR"),
        (r"\b(eiro|ευρώ|evro[mv]?|evrih|evra)\b|(?<!\w)(евр[оа]|євро|אירו|يورو)(?!\w)", "EUR"),
        (r"\bzł(ot\w+)?( polskich)?\b|\bzlotych\b", "PLN"),
        (r"\bK[čc]\b|\b(českých )?korun(ách)? (českých|č)\b|\bčeských korun(ách)?\b", "CZK"),
        (r"\be ?ft\b", "HUF k"),
        (r"\bm ?ft\b", "HUF m"),
        (r"\b(ft|forint\w*)\b", "HUF"),
        (r"\b(lei|lejów)\b", "RON"),
        (r"(?<!\w)(лева?|лв\.?)(?!\w)", "BGN"),
        (r"(?<!\w)(грн\.?|грив\w+)(?!\w)", "UAH"),
        (r"(?<!\w)тенге(?!\w)|₸", "KZT "),
        (r"\b(TL|türk liras[ıi])\b|₺", "TRY "),
        (r"\b(Rp\.?|rupiah)(?!\w)", "IDR"),
        (r"\b(ringgit( malaysia)?)\b", "MYR"),
        (r"(?<!\w)(đồng|vnđ)(?!\w)|₫", "VND "),
        (r"\bbaht\b", "THB"),
        (r"\b(reais)\b", "BRL"),
        (r'ש["”״]ח|ש\'\'ח|שקל\w*|\b(NIS|shekels?)\b', "ILS"),
        (r"(?<!\w)(ر\.س\.?|الريالات السعودية|ريال سعودي)(?!\w)", "SAR"),
        (r"\b(KShs?\.?|kenya shillings?|kenyan shillings?)(?!\w)", "KES "),
        (r"\bGH[¢₵S]", "GHS "),
        (r"\b(naira)\b|₦", "NGN "),
        (r"\b(Tk\.?|taka)(?!\w)|৳", "BDT "),
        (r"\b(Php|P?hp)\b", "PHP "),
        (r"\bGEL|lari\b", "GEL"),
        (r"\bT€", "EUR k"),
        (r"\bk€", "EUR k"),
        (r"\bMd€", "EUR bn"),
        (r"\bM€", "EUR m"),
        (r"พันล้านบาท", "THB bn"),
        (r"ล้านบาท", "THB m"),
        (r"พันบาท", "THB k"),
        (r"บาท", "THB"),
    )
)
# These are other words, or other currencies, in small letters.
AS_WRITTEN: tuple[tuple[re.Pattern[str], str], ...] = tuple(
    (re.compile(pattern), said)
    for pattern, said in (
        (r"\bRM(?![A-Za-z])", "MYR "),
        (r"\b([A-Z]{2}D) ?\$", r"\1 "),
        (r"\bR(m|bn)\b", r"ZAR \1"),
        (r"€ ?/ ?(?=[\d'km])", "EUR "),
        (r"\b(EUR|Euro) ?/ ?(?=\w)", "EUR "),
        (r"\bKD\b", "KWD"),
        (r"\bBD(?= ?'?0)", "BHD "),
        (r"\bRO(?= ?'?0)", "OMR "),
        (r"\bJD\b", "JOD"),
        (r"\bN(?= ?'000)", "NGN "),
        # Whoever's money it is: the letters before the noughts are its sign.
        (r"^(Shs?|SR|QR|Dhs?|Frw|Le|Br|FBu)\.?(?= ?'?000)", SOME),
    )
)
# Money of no one land, in the languages of many. What stands before it may say whose, and is not needed.
NOUN = (
    r"dollars?|d[oó]lares|dollari|dollaria|dollarin|pesos?|francs?|francos|pounds?|libras|kron[aeo]r?|krónur|kroner|"
    r"korun\w{0,3}|coronas|rupees?|won|dinars?|dinara|dirhams?|riyals?|rials?|shillings?|soles|quetzales|bol[ií]vares|"
    r"guaran[ií]es|colones|lempiras|cordobas|kwachas?|pula|cedis?|afghanis?|togrogs?|manats?|sums?|rand|reais"
)
OWNED = re.compile(
    rf"\b(?:([A-Z]\w+) (?:(?:and|&) [A-Z]\w+ )?)?(?:{NOUN})\b"
    r"(?: (?:colombianos|mexicanos|chilenos|argentinos|uruguayos|dominicanos|peruanos|cubanos|suizos|"
    r"americanos|norteamericanos|estadounidenses|canadienses|CFA|belges|comoriens|burundais|rwandais))?"
)
PLAIN_NOUN = re.compile(
    rf"\b(?:{NOUN})\b|(?<!\w)(?:долл\w*\.?|دولار\w*|الدولارات|دراهم|الدراهم|درهم|دينار|الدنانير|ريال|الريالات|جنيه|ليرة|"
    r"تومان|דולר\w*)(?!\w)",
    re.IGNORECASE,
)
RUPEES = re.compile(r"\brupees?\b", re.IGNORECASE)
DOLLARS = re.compile(r"^\W*(?:in )?dollars\b|\b(?:in|of|are) dollars\b", re.IGNORECASE)
# A scale in one word with a code: kSEK, TCHF, MNOK, USDm.
GLUED = re.compile(r"\b([kKtTmM])\.? ?([A-Z]{3})\b|\b([A-Z]{3})(k|K|m|M|mn|bn)\b")
GLUED_POWERS = {"k": "k", "t": "k", "m": "m", "mn": "m", "bn": "bn"}


def with_codes(text: str) -> str:
    """The text with every currency it calls by a name or an uncommon sign called by its code, or by the
    sign of some currency where the name is that of several."""
    text = GLUED.sub(_apart, text)
    for called, code in AS_WRITTEN:
        text = called.sub(code, text)
    names = _english_names()
    text = names.sub(lambda found: f"{_codes()[found[0].lower()]} ", text)
    for called, code in CALLED:
        text = called.sub(code, text)
    text = DOLLARS.sub(lambda found: re.sub("dollars", "$", found[0], flags=re.IGNORECASE), text)
    text = RUPEES.sub("INR", text)
    return PLAIN_NOUN.sub(SOME, OWNED.sub(_some, text))


def _some(found: re.Match[str]) -> str:
    """Whoever's money it is, but not the scale that stands before it: "Thousand pesos"."""
    scale = found[1] is not None and power_of(found[1], beside_money=True) is not None
    return f"{found[1]} {SOME}" if scale else SOME


def _apart(found: re.Match[str]) -> str:
    code, power = (found[2], found[1]) if found[2] else (found[3], found[4])
    return f"{code} {GLUED_POWERS[power.lower()]}" if currencies.known(code) else found[0]


@cache
def _codes() -> dict[str, str]:
    """The English names of currencies that say whose they are, in small letters, and their codes."""
    names: dict[str, str] = {}
    for code, (_, _, name, forms) in sorted(locale("en").currencies.items()):
        for each in (name, *forms.values()):
            if " " in each and "(" not in each:
                names.setdefault(each.lower(), code)
    return names


@cache
def _english_names() -> re.Pattern[str]:
    longest_first = sorted(_codes(), key=lambda name: (-len(name), name))
    return re.compile(rf"\b(?:{'|'.join(map(re.escape, longest_first))})\b", re.IGNORECASE)
