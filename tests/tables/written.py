"""Made-up tables written down, and what is true of every cell of them."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from decimal import Decimal

from humble_sum.core.intake.table import SheetCell, Table
from tests.tables.content import WORDS, Content, Draw, Head, Row
from tests.tables.odd_scenarios import ODD
from tests.tables.scenarios import OF_LANGUAGES, SCENARIOS
from tests.tables.styles import Side, Style, style

Place = tuple[int, int]
SECOND_BELOW = 0.08  # of the sheets have two tables
SYMBOLS = {"GBP": "£", "USD": "$", "EUR": "€"}
UNIT_HEADS = {"en": "Unit", "de": "Einheit"}


@dataclass
class Truth:
    """What is true of a table: the amounts of its cells as a pack keeps them (None: none there), the rows that
    each total adds with their signs, and the cells whose measure the table itself does not tell."""

    amounts: dict[Place, Decimal | None] = field(default_factory=dict)
    sums: dict[int, frozenset[tuple[int, int]]] = field(default_factory=dict)
    open: set[Place] = field(default_factory=set)
    off: set[Place] = field(default_factory=set)


@dataclass(frozen=True)
class Made:
    """A made-up table with its truth, and how it came to be."""

    table: Table
    truth: Truth
    content: Content
    style: Style
    seed: str
    below: Made | None = None


def tables(side: Side, count: int, seed: int = 0) -> Iterator[Made]:
    """So many tables of one side."""
    for number in range(count):
        yield made(f"{side} {seed} {number}", side)


def made(name: str, side: Side) -> Made:
    """The table of a name, always the same; some have a second one below them on their sheet."""
    first = _one(name, side)
    if random.Random(f"below {name}").random() >= SECOND_BELOW:
        return first
    return _below(first, _one(f"{name} below", side))


def _below(first: Made, second: Made) -> Made:
    """Two tables one under the other, an empty row between them. The sheet's name is that of the first."""
    if second.style.unit_at == "sheet" or second.style.unit is None or second.style.titles == 0:
        return first  # its unit would be that of the first, or it would begin with nothing of its own
    width = max(first.table.width, second.table.width)
    gap = len(first.table.rows) + 1
    rows = [*first.table.rows, (), *second.table.rows]
    padded = tuple((*row, *[SheetCell()] * (width - len(row))) for row in rows)
    truth = Truth(
        first.truth.amounts | {(row + gap, n): amount for (row, n), amount in second.truth.amounts.items()},
        first.truth.sums
        | {
            row + gap: frozenset((part + gap, sign) for part, sign in parts)
            for row, parts in second.truth.sums.items()
        },
        # Amounts without a unit above those of a table that states one: a colleague asks.
        first.truth.open
        | {place for place in first.truth.amounts if first.style.unit is None}
        | {(row + gap, n) for row, n in second.truth.open},
        first.truth.off | {(row + gap, n) for row, n in second.truth.off},
    )
    return replace(first, table=replace(first.table, rows=padded), truth=truth, below=second)


def _one(name: str, side: Side) -> Made:
    draw = random.Random(name)
    scenario = draw.choice(SCENARIOS + ODD)
    chosen = style(name, side, scenario in OF_LANGUAGES)
    content = scenario(Draw(name, chosen.language, chosen.heads))
    chosen = _fitting(content, chosen)
    return _Writer(content, chosen, name).made()


def _fitting(content: Content, chosen: Style) -> Style:
    """The style, but for what nobody does with such a table: a unit over columns of percentages, heads of
    periods where there are none, a note on each of seven accounts."""
    measures = {head.measure for head in content.heads}
    at = chosen.unit_at
    if at == "column" and any(row.unit for row in content.rows):
        at = "above"
    if at == "heads" and (len(measures) > 1 or not content.periods):
        at = "row" if len(measures) == 1 else "above"
    mixed = any(row.measure != "money" for row in content.rows)
    if (mixed or content.own_units) and at in ("heads", "row", "column"):
        at = "above"
    unit = None if content.no_scale else chosen.unit
    at = "nowhere" if unit is None else at
    layout = "plain" if any(len(head.texts) > 1 for head in content.heads) else chosen.layout
    if layout == "currency cells" and (chosen.language != "en" or mixed or content.debit_credit):
        layout = "plain"
    return replace(
        chosen,
        unit=unit,
        unit_at=at,
        layout=layout,
        sides=chosen.sides if content.debit_credit else None,
        notes=chosen.notes if content.periods and not mixed else "none",
        wrapped=chosen.wrapped and content.periods,
        fault="" if content.debit_credit else chosen.fault,
        numbers=chosen.numbers and layout != "currency cells",
    )


