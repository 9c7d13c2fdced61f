"""The record of documents in an issue, held against the frozen pack."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from decimal import Decimal

from humble_sum.core.documents.judgement import judge
from humble_sum.core.documents.numbers import Number
from humble_sum.core.documents.recorded_numbers import RecordedNumber
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.exchange.containers.edition_files import DOCUMENTS
from humble_sum.exchange.documents.record_csv import read_record, write_record

SURE = ("agrees", "rounds", "nudged", "disagrees", "gone")


def record_of(files: Mapping[str, bytes], pack_proof: PackProof, faults: list[Fault]) -> bytes | None:
    """The record of documents where an issue has one that can be read; `faults` gets what does not hold."""
    data = files.get(DOCUMENTS)
    if data is None:
        return None
    try:
        numbers = read_record(data)
    except InputError as error:
        faults += error.faults
        return None
    if write_record(numbers) != data:
        faults.append(Fault(DOCUMENTS, "It is not written as this program writes it."))
    faults += [
        Fault(DOCUMENTS, f"{each.document}, {each.place}: {what}")
        for each in numbers
        for what in _faults(each, pack_proof)
    ]
    return data


def _faults(of: RecordedNumber, pack_proof: PackProof) -> Iterator[str]:
    """What does not hold of one number: its amount against its text, its judgement against the pack."""
    if of.measure != "figure" or of.judgement not in SURE:
        return
    try:
        statement, line, column = of.figure.split("/")
        figure = pack_proof.proofs[statement].figures[line, column]
        number = Number(0, 0, of.text, (0, 0), Decimal(of.amount), int(of.exponent))
    except (KeyError, ValueError, ArithmeticError):
        yield f"{of.text} is of no figure of the pack, or has no amount."
        return
    if _digits(of.text) not in ("", _digits(of.amount)):
        yield f"{of.text} is not {of.amount}."
    judged = judge(number, figure)
    should = "" if judged.should is None else f"{judged.should:f}"
    if judged.judgement != of.judgement or (of.should_print and _digits(of.should_print) != _digits(should)):
        yield f"{of.text} is said to be “{of.judgement}” of {of.figure}, and is not."


def _digits(text: str) -> str:
    """The digits of a number that say something, in whatever unit it is written."""
    return "".join(str(int(c)) for c in text if c.isdecimal()).strip("0")
