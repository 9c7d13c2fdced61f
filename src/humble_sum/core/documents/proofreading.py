"""A document proofread against a pack: every number judged, and the sums of its tables checked as printed."""

from __future__ import annotations

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Callable, Iterator, Mapping, Sequence
from copy import copy
from dataclasses import dataclass, replace
from typing import Any, TypeVar

from humble_sum.core.documents.document import Document, Paragraph, Place, Table
from humble_sum.core.documents.judgement import Judged, judge, judge_amounts, written_like
from humble_sum.core.documents.measures import Meaning, Meanings
from humble_sum.core.documents.naming import Names, stems
from humble_sum.core.documents.numbers import Number, convention_of, numbers_in
from humble_sum.core.documents.prose_figures import (
    APART,
    POSSIBLE,
    SURE,
    Weighed,
    weigh_sentence,
)
from humble_sum.core.documents.sentences import Said, sentences
from humble_sum.core.documents.surroundings import around_in_table, around_in_text
from humble_sum.core.documents.table_figures import Matched, ReadTable, match_table, read_table
from humble_sum.core.documents.table_measures import worked_out
from humble_sum.core.documents.table_sums import TableSum, sums_of
from humble_sum.core.documents.word_forms import pattern
from humble_sum.core.intake.amount_reading import Convention
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.document_answers import DocumentAnswer
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.names import FigureRef

MOST_KEPT = 8_000  # paragraphs, and tables, that a reader remembers
Made = TypeVar("Made")


@dataclass(frozen=True)
class Judgment:
    """A number of a document and how it stands: which figure or measure it is, what it should print, and
    why. `follows` says that the document itself names the figure."""

    text: str
    place: Place
    judged: Judged
    number: Number
    figure: FigureRef | None = None
    against: FigureRef | None = None
    measure: str = ""
    should_print: str = ""
    because: tuple[str, ...] = ()
    around: str = ""
    follows: bool = False
    answer: DocumentAnswer | None = None

    @property
    def says(self) -> str:
        return self.judged.judgement


@dataclass(frozen=True)
class Proofread:
    """A document proofread: its numbers in reading order, the sums of its tables, how it writes numbers, and
    the edition that it was read against."""

    document: Document
    numbers: tuple[Judgment, ...]
    sums: tuple[TableSum, ...]
    convention: Convention
    edition: str = OWN

    def count(self, judgement: str) -> int:
        return sum(each.judged.judgement == judgement for each in self.numbers)


