"""Turn Unicode CLDR's JSON packages into the compact locale data that core reads.

Run by hand when the data changes, never at install or in tests:

    npm pack cldr-core@48.2.0 cldr-numbers-full@48.2.0 cldr-dates-full@48.2.0 cldr-localenames-full@48.2.0
    # unpack each, then:
    python tools/build_locales.py CORE NUMBERS DATES NAMES

Writes to src/humble_sum/core/locales/data/, a line for each locale with what differs from its parent:
numbers.jsonl, currencies.jsonl, dates.jsonl; and what all locales share to shared.json.
"""

import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

TARGET = Path(__file__).parent.parent / "src/humble_sum/core/locales/data"
ROOT = "und"
WIDTHS = ("full", "long", "medium", "short")
Flat = dict[str, Any]


def load(path: Path) -> Any:
    return json.loads(path.read_text(encoding="utf-8"))


def numbers_of(folder: Path) -> Flat:
    """Number conventions of a locale: symbols and patterns of each numbering system it uses."""
    data = load(folder / "numbers.json")["main"][folder.name]["numbers"]
    own, native = data["defaultNumberingSystem"], data["otherNumberingSystems"].get("native", "latn")
    found: Flat = {"system": own, "native": native, "least": int(data["minimumGroupingDigits"])}
    for system in {own, native, "latn"}:
        symbols = data.get(f"symbols-numberSystem-{system}")
        if symbols is None:
            continue
        for key, name in (
            ("decimal", "decimal"),
            ("group", "group"),
            ("minusSign", "minus"),
            ("plusSign", "plus"),
            ("percentSign", "percent"),
            ("currencyDecimal", "money_decimal"),
            ("currencyGroup", "money_group"),
        ):
            if key in symbols:
                found[f"{system}.{name}"] = symbols[key]
        money = data[f"currencyFormats-numberSystem-{system}"]
        decimal = data[f"decimalFormats-numberSystem-{system}"]
        found |= {
            f"{system}.number_pattern": decimal["standard"],
            f"{system}.percent_pattern": data[f"percentFormats-numberSystem-{system}"]["standard"],
            f"{system}.money_pattern": money["standard"],
            f"{system}.money_letters": money.get("standard-alphaNextToNumber", money["standard"]),
            f"{system}.named": {k[18:]: v for k, v in money.items() if k.startswith("unitPattern-count-")},
            f"{system}.short": compact(decimal["short"]["decimalFormat"]),
            f"{system}.long": compact(decimal["long"]["decimalFormat"]),
        }
    return found


def compact(patterns: dict[str, str]) -> dict[str, dict[str, str]]:
    """Compact patterns by power of ten and plural form; forms like "other" are left out."""
    found: dict[str, dict[str, str]] = {}
    for key, pattern in patterns.items():
        size, _, plural = key.partition("-count-")
        if "alt" not in plural:
            found.setdefault(str(len(size) - 1), {})[plural] = pattern
    return {
        power: {p: text for p, text in forms.items() if p == "other" or text != forms["other"]}
        for power, forms in found.items()
    }


def currencies_of(folder: Path) -> Flat:
    """Signs and names of currencies by code: [symbol, short symbol, name, names by plural form]."""
    data = load(folder / "currencies.json")["main"][folder.name]["numbers"]["currencies"]
    found: Flat = {}
    for code, entry in data.items():
        name = entry.get("displayName", code)
        forms = {
            key[18:]: text
            for key, text in entry.items()
            if key.startswith("displayName-count-") and text != name
        }
        found[code] = [entry.get("symbol", code), entry.get("symbol-alt-narrow", ""), name, forms]
    return found


def dates_of(folder: Path) -> Flat:
    """Patterns and names of the Gregorian calendar."""
    data = load(folder / "ca-gregorian.json")["main"][folder.name]["dates"]["calendars"]["gregorian"]
    found: Flat = {}
    for width in WIDTHS:
        for kind in ("date", "time"):
            pattern = data[f"{kind}Formats"][width]
            digits = ""
            if isinstance(pattern, dict):
                digits, pattern = pattern.get("_numbers", ""), pattern["_value"]
            found[f"{kind}.{width}"] = pattern
            if digits:
                found[f"{kind}.{width}.digits"] = digits
    for context in ("format", "stand-alone"):
        for width in ("wide", "abbreviated"):
            found[f"months.{context}.{width}"] = list(data["months"][context][width].values())
            found[f"days.{context}.{width}"] = list(data["days"][context][width].values())
    found["month_year"] = data["dateTimeFormats"]["availableFormats"]["yMMM"]
    found["era"] = data["eras"]["eraAbbr"]["1"]
    periods = data["dayPeriods"]["format"]["abbreviated"]
    found["periods"] = [periods["am"], periods["pm"]]
    return found


