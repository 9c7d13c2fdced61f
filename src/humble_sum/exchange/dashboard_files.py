"""What writes a dashboard, or a chart of it, as a file."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass

from openpyxl import Workbook
from openpyxl.worksheet.worksheet import Worksheet

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.places.chart import ChartData, chart_data
from humble_sum.core.places.passages import SmallTable, printed_passage
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.places.tile import tile_face
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.placed import Chart, Dashboard, Tile
from humble_sum.exchange.fixed_width import BETWEEN, display_width
from humble_sum.exchange.reader_pages import Link, dashboard_page
from humble_sum.exchange.safe_text import closed, escaped, neutral

Table = list[list[str]]


@dataclass(frozen=True)
class _Section:
    """An item in text: its label, paragraphs, and a table."""

    label: str
    paragraphs: tuple[str, ...] = ()
    table: tuple[tuple[str, ...], ...] = ()


def _sections(dashboard: Dashboard, pack_proof: PackProof) -> list[_Section]:
    found = []
    for item in dashboard.items:
        placer = Placer(pack_proof, item.kind)
        if isinstance(item, Tile):
            face = tile_face(item, placer)
            said = [" ".join(filter(None, (face.placed.text, face.unit)))]
            if face.compare is not None:
                said.append(" ".join(filter(None, (face.compare.text, item.against))))
            said += [face.target.says] if face.target else []
            found.append(_Section(item.label, tuple(said)))
        elif isinstance(item, Chart):
            data = chart_data(item, pack_proof, placer)
            label = ", ".join(filter(None, (item.label, data.caption)))
            found.append(_Section(label, tuple(filter(None, (data.fault, *data.notes))), _table(data)))
        else:
            for block in printed_passage(item, pack_proof, placer):
                if isinstance(block, SmallTable):
                    rows = [(label, *(each.full_text for each in printed)) for label, printed in block.rows]
                    found.append(_Section("", table=((block.caption, *block.heads), *rows)))
                else:
                    found.append(_Section("", ("".join(piece.text for piece in block),)))
    return found


def _table(data: ChartData) -> tuple[tuple[str, ...], ...]:
    if data.fault:
        return ()
    heads = ("", *(series.name for series in data.series))
    rows = [(head, *(s.points[place].text for s in data.series)) for place, head in enumerate(data.heads)]
    return (heads, *rows)


def write_page(dashboard: Dashboard, pack_proof: PackProof, _: str | None) -> bytes:
    """A dashboard as a page for its readers."""
    return dashboard_page(dashboard, pack_proof, [Link(dashboard.name, None)]).encode()


def write_markdown(dashboard: Dashboard, pack_proof: PackProof, _: str | None) -> bytes:
    """A dashboard as text in Markdown."""
    pack = pack_proof.pack
    out = [f"## {escaped(dashboard.name)}", "", f"{escaped(pack.entity)}, {escaped(pack.period)}", ""]
    for section in _sections(dashboard, pack_proof):
        out += [f"### {escaped(section.label)}", ""] if section.label else []
        for paragraph in section.paragraphs:
            out += [escaped(paragraph), ""]
        if section.table:
            head, *rows = section.table
            out.append("| " + " | ".join(map(escaped, head)) + " |")
            out.append("|---|" + "---:|" * (len(head) - 1))
            out += ["| " + " | ".join(map(escaped, row)) + " |" for row in rows]
            out.append("")
    return ("\n".join(out).rstrip() + "\n").encode()


def write_text(dashboard: Dashboard, pack_proof: PackProof, _: str | None) -> bytes:
    """A dashboard as plain text."""
    out = [dashboard.name, f"{pack_proof.pack.entity}, {pack_proof.pack.period}", ""]
    for section in _sections(dashboard, pack_proof):
        out += [section.label] if section.label else []
        out += section.paragraphs
        out += _aligned(section.table)
        out.append("")
    return ("\n".join(map(closed, out)).rstrip() + "\n").encode()


def _aligned(table: Sequence[Sequence[str]]) -> list[str]:
    """A table as lines: labels to the left, figures under their heads, one that is empty too."""
    widths = [max(map(display_width, column)) for column in zip(*table, strict=True)]
    lines = []
    for label, *texts in table:
        cells = [label + " " * (widths[0] - display_width(label))]
        cells += [" " * (w - display_width(text)) + text for w, text in zip(widths[1:], texts, strict=True)]
        lines.append(BETWEEN.join(cells).rstrip())
    return lines


def _rows(dashboard: Dashboard, pack_proof: PackProof) -> Table:
    table: Table = [[pack_proof.pack.entity], [dashboard.name], [pack_proof.pack.period], []]
    for section in _sections(dashboard, pack_proof):
        if not section.table:
            table.append([part for part in (section.label, *section.paragraphs) if part])
            continue
        table += [[section.label, *section.paragraphs]] if section.label else []
        table += [list(row) for row in section.table]
    return table


def write_csv(dashboard: Dashboard, pack_proof: PackProof, _: str | None) -> bytes:
    """What a dashboard prints, as a table."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerows([[neutral(text) for text in row] for row in _rows(dashboard, pack_proof)])
    return out.getvalue().encode("utf-8-sig")


def write_xlsx(dashboard: Dashboard, pack_proof: PackProof, _: str | None) -> bytes:
    """A sheet of what is printed, all of it text, so that nothing in it is worked out anew."""
    book = Workbook()
    sheet = book.active
    assert isinstance(sheet, Worksheet)
    sheet.title = "Dashboard"
    for number, row in enumerate(_rows(dashboard, pack_proof), 1):
        for place, text in enumerate(row, 1):
            cell = sheet.cell(number, place, text)
            cell.data_type = "s"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _charted(dashboard: Dashboard, pack_proof: PackProof, item: str | None) -> tuple[Chart, ChartData]:
    charts = [each for each in dashboard.items if isinstance(each, Chart)]
    named = [each for each in charts if item in (None, each.id)]
    if len(named) != 1:
        names = ", ".join(each.id for each in charts) or "none"
        what = "A picture is of one chart." if item is None else f'There is no chart "{item}".'
        raise InputError("no-such-item", Fault("item", what, f"Name one of {dashboard.name}: {names}."))
    data = chart_data(named[0], pack_proof, Placer(pack_proof, "chart"))
    if data.fault:
        raise InputError("not-drawable", Fault("item", data.fault))
    return named[0], data


def write_chart_svg(dashboard: Dashboard, pack_proof: PackProof, item: str | None) -> bytes:
    """One chart as a drawing. Raises InputError where there is none to draw."""
    chart, data = _charted(dashboard, pack_proof, item)
    from humble_sum.exchange.chart_drawing import write_svg  # read when it is first needed

    return write_svg(data, chart.id, chart.width).encode()


def write_chart_png(dashboard: Dashboard, pack_proof: PackProof, item: str | None) -> bytes:
    """One chart as a picture. Raises InputError where there is none to draw."""
    chart, data = _charted(dashboard, pack_proof, item)
    from humble_sum.exchange.chart_drawing import write_png

    return write_png(data, chart.id, chart.width)
