"""Numbers of Word documents that follow figures of a pack: put into content controls of ours, and written
anew when the pack prints otherwise."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lxml import etree

from humble_sum.core.documents.document import Place
from humble_sum.core.documents.proofreading import Judgment, Proofread
from humble_sum.exchange.documents.corrections import Correction
from humble_sum.exchange.documents.docx import (
    FOLLOWS,
    MOST_TAG,
    Text,
    W,
    cut_out,
    path_of,
    read_parts,
    where_in,
)
from humble_sum.exchange.documents.packages import bad, with_parts, written
from humble_sum.exchange.documents.pptx import replace_in


@dataclass(frozen=True)
class Refreshed:
    """A number that was written anew: where, what it said and says, and which figure it follows."""

    place: Place
    was: str
    now: str
    figure: str


def refreshed(name: str, data: bytes, read: Proofread) -> tuple[bytes, list[Refreshed]]:
    """The document with every number that follows a figure saying what the pack prints. Raises InputError
    for documents that are not Word's."""
    _word_only(name, read)
    stale = [each for each in read.numbers if each.follows and each.should_print]
    parts = read_parts(name, data)
    touched = {}
    for each in sorted(stale, key=lambda number: -number.place.start):
        for text, start in where_in(parts, Correction(each.place, each.text, each.should_print, "")):
            replace_in(text.pieces, start, start + len(each.text), each.should_print)
            path = path_of(parts, text)
            touched[path] = parts.parts[path]
    done = [
        Refreshed(each.place, each.text, each.should_print, "/".join(each.figure or ())) for each in stale
    ]
    return with_parts(data, {path: written(root) for path, root in touched.items()}), done


def following(name: str, data: bytes, read: Proofread) -> tuple[bytes, int]:
    """The document with every number that agrees with a figure put into a control that follows it, and how
    many were put. Raises InputError for documents that are not Word's."""
    _word_only(name, read)
    sure = [
        each
        for each in read.numbers
        if each.figure and each.measure == "figure" and each.says in ("agrees", "rounds")
        if not each.follows and len(_tag(each)) <= MOST_TAG
    ]
    parts = read_parts(name, data)
    touched, count = {}, 0
    for each in sorted(sure, key=lambda number: -number.place.start):
        for text, start in where_in(parts, Correction(each.place, each.text, "", "")):
            if _wrap(text, start, start + len(each.text), _tag(each), "/".join(each.figure or ())):
                count += 1
                path = path_of(parts, text)
                touched[path] = parts.parts[path]
    return with_parts(data, {path: written(root) for path, root in touched.items()}), count


def _word_only(name: str, read: Proofread) -> None:
    if read.document.kind != "docx":
        raise bad(name, "Only Word documents have numbers that follow.", "Correct this one in place.")


def _tag(of: Judgment) -> str:
    return FOLLOWS + "/".join(of.figure or ())


def _wrap(text: Text, start: int, end: int, tag: str, alias: str) -> bool:
    """Put the runs of some characters into a content control. False where they are not runs beside each
    other."""
    within = [
        (place, element)
        for place, element in text.pieces
        if place < end and place + len(element.text or "") > start
    ]
    around = [element.getparent() for _, element in within]
    if any(run is None or run.tag != f"{W}r" for run in around):
        return False
    if len({run.getparent() for run in around if run is not None}) != 1:
        return False
    runs: Sequence[etree._Element] = [
        cut_out(run, element, max(0, start - place), min(len(element.text or ""), end - place))
        for place, element in within
        if (run := element.getparent()) is not None
    ]
    control = etree.Element(f"{W}sdt")
    properties = etree.SubElement(control, f"{W}sdtPr")
    etree.SubElement(properties, f"{W}alias", {f"{W}val": alias[:MOST_TAG]})
    etree.SubElement(properties, f"{W}tag", {f"{W}val": tag})
    content = etree.SubElement(control, f"{W}sdtContent")
    first = runs[0]
    parent = first.getparent()
    if parent is None or any(run.getparent() is not parent for run in runs):
        return False
    parent.replace(first, control)
    content.append(first)
    content.extend(runs[1:])
    return True
