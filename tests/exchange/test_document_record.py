"""The record of documents goes out with an issue, and is held against the pack when that is verified."""

from __future__ import annotations

import unittest

from humble_sum.core.documents.recorded_numbers import RecordedNumber, recorded_numbers
from humble_sum.core.errors import InputError
from humble_sum.core.issue.document_check import document_check
from humble_sum.core.issue.issue import CheckRecord
from humble_sum.exchange.containers.container import read_container, with_files, write_container
from humble_sum.exchange.containers.edition_files import DOCUMENTS
from humble_sum.exchange.containers.last_checks import checks_of
from humble_sum.exchange.containers.new_issue import Wanted, issue
from humble_sum.exchange.containers.verification import verify
from humble_sum.exchange.documents.record_csv import read_record, write_record
from humble_sum.exchange.imprint import digest_of
from tests.exchange.test_documents import FILES, READER, proofread

NAMES = ("a.docx", "a.txt", "a.xlsx")
AT = "2026-05-04T09:30:00+00:00"


def record() -> list[RecordedNumber]:
    return [
        number
        for name in NAMES
        for number in recorded_numbers(proofread(name, FILES[name]), digest_of(FILES[name]))
    ]


def container(**more: str) -> bytes:
    documents = write_record(record())
    reasons = {check.id: "known" for check in checks_of(READER.pack_proof, None, documents)} | more
    wanted = Wanted("Asha", "the auditors", files=("csv",), reasons=reasons, documents=documents)
    return issue(READER.pack_proof, 1, AT, wanted)[1]


def altered(data: bytes, rows: list[RecordedNumber]) -> bytes:
    """The container with another record, and all else made to fit it."""
    old = read_container(data)
    files = {**old.files, DOCUMENTS: write_record(rows)}
    made = document_check(read_record(files[DOCUMENTS]))
    said = CheckRecord(
        id=made.id,
        says=made.says,
        evidence=made.evidence,
        open=tuple(each.says for each in made.open),
        reason="known" if made.open else "",
    )
    checks = tuple(said if each.id == "documents" else each for each in old.issue.checks)
    says = {each.name: each.says for each in old.issue.files}
    told = old.issue.model_copy(update={"checks": checks})
    return write_container(
        with_files(told, {name: (says[name], file) for name, file in files.items()}), files
    )


class DocumentRecordTest(unittest.TestCase):
    def test_what_disagrees_is_open_until_a_reason_is_given(self) -> None:
        with self.assertRaises(InputError) as refused:
            container(documents="")
        self.assertIn("a.docx, page 1, paragraph 2: ₹33.83 crore disagrees", str(refused.exception))
        found = verify(container())
        self.assertEqual([str(fault) for fault in found.faults], [])
        (check,) = [each for each in found.open if each.id == "documents"]
        self.assertEqual(check.reason, "known")
        self.assertTrue(any(DOCUMENTS in said for said in found.not_shown))

    def test_a_record_that_says_otherwise_than_the_pack_is_found(self) -> None:
        data = container()
        rows = record()
        at = next(n for n, row in enumerate(rows) if row.judgement == "disagrees")
        agreed = next(n for n, row in enumerate(rows) if row.judgement == "agrees")
        for n, change in (
            (at, {"judgement": "agrees", "should_print": ""}),
            (at, {"text": "₹33.38 crore"}),
            (at, {"figure": "income/net/y26"}),
            (agreed, {"judgement": "disagrees"}),
            (agreed, {"figure": "income/nothing/y26"}),
            (agreed, {"amount": "1"}),
        ):
            with self.subTest(change):
                changed = [row._replace(**change) if m == n else row for m, row in enumerate(rows)]
                found = verify(altered(data, changed))
                self.assertTrue(any(fault.where == DOCUMENTS for fault in found.faults))
        self.assertEqual(verify(altered(data, rows)).faults, [])
        with self.assertRaises(InputError):
            read_record(b"a,b\r\n1,2\r\n")


if __name__ == "__main__":
    unittest.main()
