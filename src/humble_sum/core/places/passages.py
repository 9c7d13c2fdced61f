"""Passages as their readers see them: text whose figures follow, and what stands to be followed."""

from __future__ import annotations

from dataclasses import dataclass, replace

from humble_sum.core.places.agreement import AGREES, Agreement, agreement, typed_agreement
from humble_sum.core.places.passage_text import (
    Mark,
    Run,
    Unread,
    read_passage,
    repeated,
    write_passage,
)
from humble_sum.core.places.placed_figure import Placed, Placer
from humble_sum.core.places.typed_figures import meant_by, typed_figure, typed_figures
from humble_sum.core.printing.figure import Printed
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.placed import Passage, Shows

BY_HAND = "This is typed by hand and follows nothing."


@dataclass(frozen=True)
class Piece:
    """A piece of a passage as it prints. `at` is its paragraph and run in the text as it is kept; typed
    text is judged in pieces of its own, whose place in the run is `within`.

    `meant` are figures that a typed one may be meant for.
    """

    text: str
    at: tuple[int, int]
    mark: Mark | None = None
    placed: Placed | None = None
    agrees: Agreement | None = None
    meant: tuple[FigureRef, ...] = ()
    within: tuple[int, int] | None = None
    line: str | None = None


@dataclass(frozen=True)
class SmallTable:
    """Some lines of a statement: heads of columns, and a label with texts for each line."""

    at: tuple[int, int]
    heads: tuple[str, ...]
    rows: tuple[tuple[str, tuple[Printed, ...]], ...]
    caption: str
    gone: str = ""


Block = list[Piece] | SmallTable


def printed_passage(passage: Passage, pack_proof: PackProof, placer: Placer) -> list[Block]:
    """The paragraphs and small tables of a passage, once for each line it is repeated over."""
    paragraphs = read_passage(passage.text)
    blocks: list[Block] = []
    for line in passage.over or (None,):
        for number, runs in enumerate(paragraphs):
            table = next((run for run in runs if isinstance(run, Mark) and run.sort == "table"), None)
            if table is not None:
                blocks.append(_table(table, (number, runs.index(table)), pack_proof))
                continue
            pieces: list[Piece] = []
            before = ""
            for place, kept in enumerate(runs):
                run = repeated(kept, line) if line is not None else kept
                made = pieces_of(run, (number, place), before, pack_proof, placer)
                pieces += [replace(each, line=line) for each in made]
                before += "".join(each.text for each in made)
            blocks.append(pieces)
    return blocks


def pieces_of(
    run: Run, at: tuple[int, int], before: str, pack_proof: PackProof, placer: Placer
) -> list[Piece]:
    if isinstance(run, str):
        return _typed_pieces(run, at, before, pack_proof, placer)
    if isinstance(run, Unread):
        return [Piece(f"{{{run.text}}}", at, agrees=Agreement("disagrees", run.why, "no mark"))]
    assert run.shows is not None
    if run.sort in ("label", "column"):
        return [_named(run, at, pack_proof)]
    placed = placer.shown(run.shows)
    if run.sort == "word":
        return [_word(run, at, placed, placer)]
    if run.typed:
        return [Piece(run.last, at, run, placed, typed_agreement(placed, run.last, typed_figure(run.last)))]
    # What is gone stands with its last print.
    text = placed.text if not placed.gone else run.last or "…"
    return [Piece(text, at, run, placed, agreement(placed))]


def _named(run: Mark, at: tuple[int, int], pack_proof: PackProof) -> Piece:
    """The label of a figure's line, or what stands over its column."""
    assert run.shows is not None
    statement, line, column = run.shows.figure
    proof = pack_proof.proofs.get(statement)
    of_line = run.sort == "label"
    id = line if of_line else column
    said: str | None = None
    if proof is not None and of_line:
        said = proof.grid.labels.get(line)
    elif proof is not None:
        heads = dict(zip((each.id for each in proof.statement.columns), proof.heads, strict=True))
        said = heads.get(column)
    missing = f'There is no {"line" if of_line else "column"} "{id}" any more.'
    return Piece(said or run.last or id, at, run, agrees=AGREES if said else _gone(missing))


def _gone(says: str) -> Agreement:
    return Agreement("disagrees", says, "gone", ("remove",))


def _word(mark: Mark, at: tuple[int, int], placed: Placed, placer: Placer) -> Piece:
    """A word of direction, chosen by the figure, or by its change against another."""
    if placed.gone or placed.exact is None:
        return Piece(mark.last or mark.choices[-1], at, mark, placed, agreement(placed))
    sign = _direction(placed, placer)
    more, less, *same = mark.choices
    word = more if sign > 0 else less if sign < 0 else (same[0] if same else more)
    return Piece(word, at, mark, placed, AGREES)


