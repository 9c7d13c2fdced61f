"""Write how every CLDR locale writes a few numbers, for tests of reading and printing.

Run by hand when the data changes:

    npm pack cldr-core@48.2.0 cldr-numbers-full@48.2.0   # then unpack both
    python -m tools.build_number_cases CORE_FOLDER NUMBERS_FOLDER

This is a plain reading of UTS #35 of its own, so that it can contradict the product's.
"""

import json
import sys
from pathlib import Path
from typing import Any

TARGET = Path(__file__).parent.parent / "tests/cases/locale_numbers.json"
NUMBERS = (("number", "1234567.89"), ("number", "-1234.5"), ("number", "9876"), ("percent", "0.187"))


def main(core: Path, numbers: Path) -> None:
    systems = load(core / "supplemental/numberingSystems.json")["supplemental"]["numberingSystems"]
    found = []
    for folder in sorted((numbers / "main").iterdir()):
        data = load(folder / "numbers.json")["main"][folder.name]["numbers"]
        used = {data["defaultNumberingSystem"], *data.get("otherNumberingSystems", {}).values()}
        for system in sorted(used):
            digits = systems[system].get("_digits")
            symbols = data.get(f"symbols-numberSystem-{system}")
            if digits and symbols:
                written = [write(data, system, symbols, digits, form, value) for form, value in NUMBERS]
                found.append([folder.name, system, *written])
    lines = ",\n".join(json.dumps(row, ensure_ascii=False) for row in found)
    head = json.dumps([["", "", *(value for _, value in NUMBERS)]])[1:-1]
    TARGET.write_text(f"[\n{head},\n{lines}\n]\n", encoding="utf-8")


def write(data: Any, system: str, symbols: Any, digits: str, form: str, value: str) -> str:
    """One number in a locale's pattern, every digit kept."""
    kind = "decimalFormats" if form == "number" else "percentFormats"
    pattern = data[f"{kind}-numberSystem-{system}"]["standard"].split(";")[0]
    start = min(pattern.index(mark) for mark in "#0" if mark in pattern)
    end = max(pattern.rindex(mark) for mark in "#0" if mark in pattern) + 1
    sizes = [len(part) for part in pattern[start:end].split(".")[0].split(",")[1:]]
    negative, plain = value.startswith("-"), value.lstrip("-")
    if form == "percent":
        plain = "18.7"
    whole, _, decimals = plain.partition(".")
    least = int(data["minimumGroupingDigits"])
    body = group(whole, sizes, least, symbols["group"])
    body += symbols["decimal"] + decimals if decimals else ""
    body = body.translate({ord(str(n)): digit for n, digit in enumerate(digits)})
    text: str = pattern[:start] + body + pattern[end:]
    text = text.replace("%", symbols["percentSign"])
    return f"{symbols['minusSign']}{text}" if negative else text


def group(whole: str, sizes: list[int], least: int, mark: str) -> str:
    if not sizes or len(whole) < sizes[-1] + least:
        return whole
    parts, rest, size = [whole[-sizes[-1] :]], whole[: -sizes[-1]], sizes[0] if len(sizes) > 1 else sizes[-1]
    while rest:
        parts.insert(0, rest[-size:])
        rest = rest[:-size]
    return mark.join(parts)


def load(path: Path) -> Any:
    return json.loads(path.read_text(encoding="utf-8"))


if __name__ == "__main__":
    main(Path(sys.argv[1]), Path(sys.argv[2]))
