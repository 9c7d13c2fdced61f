"""The form of passages in files: plain text, in which braces hold what follows the figures.

    Revenue rose to {income:rev:y26 | ₹33.4 crore}, {change_percent income:rev:y26 income:rev:y25 | 6.4%}
    more. It {word rose/fell/stayed the same income:net:y26 income:net:y25 | rose}.

A mark says what it shows, and behind a bar what it printed last, so that the text reads without the
program. `!` instead of the bar is text typed by hand for that figure. `{{` and `}}` are braces. A mark
that cannot be read stays in the text and is said to be none. The full form: docs/formats/passages.md.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from typing import Literal

from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.placed import MEASURES, Measure, Shows

ID = r"[A-Za-z0-9][A-Za-z0-9_.-]{0,63}"
REF = re.compile(rf"({ID}):({ID}|\*):({ID}|\*)")
EACH = "*"
MARK = re.compile(r"\{\{|\}\}|\{([^{}\n]{1,2000})\}")
SPLIT = re.compile(r"\s+([|!])\s?")
Sort = Literal["figure", "word", "label", "column", "table"]
NO_BRACES = str.maketrans("{}\n", "() ")  # of a print that a rule gave braces
COLUMNS = re.compile(rf"over\s+({ID}(?:,{ID})*)$")


@dataclass(frozen=True)
class Mark:
    """What follows a figure: the figure or measure, a word chosen by it, the label of its line or column, a
    small table.

    `last` is what it printed last, or where it is `typed` what stands there by hand. `choices` are a
    word's: when more, when less, when the same; `lines` and `columns` a table's.
    """

    sort: Sort
    shows: Shows | None
    last: str = ""
    typed: bool = False
    choices: tuple[str, ...] = ()
    statement: str = ""
    lines: tuple[str, ...] = ()
    columns: tuple[str, ...] = ()


@dataclass(frozen=True)
class Unread:
    """Braces that hold no mark, and why."""

    text: str
    why: str


Run = str | Mark | Unread


def read_passage(text: str) -> list[list[Run]]:
    """The paragraphs of a passage, each as text and marks in order. Never raises."""
    paragraphs = re.split(r"\n[ \t]*\n", text.replace("\r\n", "\n").replace("\r", "\n"))
    return [_runs(each) for each in paragraphs if each.strip()]


def _runs(text: str) -> list[Run]:
    runs: list[Run] = []
    plain, end = "", 0
    for found in MARK.finditer(text):
        plain += text[end : found.start()]
        end = found.end()
        inside = found.group(1)
        if inside is None:
            plain += found.group(0)[0]
            continue
        if plain:
            runs.append(plain)
            plain = ""
        runs.append(_mark(inside))
    plain += text[end:]
    return [*runs, plain] if plain else runs


def _mark(inside: str) -> Mark | Unread:
    parts = SPLIT.split(inside, maxsplit=1)
    what, bar, last = (
        (parts[0].strip(), parts[1], parts[2].strip()) if len(parts) == 3 else (inside.strip(), "|", "")
    )
    head, _, rest = what.partition(" ")
    typed = bar == "!"
    if head == "word":
        return _word(rest, last) or Unread(
            inside, "A word needs its choices and a figure, as in {word rose/fell income:net:y26}."
        )
    if head == "table":
        return _table(rest) or Unread(
            inside, "A table needs a statement, lines and columns, as in {table income rev,net y26,y25}."
        )
    if head in ("label", "column"):
        refs = _refs(rest)
        if not refs:
            return Unread(inside, f"This needs a figure, as in {{{head} income:net:y26}}.")
        return Mark(
            "label" if head == "label" else "column",
            _unchecked(refs[0], "figure", None, (), False),
            last,
            typed,
        )
    measure: Measure = head if head in MEASURES and rest else "figure"
    shows = _shows(measure, rest if measure != "figure" or head == "figure" else what)
    if shows is None:
        return Unread(inside, "This names no figure; write statement:line:column.")
    return Mark("figure", shows, last, typed)


def _refs(text: str) -> list[FigureRef] | None:
    refs: list[FigureRef] = []
    for word in text.split():
        found = REF.fullmatch(word)
        if found is None:
            return None
        refs.append((found[1], found[2], found[3]))
    return refs or None


def _shows(measure: Measure, text: str) -> Shows | None:
    printed = text.endswith(" printed")
    text = text.removesuffix(" printed")
    columns: tuple[str, ...] = ()
    if found := COLUMNS.search(text):
        columns = tuple(found[1].split(","))
        text = text[: found.start()].strip()
    refs = _refs(text)
    if refs is None or len(refs) > 2:
        return None
    against = refs[1] if len(refs) == 2 else None
    return _unchecked(refs[0], measure, against, columns, printed)


def _unchecked(
    figure: FigureRef, measure: Measure, against: FigureRef | None, columns: tuple[str, ...], printed: bool
) -> Shows:
    # Any line's star is no id, so the model is made as it is.
    return Shows.model_construct(
        figure=figure,
        measure=measure,
        against=against,
        columns=columns,
        printed=printed,
        clauses={},
        accepted="",
    )


def _word(text: str, last: str) -> Mark | None:
    said: list[str] = []
    refs: list[str] = []
    for word in text.split():
        (refs if REF.fullmatch(word) else said).append(word)
    choices = tuple(each.strip() for each in " ".join(said).split("/"))
    found = _refs(" ".join(refs))
    if not found or len(found) > 2 or not 2 <= len(choices) <= 3 or not all(choices):
        return None
    measure: Measure = "change" if len(found) == 2 else "figure"
    shows = _unchecked(found[0], measure, found[1] if len(found) == 2 else None, (), False)
    return Mark("word", shows, last, choices=choices)


def _table(text: str) -> Mark | None:
    words = text.split()
    if len(words) != 3:
        return None
    statement, lines, columns = words
    return Mark(
        "table", None, statement=statement, lines=tuple(lines.split(",")), columns=tuple(columns.split(","))
    )


def write_passage(paragraphs: list[list[Run]]) -> str:
    """The passage as text. What is written reads back equal."""
    return "\n\n".join("".join(map(write_run, runs)) for runs in paragraphs)


def write_run(run: Run) -> str:
    """One run as text."""
    if isinstance(run, str):
        return run.replace("{", "{{").replace("}", "}}")
    if isinstance(run, Unread):
        return f"{{{run.text}}}"
    if run.sort == "table":
        return f"{{table {run.statement} {','.join(run.lines)} {','.join(run.columns)}}}"
    shows = run.shows
    assert shows is not None
    refs = [":".join(shows.figure), *([":".join(shows.against)] if shows.against else [])]
    words = {"word": ["word", "/".join(run.choices)], "label": ["label"], "column": ["column"]}.get(
        run.sort, []
    )
    if run.sort == "figure" and shows.measure != "figure":
        words = [shows.measure]
    over = [f"over {','.join(shows.columns)}"] if shows.columns else []
    said = " ".join([*words, *refs, *over, *(["printed"] if shows.printed else [])])
    last = run.last.translate(NO_BRACES)
    if run.typed:
        return f"{{{said} ! {last}}}"
    return f"{{{said} | {last}}}" if last else f"{{{said}}}"


def repeated(run: Run, id: str) -> Run:
    """A run of a repeated passage, with the id of a line or column for each star."""
    if not isinstance(run, Mark) or run.shows is None:
        return run
    shows = run.shows
    figure = tuple(id if part == EACH else part for part in shows.figure)
    against = shows.against and tuple(id if part == EACH else part for part in shows.against)
    return replace(run, shows=shows.model_copy(update={"figure": figure, "against": against}))
