"""What proofreading found, as JSON and as lines to be read."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from humble_sum.core.amounts import amount_text
from humble_sum.core.documents.document import Place
from humble_sum.core.documents.proofreading import Judgment, Proofread
from humble_sum.core.documents.table_sums import TableSum
from humble_sum.core.statements.edition import OWN

WORDS = {
    "agrees": "agree",
    "rounds": "agree as the rounding of the exact amount",
    "nudged": "show a nudge",
    "disagrees": "disagree",
    "gone": "are of figures that are missing",
    "doubt": "in doubt",
    "other": "none of ours",
}


def as_json(read: Proofread) -> dict[str, Any]:
    """A document's numbers and the sums of its tables."""
    return {
        "document": read.document.name,
        "kind": read.document.kind,
        "edition": read.edition,
        "numbers": [_number(each) for each in read.numbers],
        "tables": [_table(read, number) for number in sorted({each.table for each in read.sums})],
        "counts": {word: read.count(word) for word in WORDS},
    }


def _number(of: Judgment) -> dict[str, Any]:
    return {
        "text": of.text,
        "place": place_json(of.place),
        "judgement": of.judged.judgement,
        "figure": "/".join(of.figure) if of.figure else None,
        "against": "/".join(of.against) if of.against else None,
        "measure": of.measure or None,
        "should_print": of.should_print or None,
        "because": list(of.because),
        "follows": of.follows,
    }


def place_json(place: Place) -> dict[str, int]:
    """A place without what it has not."""
    parts = ("paragraph", "table", "row", "column", "start", "page")
    return {name: value for name in parts if (value := getattr(place, name)) is not None}


def _table(read: Proofread, number: int) -> dict[str, Any]:
    return {"table": number, "sums": [_sum(each) for each in read.sums if each.table == number]}


def _sum(of: TableSum) -> dict[str, Any]:
    return {
        "row": of.row,
        "column": of.column,
        "label": of.label,
        "head": of.head,
        "parts": [part for part, _ in of.parts],
        "across": of.across,
        "comes_to": amount_text(of.comes_to),
        "prints": amount_text(of.prints),
        "holds": of.holds,
    }


def as_lines(read: Proofread) -> Iterator[str]:
    """What was found in a document, to be read: counts first, then what disagrees or is in doubt."""
    counts = [f"{count:,} {word}" for name, word in WORDS.items() if (count := read.count(name))]
    edition = "" if read.edition == OWN else f", read against {read.edition}"
    yield f"{read.document.name}{edition}: {len(read.numbers):,} numbers: {', '.join(counts) or 'none'}."
    for each in read.numbers:
        if each.judged.judgement in ("disagrees", "nudged", "doubt", "gone"):
            should = f", should be {each.should_print}" if each.should_print else ""
            yield f"  {each.place.says}: {each.text} {_said(each)}{should}. {' '.join(each.because)}"
    for total in read.sums:
        if not total.holds:
            yield (
                f"  table {total.table + 1}, {total.label or f'row {total.row + 1}'}, "
                f"{total.head or f'column {total.column + 1}'}: adds to {total.written[0]}, "
                f"prints {total.written[1]}."
            )


def _said(of: Judgment) -> str:
    return {"disagrees": "disagrees", "nudged": "shows a nudge", "gone": "is gone"}.get(
        of.judged.judgement, "is in doubt"
    )
