"""Documents made elsewhere, kept with a pack as they were taken in last."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session, undefer

from humble_sum.core.errors import Fault, InputError
from humble_sum.exchange.imprint import digest_of
from humble_sum.records.pack_rows import now
from humble_sum.records.tables import DocumentRow, PackRow

MOST_DOCUMENTS = 60


def documents_of(session: Session, row: PackRow) -> Sequence[DocumentRow]:
    """The documents of a pack, in the order in which they came."""
    return session.scalars(
        select(DocumentRow).where(DocumentRow.pack == row.id).order_by(DocumentRow.id)
    ).all()


def document_of(session: Session, row: PackRow, number: int, contents: bool = True) -> DocumentRow:
    """One document, with its `contents` where they are wanted. Raises InputError where there is none of this
    number."""
    query = select(DocumentRow).where(DocumentRow.pack == row.id, DocumentRow.id == number)
    both = (undefer(DocumentRow.data), undefer(DocumentRow.before))
    query = query.options(*both) if contents else query
    found = session.scalar(query) if 0 < number < 2**62 else None
    if found is None:
        raise InputError("no-such-document", Fault("document", f"This pack has no document {number}."))
    return found


def keep_document(session: Session, row: PackRow, name: str, data: bytes, author: str) -> DocumentRow:
    """Keep a document; one of the same name becomes the version before it. Raises InputError where there are
    too many."""
    every = documents_of(session, row)
    found = next((each for each in every if each.name == name), None)
    if found is None:
        if len(every) >= MOST_DOCUMENTS:
            what = f"A pack has at most {MOST_DOCUMENTS} documents."
            raise InputError("bad-document", Fault("name", what, "Take out those that are done."))
        found = DocumentRow(pack=row.id, name=name, data=data, digest="", at="", author="")
        session.add(found)
    elif found.digest != digest_of(data):
        found.before = found.data
    found.data, found.digest, found.at, found.author = data, digest_of(data), now(), author
    session.flush()
    return found


def remove_document(session: Session, row: PackRow, number: int) -> str:
    """Take a document out; its name. What was said of its numbers stays with the pack."""
    found = document_of(session, row, number)
    session.delete(found)
    return found.name