class Reader:
    """Proofreads documents against one pack, whose names and measures are looked through once."""

    def __init__(self, pack_proof: PackProof):
        self.pack_proof = pack_proof
        self.names = Names(pack_proof)
        self.meanings = Meanings(self.names)
        # What was judged, by what it follows from: the next version of a document is mostly the same.
        self._paragraphs: dict[Any, tuple[Judgment, ...]] = {}
        self._tables: dict[Any, tuple[list[Judgment], list[TableSum]]] = {}

    def after(self, pack_proof: PackProof) -> Reader:
        """The reader of a later state of the pack that prints the same: only what was said of numbers may
        differ."""
        later = copy(self)
        later.pack_proof = pack_proof
        return later

    def proofread(self, document: Document) -> Proofread:
        """Every number of a document judged."""
        convention = convention_of(_texts(document))
        numbers: list[Judgment] = []
        sums: list[TableSum] = []
        answers = {each.key: each for each in self.pack_proof.pack.document_answers}
        above = ""
        heading: tuple[str, ...] = ()
        before: tuple[str, ...] = ()
        for block in document.blocks:
            if isinstance(block, Table):
                found, added = self._kept_table(block, block.title or above, convention)
                numbers += found
                sums += added
                continue
            above = block.text
            words = stems(block.text) if len(block.text) < 400 else ()
            if block.heading:
                heading, before = words, ()
            numbers += self._kept_paragraph(block, (*heading, *before), convention)
            before = words
        entity = self.pack_proof.pack.entity
        marked = {key: figure for block in document.blocks for key, figure in _followed(block, entity)}
        answered = tuple(
            self._answered(self._followed(each, marked, convention), answers, convention) for each in numbers
        )
        return Proofread(
            document, said_in_two_ways(answered), tuple(sums), convention, self.pack_proof.pack.shown
        )

    def _answered(
        self, of: Judgment, answers: Mapping[tuple[str, bool], DocumentAnswer], convention: Convention
    ) -> Judgment:
        """A number with what was said of it, or of all alike."""
        answer = answers.get((of.around, False)) or answers.get((of.text, True))
        if answer is None:
            return of
        by = f" ({answer.author})" if answer.author else ""
        if answer.answer == "figure" and answer.figure is not None:
            said = self._of_figure(of, answer.figure, convention, "It was said to be {}" + by)
            return replace(said, answer=answer)
        why = f"It stays as it is{by}: {answer.reason}." if answer.answer == "stays" else f"None of ours{by}."
        other = Judged("other", None)
        return replace(of, judged=other, should_print="", because=(why,), answer=answer)

    def _followed(
        self, of: Judgment, marked: Mapping[tuple[object, ...], FigureRef], convention: Convention
    ) -> Judgment:
        """A number as the figure that the document itself says it follows."""
        place = of.place
        at = (place.paragraph, place.table, place.row, place.column)
        spots = range(of.number.digits[0], of.number.digits[1])
        figure = next((found for spot in spots if (found := marked.get((*at, spot)))), None)
        if figure is None:
            return of
        return replace(self._of_figure(of, figure, convention, "It follows {}"), follows=True)

    def _of_figure(self, of: Judgment, figure: FigureRef, convention: Convention, why: str) -> Judgment:
        """A number judged as one figure, whatever else it looks like."""
        if not _is_there(self.pack_proof, figure):
            gone = Judged("gone", None, (why.format(f"{'/'.join(figure)}, which is gone") + ".",))
            return replace(of, judged=gone, figure=None, should_print="", because=gone.because)
        judged = judge(of.number, self.names.figure(figure))
        should = ""
        if judged.judgement == "disagrees" and judged.should is not None:
            should = written_like(of.number, judged.should, convention)
        because = f"{why.format(describe_figure(self.pack_proof.pack, figure))}."
        return replace(
            of,
            judged=judged,
            figure=figure,
            against=None,
            measure="figure",
            should_print=should,
            because=(because, *judged.because),
        )

    def _kept_paragraph(
        self, of: Paragraph, topic: Sequence[str], convention: Convention
    ) -> Iterator[Judgment]:
        """The numbers of a paragraph; of one that was read before in the same surroundings, as they were
        judged then."""
        key = of.text, tuple(topic), convention
        kept = _once(self._paragraphs, key, lambda: tuple(self._paragraph(of, topic, convention)))
        for each in kept:
            yield replace(each, place=replace(each.place, paragraph=of.number, page=of.page))

    def _kept_table(
        self, of: Table, above: str, convention: Convention
    ) -> tuple[list[Judgment], list[TableSum]]:
        """The same of a table."""
        key = of.rows, above, convention
        numbers, sums = _once(
            self._tables, key, lambda: self._table(*self._read_table(of, above, convention), convention)
        )
        here = [replace(n, place=replace(n.place, table=of.number, page=of.page)) for n in numbers]
        return here, [replace(each, table=of.number) for each in sums]

    def _paragraph(self, of: Paragraph, topic: Sequence[str], convention: Convention) -> Iterator[Judgment]:
        every = list(numbers_in(of.text, convention))
        if not every:
            return
        last: Sequence[str] = topic
        starts = [number.start for number in every]
        for said in sentences(of.text):
            end = said.start + len(said.text)
            here = every[bisect_left(starts, said.start) : bisect_left(starts, end)]
            ours = [number for number in here if not number.other]
            weighed = dict(zip(map(id, ours), weigh_sentence(said, ours, last, self.meanings), strict=True))
            for number in here:
                place = Place(number.start, paragraph=of.number, page=of.page)
                found = weighed.get(id(number), [])
                start, stop = number.start - said.start, number.end - said.start
                kept = around_in_text(said.text, start, stop)
                yield replace(self._judged(number, place, found, said, convention), around=kept)
            last = tuple(said.stems) or last

    def _judged(
        self, number: Number, place: Place, found: Sequence[Weighed], said: Said, convention: Convention
    ) -> Judgment:
        if number.other:
            return _other(number, place, f"It is {number.other}.")
        if not found or found[0].bits < POSSIBLE:
            return _other(number, place, "Nothing near it names a figure that it is.")
        best = found[0]
        judged = self._against(number, best, said)
        # Of one line the column is meant whose amount it is.
        rivals = (e for e in found[1:] if not (best.same and e.meaning.figure[:2] == best.meaning.figure[:2]))
        rival = next((e for e in rivals if e.meaning.figure != best.meaning.figure), None)
        close = rival is not None and best.bits - rival.bits < APART and rival.same != best.same
        if best.bits < SURE or close:
            if not best.same and best.bits < SURE:
                return _other(number, place, "Nothing near it names a figure that it is.")
            judged = replace(judged, judgement="doubt")
        return self._told(number, place, best, judged, convention)

    def _against(self, number: Number, best: Weighed, said: Said) -> Judged:
        meaning = best.meaning
        if meaning.measure == "figure":
            return judge(number, self.names.figure(meaning.figure))
        what = "as the pack's figures have it"
        judged = judge_amounts(number, meaning.amounts, f"Worked out {what}.")
        way = _direction(said, number)
        if judged.judgement == "rounds" and way and meaning.sign and way != meaning.sign:
            went = "rose" if meaning.sign > 0 else "fell"
            return Judged("disagrees", judged.should, (f"The amount {went}; the text says otherwise.",))
        return judged

    def _told(
        self, number: Number, place: Place, best: Weighed, judged: Judged, convention: Convention
    ) -> Judgment:
        meaning = best.meaning
        name = describe_figure(self.pack_proof.pack, meaning.figure)
        should = ""
        if judged.judgement == "disagrees" and judged.should is not None:
            should = written_like(number, judged.should, convention)
        return Judgment(
            number.text,
            place,
            judged,
            number,
            meaning.figure,
            meaning.against,
            meaning.measure,
            should,
            (f"It is taken for {name}: {', '.join(best.because)}.", *judged.because),
        )

    def _worked_out(self, number: Number, meaning: Meaning, place: Place, convention: Convention) -> Judgment:
        """A cell of a column of changes or shares."""
        judged = judge_amounts(number, meaning.amounts, "Worked out as the pack's figures have it.")
        because = ("most cells of its column are worked out so",)
        return self._told(number, place, Weighed(meaning, SURE, True, because), judged, convention)

    def _read_table(
        self, table: Table, above: str, convention: Convention
    ) -> tuple[ReadTable, list[Matched]]:
        """A table with what its cells are: as it stands, or turned where that says more of them."""
        read = read_table(table, above, convention)
        matched = list(match_table(read, self.names))
        known = sum(each.figure is not None for each in matched)
        if 2 * known <= len(matched):
            turned = read_table(table, above, convention, turned=True)
            other = list(match_table(turned, self.names))
            if sum(each.figure is not None for each in other) > known or len(other) > 2 * len(matched):
                return turned, other
        return read, matched

    def _table(
        self, read: ReadTable, every: Sequence[Matched], convention: Convention
    ) -> tuple[list[Judgment], list[TableSum]]:
        numbers = []
        found: dict[tuple[int, int], FigureRef] = {}
        derived = worked_out(read, every, self.meanings)
        for matched in every:
            cell = matched.cell
            row, column = (cell.column, cell.row) if read.turned else (cell.row, cell.column)
            at = {"table": read.table.number, "row": row, "column": column, "page": read.table.page}
            place = Place(cell.number.start, **at)
            if matched.figure is None:
                number, meaning = derived.get((cell.row, cell.column), (cell.number, None))
                other = _other(cell.number, place, "Its row or column is none of the pack.")
                numbers.append(self._worked_out(number, meaning, place, convention) if meaning else other)
                continue
            found[cell.row, cell.column] = matched.figure
            number = cell.number
            figure = self.names.figure(matched.figure)
            if figure.clauses.form == "percent" and number.form == "amount":
                number = replace(
                    number, amount=number.amount.scaleb(-2), exponent=number.exponent - 2, form="percent"
                )
            judged = judge(number, figure)
            should = ""
            if judged.judgement == "disagrees" and judged.should is not None:
                should = written_like(number, judged.should, convention)
            name = describe_figure(self.pack_proof.pack, matched.figure)
            because = (f"It is taken for {name}: {', '.join(matched.because)}.", *judged.because)
            numbers.append(
                Judgment(number.text, place, judged, number, matched.figure, None, "figure", should, because)
            )
        named = [
            replace(
                each, around=around_in_table(read.labels[of.cell.row], read.heads.get(of.cell.column, ""))
            )
            for each, of in zip(numbers, every, strict=True)
        ]
        return sorted(named, key=lambda each: (each.place.row, each.place.column)), list(
            sums_of(read, found, self.pack_proof, convention)
        )


