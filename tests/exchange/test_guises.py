"""One statement in many guises: marks, signs, units, headings and files drawn at random are read as meant, or
asked about. `make soak` draws more of them."""

from __future__ import annotations

import csv
import html
import io
import random
import unittest
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.intake.questions import questions
from humble_sum.exchange.sources.opening import open_source
from tests.exchange.test_awkward_sources import sums
from tests.soak import SEED, TIMES, told

GUISES = 120 * TIMES
INCOME = ("Fares", "Freight", "Charters", "Parking", "Kiosk rents", "Mail contract")
COSTS = ("Fuel", "Wages", "Moorings", "Repairs", "Insurance", "Harbour dues", "Audit")
UNITS = (
    *(
        ("", 0),
        ("", 0),
        ("£000", 3),
        ("in thousands", 3),
        ("₹ in lakhs", 5),
        ("Amounts in crores of rupees", 7),
    ),
    *(("kSEK", 3), ("Mio. EUR", 6), ("w tys. zł", 3), ("dalam jutaan rupiah", 6), ("millones de pesos", 6)),
    *(("In thousands of Canadian dollars", 3), ("тыс. руб.", 3), ("百万円", 6), ("R$ mil", 3), ("USDm", 6)),
)
MARKS = (",.", ".,", "\u202f,", "\u00a0,", "'.", "\u2019.", " .", " ,")
DIGITS = ("", "", "", "", "٠١٢٣٤٥٦٧٨٩", "०१२३४५६७८९", "๐๑๒๓๔๕๖๗๘๙")
SIGNS = ("-{}", "\u2212{}", "({})", "{}-")
ZEROS = ("0", "-", "\u2013", "nil", "-\u00b9")
NOTES = ("", "", "", "", "", "*", "\u2020", "\u00b9", " (a)")
HEADS = (
    ("2026", "2025", "2024"),
    ("31.12.2026", "31.12.2025", "31.12.2024"),
    ("Year ended 30 June 2026", "Year ended 30 June 2025", "Year ended 30 June 2024"),
    ("FY26", "FY25", "FY24"),
)


@dataclass
class Statement:
    """Rows of a label and amounts, a heading without any; what each total adds, in signs of its parts."""

    rows: list[tuple[str, list[Decimal]]]
    adds: dict[str, list[str]]


def statement(pick: random.Random, columns: int, places: int) -> Statement:
    made = Statement([], {})
    most = 10 ** pick.randint(4, 8)
    totals = []
    for heading, names, total in (("Income", INCOME, "Total income"), ("Costs", COSTS, "Total costs")):
        chosen = pick.sample(names, pick.randint(2, 5))
        if pick.random() < 0.6:
            made.rows.append((heading, []))
        amounts = [[Decimal(pick.randint(1, most)).scaleb(-places) for _ in range(columns)] for _ in chosen]
        if pick.random() < 0.3:
            amounts[0] = [Decimal(0)] * columns
        if pick.random() < 0.3:
            amounts[-1] = [-amount for amount in amounts[-1]]
        made.rows += zip(chosen, amounts, strict=True)
        totals.append([sum(column, Decimal(0)) for column in zip(*amounts, strict=True)])
        made.rows.append((total, totals[-1]))
        made.adds[total] = chosen
    made.rows.append(("Operating profit", [a - b for a, b in zip(*totals, strict=True)]))
    made.adds["Operating profit"] = ["Total income", "Total costs"]
    return made


def printed(pick: random.Random, amount: Decimal, places: int, marks: str, sign: str, digits: str) -> str:
    if not amount:
        return pick.choice(ZEROS)
    text = f"{abs(amount):,.{places}f}".translate(str.maketrans(",.", marks))
    text = text.translate(str.maketrans("0123456789", digits)) if digits else text
    return (sign.format(text) if amount < 0 else text) + pick.choice(NOTES)


def written(pick: random.Random, rows: list[list[str]]) -> tuple[str, bytes]:
    """The rows as a file of some sort, with its name."""
    sort = pick.choice((",", ";", "\t", "html", "lined"))
    if sort == "html":
        cells = ("".join(f"<td>{html.escape(cell)}</td>" for cell in row) for row in rows)
        return "a.html", f"<table>{''.join(f'<tr>{row}</tr>' for row in cells)}</table>".encode()
    if sort == "lined":
        widths = [max(len(row[n]) for row in rows if any(row[1:])) for n in range(len(rows[0]))]
        lines = [
            row[0].ljust(widths[0])
            + "".join(f"   {cell:>{width}}" for cell, width in zip(row[1:], widths[1:], strict=True))
            if any(row[1:])
            else row[0]
            for row in rows
        ]
        return "a.txt", "\n".join(lines).encode()
    out = io.StringIO()
    csv.writer(out, delimiter=sort).writerows(rows)
    return "a.csv", out.getvalue().encode(pick.choice(("utf-8", "utf-8-sig", "utf-16")))


class GuisesTest(unittest.TestCase):
    def test_what_is_read_is_what_was_meant_or_is_asked_about(self) -> None:
        asked = 0
        for number in range(GUISES):
            pick = random.Random(SEED + number)
            columns, places = pick.randint(1, 3), pick.choice((0, 0, 1, 2))
            meant = statement(pick, columns, places)
            unit, power = pick.choice(UNITS)
            style = (pick.choice(MARKS), pick.choice(SIGNS), pick.choice(DIGITS))
            heads = [pick.choice(("", "Line")), *pick.choice(HEADS)[:columns]]
            title = [["Guillemot Lines plc"], [unit]] if pick.random() < 0.7 else [["Guillemot Lines plc"]]
            if unit and len(title) == 1:
                heads[1:] = [f"{head} {unit}" for head in heads[1:]]
            rows = [[*row, *[""] * (columns + 1 - len(row))] for row in [*title, heads]]
            for label, amounts in meant.rows:
                cells = [printed(pick, amount, places, *style) for amount in amounts]
                rows.append([label, *(cells or [""] * columns)])
            name, data = written(pick, rows)
            with self.subTest(number=number, unit=unit, style=style, name=name):
                (table,) = open_source(name, data)
                made = draft(table)
                if questions(made):
                    asked += 1
                else:
                    self.compare(made, meant, power)
        self.assertLess(asked, GUISES // 4)
        told(f"guises of statements, {asked:,} of them with a question", GUISES)

    def compare(self, made: Draft, meant: Statement, power: int) -> None:
        found = {line.label: list(line.amounts) for line in made.lines if not line.heading}
        wanted = {label: [a.scaleb(power) for a in amounts] for label, amounts in meant.rows if amounts}
        self.assertEqual(found, wanted)
        self.assertEqual(sums(made), meant.adds)


if __name__ == "__main__":
    unittest.main()
