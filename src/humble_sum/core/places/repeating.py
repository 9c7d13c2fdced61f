"""A passage that stands once for each of several lines or columns, its figures on one after another.

One of the ids that its marks name becomes each of those it is repeated over; standing once again, it is of
the first of them.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.places.passage_text import EACH, Mark, Run, read_passage, write_passage
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.placed import Passage

Renamed = Callable[[str], str]


def repeated_over(passage: Passage, over: tuple[str, ...]) -> Passage:
    """The passage once for each id of `over`, or once where there is none. Raises InputError where no mark
    is on any of them."""
    if len(set(over)) < len(over):
        raise InputError("bad-structure", Fault("over", "A line or column is named twice."))
    if not over:
        first = passage.over[0] if passage.over else EACH
        return _renamed(passage, lambda id: first if id == EACH else id, over)
    if passage.over and any(EACH in ref for ref in marked(passage)):
        return passage.model_copy(update={"over": over})
    named = next((id for ref in marked(passage) for id in ref[1:] if id in over), None)
    if named is None:
        what = "No figure of this passage is on any of these lines or columns."
        raise InputError(
            "bad-structure", Fault("over", what, "Place a figure of one of them in its text first.")
        )
    return _renamed(passage, lambda id: EACH if id == named else id, over)


def marked(passage: Passage) -> Iterator[FigureRef]:
    """The figures that a passage's marks name, in order; a star stands for what it is repeated over."""
    for runs in read_passage(passage.text):
        for run in runs:
            if isinstance(run, Mark) and run.shows is not None:
                yield run.shows.figure
                if run.shows.against is not None:
                    yield run.shows.against


def _renamed(passage: Passage, renamed: Renamed, over: tuple[str, ...]) -> Passage:
    paragraphs = [[with_ids(run, renamed) for run in runs] for runs in read_passage(passage.text)]
    return passage.model_copy(update={"text": write_passage(paragraphs), "over": over})


def with_ids(run: Run, renamed: Renamed) -> Run:
    """A run whose figures are on lines and columns of other ids."""
    if not isinstance(run, Mark) or run.shows is None:
        return run
    shows = run.shows
    changed = shows.model_copy(
        update={
            "figure": _ref(shows.figure, renamed),
            "against": shows.against and _ref(shows.against, renamed),
        }
    )
    # What it printed last was one of many.
    last = run.last if run.typed or changed == shows else ""
    return replace(run, shows=changed, last=last)


def _ref(ref: FigureRef, renamed: Renamed) -> FigureRef:
    statement, line, column = ref
    return (statement, renamed(line), renamed(column))
