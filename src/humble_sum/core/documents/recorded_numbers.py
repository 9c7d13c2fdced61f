"""What stays on record of documents that were proofread: every judged number and every sum, as texts."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from humble_sum.core.amounts import amount_text
from humble_sum.core.documents.proofreading import Proofread

ADDS, OFF, UNREAD = "adds", "does not add", "cannot be read"


class RecordedNumber(NamedTuple):
    """A number of a document, or a sum of one of its tables. `sha256` is the digest of the document; `amount`
    is exact, and one unit of its last digit is 10**`exponent`. `judgement` is one of those of proofreading,
    or that a sum adds or does not add; `answered_by` is who said what it is."""

    document: str
    sha256: str
    place: str
    text: str
    amount: str
    exponent: str
    judgement: str
    figure: str
    measure: str
    should_print: str
    because: str
    answered_by: str


def unread(name: str, digest: str, why: str) -> RecordedNumber:
    """A document that could not be read, in the place of its numbers."""
    return RecordedNumber(name, digest, "the document", "", "", "", UNREAD, "", "", "", why, "")


def recorded_numbers(read: Proofread, digest: str) -> Iterator[RecordedNumber]:
    """The numbers of a document in reading order, and then its sums."""
    for each in read.numbers:
        yield RecordedNumber(
            document=read.document.name,
            sha256=digest,
            place=each.place.says,
            text=each.text,
            amount=amount_text(each.number.amount),
            exponent=str(each.number.exponent),
            judgement=each.judged.judgement,
            figure="/".join(each.figure) if each.figure else "",
            measure=each.measure,
            should_print=each.should_print,
            because=" ".join(each.because),
            answered_by=(each.answer.author or "somebody") if each.answer else "",
        )
    for total in read.sums:
        yield RecordedNumber(
            document=read.document.name,
            sha256=digest,
            place=total.place,
            text=total.written[1],
            amount=amount_text(total.prints),
            exponent="",
            judgement=ADDS if total.holds else OFF,
            figure="",
            measure="sum",
            should_print="" if total.holds else total.written[0],
            because=f"{total.label}, {total.head}".strip(", "),
            answered_by="",
        )
