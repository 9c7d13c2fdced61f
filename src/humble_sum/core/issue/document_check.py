"""The last check of documents made elsewhere: that they say what the pack prints."""

from __future__ import annotations

from collections.abc import Sequence

from humble_sum.core.documents.recorded_numbers import OFF, UNREAD, RecordedNumber
from humble_sum.core.issue.last_check import Check, Open

WRONG = {
    "disagrees": "disagrees",
    "nudged": "shows a nudge",
    "gone": "is of a figure that is gone",
    "doubt": "is in doubt",
    OFF: "is not the sum of its parts",
    UNREAD: "cannot be read",
}
AGREE = ("agrees", "rounds")


def document_check(numbers: Sequence[RecordedNumber]) -> Check:
    """Whether every number of the documents of a pack agrees."""
    open_ = tuple(Open(_says(each)) for each in numbers if each.judgement in WRONG)
    documents = {each.document for each in numbers}
    agree = sum(each.judgement in AGREE for each in numbers)
    many = "1 document" if len(documents) == 1 else f"{len(documents)} documents"
    evidence = f"{many}, {agree:,} {'number agrees' if agree == 1 else 'numbers agree'}"
    return Check("documents", "Documents agree", evidence, open_)


def _says(of: RecordedNumber) -> str:
    should = f": it should be {of.should_print}" if of.should_print else ""
    if of.judgement == OFF:
        return f"{of.document}, {of.place}: its parts add to {of.should_print}, and it prints {of.text}"
    return f"{of.document}, {of.place}: {of.text} {WRONG[of.judgement]}{should}".replace(":  ", " ")
