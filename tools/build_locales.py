"""Turn Unicode CLDR's JSON packages into the compact locale data that core reads.

Run by hand when the data changes, never at install or in tests:

    npm pack cldr-core@48.2.0 cldr-numbers-full@48.2.0   # then unpack both
    python tools/build_locales.py CORE_FOLDER NUMBERS_FOLDER

Writes one file per locale to src/humble_sum/core/locales/data/.
"""

import json
import sys
from pathlib import Path
from typing import Any

TARGET = Path(__file__).parent.parent / "src/humble_sum/core/locales/data"
# Our tag, the CLDR folder that holds its data (a default-content locale has none of its own).
LOCALES = {"en-US": "en", "en-IN": "en-IN", "de-DE": "de"}
POWERS = {
    "thousands": 3,
    "lakhs": 5,
    "millions": 6,
    "crores": 7,
    "billions": 9,
    "lakh_crores": 12,
    "trillions": 12,
}
# Words for sizes a locale has none for: CLDR's Indian English ones, and our own for hundreds.
LEFT_OUT = {
    "short": {"hundreds": "\u00a0hundred", "lakhs": "L", "crores": "Cr", "lakh_crores": "LCr"}
    | {"millions": "M", "billions": "B", "trillions": "T"},
    "full": {
        "hundreds": "\u00a0hundred",
        "lakhs": "\u00a0lakh",
        "crores": "\u00a0crore",
        "lakh_crores": "\u00a0lakh\u00a0crore",
        "millions": "\u00a0million",
        "billions": "\u00a0billion",
        "trillions": "\u00a0trillion",
    },
}
PLURALS = {
    "hundreds": "hundreds",
    "thousands": "thousands",
    "lakhs": "lakhs",
    "millions": "millions",
    "crores": "crores",
    "billions": "billions",
    "lakh_crores": "lakh crores",
    "trillions": "trillions",
}
# Lakh crores and trillions are one power: a locale's word for it is given to the one it means.
INDIAN = {"lakhs", "crores", "lakh_crores"}


def load(path: Path) -> Any:
    return json.loads(path.read_text(encoding="utf-8"))


def words(patterns: dict[str, str]) -> dict[str, str]:
    """Size name to the text CLDR puts after a figure of exactly that size."""
    found = {}
    for size, power in POWERS.items():
        pattern = patterns[f"{10**power}-count-other"]
        if not pattern.startswith("0") or pattern.startswith("00") or pattern.strip("0") == "":
            continue
        if power == 12 and ("lakh" in pattern.lower() or "L" in pattern) != (size == "lakh_crores"):
            continue
        found[size] = pattern[1:].replace("'", "").replace(" ", "\u00a0")
    return found


def sizes(pattern: str) -> list[int]:
    """Group sizes from the right of a UTS #35 pattern: #,##,##0 gives [3, 2]."""
    groups = [len(group) for group in pattern.split(";")[0].split(".")[0].split(",")]
    return [groups[-1]] if len(groups) == 2 else [groups[-1], groups[-2]]


def conventions(folder: Path) -> dict[str, Any]:
    numbers = load(folder / "numbers.json")["main"][folder.name]["numbers"]
    system = numbers["defaultNumberingSystem"]
    symbols = numbers[f"symbols-numberSystem-{system}"]
    money = numbers[f"currencyFormats-numberSystem-{system}"]
    compact = numbers[f"decimalFormats-numberSystem-{system}"]
    decimal = compact["standard"]
    full = words(compact["long"]["decimalFormat"])
    short = full | words(compact["short"]["decimalFormat"])
    caption = {size: word.replace("\u00a0", " ").strip() for size, word in full.items()}
    english = folder.name.startswith("en")
    named = load(folder / "currencies.json")["main"][folder.name]["numbers"]["currencies"]
    return {
        "decimal": symbols["decimal"],
        "group": symbols["group"],
        "minus": symbols["minusSign"].replace("-", "\u2212"),
        "plus": symbols["plusSign"],
        "percent": numbers[f"percentFormats-numberSystem-{system}"]["standard"].replace(
            "%", symbols["percentSign"]
        ),
        "grouping": sizes(decimal),
        "minimum_grouping": int(numbers["minimumGroupingDigits"]),
        "money": money["standard"],
        "money_beside_letters": money["standard-alphaNextToNumber"],
        "money_by_name": money["unitPattern-count-other"],
        "short": LEFT_OUT["short"] | short,
        "full": LEFT_OUT["full"] | full,
        "caption": PLURALS | ({} if english else caption),
        "symbols": {
            code: entry["symbol"] for code, entry in named.items() if entry.get("symbol", code) != code
        },
        "short_symbols": {
            code: entry["symbol-alt-narrow"] for code, entry in named.items() if "symbol-alt-narrow" in entry
        },
        "names": {
            code: [
                entry.get("displayName-count-one", entry["displayName"]),
                entry.get("displayName-count-other", entry["displayName"]),
            ]
            for code, entry in named.items()
        },
    }


def main() -> None:
    core, numbers = (Path(argument) for argument in sys.argv[1:3])
    for tag, folder in LOCALES.items():
        data = conventions(numbers / "main" / folder)
        text = json.dumps(data, ensure_ascii=False, sort_keys=True, separators=(",", ":"))
        (TARGET / f"{tag}.json").write_text(text.replace('},"', '},\n"') + "\n", encoding="utf-8")
    (TARGET / "LICENSE").write_text((core / "LICENSE").read_text(encoding="utf-8"), encoding="utf-8")


if __name__ == "__main__":
    main()
