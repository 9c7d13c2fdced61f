"""A document as it is proofread: paragraphs and tables in reading order, whatever file they came from."""

from __future__ import annotations

from dataclasses import dataclass

from humble_sum.core.statements.names import FigureRef


@dataclass(frozen=True)
class Following:
    """Characters of a paragraph, or of a cell at `row` and `column`, that follow a figure of a pack: the
    document says so itself. A link says whose figure it is, the `entity`."""

    start: int
    end: int
    figure: FigureRef
    row: int | None = None
    column: int | None = None
    entity: str = ""


@dataclass(frozen=True)
class Paragraph:
    """A paragraph: its number among all paragraphs outside of tables, its text as a reader gets it, the part
    it stands in (body, head, foot, notes), its page or slide where that is known, whether it heads what comes
    after it, and what in it follows a figure."""

    number: int
    text: str
    part: str = "body"
    page: int | None = None
    heading: bool = False
    following: tuple[Following, ...] = ()


@dataclass(frozen=True)
class Table:
    """A table: its number among all tables, and the texts of its cells by row and column. One that is the
    data of a chart has its `title`."""

    number: int
    rows: tuple[tuple[str, ...], ...]
    part: str = "body"
    page: int | None = None
    title: str = ""
    following: tuple[Following, ...] = ()


Block = Paragraph | Table


@dataclass(frozen=True)
class Document:
    """A document in reading order. `says` is what a reader should know of how it was read."""

    name: str
    kind: str
    blocks: tuple[Block, ...]
    says: tuple[str, ...] = ()


@dataclass(frozen=True)
class Place:
    """Where a number stands: in a paragraph, or in a cell of a table, and from which character on."""

    start: int
    paragraph: int | None = None
    table: int | None = None
    row: int | None = None
    column: int | None = None
    page: int | None = None

    @property
    def says(self) -> str:
        """The place in words: "page 14, paragraph 3"."""
        page = f"page {self.page}, " if self.page else ""
        if self.paragraph is not None:
            return f"{page}paragraph {self.paragraph + 1}"
        table, row, column = ((part or 0) + 1 for part in (self.table, self.row, self.column))
        return f"{page}table {table}, row {row}, column {column}"