def parents(core: Path) -> Callable[[str], str | None]:
    """The parent of a locale by UTS #35 inheritance; none for the root."""
    listed = load(core / "supplemental/parentLocales.json")["supplemental"]["parentLocales"]["parentLocale"]
    likely = load(core / "supplemental/likelySubtags.json")["supplemental"]["likelySubtags"]

    def parent(tag: str) -> str | None:
        if tag == ROOT:
            return None
        if tag in listed:
            return ROOT if listed[tag] == "root" else str(listed[tag])
        language, _, last = tag.rpartition("-")
        if not language:
            return ROOT
        if len(last) == 4 and last.isalpha() and likely.get(language, "").split("-")[1:2] != [last]:
            return ROOT
        return language

    return parent


def write_lines(
    name: str, main: Path, read: Callable[[Path], Flat], parent: Callable[[str], str | None]
) -> None:
    """One line for each locale: its tag, and what differs from the nearest locale it inherits from."""
    whole = {folder.name: read(folder) for folder in sorted(main.iterdir())}
    lines = []
    for tag, data in whole.items():
        above = parent(tag)
        while above is not None and above not in whole:
            above = parent(above)
        base = whole[above] if above else {}
        own = {key: value for key, value in data.items() if base.get(key) != value}
        gone = sorted(key for key in base if key not in data)
        line = {"up": above} | ({"gone": gone} if gone else {}) | {"is": own}
        lines.append(f"{tag}\t{json.dumps(line, ensure_ascii=False, sort_keys=True, separators=(',', ':'))}")
    (TARGET / name).write_text("\n".join(lines) + "\n", encoding="utf-8")


def shared(core: Path, names: Path, tags: list[str]) -> Flat:
    """Digits, plural rules, tag data and English names of locales."""
    supplemental = core / "supplemental"
    systems = load(supplemental / "numberingSystems.json")["supplemental"]["numberingSystems"]
    plurals = load(supplemental / "plurals.json")["supplemental"]["plurals-type-cardinal"]
    aliases = load(supplemental / "aliases.json")["supplemental"]["metadata"]["alias"]
    likely = load(supplemental / "likelySubtags.json")["supplemental"]["likelySubtags"]
    fractions = load(supplemental / "currencyData.json")["supplemental"]["currencyData"]["fractions"]
    said = {
        kind: load(names / f"main/en/{kind}.json")["main"]["en"]["localeDisplayNames"][kind]
        for kind in ("languages", "scripts", "territories", "variants")
    }
    languages = {tag.split("-")[0] for tag in tags}
    return {
        "digits": {id: s["_digits"] for id, s in systems.items() if s["_type"] == "numeric"},
        "plurals": {
            language: {
                key.removeprefix("pluralRule-count-"): rule.split("@")[0].strip()
                for key, rule in rules.items()
                if not key.endswith("-other")
            }
            for language, rules in plurals.items()
        },
        "likely": {
            tag: full
            for tag, full in likely.items()
            if full.split("-")[0] in languages or tag.split("-")[0] in languages
        },
        "languages": {
            old: new["_replacement"]
            for old, new in aliases["languageAlias"].items()
            if new["_replacement"].split("-")[0] in languages
        },
        "territories": {
            old: new["_replacement"].split()[0]
            for old, new in aliases["territoryAlias"].items()
            if len(old) == 2
        },
        "default": load(core / "defaultContent.json")["defaultContent"],
        "cash": {
            code: int(each["_digits"])
            for code, each in fractions.items()
            if code != "DEFAULT" and "_digits" in each
        },
        "names": said,
    }


def main() -> None:
    core, numbers, dates, names = (Path(argument) for argument in sys.argv[1:5])
    parent = parents(core)
    write_lines("numbers.jsonl", numbers / "main", numbers_of, parent)
    write_lines("currencies.jsonl", numbers / "main", currencies_of, parent)
    write_lines("dates.jsonl", dates / "main", dates_of, parent)
    tags = [folder.name for folder in (numbers / "main").iterdir()]
    data = shared(core, names, tags)
    text = json.dumps(data, ensure_ascii=False, sort_keys=True, separators=(",", ":"))
    (TARGET / "shared.json").write_text(text.replace('},"', '},\n"') + "\n", encoding="utf-8")
    (TARGET / "LICENSE").write_text((core / "LICENSE").read_text(encoding="utf-8"), encoding="utf-8")


if __name__ == "__main__":
    main()
