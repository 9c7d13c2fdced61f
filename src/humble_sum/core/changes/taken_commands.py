"""The changes to what is taken from other packs."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from humble_sum.core.changes.command import OnPack
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Line, Pack, Statement
from humble_sum.core.statements.taken import MOST_SOURCES, Taken, TakenSource


class TakeFigure(OnPack):
    """Take a figure from other packs: its amount becomes the sum of theirs, and it follows them."""

    kind: Literal["take_figure"]
    figure: FigureRef
    sources: Annotated[tuple[TakenSource, ...], Field(min_length=1, max_length=MOST_SOURCES)]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        statement, line = _line_of(pack, self.figure)
        if line.adds or line.kind == "heading":
            what = f"{line.label} is {'a heading' if line.kind == 'heading' else 'the sum of its parts'}."
            raise InputError("no-such-figure", Fault("figure", what, "Take a line that has amounts."))
        taken = Taken(figure=self.figure, sources=self.sources)
        amounts = {**line.amounts, self.figure[2]: taken.value}
        own = line.model_copy(update={"amounts": amounts})
        lines = tuple(own if each.id == line.id else each for each in statement.lines)
        whole = statement.model_copy(update={"lines": lines})
        statements = tuple(whole if each.id == whole.id else each for each in pack.statements)
        left = tuple(each for each in pack.taken if each.figure != self.figure)
        new = pack.model_copy(update={"statements": statements, "taken": (*left, taken)})
        names = list(dict.fromkeys(each.entity for each in self.sources))
        more = f" and {len(names) - 1} more" if len(names) > 1 else ""
        return new, f"{describe_figure(pack, self.figure)} taken from {names[0]}{more}"


class LeaveTaken(OnPack):
    """Have a figure follow other packs no more; its amount stays."""

    kind: Literal["leave_taken"]
    figure: FigureRef

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        left = tuple(each for each in pack.taken if each.figure != self.figure)
        if len(left) == len(pack.taken):
            fault = Fault("figure", "This figure is not taken from another pack.")
            raise InputError("no-such-figure", fault)
        return pack.model_copy(
            update={"taken": left}
        ), f"{describe_figure(pack, self.figure)} follows no more"


def _line_of(pack: Pack, figure: FigureRef) -> tuple[Statement, Line]:
    statement = pack.statement(figure[0])
    line = statement.line(figure[1]) if statement else None
    if statement is None or line is None or not statement.column(figure[2]):
        raise InputError("no-such-figure", Fault("figure", "There is no such figure.", "Choose another."))
    return statement, line
