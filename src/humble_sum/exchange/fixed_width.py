"""Plain text in columns of fixed width: for terminals, mail and anything printed in one pitch."""

from __future__ import annotations

from dataclasses import dataclass

from wcwidth import wcswidth

from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.layout import Row, caption, rows
from humble_sum.exchange.safe_text import closed, one_line

BETWEEN = "  "


def display_width(text: str) -> int:
    """Cells a text takes in one pitch (UAX #11): two for wide characters, none for marks that combine
    or only direct."""
    return max(0, wcswidth(text))


@dataclass(frozen=True)
class _Column:
    """How wide a column is before its digits end, and past them."""

    digits: int
    past: int

    @property
    def width(self) -> int:
        return self.digits + self.past

    def put(self, text: str, hang: str = "") -> str:
        """A text with its digits ending where the column's do, and the hanging end past them."""
        main = text[: len(text) - len(hang)]
        ahead = self.digits - display_width(main)
        return f"{' ' * max(ahead, 0)}{text}{' ' * (self.past - display_width(hang))}"


def write_fixed_width(pack: Pack, proof: Proof) -> bytes:
    """Title, caption and the figures, digits under digits; a rule above totals and two under the last."""
    listed = list(rows(proof))
    columns = [_column(listed, place, head) for place, head in enumerate(proof.heads)]
    labels = max(display_width(_label(row)) for row in listed)
    said = ", ".join(filter(None, (pack.entity, pack.period, caption(proof))))
    heads = [column.put(head) for column, head in zip(columns, proof.heads, strict=True)]
    out = [
        closed(one_line(proof.statement.title)),
        closed(one_line(said)),
        "",
        BETWEEN.join([" " * labels, *heads]),
    ]
    for row in listed:
        if row.line.kind in ("subtotal", "total"):
            out.append(_ruled("-", labels, columns))
        texts = [_figure(c, figure) for c, figure in zip(columns, row.figures, strict=False)]
        label = _label(row)
        out.append(BETWEEN.join([label + " " * (labels - display_width(label)), *texts]))
        if row.last:
            out.append(_ruled("=", labels, columns))
    return ("\n".join(line.rstrip() for line in out) + "\n").encode()


def _label(row: Row) -> str:
    return "  " * row.line.steps + closed(one_line(row.line.label))


def _hang(figure: Figure) -> str:
    printed = figure.printed
    return printed.hang if figure.clauses.line_up and not printed.after else ""


def _figure(column: _Column, figure: Figure) -> str:
    text = figure.printed.full_text
    if figure.clauses.line_up:
        return column.put(text, _hang(figure))
    return " " * max(column.width - display_width(text), 0) + text


def _column(listed: list[Row], place: int, head: str) -> _Column:
    figures = [row.figures[place] for row in listed if row.figures]
    past = max((display_width(_hang(figure)) for figure in figures), default=0)
    digits = [display_width(figure.printed.full_text) - display_width(_hang(figure)) for figure in figures]
    return _Column(max([display_width(head), *digits]), past)


def _ruled(mark: str, labels: int, columns: list[_Column]) -> str:
    return BETWEEN.join([" " * labels, *(mark * column.width for column in columns)])
