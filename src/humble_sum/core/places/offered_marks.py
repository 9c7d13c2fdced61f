"""What a passage may follow, found by the words typed: a figure, a measure of it, a word chosen by it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import islice

from humble_sum.core.places.passage_text import EACH, Mark, Sort, write_run
from humble_sum.core.places.passages import pieces_of
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.places.repeating import with_ids
from humble_sum.core.proof.figure_search import find_figures
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Statement
from humble_sum.core.statements.placed import MEASURES, Measure, Passage, Shows

ROSE, PROFIT = ("rose", "fell", "was unchanged"), ("profit", "loss")
# Words of what is offered beside a figure, which its own name need not have.
WORDS = frozenset(" ".join([*MEASURES.values(), *ROSE, *PROFIT, "name of line column on"]).split())
PLAIN = 5  # figures offered before the measures of the first ones
MEASURED = 2


@dataclass(frozen=True)
class OfferedMark:
    """A mark, as the form of passages writes it, and what it prints now."""

    name: str
    source: str
    text: str


def offered_marks(pack_proof: PackProof, passage: Passage, typed: str, most: int) -> list[OfferedMark]:
    """At most so many marks whose names have every word typed: figures, and then the measures, words and
    names of the first ones. In a passage that is repeated, what it is repeated over stands as a star."""
    words = typed.lower().split()
    named = find_figures(pack_proof, typed, most)
    figures = named or find_figures(pack_proof, " ".join(word for word in words if word not in WORDS), PLAIN)
    plain = [(Mark("figure", Shows(figure=each.ref)), each.name) for each in figures]
    measured = [
        (mark, f"{each.name}: {said}")
        for each in figures[:MEASURED]
        for mark, said in _beside(pack_proof, each.ref)
    ]
    found = [*plain[:PLAIN], *measured, *plain[PLAIN:]]
    fitting = ((mark, name) for mark, name in found if all(word in name.lower() for word in words))
    placer = Placer(pack_proof, "passage")
    return [_offered(mark, name, passage, pack_proof, placer) for mark, name in islice(fitting, most)]


def other_column(statement: Statement, column: str) -> str:
    """The column a figure is usually held against: the period before, or else the next one that is given;
    of a sum the sum before. The column itself where there is none."""
    own = statement.column(column)
    if own is None or own.difference or own.share:
        return column
    order = [each.id for each in statement.columns]
    if own.sum:
        sums = [each.id for each in statement.columns if each.sum and len(each.sum) == len(own.sum)]
        if sums.index(column):
            return sums[sums.index(column) - 1]
    given = [each for each in statement.columns if not each.derived and each.id != column]
    if own.date:
        earlier = [
            (str(each.date), each.id) for each in given if each.date and str(each.date) < str(own.date)
        ]
        return max(earlier)[1] if earlier else column
    undated = [each.id for each in given if not each.date]
    return next((id for id in undated if order.index(id) > order.index(column)), (*undated, column)[0])


def _beside(pack_proof: PackProof, ref: FigureRef) -> Iterator[tuple[Mark, str]]:
    """The measures of a figure, words chosen by it, and the names of its line and column."""
    id, line, column = ref
    proof = pack_proof.proofs[id]
    statement = proof.statement
    other = other_column(statement, column)
    on = f"on {proof.grid.heads[other]}"
    if other != column:
        against = (id, line, other)
        percent = proof.figures[line, column].clauses.form == "percent"
        measures: list[Measure] = ["change", "change_points" if percent else "change_percent"]
        for measure in measures:
            yield (
                Mark("figure", Shows(figure=ref, measure=measure, against=against)),
                f"{MEASURES[measure]} {on}",
            )
        moved = Shows(figure=ref, measure="change", against=against)
        yield Mark("word", moved, choices=ROSE), f"{' or '.join(ROSE[:2])} {on}"
    for total in statement.lines:
        if line in dict(total.parts):
            share = Shows(figure=ref, measure="share", against=(id, total.id, column))
            yield Mark("figure", share), f"{MEASURES['share']} of {total.label}"
    yield Mark("word", Shows(figure=ref), choices=PROFIT), " or ".join(PROFIT)
    names: list[tuple[Sort, str]] = [("label", "the name of its line"), ("column", "the name of its column")]
    for sort, said in names:
        yield Mark(sort, Shows(figure=ref)), said


def _offered(mark: Mark, name: str, passage: Passage, pack_proof: PackProof, placer: Placer) -> OfferedMark:
    text = pieces_of(mark, (0, 0), "", pack_proof, placer)[0].text
    shows = mark.shows
    assert shows is not None
    over = next((id for id in shows.figure[1:] if id in passage.over), None)
    if over is None:
        return OfferedMark(name, write_run(replace(mark, last=text)), text)
    return OfferedMark(name, write_run(with_ids(mark, lambda id: EACH if id == over else id)), text)
