"""What a text calls the figures of a pack: lines by the words of their labels, columns by their periods."""

from __future__ import annotations

import math
import re
from collections import defaultdict
from collections.abc import Collection
from dataclasses import dataclass
from decimal import Decimal
from functools import cache, lru_cache

import numpy as np

from humble_sum.core.documents.judgement import at_unit
from humble_sum.core.documents.word_forms import forms
from humble_sum.core.intake.period_words import part_of_year
from humble_sum.core.intake.periods import Period, period_of
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Column as StatementColumn

UNCOUNTED = ("count", "percent")  # kinds of lines that are no money
TOKENS = re.compile(r"[^\W_]+")  # words, and codes such as A12
STEM = 5  # letters by which forms of a word are one: routes and route, costs and cost
SPAN = re.compile(r"(?<!\d)((?:19|20)\d\d)\s?[-–/]\s?((?:19|20)?\d\d)(?!\d)")
YEAR = re.compile(r"(?<!\d)((?:19|20)\d\d)(?!\d)")
SPANNED = re.compile(r"\d{4}-\d\d")  # the key of two years
QUARTER = re.compile(r"\b(?:Q|T|К|H|S)\s?([1-4])\b")


@cache
def stems(text: str) -> tuple[str, ...]:
    """The words of a text that say something, each cut to the letters that its forms share."""
    words = (word.lower() for word in TOKENS.findall(text))
    said = (word for word in words if word not in forms("empty"))
    return tuple(word[:STEM] if len(word) > STEM else word.removesuffix("s") for word in said)


@dataclass(frozen=True)
class Line:
    """A line of a statement, with the words of its label, how much they say in bits, and whether it is
    money."""

    statement: str
    id: str
    label: str
    words: tuple[str, ...]
    weight: float
    section: tuple[str, ...]
    money: bool


@dataclass(frozen=True)
class Column:
    """A column: its label, the period that it names and about how many `months` that has; `current` is the
    latest of the longest periods of its statement, `derived` a difference or share."""

    statement: str
    id: str
    label: str
    period: Period | None
    key: str
    current: bool
    derived: bool
    months: int


class Names:
    """The lines and columns of a pack, by what texts may call them."""

    def __init__(self, pack_proof: PackProof):
        self.pack_proof = pack_proof
        self.lines: list[Line] = []
        self.columns: dict[str, list[Column]] = {}
        by_word: dict[str, list[int]] = defaultdict(list)
        said: dict[str, set[str]] = defaultdict(set)
        found = []
        for id, proof in pack_proof.proofs.items():
            section: tuple[str, ...] = ()
            for line in proof.statement.lines:
                words = stems(line.label)
                if line.kind == "heading":
                    section = words
                    continue
                found.append((id, line.id, line.label, words, section, line.kind not in UNCOUNTED))
                for word in words:
                    said[word].add(" ".join(words))
            self.columns[id] = _columns(pack_proof, id)
        count = max(2, len({" ".join(words) for _, _, _, words, _, _ in found}))
        self.bits = {word: _word_bits(word, count, len(labels)) for word, labels in said.items()}
        for id, line_id, label, words, section, is_money in found:
            weight = sum(self.bits[word] for word in set(words))
            self.lines.append(Line(id, line_id, label, words, weight, section, is_money))
            for word in set(words):
                by_word[word].append(len(self.lines) - 1)
        self.by_id = {(line.statement, line.id): line for line in self.lines}
        self._by_word = {word: np.array(places) for word, places in by_word.items()}
        self._places = {(line.statement, line.id): n for n, line in enumerate(self.lines)}
        self._weights = np.array([line.weight or 1.0 for line in self.lines])
        self._rounded: dict[tuple[str, str, str, int], Decimal | None] = {}
        self._column = {(c.statement, c.id): c for columns in self.columns.values() for c in columns}

    def figure(self, ref: FigureRef) -> Figure:
        return self.pack_proof.proofs[ref[0]].figures[ref[1], ref[2]]

    def is_money(self, ref: FigureRef) -> bool:
        return self.by_id[ref[0], ref[1]].money

    def column(self, ref: FigureRef) -> Column:
        return self._column[ref[0], ref[2]]

    def named(
        self,
        words: Collection[str],
        half: Collection[str] = (),
        least: float = 0.0,
        most: int = 60,
        also: Collection[tuple[str, str]] = (),
    ) -> list[tuple[Line, float]]:
        """The `most` lines whose labels share most with the words of a text, each with the share of its label
        that is said, where that is the `least` or more; words of `half` count a half. Those of `also` come
        besides, where they are named at all."""
        every = [(self._by_word[word], self.bits[word]) for word in words if word in self.bits]
        every += [(self._by_word[word], self.bits[word] / 2) for word in half if word in self.bits]
        if not every:
            return []
        places = np.concatenate([lines for lines, _ in every])
        bits = np.repeat([bits for _, bits in every], [len(lines) for lines, _ in every])
        said = np.bincount(places, bits, len(self.lines))
        shares = said / self._weights
        found = np.flatnonzero((shares > 0) & (shares >= least))
        if len(found) > most:
            wanted = [self._places[key] for key in also]
            best = found[np.argpartition(-said[found], most)[:most]]
            found = np.union1d(best, np.intersect1d(found, np.array(wanted, dtype=int)))
        return [(self.lines[n], float(shares[n])) for n in found]

    def rounded(self, ref: FigureRef, exponent: int) -> Decimal | None:
        """The size of a figure in whole units of 10**exponent, None where it is missing; a document asks for
        the same ones over and over."""
        key = (*ref, exponent)
        if key not in self._rounded:
            exact = self.figure(ref).exact
            self._rounded[key] = None if exact is None else at_unit(exact.copy_abs(), exponent)
        return self._rounded[key]