def _followed(block: Paragraph | Table, entity: str) -> Iterator[tuple[tuple[object, ...], FigureRef]]:
    """Every character of a block that follows a figure of this entity."""
    where = (block.number, None) if isinstance(block, Paragraph) else (None, block.number)
    for each in (each for each in block.following if each.entity in ("", entity)):
        for spot in range(each.start, each.end):
            yield (*where, each.row, each.column, spot), each.figure


def said_in_two_ways(numbers: Sequence[Judgment]) -> tuple[Judgment, ...]:
    """The numbers, those of one figure told of each other where they say it in the same digits' places and
    yet not alike: one is the rounding of the exact amount, and another what the page prints."""
    alike: dict[tuple[object, ...], list[Judgment]] = defaultdict(list)
    for each in numbers:
        if each.figure is not None and each.says in ("agrees", "rounds", "nudged"):
            alike[each.measure, each.figure, each.against, each.number.exponent].append(each)
    others: dict[int, Judgment] = {}
    for same in alike.values():
        for each in same:
            size = each.number.amount.copy_abs()
            other = next((one for one in same if one.number.amount.copy_abs() != size), None)
            if other is not None:
                others[id(each)] = other
    return tuple(
        replace(each, because=(*each.because, f"Elsewhere it is {other.text} ({other.place.says})."))
        if (other := others.get(id(each)))
        else each
        for each in numbers
    )


