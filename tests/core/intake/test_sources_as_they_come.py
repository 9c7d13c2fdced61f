"""Sources such as analysts hand over, with what is in them: every amount that is read is right, or named.

A truth has the statements of a source: columns, lines with their amounts in ones, and sums that have to be
found. Percentages stand in points there. Lines are looked for by their labels, in order.
"""

from __future__ import annotations

import json
import re
import unicodedata
import unittest
from decimal import Decimal
from pathlib import Path
from typing import Any

from humble_sum.core.errors import InputError
from humble_sum.core.intake.draft import Draft, draft, stated_units
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.packing import Kept, name_of, pack_of
from humble_sum.core.intake.scale_words import SCALE_NAMES
from humble_sum.core.statements.relations import exact_amounts
from humble_sum.exchange.sources.opening import open_source
from tests.making import CASES

FOLDER = CASES / "intake"
QUIET = ("note", "text", "code")


def plain(label: str) -> str:
    """A label for comparing: no case, marks or repeated spaces."""
    bare = re.sub(r"[\u00b9\u00b2\u00b3\u2070-\u2079*\u2020\u2021\u00a7]", "", label)
    return " ".join(unicodedata.normalize("NFKC", bare).casefold().split())


def read(path: Path) -> list[Draft]:
    return [draft(table) for table in open_source(path.name, path.read_bytes())]


def amounts_of(made: Draft) -> dict[str, list[list[Decimal | None]]]:
    """Every line's amounts by label: those that columns make of others too."""
    statement = statement_of(made, "s", "S")
    exact = exact_amounts(statement)
    found: dict[str, list[list[Decimal | None]]] = {}
    for line in statement.lines:
        if line.kind != "heading":
            row = [exact[line.id, column.id] for column in statement.columns]
            found.setdefault(plain(line.label), []).append(row)
    return found


class AsTheyComeTest(unittest.TestCase):
    def truths(self) -> list[tuple[Path, dict[str, Any]]]:
        found = []
        for file in sorted(FOLDER.glob("*.truth.json")):
            truth = json.loads(file.read_text(encoding="utf-8"))
            found.append((FOLDER / truth["source"], truth))
        self.assertGreater(len(found), 30)
        return found

    def test_amounts_are_what_they_are(self) -> None:
        right = 0
        for path, truth in self.truths():
            with self.subTest(path.name):
                if truth["exit"] == [2]:
                    with self.assertRaises(InputError):
                        pack_of([Kept(made, name_of(made)) for made in read(path)], "E", "P")
                    continue
                drafts = read(path)
                lines: dict[str, list[list[Decimal | None]]] = {}
                for made in drafts:
                    for label, rows in amounts_of(made).items():
                        lines.setdefault(label, []).extend(rows)
                doubted = " ".join(doubt.text for made in drafts for doubt in made.doubts)
                binary = truth.get("tolerance") == "binary"
                for statement in truth["statements"]:
                    right += self.compared(statement, lines, doubted, binary)
        self.assertGreater(right, 350)

    def compared(self, statement: dict[str, Any], lines: dict[str, Any], doubted: str, binary: bool) -> int:
        kinds = {column["name"]: column["kind"] for column in statement["columns"]}
        # A share of a total is worked out anew, and not kept as it was rounded.
        shares = {each["column"] for each in statement.get("cross", []) if "share" in each}
        right = 0
        for line in statement["lines"]:
            if line.get("optional") or line["kind"] == "heading" or not line["label"]:
                continue
            rows = lines.get(plain(line["label"]), [])
            read = {amount for row in rows for amount in row if amount is not None}
            for column, text in line["amounts"].items():
                if text is None or column in shares or kinds[column] in QUIET or line.get("also_times"):
                    continue
                wanted = Decimal(text)
                if line["kind"] == "percent" or kinds[column] == "percent":
                    wanted = wanted / 100
                near = [
                    a
                    for a in read
                    if a == wanted or (binary and abs(a - wanted) <= abs(wanted) * Decimal("1e-11"))
                ]
                raw = str(line.get("raw", {}).get(column, ""))
                self.assertTrue(
                    near or (raw and raw in doubted), f"{line['label']}, {column}: {text} in {read}"
                )
                right += 1
        return right

    def test_units_are_read_where_they_are_stated(self) -> None:
        for path, truth in self.truths():
            unit = truth.get("unit")
            if not unit or truth["exit"] == [2]:
                continue
            with self.subTest(path.name):
                drafts = read(path)
                if "scale" in unit:
                    scales = {
                        SCALE_NAMES.get(u.power or 0, "ones") for made in drafts for u in stated_units(made)
                    }
                    self.assertIn(unit["scale"], scales or {"ones"})
                if "currency" in unit:
                    right = unit["currency"] if isinstance(unit["currency"], list) else [unit["currency"]]
                    self.assertIn(next((made.currency for made in drafts if made.currency), None), right)

    def test_packs_made_of_them_hold_together(self) -> None:
        for path, truth in self.truths():
            if truth["exit"] != [2]:
                with self.subTest(path.name):
                    kept = [Kept(made, name_of(made)) for made in read(path)]
                    self.assertTrue(pack_of(kept, "Entity", "Period").statements)
