"""Corrections of a document: where a text stands, what it says, and what it should say."""

from __future__ import annotations

from dataclasses import dataclass

from humble_sum.core.documents.document import Place
from humble_sum.core.documents.proofreading import Proofread


@dataclass(frozen=True)
class Correction:
    """One text to be put in the place of another."""

    place: Place
    old: str
    new: str
    why: str


def corrections_of(read: Proofread) -> list[Correction]:
    """What has to change so that every number that disagrees says what the pack prints."""
    return [
        Correction(each.place, each.text, each.should_print, " ".join(each.because))
        for each in read.numbers
        if each.judged.judgement == "disagrees" and each.should_print and each.should_print != each.text
    ]