def _once(kept: dict[Any, Made], key: object, make: Callable[[], Made]) -> Made:
    """What is kept under a key, or is made now. Several threads may ask: each gets what is right."""
    found = kept.get(key)
    if found is None:
        found = make()
        if len(kept) >= MOST_KEPT:
            kept.clear()
        kept[key] = found
    return found


def _is_there(pack_proof: PackProof, figure: FigureRef) -> bool:
    proof = pack_proof.proofs.get(figure[0])
    return proof is not None and (figure[1], figure[2]) in proof.figures


def _other(number: Number, place: Place, why: str) -> Judgment:
    return Judgment(number.text, place, Judged("other", None), number, because=(why,))


def _direction(said: Said, number: Number) -> int:
    """Which way the words before a number say that something went; 0 where they say none or both."""
    head = said.text[max(0, number.start - said.start - 70) : number.start - said.start]
    rise = max((m.start() for m in pattern("rise").finditer(head)), default=-1)
    fall = max((m.start() for m in pattern("fall").finditer(head)), default=-1)
    return 0 if rise < 0 and fall < 0 else 1 if rise > fall else -1


def _texts(document: Document) -> Iterator[str]:
    for block in document.blocks:
        if isinstance(block, Table):
            for row in block.rows:
                yield from row
        else:
            yield block.text
