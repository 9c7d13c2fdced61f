"""What a careful colleague would ask of a table before its figures are kept: each question with the evidence,
what depends on it, and answers that are decisions. The first answer is what was read for the time being."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from humble_sum.core.intake.amount_reading import COMMA, POINT, Convention, read
from humble_sum.core.intake.cell_reading import counts_up
from humble_sum.core.intake.column_currencies import columns_by_currency
from humble_sum.core.intake.columns import ColumnRead
from humble_sum.core.intake.conventions import decided_by
from humble_sum.core.intake.decisions import CONVENTIONS, MISSING, ConventionId
from humble_sum.core.intake.draft import Draft, stated_units
from humble_sum.core.intake.long_form import other_forms
from humble_sum.core.intake.odd_lines import odd_columns, odd_lines, table_power
from humble_sum.core.intake.periods import names_period, period_of
from humble_sum.core.intake.row_reading import Doubt
from humble_sum.core.intake.scale_words import POWERS_BY_NAME, SCALE_NAMES
from humble_sum.core.intake.signals import SETTLED
from humble_sum.core.intake.table import column_letters
from humble_sum.core.intake.table_sentence import across_said, adding
from humble_sum.core.intake.units import Unit, scale_within
from humble_sum.core.intake.vocabulary import says as means

Patch = Mapping[str, Any]
SUFFIX = re.compile(r"(?<=\d)[A-Za-z]{1,2}$")  # as of revised and estimated figures: 1,234r


@dataclass(frozen=True)
class Answer:
    """What an answer says, and the merge patch of decisions that gives it."""

    label: str
    decide: Patch


@dataclass(frozen=True)
class Question:
    """One question. `places` are the cells it is of, as people write them, none where it is of all."""

    asks: str
    says: str
    answers: tuple[Answer, ...]
    places: tuple[str, ...] = ()


def questions(made: Draft, beside: Sequence[Draft] = ()) -> list[Question]:
    """What there is to ask of a draft; `beside` are the other tables taken in with it."""
    found = [*_of_rows(made), *_of_unit(made, beside), *_of_silent(made), *_of_headings(made), *_of_odd(made)]
    return [
        *found,
        *_of_currencies(made),
        *_of_columns(made),
        *_of_left_out(made),
        *_of_marks(made),
        *_of_texts(made),
        *_of_sums(made),
    ]


def _of_rows(made: Draft) -> Iterator[Question]:
    """A table whose lines come again, told apart by a column of words that are no periods."""
    if made.across is not None or made.decided.across is not None or not made.lines:
        return
    forms = list(other_forms(made.table))
    if not forms:
        return
    by = " or ".join(f"{form.name} (column {column_letters(form.by[0])})" for form in forms)
    says = f"Lines come again, told apart by {by}. Each row is a line of its own for the time being."
    ways = [Answer(across_said(form), {"across": column_letters(form.by[0])}) for form in forms]
    yield Question("Is each of its rows a line?", says, (Answer("it is", {"across": "rows"}), *ways))


def _where(doubt: Doubt) -> str:
    return doubt.place.rpartition(", ")[2]


def _cell(doubt: Doubt, said: str | None) -> Patch:
    """The decision that a cell says this, or where it is None that it is open again."""
    told = None if said is None else {"text": doubt.text, "read": said}
    return {"cells": {_where(doubt): told}}


def _of_unit(made: Draft, beside: Sequence[Draft]) -> Iterator[Question]:
    """A table that states no unit beside others that do, or one that its number codes do not make."""
    if made.decided.unit is not None or not made.lines:
        return
    stated = [unit for unit in stated_units(made) if unit.power]
    shown = made.looks.common.clauses.get("scale", "ones")
    if shown != "ones":
        if len(stated) == 1 and stated[0].power != POWERS_BY_NAME[shown]:
            yield _of_codes(stated[0], shown)
        return
    if stated:
        return
    if (said := _scale_said(made)) is not None:
        text, name = said
        says = f"“{text[:60]}” stands above it, and does not say plainly of what. In ones for the time being."
        answers = (Answer("ones", {"unit": "ones"}), Answer(name, {"unit": name}))
        yield Question("What unit are its amounts in?", says, answers)
        return
    others = {unit.power for each in beside for unit in stated_units(each) if unit.power}
    if len(others) != 1:
        return
    name = SCALE_NAMES[others.pop()]
    says = f"It states no unit, and the tables beside it are in {name}. Read in ones for the time being."
    answers = (Answer("ones", {"unit": "ones"}), Answer(name, {"unit": name}))
    yield Question("What unit are its amounts in?", says, answers)


def _of_silent(made: Draft) -> Iterator[Question]:
    """Columns that state no unit beside others that do, and are about as large."""
    for column in made.layout.figures:
        letter = column_letters(column.index)
        own = made.decided.columns.get(letter)
        if column.may_be is None or made.decided.unit is not None or (own and own.unit):
            continue
        name = SCALE_NAMES[column.may_be.power or 0]
        says = f"It states no unit, and those beside it are in {name}. Read in ones for the time being."
        answers = [Answer(each, {"columns": {letter: {"unit": each}}}) for each in ("ones", name)]
        yield Question(f"What unit is {column.heading or f'column {letter}'} in?", says, tuple(answers))


def _of_headings(made: Draft) -> Iterator[Question]:
    """Headings that state a unit only by its letter, or for rows that nothing in the source bounds."""
    keys = {line.row: line.key for line in made.lines}
    for doubt in made.doubts:
        key = keys.get(doubt.sheet_place[0]) if doubt.asks == "unit" else None
        if key is None:
            continue
        answers = [Answer(each, {"rows": {key: {"unit": each}}}) for each in (doubt.unit, "ones")]
        says = f"{doubt.why[0].upper()}{doubt.why[1:]} for the time being."
        yield Question(f"What unit is in force under {doubt.text}?", says, tuple(answers), (_where(doubt),))


def _of_odd(made: Draft) -> Iterator[Question]:
    """Lines and columns that look as if the scale of their table were not theirs; the lines are asked of
    together."""
    if made.decided.unit is not None:
        return
    table = made.layout.unit
    for column, says in _open_columns(made):
        letter = column_letters(column.index)
        named, scale = column.heading or f"column {letter}", SCALE_NAMES[(table and table.power) or 0]
        yield _of_scale(named, "is", says, "ones", "columns", [letter], scale)
    for column, says in odd_columns(made):
        letter, name = column_letters(column.index), SCALE_NAMES[(column.unit and column.unit.power) or 0]
        yield _of_scale(column.heading or f"column {letter}", "is", says, name, "columns", [letter])
    lines = list(odd_lines(made))
    if lines:
        shown = ", ".join(line.label for line in lines[:4])
        more = f" and {len(lines) - 4} more" if len(lines) > 4 else ""
        are, them, look = ("are", "them", "they look") if len(lines) > 1 else ("is", "it", "it looks")
        says = f"No sum speaks for {them}, and {look} like a count or another measure."
        name = SCALE_NAMES[table_power(made) or 0]
        yield _of_scale(shown + more, are, says, name, "rows", [line.key for line in lines])


def _open_columns(made: Draft) -> Iterator[tuple[ColumnRead, str]]:
    """Columns that are read as numbers of things by a word alone, which money may be headed by too."""
    if not (made.layout.unit and made.layout.unit.power):
        return
    for column in made.layout.figures:
        told = made.decided.columns.get(column_letters(column.index))
        verdict = column.verdict
        if verdict is None or verdict.reading == "money" or verdict.margin >= SETTLED or (told and told.unit):
            continue
        why = next(signal.because for signal in verdict.strongest if signal.reading == verdict.reading)
        yield column, f"{why[0].upper()}{why[1:]}."


def _of_scale(
    named: str, are: str, says: str, now: str, of: str, keys: Sequence[str], other: str = "ones"
) -> Question:
    """What unit columns or rows are in: the one they were read in, or another."""
    answers = [Answer(each, {of: {key: {"unit": each} for key in keys}}) for each in (now, other)]
    return Question(
        f"What unit {are} {named} in?", f"{says} Read in {now} for the time being.", tuple(answers)
    )


def _of_currencies(made: Draft) -> Iterator[Question]:
    """Columns in several currencies, where a pack has one."""
    found = columns_by_currency(made.table, made.layout, made.looks)
    letters = {c: [column_letters(column.index) for column in of] for c, of in found.items()}
    told = [made.decided.columns.get(letter) for of in letters.values() for letter in of]
    if len(found) < 2 or made.decided.currency is not None or any(own and own.role for own in told):
        return

    def roles(of: Collection[str], role: str) -> Patch:
        return {letter: {"role": role} for letter in of}

    every = [letter for of in letters.values() for letter in of]
    answers = [Answer("all, and none is named", {"columns": roles(every, "figures")})]
    for currency, own in letters.items():
        others = [letter for letter in every if letter not in own]
        answers.append(Answer(currency, {"currency": currency, "columns": roles(others, "other")}))
    said = [f"{_headed(of)} in {currency}" for currency, of in found.items()]
    now = f": {made.currency} for the time being" if made.currency else ""
    says = f"{'; '.join(said)}. A statement has one currency{now}."
    yield Question("Which currency are its columns in?", says, tuple(answers))


def _headed(columns: Sequence[ColumnRead]) -> str:
    """The first of some columns, by their headings."""
    names = [f"“{each.heading}”" if each.heading else column_letters(each.index) for each in columns[:3]]
    return " and ".join([*names, "others"] if len(columns) > 3 else names)


def _of_codes(stated: Unit, shown: str) -> Question:
    """Number codes that divide by something else than the unit that stands above."""
    name = SCALE_NAMES[stated.power or 0]
    says = f"Its number codes show {shown}, and “{stated.said}” says {name}. In {name} for the time being."
    answers = (Answer("ones", {"unit": "ones"}), Answer(name, {"unit": name}))
    return Question("What unit are the numbers in its cells in?", says, answers)


def _scale_said(made: Draft) -> tuple[str, str] | None:
    """A text above the lines that has the word of a scale in it, and that scale."""
    for row in made.table.rows[: made.layout.first_row]:
        for cell in row:
            if isinstance(cell.value, str) and (power := scale_within(cell.value)) is not None:
                return cell.value.strip(), SCALE_NAMES[power]
    return None


def _of_columns(made: Draft) -> Iterator[Question]:
    """Columns whose cells could each be two numbers, with nothing in the table to tell which."""
    doubts = [doubt for doubt in made.doubts if doubt.asks == "either"]
    columns = [c for c in made.layout.figures if any(doubt.sheet_place[1] == c.index for doubt in doubts)]
    if not doubts or not columns:
        return
    sample = doubts[0].text
    answers = []
    ways: tuple[tuple[ConventionId, Convention], ...] = (("point", POINT), ("comma", COMMA))
    for id, convention in ways:
        told = {"columns": {column_letters(column.index): {"convention": id} for column in columns}}
        answers.append(Answer(f"{sample} is {_plain(read(sample, convention).amount)}", told))
    if columns[0].inferred and columns[0].inferred.convention == COMMA:
        answers.reverse()
    cells = "1 cell" if len(doubts) == 1 else f"{len(doubts)} cells"
    headings = ", ".join(column.heading or f"column {column_letters(column.index)}" for column in columns[:4])
    more = f" and {len(columns) - 4} more" if len(columns) > 4 else ""
    says = f"{cells} could be either, and no other tells. Every amount of {headings}{more} depends on it."
    yield Question("How are the numbers written?", says, tuple(answers), tuple(_where(d) for d in doubts))


def _of_left_out(made: Draft) -> Iterator[Question]:
    """Columns of periods that were left out, as most of their cells are no plain numbers; not those that are
    codes or notes beyond doubt."""
    sure = {each.subject for each in made.layout.verdicts if each.over("figures") >= SETTLED}
    for column in made.layout.columns:
        letter = column_letters(column.index)
        told = made.decided.columns.get(letter)
        named = names_period(column.heading) or means(column.heading, "version") or period_of(column.heading)
        if (
            f"column {letter}" in sure
            or column.role != "other"
            or not named
            or (told is not None and told.role is not None)
        ):
            continue
        cells = made.table.column(column.index)[made.layout.first_row :]
        said = [text for cell in cells if (text := cell.text.strip())]
        numbers = [text for text in said if _only_number(text)]
        if numbers and 2 * len(numbers) >= len(said) and not counts_up(numbers):
            says = f"It has cells such as “{numbers[0][:40]}”. Left out for the time being."
            roles = (("it is left out", "other"), ("it is", "figures"))
            answers = tuple(Answer(label, {"columns": {letter: {"role": role}}}) for label, role in roles)
            yield Question(f"Is column {letter}, {column.heading}, of figures?", says, answers)


def _of_marks(made: Draft) -> Iterator[Question]:
    """Cells whose marks are other ones than those of their column."""
    columns = {column.index: column for column in made.layout.figures}
    for doubt in made.doubts:
        own = decided_by(doubt.text) if doubt.asks == "marks" else None
        column = columns.get(doubt.sheet_place[1])
        if own is None or column is None or column.inferred is None:
            continue
        amounts = [read(doubt.text, each).amount for each in (own, _other(own))]
        answers = [Answer(_plain(a), _cell(doubt, _plain(a))) for a in amounts if a is not None]
        bare = "".join(c for c in doubt.text if c.isdigit() or c in "-−(")
        if (unscaled := read(bare).amount) is not None and unscaled not in amounts:
            answers.append(Answer(_plain(unscaled), _cell(doubt, _plain(unscaled))))
        answers.append(Answer("a missing amount", _cell(doubt, MISSING)))
        inferred = column.inferred
        says = f"{inferred.agree} of {inferred.numbers} cells of its column have a {inferred.convention}."
        asks = f"{_where(doubt)} reads {doubt.text} with a {own}"
        yield Question(asks, f"{says} {_depends(made, [doubt])}".strip(), tuple(answers), (_where(doubt),))


def _other(convention: Convention) -> Convention:
    return POINT if convention == COMMA else COMMA


def _of_texts(made: Draft) -> Iterator[Question]:
    """Texts where a figure is expected: those that read the same are asked once."""
    alike: dict[str, list[Doubt]] = {}
    for doubt in made.doubts:
        if doubt.asks == "text":
            alike.setdefault(doubt.text.strip(), []).append(doubt)
    for text, doubts in alike.items():
        where = _where(doubts[0]) if len(doubts) == 1 else f"{len(doubts)} cells"
        answers = [Answer("a missing amount", _cells(doubts, MISSING)), Answer("zero", _cells(doubts, "0"))]
        for convention in CONVENTIONS.values():
            amount = read(text, convention).amount
            if amount is not None and all(_plain(amount) != each.label for each in answers):
                answers.append(Answer(_plain(amount), _cells(doubts, _plain(amount))))
        if only := _only_number(text):
            answers.append(Answer(only, _cells(doubts, only)))
        says = f"{doubts[0].why[0].upper()}{doubts[0].why[1:]}; missing for the time being."
        asks = f"{where} {'reads' if len(doubts) == 1 else 'read'} “{text[:60]}”"
        places = tuple(_where(doubt) for doubt in doubts)
        yield Question(asks, f"{says} {_depends(made, doubts)}".strip(), tuple(answers), places)


def _cells(doubts: Sequence[Doubt], said: str) -> Patch:
    return {"cells": {_where(doubt): {"text": doubt.text, "read": said} for doubt in doubts}}


def _only_number(text: str) -> str:
    """The one number in a text such as "1,234 (est.)"; nothing where there is none or are several."""
    words = [SUFFIX.sub("", word.strip("~≈()[]*;")) for word in text.split()]
    found = [amount for word in words if (amount := read(word).amount) is not None]
    return _plain(found[0]) if len(found) == 1 else ""


def _depends(made: Draft, doubts: Sequence[Doubt]) -> str:
    """The totals that count the cells' lines."""
    rows = {doubt.sheet_place[0] for doubt in doubts}
    lines = {n for n, line in enumerate(made.lines) if line.row in rows}
    totals = [line.label for line in made.lines if lines & {part for part, _ in line.parts}]
    if not totals:
        return ""
    shown = ", ".join(totals[:3]) + (" and others" if len(totals) > 3 else "")
    return f"{shown} {'counts' if len(totals) == 1 else 'count'} it."


def _of_sums(made: Draft) -> Iterator[Question]:
    """Sums that figures add up to, and that nothing else speaks for."""
    for offer in made.offers:
        total = made.lines[offer.total]
        if total.key in made.decided.rows and made.decided.rows[total.key].total is not None:
            continue
        asks = f"Does {total.label} add {adding(made, offer.parts)}?"
        says = f"The figures do ({offer.evidence}), and that may be chance. Not taken for the time being."
        told = [{"rows": {total.key: {"total": take}}} for take in (False, True)]
        yield Question(asks, says, (Answer("no", told[0]), Answer("it adds them", told[1])))


def _plain(amount: Decimal | None) -> str:
    return "" if amount is None else format(amount, "f")
