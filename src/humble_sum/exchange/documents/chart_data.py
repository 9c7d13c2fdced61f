"""The data of charts in documents (ECMA-376, DrawingML Charts): read as tables, and corrected where the chart
keeps it and in the workbook behind it."""

from __future__ import annotations

import posixpath
import re
import zipfile
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from decimal import Context, Decimal, InvalidOperation

from lxml import etree

from humble_sum.core.documents.document import Place
from humble_sum.exchange.documents.corrections import Correction
from humble_sum.exchange.documents.packages import parsed, part, written
from humble_sum.exchange.documents.xlsx import correct_xlsx, sheet_names

A = "{http://schemas.openxmlformats.org/drawingml/2006/main}"
C = "{http://schemas.openxmlformats.org/drawingml/2006/chart}"
R = "{http://schemas.openxmlformats.org/officeDocument/2006/relationships}"
CHART = re.compile(r"(?:ppt|word)/charts/chart\d+\.xml")
CELLS = re.compile(
    r"(?:'((?:[^']|'')+)'|([^!']+))!\$?([A-Z]{1,3})\$?(\d{1,7})(?::\$?([A-Z]{1,3})\$?(\d{1,7}))?"
)
SHOWN = Context(prec=12)  # digits of a double that mean something
MOST_POINTS = 5_000


@dataclass(frozen=True)
class Value:
    """A value of a chart: the element that has it, and its cell in the workbook behind the chart."""

    element: etree._Element
    sheet: str = ""
    row: int = 0
    column: int = 0


@dataclass(frozen=True)
class ChartData:
    """A chart as a table: its title, the texts of its cells, and its values by row and column."""

    path: str
    root: etree._Element
    title: str
    rows: tuple[tuple[str, ...], ...]
    values: dict[tuple[int, int], Value]
    workbook: str


def charts_of(name: str, package: zipfile.ZipFile, of: str) -> Iterator[ChartData]:
    """The charts that a part of a package shows, in the order of its relations."""
    for target in related(name, package, of):
        if CHART.fullmatch(target):
            yield _chart(name, package, target)


def related(name: str, package: zipfile.ZipFile, of: str) -> list[str]:
    """The parts that a part of a package names, by their paths."""
    folder, file = posixpath.split(of)
    path = f"{folder}/_rels/{file}.rels"
    names = {*package.namelist()}
    if path not in names:
        return []
    found = []
    for relation in parsed(name, path, part(package, name, path)):
        target = relation.get("Target") or ""
        whole = target.lstrip("/") if target.startswith("/") else posixpath.normpath(f"{folder}/{target}")
        if relation.get("TargetMode") != "External" and whole in names:
            found.append(whole)
    return found


def _chart(name: str, package: zipfile.ZipFile, path: str) -> ChartData:
    root = parsed(name, path, part(package, name, path))
    title = " ".join(t.text or "" for each in root.iter(f"{C}title") for t in each.iter(f"{A}t"))
    heads, columns, labels = [""], [], dict[int, str]()
    for series in root.iter(f"{C}ser"):
        heads.append(_text(series.find(f"{C}tx")))
        for point, text, _ in _points(series.find(f"{C}cat")):
            labels.setdefault(point, text)
        values = series.find(f"{C}val")
        columns.append({point: (text, value) for point, text, value in _points(values)})
    last = max((*labels, *(point for column in columns for point in column)), default=-1)
    rows, found = [tuple(heads)], dict[tuple[int, int], Value]()
    for point in range(min(last + 1, MOST_POINTS)):
        texts = [labels.get(point, "")]
        for place, column in enumerate(columns, 1):
            text, value = column.get(point, ("", None))
            texts.append(text)
            if value is not None:
                found[point + 1, place] = value
        rows.append(tuple(texts))
    workbook = next((each for each in related(name, package, path) if each.endswith(".xlsx")), "")
    return ChartData(path, root, title, tuple(rows), found, workbook)


def _text(of: etree._Element | None) -> str:
    return "" if of is None else " ".join(v.text or "" for v in of.iter(f"{C}v"))


def _points(of: etree._Element | None) -> Iterator[tuple[int, str, Value]]:
    """The points of a series or of its categories: number, text, and where the value stands."""
    if of is None:
        return
    formula = next(of.iter(f"{C}f"), None)
    cells = CELLS.fullmatch((formula.text or "").strip()) if formula is not None else None
    for each in of.iter(f"{C}pt"):
        value = each.find(f"{C}v")
        said = each.get("idx") or ""
        if value is None or not said.isdigit():
            continue
        point = int(said)
        at = Value(value)
        if cells is not None:
            down = cells[5] is None or cells[5] == cells[3]
            row, column = int(cells[4]) - 1, _column(cells[3])
            sheet = (cells[1] or cells[2]).replace("''", "'")
            at = Value(value, sheet, row + point * down, column + point * (not down))
        yield point, _shown(value.text or ""), at


def _column(letters: str) -> int:
    number = 0
    for letter in letters:
        number = number * 26 + ord(letter) - 64
    return number - 1


def _shown(text: str) -> str:
    """A value as its chart shows it: a double that was meant to have few digits has them."""
    try:
        amount = Decimal(text)
    except InvalidOperation:
        return text
    if not amount.is_finite() or len(amount.as_tuple().digits) <= SHOWN.prec:
        return text
    return f"{SHOWN.plus(amount).normalize():f}"


def correct_charts(
    name: str, package: zipfile.ZipFile, changes: Sequence[tuple[ChartData, Correction]]
) -> dict[str, bytes]:
    """The parts that change where values of charts are corrected: the charts, and the workbooks behind."""
    parts: dict[str, bytes] = {}
    behind: dict[str, list[Correction]] = {}
    for chart, each in changes:
        value = chart.values[each.place.row or 0, each.place.column or 0]
        plain = each.new.replace(",", "").strip()
        if not re.fullmatch(r"-?\d+(\.\d+)?", plain):
            continue
        value.element.text = plain
        parts[chart.path] = written(chart.root)
        if chart.workbook and value.sheet:
            data = part(package, name, chart.workbook)
            sheets = sheet_names(name, data)
            if value.sheet in sheets:
                place = Place(0, table=sheets.index(value.sheet), row=value.row, column=value.column)
                behind.setdefault(chart.workbook, []).append(Correction(place, each.old, plain, each.why))
    for path, corrections in behind.items():
        parts[path] = correct_xlsx(name, part(package, name, path), corrections)
    return parts
