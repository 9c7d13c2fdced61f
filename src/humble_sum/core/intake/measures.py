"""Measures of what is no money, which no scale of money bears on: CO2 (kt), Fuel price ($/t), Energy, GWh."""

from __future__ import annotations

import re

# SI units (BIPM, The International System of Units) and those of the trade that stand for themselves.
SYMBOLS = (
    r"[kMG]?t|k?tCO[2₂]e?|kg|[kMGT]?Wh|[kMG]W|[MGTP]J|k?m[²³23]|km|nmi?|ft|ha|[mh]l|[mk]?boe|bbls?|"
    r"TEUs?|FTEs?|°[CF]"
)
WORDS = (
    r"tonnes?|tons?|lbs?|oz|(nautical )?miles?|sq\.? ?(ft|m|km|feet|met(re|er)s)|(square|cubic) \w+|feet|"
    r"acres?|hectares?|lit(re|er)s?|gallons?|barrels?|hours?|hrs?|minutes?|mins?|seconds?|days?|weeks?|"
    r"months?|years?|yrs?|nights?|headcount|out of \d+"
)
COUNTED = r"((thousands?|millions?|billions?|bn|mn?|k|['’]000s?|000s?)( of)? )?"
MEASURE = re.compile(rf"[(\[,] ?(in )?{COUNTED}({SYMBOLS}|(?i:{WORDS}))[)\]]? ?$")
# What is measured in m, which is of metres or minutes then, and no scale.
MEASURED = re.compile(
    r"\b(length|distance|depth|dr[au]f?t|draught|height|width|beam|range|radius|area|level|altitude|time|"
    r"duration|term|delay|age|tenor|maturity|wait(ing)?|metres?|meters?|minutes?|months?|miles?)\b",
    re.IGNORECASE,
)
# People who work part of the time are counted in parts.
PEOPLE = re.compile(
    r"\b(FTEs?|full[ -]time equivalents?|headcount|mitarbeiter|vollzeitstellen|effectifs?( moyens?)?)"
    r"( ?\([^()]*\))?$",
    re.IGNORECASE,
)
SMALL_LETTER = re.compile(r"[(\[,] ?[mhs][)\]]? ?$")
MONEY = r"[€$£¥₹₩₽₺¢]|US\$|[A-Z]{3}|Rs\.?|p|pence|cents?|ct"
# What may follow money behind a slash and is its scale: €/mln.
SCALE = r"(?i:k|m|mn|mln|mio|bn|mrd|md|tsd|th|thousands?|millions?|billions?|crores?|lakhs?)\b"
FOR_ONE = re.compile(
    rf"[(\[,] ?({MONEY}|kg|g|t|km|kWh|hours?|lit(re|er)s?|l) ?/ ?(?!{SCALE})[^\W\d][\w²³ ]*[)\]]? ?$"
)


def is_measure(label: str) -> bool:
    """Whether a label ends with a measure of what it counts."""
    letter = SMALL_LETTER.search(label)
    if PEOPLE.search(label):
        return True
    return MEASURE.search(label) is not None or (letter is not None and MEASURED.search(label) is not None)


def is_for_one(label: str) -> bool:
    """Whether a label ends with what is given for one of something."""
    return FOR_ONE.search(label) is not None
