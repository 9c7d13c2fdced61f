"""Numbers of which words or amounts say that they are no figure of a pack gone wrong: so much for each of
something, a plan, a share or a margin of other lines, a sum of the numbers before it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import accumulate

from humble_sum.core.amounts import EXACT
from humble_sum.core.documents.measures import Meaning
from humble_sum.core.documents.naming import Column, Line, Names
from humble_sum.core.documents.numbers import Number
from humble_sum.core.documents.sentences import Around, Said
from humble_sum.core.documents.word_forms import pattern

IN_FULL, IN_PART = 0.999, 0.75  # shares of a label: said in full, and below which it is said in part
LEAST_OF_SUM = 3  # digits of a sum that is no chance
END = 10_000  # words that no sentence has
Lines = Mapping[tuple[str, str], tuple[Line, float]]


def is_excluded(
    meaning: Meaning, number: Number, near: Around, said: Said, lines: Lines, names: Names, far: bool
) -> bool:
    """Whether the words around a number rule out a measure that has another amount. `lines` are those that
    the sentence names, with the share of each label that it says. The amount may be `far` from the number's:
    no slip of the pen."""
    line = meaning.figure[:2]
    if near.for_each or (far and _counts_others(line, number, near, lines)):
        return True
    if _is_named_by_another(line, near, said, lines):
        return True
    if near.planned and not _is_called_so(near.planned, line, lines, names.column(meaning.figure)):
        return True
    if meaning.measure == "share":
        return near.shared and not _is_share_of_it(meaning, near, said, lines)
    told = near.margin or near.shared or near.compound
    return meaning.measure in ("change", "change_percent") and told


def _is_called_so(word: str, line: tuple[str, str], lines: Lines, column: Column) -> bool:
    """Whether a word of plans is part of a line's own name (expected credit losses), or heads its column."""
    name = lines[line][0].label if line in lines else ""
    return word in name.lower() or bool(pattern("planned").search(column.label))


def is_sum(before: Sequence[Number], number: Number) -> bool:
    """Whether a number is the sum of the last two or more before it, as they are written: it is theirs."""
    total = number.amount.copy_abs()
    alike = [each for each in before if each.form == number.form and each.currency == number.currency]
    sizes = [each.amount.copy_abs() for each in alike if not each.other][::-1]
    return number.significant >= LEAST_OF_SUM and total in [*accumulate(sizes, EXACT.add)][1:]


def _counts_others(line: tuple[str, str], number: Number, near: Around, lines: Lines) -> bool:
    """Whether a bare number is followed by what it counts, and that is nothing of the line's name."""
    bare = number.form == "amount" and number.currency is None and not number.scaled
    words = lines[line][0].words if line in lines else ()
    return bare and bool(near.next_word) and near.next_word not in words


def _is_named_by_another(line: tuple[str, str], near: Around, said: Said, lines: Lines) -> bool:
    """Whether all that is said of a line's label is said of another one, whose label is said in full; or a
    part of it only, behind the number."""
    if line not in lines or lines[line][1] >= IN_FULL:
        return False
    named = {word for word in lines[line][0].words if word in said.stems}
    if lines[line][1] < IN_PART and all(min(said.stems[word]) >= near.words[1] for word in named):
        return True
    others = (other for other, share in lines.values() if share >= IN_FULL)
    return any(named <= {*other.words} for other in others)


def _is_share_of_it(meaning: Meaning, near: Around, said: Said, lines: Lines) -> bool:
    """Whether a share may be of the one line that the sentence names before its number, and of the line that
    it names behind it, where it names them."""
    first, last = near.words
    before = {key for key in lines if _is_named(lines[key][0], said, range(first))}
    behind = {key for key in lines if _is_named(lines[key][0], said, range(last, END))}
    whole = not behind or (meaning.against is not None and meaning.against[:2] in behind)
    return whole and len({lines[key][0].words for key in before}) < 2


def is_named_before(line: tuple[str, str], near: Around, said: Said, lines: Lines) -> bool:
    """Whether a line is named before a number: then the number is that line's, right or wrong."""
    return line in lines and _is_named(lines[line][0], said, range(near.words[0]))


def _is_named(line: Line, said: Said, places: range) -> bool:
    """Whether every word of a line stands at some of these places."""
    return bool(line.words) and all(
        any(place in places for place in said.stems.get(word, ())) for word in line.words
    )
