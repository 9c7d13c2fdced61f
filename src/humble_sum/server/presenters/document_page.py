"""A document as the desk shows it: its text with every number marked by how it stands."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from humble_sum.core.changes.document_commands import AnswerNumber, ForgetNumber
from humble_sum.core.documents.document import Paragraph, Table
from humble_sum.core.documents.judgement import Judgement
from humble_sum.core.documents.proofreading import Judgment, Proofread
from humble_sum.core.documents.table_sums import TableSum
from humble_sum.core.documents.version_changes import number_changes
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef
from humble_sum.server.schemas import Ready

WRONG = ("disagrees", "nudged", "gone")


class DocumentName(BaseModel):
    """A document in the list of a pack's, with how many numbers disagree and are in doubt."""

    id: int
    name: str
    at: str
    author: str
    numbers: int
    wrong: int
    doubt: int
    problem: str = Field(description="Why it cannot be read any more; empty where it can.")


class PieceOfText(BaseModel):
    """Some text; where it is a number, which one of the document's."""

    text: str
    number: int | None = None


class BlockView(BaseModel):
    """A paragraph or a table; `open` where something in it disagrees or is in doubt."""

    kind: Literal["paragraph", "heading", "table"]
    page: int | None
    pieces: list[PieceOfText]
    rows: list[list[list[PieceOfText]]]
    sums: list[str] = Field(description="What its sums come to, where they do not hold.")
    open: bool


class NumberView(BaseModel):
    """A number: how it stands, which figure it is, what it should say, and what can be said of it."""

    text: str
    place: str
    judgement: Judgement
    name: str
    figure: FigureRef | None
    should_print: str
    because: list[str]
    around: str
    same: int = Field(description="How many other numbers of the document are the same figure.")
    none_of_ours: Ready
    all_alike: Ready
    forget: Ready | None = Field(description="Takes back what was said of it.")


class DocumentView(BaseModel):
    """A document proofread against the pack, in the edition shown."""

    id: int
    name: str
    kind: str
    at: str
    revision: int
    counts: dict[str, int]
    blocks: list[BlockView]
    numbers: list[NumberView]
    since: list[str] = Field(description="What changed in its numbers since the version before.")
    open: list[int] = Field(description="The numbers that disagree or are in doubt, in reading order.")


def document_name(
    id: int, name: str, at: str, author: str, read: Proofread | None, problem: str
) -> DocumentName:
    """A document in the list."""
    wrong = sum(read.count(word) for word in WRONG) if read else 0
    wrong += sum(not each.holds for each in read.sums) if read else 0
    return DocumentName(
        id=id,
        name=name,
        at=at,
        author=author,
        numbers=len(read.numbers) if read else 0,
        wrong=wrong,
        doubt=read.count("doubt") if read else 0,
        problem=problem,
    )


def document_view(
    id: int, at: str, revision: int, read: Proofread, pack_proof: PackProof, before: Proofread | None = None
) -> DocumentView:
    """The whole document, with its numbers, and what changed in them since the version `before`."""
    by_place: dict[tuple[int | None, ...], list[int]] = {}
    for n, each in enumerate(read.numbers):
        place = each.place
        by_place.setdefault((place.paragraph, place.table, place.row, place.column), []).append(n)
    same: dict[tuple[object, ...], int] = {}
    for each in read.numbers:
        if each.figure is not None:
            same[each.figure, each.measure] = same.get((each.figure, each.measure), 0) + 1
    open_ = [n for n, each in enumerate(read.numbers) if each.judged.judgement in (*WRONG, "doubt")]
    numbers = [_number(each, same, read, pack_proof) for each in read.numbers]
    blocks = [_block(block, by_place, {*open_}, read) for block in read.document.blocks]
    counts = {
        word: read.count(word)
        for word in ("agrees", "rounds", "nudged", "disagrees", "gone", "doubt", "other")
    }
    return DocumentView(
        id=id,
        name=read.document.name,
        kind=read.document.kind,
        at=at,
        revision=revision,
        counts=counts,
        blocks=blocks,
        numbers=numbers,
        since=[each.says for each in number_changes(before, read)] if before else [],
        open=open_,
    )


def _number(
    of: Judgment, same: dict[tuple[object, ...], int], read: Proofread, pack_proof: PackProof
) -> NumberView:
    name = ""
    if of.figure is not None:
        name = describe_figure(pack_proof.pack, of.figure)
        if of.measure not in ("figure", ""):
            name = f"{of.measure.replace('_', ' ').replace('percent', 'in percent')} of {name}"
    said = {"number": of.text, "document": read.document.name}
    answer = of.answer
    return NumberView(
        text=of.text,
        place=of.place.says,
        judgement=of.judged.judgement,
        name=name,
        figure=of.figure,
        should_print=of.should_print,
        because=list(of.because),
        around=of.around,
        same=max(0, same.get((of.figure, of.measure), 1) - 1),
        none_of_ours=AnswerNumber(kind="answer_number", around=of.around, answer="other", **said),
        all_alike=AnswerNumber(kind="answer_number", around=of.text, alike=True, answer="other", **said),
        forget=None
        if answer is None
        else ForgetNumber(kind="forget_number", around=answer.around, alike=answer.alike),
    )


def _block(
    block: Paragraph | Table,
    by_place: dict[tuple[int | None, ...], list[int]],
    open_: set[int],
    read: Proofread,
) -> BlockView:
    if isinstance(block, Paragraph):
        found = by_place.get((block.number, None, None, None), [])
        return BlockView(
            kind="heading" if block.heading else "paragraph",
            page=block.page,
            pieces=_pieces(block.text, found, read),
            rows=[],
            sums=[],
            open=any(n in open_ for n in found),
        )
    rows = [
        [_pieces(text, by_place.get((None, block.number, r, c), []), read) for c, text in enumerate(row)]
        for r, row in enumerate(block.rows)
    ]
    sums = [_told(each) for each in read.sums if each.table == block.number and not each.holds]
    inside = [n for key, found in by_place.items() if key[1] == block.number for n in found]
    return BlockView(
        kind="table",
        page=block.page,
        pieces=[],
        rows=rows,
        sums=sums,
        open=bool(sums) or any(n in open_ for n in inside),
    )


def _told(of: TableSum) -> str:
    """A sum that does not hold, in words."""
    where = f"{of.label or 'A total'}, {of.head or f'column {of.column + 1}'}"
    parts = "columns" if of.across else "rows"
    comes_to, prints = of.written
    return f"{where}: the {parts} add to {comes_to}; it prints {prints}"


def _pieces(text: str, found: list[int], read: Proofread) -> list[PieceOfText]:
    pieces, at = [], 0
    for n in found:
        number = read.numbers[n].number
        start, end = number.start, number.end
        if start < at:
            continue
        if start > at:
            pieces.append(PieceOfText(text=text[at:start]))
        pieces.append(PieceOfText(text=text[start:end], number=n))
        at = end
    if at < len(text) or not pieces:
        pieces.append(PieceOfText(text=text[at:]))
    return pieces
