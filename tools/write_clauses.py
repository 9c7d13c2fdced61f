"""Write docs/clauses.md: every value of every clause with a figure printed by it. A test keeps it current."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any, get_args

from humble_sum.core.printing.clauses import TYPES
from humble_sum.core.printing.printer import show
from humble_sum.core.printing.resolved_clauses import NAMES

PAGE = Path(__file__).parent.parent / "docs/clauses.md"
LARGE, LOSS, TINY, ZERO = "277037049.75", "-277037049.75", "-40000", "0"
INR = {"locale": "en-IN", "currency": "INR"}
LAKHS = INR | {"scale": "lakhs"}
CANADIAN = {"locale": "fr-CA", "currency": "USD"}

# Clause, its values, the amount printed, and the other clauses of the rule.
Rows = list[tuple[str, list[Any], str | None, dict[str, Any]]]
ROWS: Rows = [
    ("form", ["amount", "number"], LARGE, INR),
    ("form", ["percent", "points", "basis_points", "multiple"], "0.1234", {"decimals": {"fixed": 1}}),
    ("form", ["yes_no"], "1", {}),
    ("form", ["date"], "20260331", {"locale": "en-GB"}),
    ("form", ["time"], "1430", {"locale": "en-GB"}),
    ("form", ["text"], "420.50", {}),
    ("currency", ["INR", "EUR", "JPY", "KWD"], "1250.5", {"locale": "en-IN", "decimals": "currency"}),
    ("currency", [None], "1250.5", {}),
    ("currency", ["record"], "1250.5", {}),
    (
        "money_sign",
        ["symbol", "short", "code", "name", "none"],
        LARGE,
        CANADIAN,
    ),
    ("money_shown", ["every", "first_and_totals", "caption"], LARGE, INR),
    (
        "scale",
        [
            *("ones", "hundreds", "thousands", "lakhs", "millions"),
            *("crores", "billions", "lakh_crores", "trillions"),
        ],
        "27703704975000",
        {"locale": "en-IN", "decimals": {"up_to": 2}},
    ),
    ("scale", ["fit"], LARGE, {"locale": "en-US", "decimals": {"fixed": 1}}),
    ("ladder", ["western", "indian", "myriad"], LARGE, {"scale": "fit", "locale": "en-IN"}),
    ("scale_word", ["caption", "short", "full", "none"], LARGE, {"locale": "en-US", "scale": "millions"}),
    ("decimals", [{"fixed": 2}, {"up_to": 2}, {"significant": 3}, "currency"], "1234.5", INR),
    ("rounding", ["half_up", "half_even", "half_down", "away", "toward_zero", "up", "down"], "-2.5", {}),
    ("step", ["0.05", "5"], "1234.57", {"decimals": {"fixed": 2}}),
    ("locale", ["en-IN", "mr-IN", "sv-SE", "de-DE", "ar-EG", "fr-CH"], LARGE, {"decimals": {"fixed": 2}}),
    ("digits", ["locale", "latin", "native"], LARGE, {"locale": "mr-IN"}),
    ("grouping", ["locale", "threes", "lakhs", "fours", "none"], LARGE, {"locale": "en-US"}),
    ("negative", ["minus", "trailing_minus", "brackets", "cr", "triangle", "unsigned"], LOSS, LAKHS),
    ("negative_tone", ["plain", "rust"], LOSS, LAKHS),
    ("zero", ["figure", "dash", "blank", {"word": "nil"}], ZERO, LAKHS),
    (
        "rounds_away",
        ["figure", "signed", "dash", "less_than", "reveal"],
        TINY,
        LAKHS | {"negative": "brackets"},
    ),
    ("missing", ["blank", "dash", {"word": "n/a"}], None, LAKHS),
    ("before", ["net"], LARGE, LAKHS),
    ("after", ["net"], LARGE, LAKHS),
    (
        "bands",
        [
            [
                {"when": {"below": "-0.1"}, "mark": "▼", "tone": "rust"},
                {"when": {"below": "0"}, "mark": "▼"},
                {"when": {"above": "0"}, "mark": "▲"},
            ]
        ],
        "-0.125",
        {"form": "percent", "decimals": {"fixed": 1}},
    ),
    ("words", [{"yes": "on", "no": "off"}], "0", {"form": "yes_no"}),
    ("words", [{"one": "litre", "many": "litres"}], "1250", {"form": "number", "locale": "en-IN"}),
    ("line_up", [True, False], LOSS, LAKHS | {"negative": "brackets"}),
    ("shown", [True, False], LARGE, LAKHS),
    ("width", [{"most": 6, "gives_way": "nothing"}], LARGE, {"decimals": {"fixed": 2}}),
    (
        "width",
        [{"most": 11, "gives_way": "decimals"}, {"most": 6, "gives_way": "scale"}],
        LARGE,
        {"locale": "en-US", "decimals": {"fixed": 2}},
    ),
]
HEAD = """# Every clause, printed

What each value of each clause prints. The rule of a row is its clause and those beside it; all others
are at their defaults. Marks and tones stand apart from a figure's digits. `python -m tools.write_clauses`
made this page.

| clause | value | with | amount | prints |
|---|---|---|---|---|
"""


def rows() -> Rows:
    """Those above, and every other clause with the values that its type lists."""
    told = {clause for clause, *_ in ROWS}
    return ROWS + [
        (name, [True, False] if TYPES[name] is bool else list(get_args(TYPES[name])), LARGE, LAKHS)
        for name in NAMES
        if name not in told
    ]


def page() -> str:
    """The page, made by the code that prints."""
    lines = []
    for clause, values, amount, others in rows():
        for value in values:
            (shown,) = show([amount], others | {clause: value})
            told = [f"`{_cell(shown.text)}`" if shown.text else "nothing"]
            told += [f"in {shown.tone}"] if shown.tone != "plain" else []
            told += ["too wide, and says so"] if shown.too_wide else []
            told += (
                [f"`{shown.hang}` past the column"] if shown.hang and clause == "line_up" and value else []
            )
            cells = [
                f"`{clause}`",
                f"`{_cell(json.dumps(value, ensure_ascii=False))}`",
                f"`{_cell(json.dumps(others, ensure_ascii=False)[1:-1])}`" if others else "",
                amount or "missing",
                ", ".join(told),
            ]
            lines.append(f"| {' | '.join(cells)} |")
    return HEAD + "\n".join(lines) + "\n"


def _cell(text: str) -> str:
    return text.replace("|", "\\|").replace("\xa0", " ").replace("\u202f", " ")


def main() -> None:
    PAGE.write_text(page(), encoding="utf-8")


if __name__ == "__main__":
    main()
