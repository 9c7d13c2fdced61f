"""A passage as a sentence: how often it stands, in words that carry the change of each choice."""

from __future__ import annotations

from typing import Any

from humble_sum.core.changes.item_sentence import MOST_LINES, spans
from humble_sum.core.changes.place_commands import RepeatPassage
from humble_sum.core.places.passage_text import EACH
from humble_sum.core.places.repeating import marked
from humble_sum.core.rules.words import Sentence, plain_word
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack, Statement
from humble_sum.core.statements.placed import Dashboard, Passage


def passage_sentence(dashboard: Dashboard, passage: Passage, pack: Pack) -> Sentence:
    """How often a passage stands, in words: once, or once for each line or column beside those of its
    figures."""
    offered: dict[tuple[str, ...], str] = {(): "once"}
    names: dict[str, str] = {}
    for ref in marked(passage):
        statement = pack.statement(ref[0])
        if statement is not None:
            names |= {line.id: line.label for line in statement.lines}
            names |= {column.id: column.label for column in statement.columns}
            for said, over in _beside(statement, ref, passage.over):
                offered.setdefault(over, said)
    if passage.over not in offered:
        some = ", ".join(names.get(id, id) for id in passage.over)
        said = f"once for each of {some if len(passage.over) <= 4 else len(passage.over)}"
        offered = {(): "once", passage.over: said} | offered

    def made(over: tuple[str, ...]) -> RepeatPassage:
        return RepeatPassage(kind="repeat_passage", dashboard=dashboard.id, item=passage.id, over=over)

    found: Sentence = [
        "Stands",
        plain_word("repeated", passage.over, offered, {over: made(over) for over in offered}),
    ]
    if len(passage.over) > 1:
        nothing: tuple[str, ...] = ()
        without = {id: tuple(each for each in passage.over if each != id) for id in passage.over[:MOST_LINES]}
        labels: list[tuple[Any, str]] = [(nothing, "none left out")]
        labels += [(left, f"without {names.get(id, id)}") for id, left in without.items()]
        changes = {left: made(left) for left in without.values()}
        found += [", with", plain_word("left out", nothing, labels, changes)]
    return [*found, "."]


def _beside(statement: Statement, ref: FigureRef, over: tuple[str, ...]) -> list[tuple[str, tuple[str, ...]]]:
    """The lines and columns that a passage about one figure may be repeated over: the parts of each total
    that its line is a part of, every line with figures, and the columns that go with its own."""
    line, column = (over[0] if id == EACH and over else id for id in ref[1:])
    found: list[tuple[str, tuple[str, ...]]] = []
    for total in statement.lines:
        parts = tuple(part for part, _ in total.parts)
        if line in parts:
            found.append((f"once for each part of {total.label}", parts))
    every = tuple(each.id for each in statement.figured if not each.adds)
    if line in every and 1 < len(every) <= MOST_LINES:
        found.append((f"once for each line of {statement.name} that adds nothing", every))
    found += [(f"once for each of {said}", ids) for said, ids in spans(statement) if column in ids]
    return found