class _Writer:
    """Writes one table, cell by cell."""

    def __init__(self, content: Content, style: Style, seed: str):
        self.content, self.style, self.seed = content, style, seed
        self.draw = random.Random(f"writing {seed}")
        self.truth = Truth()
        self.rows: list[list[SheetCell]] = []
        self.places: dict[int, int] = {}
        self.power = style.unit.power if style.unit else 0
        self.side_head = self.draw.choice(("D/C", "S/H", "Side", ""))
        self.columns()

    def columns(self) -> None:
        """Where labels, figures and what stands beside them are."""
        at = 0
        self.code = None
        if self.style.codes != "none":
            self.code, at = at, at + 1
        self.before = self.after = None
        if any(row.before for row in self.content.rows):
            self.before, at = at, at + 1
        self.label, at = at, at + 1
        self.note = self.unit = self.side = None
        if self.style.notes != "none":
            self.note, at = at, at + 1
        if self.style.unit_at == "column":
            self.unit, at = at, at + 1
        self.figures, self.signs = [], {}
        for place in range(len(self.content.heads)):
            if self.style.layout == "currency cells":
                self.signs[place], at = at, at + 1
            self.figures.append(at)
            at += 1
        if self.style.sides and self.style.sides_at == "column":
            self.side, at = at, at + 1
        if any(row.after for row in self.content.rows):
            self.after, at = at, at + 1
        self.width = at

    def made(self) -> Made:
        self.titles()
        self.heads()
        faulty = self.faulty()
        for number, row in enumerate(self.content.rows):
            if number and number == len(self.content.rows) // 2 and self.style.layout == "repeated":
                self.head_row()
            if number and number == len(self.content.rows) // 2 and self.style.layout == "blank":
                self.put([])
            self.line(number, row, faulty.get(number))
        for number, row in enumerate(self.content.rows):
            if row.parts:
                parts = frozenset((self.places[n], sign) for n, sign in row.parts)
                self.truth.sums[self.places[number]] = parts
        if self.style.below:
            self.put([])
            self.put([(self.label, SheetCell("See the notes on the following pages."))])
        name = self.style.unit.text if self.style.unit and self.style.unit_at == "sheet" else "Sheet1"
        rows = tuple(tuple(row) for row in self.rows)
        return Made(Table("made.csv", name, rows), self.truth, self.content, self.style, self.seed)

    def put(self, cells: list[tuple[int, SheetCell]]) -> int:
        row = [SheetCell()] * self.width
        for place, cell in cells:
            row[place] = cell
        self.rows.append(row)
        return len(self.rows) - 1

    def titles(self) -> None:
        unit = self.style.unit
        said = [
            "Lanternfish Ferries",
            f"Statement: {self.content.name}",
            "for the year ended 31 December 2026",
        ]
        for text in said[: self.style.titles]:
            self.put([(0, SheetCell(text))])
        if unit and self.style.unit_at == "above":
            self.put([(0, SheetCell(unit.text))])
        if unit and self.style.unit_at == "right":
            self.put([(self.figures[-1], SheetCell(unit.text))])
        if self.style.titles and self.draw.random() < 0.5:
            self.put([])

    def heads(self) -> None:
        if any(len(head.texts) > 1 for head in self.content.heads):
            tops = [head.texts[0] for head in self.content.heads]
            # Over several columns a text stands over the first of them.
            self.put(
                [
                    (self.figures[n], SheetCell(text))
                    for n, text in enumerate(tops)
                    if n == 0 or tops[n - 1] != text
                ]
            )
        self.head_row()
        unit = self.style.unit
        if unit and self.style.unit_at == "row":
            money = [n for n, head in enumerate(self.content.heads) if head.measure == "money"]
            self.put([(self.figures[n], SheetCell(unit.text)) for n in money])

    def head_row(self) -> None:
        say = self.words()
        cells = []
        unit = self.style.unit
        corner = say["label"] if self.style.label_head else ""
        if unit and self.style.unit_at == "corner":
            corner = unit.text
        if corner:
            cells.append((self.label, SheetCell(corner)))
        if self.code is not None and self.style.codes == "named":
            cells.append((self.code, SheetCell("Code")))
        if self.note is not None and self.style.notes == "named":
            cells.append((self.note, SheetCell(say["notes"])))
        if self.unit is not None:
            cells.append((self.unit, SheetCell(UNIT_HEADS.get(self.style.language, "Unit"))))
        if self.side is not None:
            cells.append((self.side, SheetCell(self.side_head)))
        for place, head in enumerate(self.content.heads):
            text = head.texts[-1]
            if unit and self.style.unit_at == "heads" and head.measure == "money":
                text = f"{text} {unit.text}"
            if self.style.numbers and text.isdigit():
                cells.append((self.figures[place], SheetCell(Decimal(text))))
            else:
                cells.append((self.figures[place], SheetCell(text)))
        self.put(cells)

    def words(self) -> dict[str, str]:
        return dict(WORDS[self.style.language])

    def faulty(self) -> dict[int, str]:
        """One row with a fault: a total off by one, or a figure that is missing or a text."""
        if not self.style.fault:
            return {}
        wanted = "total" if self.style.fault == "off" else "line"
        of = [n for n, row in enumerate(self.content.rows) if row.kind == wanted and row.measure == "money"]
        of = [n for n in of if self.content.rows[n].amounts[0] is not None]
        return {self.draw.choice(of): self.style.fault} if of else {}

    def line(self, number: int, row: Row, fault: str | None) -> None:
        cells: list[tuple[int, SheetCell]] = []
        label = "  " * row.level + row.label
        if row.unit:
            label = f"{label} ({row.unit})"
        if self.style.wrapped and number == 1 and " " in label:
            begins, _, label = label.partition(" ")
            self.put([(self.label, SheetCell(begins))])
        cells.append((self.label, SheetCell(label)))
        at = len(self.rows)
        self.places[number] = at
        for beside, text in ((self.before, row.before), (self.after, row.after)):
            if beside is not None:
                cells.append((beside, SheetCell(text)))
        if self.code is not None:
            cells.append((self.code, SheetCell(str(1_000 + 10 * number))))
        if self.note is not None and row.kind == "line" and self.draw.random() < 0.7:
            cells.append(
                (self.note, SheetCell(Decimal(number + 3) if self.style.numbers else str(number + 3)))
            )
        if self.unit is not None and self.style.unit is not None and row.kind != "heading":
            cells.append((self.unit, SheetCell(self.style.unit.text)))
        if row.kind == "heading":
            self.put(cells)
            return
        for place, head in enumerate(self.content.heads):
            amount = row.amounts[place] if place < len(row.amounts) else None
            self.figure(cells, at, number, place, head, row, amount, fault if place == 0 else None)
        self.put(cells)

    def figure(
        self,
        cells: list[tuple[int, SheetCell]],
        at: int,
        number: int,
        place: int,
        head: Head,
        row: Row,
        amount: Decimal | None,
        fault: str | None,
    ) -> None:
        column = self.figures[place]
        if fault == "off" and amount is not None:
            amount += 1
            self.truth.off.add((at, column))
        if fault in ("missing", "text"):
            cells.append((column, SheetCell("n/a" if fault == "missing" else "see note 4")))
            self.truth.amounts[at, column] = None
            return
        measure = row.measure if row.measure != "money" else head.measure
        if amount is None:
            self.truth.amounts[at, column] = None
            return
        if row.open and self.power:
            self.truth.open.add((at, column))
        self.truth.amounts[at, column] = self.kept(amount, measure, head.power)
        if self.side is not None or (self.style.sides and self.style.sides_at == "behind"):
            cells += self.sided(column, amount)
            return
        if place in self.signs and number == 0:
            unit = self.style.unit
            cells.append((self.signs[place], SheetCell(SYMBOLS.get((unit and unit.currency) or "USD", "$"))))
        if self.style.numbers:
            cells.append((column, SheetCell(amount)))
            return
        text = self.text(amount)
        if self.style.marked and number == 0:
            text += "*"
        if measure == "percent" and "%" not in row.label and "%" not in head.texts[-1]:
            text += "%"
        cells.append((column, SheetCell(text)))

    def kept(self, amount: Decimal, measure: str, own_power: int | None) -> Decimal:
        if measure == "percent":
            return amount.scaleb(-2)
        power = self.power if own_power is None else own_power
        return amount.scaleb(power) if measure == "money" else amount

    def sided(self, column: int, amount: Decimal) -> list[tuple[int, SheetCell]]:
        """A balance and its side: debits are positive, credits below zero."""
        assert self.style.sides is not None
        side = self.style.sides[amount < 0]
        text = self.text(abs(amount))
        if self.side is not None:
            figure = SheetCell(abs(amount)) if self.style.numbers else SheetCell(text)
            return [(column, figure), (self.side, SheetCell(side))]
        word = side if side.lower() in ("dr", "cr") else ("Dr", "Cr")[amount < 0]
        return [(column, SheetCell(f"{text} {word}"))]

    def text(self, amount: Decimal) -> str:
        if not amount:
            return self.style.nil
        size = f"{abs(amount):f}"
        whole, _, decimals = size.partition(".")
        text = grouped(whole, self.style.group) + (self.style.decimal + decimals if decimals else "")
        if amount > 0:
            return text
        forms = {"minus": "-{}", "sign": "−{}", "brackets": "({})", "trailing": "{}-"}
        return forms[self.style.negative].format(text)


def grouped(whole: str, mark: str) -> str:
    """The digits of a whole number in groups of three, or as in lakhs."""
    if mark == "lakhs":
        head, tail = whole[:-3], whole[-3:]
        pairs: list[str] = []
        while head:
            pairs.insert(0, head[-2:])
            head = head[:-2]
        return ",".join([*pairs, tail])
    groups: list[str] = []
    while len(whole) > 3:
        groups.insert(0, whole[-3:])
        whole = whole[:-3]
    return (mark or "").join([whole, *groups]) if mark else whole + "".join(groups)