def _direction(placed: Placed, placer: Placer) -> int:
    """1 for more, -1 for less, 0 for the same, as a reader sees it: what prints the same has not changed, and
    a cost that grows is more, though its amount is further below zero."""
    assert placed.exact is not None
    sign = (placed.exact > 0) - (placed.exact < 0)
    if placed.shows.against is None:
        return sign
    now, before = (placer.shown(Shows(figure=ref)) for ref in (placed.shows.figure, placed.shows.against))
    if now.text == before.text:
        return 0
    return (
        -sign
        if all(_is_cost(ref, placer.pack_proof) for ref in (now.shows.figure, before.shows.figure))
        else sign
    )


def _is_cost(ref: FigureRef, pack_proof: PackProof) -> bool:
    """Whether a figure takes off and is no result: below zero, and with it each figure it adds."""
    id, name, column = ref
    proof = pack_proof.proofs[id]
    exact, line = proof.figures[name, column].exact, proof.statement.line(name)
    if exact is None or exact > 0 or line is None or line.usual_sign == "positive":
        return False
    return all(sign > 0 and _is_cost((id, part, column), pack_proof) for part, sign in line.parts)


def _typed_pieces(
    text: str, at: tuple[int, int], before: str, pack_proof: PackProof, placer: Placer
) -> list[Piece]:
    """Running text, with the figures typed in it judged."""
    pieces: list[Piece] = []
    end = 0
    for typed in typed_figures(text):
        meant = meant_by(typed, before + text[: typed.start], pack_proof)
        if typed.start > end:
            pieces.append(Piece(text[end : typed.start], at))
        end = typed.end
        judged = Agreement("agrees", BY_HAND)
        if meant and meant[0].prints:
            judged = Agreement(
                "agrees", "Typed by hand. It is a print of a figure, and does not follow it.", "", ("follow",)
            )
        elif meant:
            judged = typed_agreement(placer.shown(Shows(figure=meant[0].figure)), typed.text, typed)
        refs = tuple(each.figure for each in meant)
        pieces.append(
            Piece(text[typed.start : typed.end], at, None, None, judged, refs, (typed.start, typed.end))
        )
    if end < len(text):
        pieces.append(Piece(text[end:], at))
    return pieces


def _table(mark: Mark, at: tuple[int, int], pack_proof: PackProof) -> SmallTable:
    proof = pack_proof.proofs.get(mark.statement)
    if proof is None:
        return SmallTable(at, (), (), "", f'There is no statement "{mark.statement}" any more.')
    gone = [id for id in mark.lines if (id, mark.columns[0]) not in proof.figures]
    gone += [id for id in mark.columns if id not in proof.grid.heads]
    columns = [id for id in mark.columns if id in proof.grid.heads]
    heads = dict(zip((each.id for each in proof.statement.columns), proof.heads, strict=True))
    rows = tuple(
        (proof.grid.labels[line], tuple(_printed(proof, line, column) for column in columns))
        for line in mark.lines
        if line in proof.grid.labels and all((line, column) in proof.figures for column in columns)
    )
    says = (
        f"There is no {' or '.join(dict.fromkeys(gone))} in {proof.statement.name} any more." if gone else ""
    )
    return SmallTable(at, tuple(heads[id] for id in columns), rows, proof.caption, says)


def _printed(proof: Proof, line: str, column: str) -> Printed:
    return proof.figures[line, column].printed


def refreshed(passage: Passage, pack_proof: PackProof) -> Passage:
    """The passage with what each of its marks prints now kept as its last print."""
    if passage.over:
        return passage  # one mark prints for many lines
    paragraphs = read_passage(passage.text)
    placer = Placer(pack_proof, "passage")
    changed = [
        [_with_last(run, number, place, pack_proof, placer) for place, run in enumerate(runs)]
        for number, runs in enumerate(paragraphs)
    ]
    return passage.model_copy(update={"text": write_passage(changed)})


def _with_last(run: Run, number: int, place: int, pack_proof: PackProof, placer: Placer) -> Run:
    if not isinstance(run, Mark) or run.typed or run.sort == "table":
        return run
    piece = pieces_of(run, (number, place), "", pack_proof, placer)[0]
    return run if piece.agrees and piece.agrees.standing == "disagrees" else replace(run, last=piece.text)