def _word_bits(word: str, count: int, labels: int) -> float:
    """How much a word says: the fewer labels have it and the longer it is, the more."""
    return max(0.5, math.log2(count / labels) + 1) + min(3.0, max(0, len(word) - 2))


def _columns(pack_proof: PackProof, id: str) -> list[Column]:
    own = pack_proof.proofs[id].statement.columns
    differences = [column.difference is not None or bool(column.share) for column in own]
    periods = [None if apart else _period(column) for column, apart in zip(own, differences, strict=True)]
    lengths = [_length(column) for column in own]
    longest = max((n for n, p in zip(lengths, periods, strict=True) if p is not None), default=0)
    latest = max(
        (_order(p) for n, p in zip(lengths, periods, strict=True) if p is not None and n == longest),
        default=None,
    )
    return [
        Column(
            id,
            column.id,
            column.label,
            period,
            period_key(column.label),
            period is not None and length == longest and _order(period) == latest,
            apart,
            length,
        )
        for column, period, apart, length in zip(own, periods, differences, lengths, strict=True)
    ]


def _length(column: StatementColumn) -> int:
    """About how many months a column is of: a year, a quarter or a month; what names none is a year's."""
    if part_of_year(column.label) == "month" or (column.date and re.fullmatch(r"\d{4}-\d\d", column.date)):
        return 1
    return 3 if QUARTER.search(column.label) else 12


def _period(column: StatementColumn) -> Period | None:
    """The end of a column's period: as its date says, or its label."""
    if column.date and (found := re.fullmatch(r"(\d{4})-(\d\d)(?:-(\d\d))?", column.date)):
        return Period(int(found[1]), int(found[2]), int(found[3]) if found[3] else None)
    if span := SPAN.search(column.label):
        return Period(int(span[1][:2] + span[2][-2:]))
    return period_of(column.label)


def _order(period: Period) -> tuple[int, int, int]:
    return period.year, period.month or 0, period.day or 0


def period_key(text: str) -> str:
    """A period as it is written, in one form: "2025-26" for 2025–26, 2025/26 and FY 2025-2026; nothing where
    none is named."""
    if span := SPAN.search(text):
        quarter = QUARTER.search(text)
        return f"{span[1]}-{span[2][-2:]}{f' q{quarter[1]}' if quarter else ''}"
    if quarter := QUARTER.search(text):
        year = YEAR.search(text)
        return f"{year[1] if year else ''} q{quarter[1]}".strip()
    found = period_of(text)
    if found is not None:
        return "-".join(str(part) for part in found if part is not None)
    year = YEAR.search(text)
    return year[1] if year else ""


@lru_cache(maxsize=256)
def periods_said(text: str) -> tuple[tuple[int, str], ...]:
    """The periods that a text names, with the place after each; a sentence is asked once for each of its
    numbers."""
    spans = list(SPAN.finditer(text))
    named = [(found.end(), f"{found[1]}-{found[2][-2:]}") for found in spans]
    named += [
        (found.end(), found[1])
        for found in YEAR.finditer(text)
        if not any(span.start() <= found.start() < span.end() for span in spans)
    ]
    return tuple(named)


def meets(key: str, column: Column) -> bool:
    """Whether a period as written may be that of a column."""
    if not key:
        return False
    own = column.key
    if own == key or (own and (own.startswith(f"{key}-") or key.startswith(f"{own}-"))):
        return True
    if column.period is None or column.months != 12:
        return False
    end = str(column.period.year)
    if SPANNED.fullmatch(key):
        return end[-2:] == key[-2:] and not SPANNED.fullmatch(own)
    return key == end or key.startswith(f"{end}-")
