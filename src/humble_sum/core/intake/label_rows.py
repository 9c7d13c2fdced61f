"""Labels that go on in the row below: "Fares and other" over "income from crossings, 12,345"."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from humble_sum.core.intake.decisions import RowDecided
from humble_sum.core.intake.draft_lines import DraftLine
from humble_sum.core.intake.vocabulary import first_said, says

CAPITALS = 2 / 3  # of the other lines that begin with one, where a small letter says something


def with_whole_labels(
    lines: Sequence[DraftLine], decided: Mapping[str, RowDecided]
) -> tuple[list[DraftLine], list[DraftLine]]:
    """The lines, those without figures joined to the line right below that goes on in small letters; and
    those that were joined. What was decided to be a heading stays one."""
    figured = [line for line in lines if not line.heading]
    small = [line for line in figured if _first_letter(line.label).islower()]
    capital = [line for line in figured if _first_letter(line.label).isupper()]
    usual = bool(small) and len(capital) >= CAPITALS * len(figured)
    made: list[DraftLine] = []
    begun: list[DraftLine] = []
    for line in lines:
        above = made[-1] if made else None
        told = decided.get(above.key) if above is not None else None
        if above is not None and _goes_on(above, line, usual) and (told is None or told.role is None):
            begun.append(made.pop())
            line = replace(line, label=f"{above.label} {line.label}", indent=above.indent)
        made.append(line)
    return made, begun


def _goes_on(above: DraftLine, line: DraftLine, small: bool) -> bool:
    """Whether a label goes on in the line below: it ends with a word that none ends with, or `small` letters
    say so where labels begin with capitals."""
    if not above.heading or line.heading or above.row != line.row - 1:
        return False
    last = first_said(above.label, "goes_on")
    if last is not None and last.start > 0 and not above.label.rstrip().endswith((":", ".")):
        return True
    return small and (
        _first_letter(above.label).isupper()
        and not above.label.isupper()
        and not above.label.rstrip().endswith((":", "."))
        and _first_letter(line.label).islower()
        and line.label[:1].isalpha()
        and not says(line.label, "begins_a_line")
    )


def _first_letter(label: str) -> str:
    return next((letter for letter in label if letter.isalpha()), "")
