"""What is wrong with an input, said so that its owner can put it right."""

from __future__ import annotations

import json
import re
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from pydantic import ValidationError
    from pydantic_core import ErrorDetails

MOST_SHOWN = 50


@dataclass(frozen=True)
class Fault:
    """One thing wrong: where it is, what it is, and what to do about it."""

    where: str
    what: str
    remedy: str = ""

    def __str__(self) -> str:
        place = f"{self.where}: " if self.where else ""
        return f"{place}{self.what}" + (f" {self.remedy}" if self.remedy else "")


HALF = Fault(
    "",
    "A text has half of a character in it (a lone surrogate).",
    "Send it without, or with the other half.",
)


class InputError(Exception):
    """An input that was not taken. Nothing of it is kept.

    `kind` is a stable slug for programs; `faults` holds at most MOST_SHOWN faults.
    """

    def __init__(self, kind: str, faults: Fault | Iterable[Fault]):
        self.kind = kind
        listed = (faults,) if isinstance(faults, Fault) else tuple(faults)
        self.faults = listed[:MOST_SHOWN]
        self.unshown = len(listed) - len(self.faults)
        super().__init__("; ".join(map(str, self.faults)))


class CannotFoot(InputError):
    """Footing found no plan; carries the holds to release and the relations in conflict."""

    def __init__(self, fault: Fault, release: list[list[str]] | None, conflict: list[str]):
        super().__init__("cannot-foot", fault)
        self.release = release
        self.conflict = conflict


# Pydantic puts the name of the tried alternative into an error's path; a reader has no use for it.
PARTED = ("FixedDecimals", "UpToDecimals", "SignificantDigits", "Word", "YesNoWords", "CountWords")
ALTERNATIVE = re.compile(rf"^({'|'.join(PARTED)}|literal\[.*|function-.*|tagged-union.*|list\[.*|tuple\[.*)$")
NOT_ITS_PARTS = ("missing", "unexpected_keyword_argument")


def path(place: Iterable[int | str], root: str = "") -> str:
    """A place as people write it: statements[0].lines[3].kind."""
    text = root
    for step in place:
        if isinstance(step, int):
            text += f"[{step}]"
        elif not ALTERNATIVE.match(step):
            text += f".{step}" if text else step
    return text


def faults_of(error: ValidationError, root: str = "") -> list[Fault]:
    """A validation error as faults, one for each place."""
    return faults_of_details(error.errors(include_url=False), root)


def faults_of_details(details: Iterable[ErrorDetails], root: str = "") -> list[Fault]:
    """The same from the error's details, as a web framework hands them on."""
    told = list(details)
    inside = {detail["loc"][:n] for detail in told for n in range(len(detail["loc"]))}
    # A list is counted without the parts of it that are wrong.
    told = [detail for detail in told if detail["type"] != "too_short" or detail["loc"] not in inside]
    found: dict[str, list[ErrorDetails]] = {}
    for detail in _of_what_was_meant(told):
        found.setdefault(path(detail["loc"], root), []).append(detail)
    return [_fault(where, details) for where, details in found.items()]


def _of_what_was_meant(details: list[ErrorDetails]) -> list[ErrorDetails]:
    """The details, where alternatives have several parts, only of the one that most of its parts are of."""
    amiss: dict[tuple[int | str, ...], Counter[int | str]] = {}
    for detail in details:
        for n, step in enumerate(detail["loc"]):
            if step in PARTED and detail["type"] != "dataclass_type":
                amiss.setdefault(detail["loc"][:n], Counter())[step] += detail["type"] in NOT_ITS_PARTS
    meant = {place: min(tried, key=lambda step: tried[step]) for place, tried in amiss.items()}

    def stays(detail: ErrorDetails) -> bool:
        place = detail["loc"]
        return all(meant.get(place[:n], step) == step for n, step in enumerate(place))

    return [detail for detail in details if stays(detail)]


def _as_written(value: object) -> str:
    """A value as its file has it, in JSON and not in Python: null, true; a long one cut."""
    shown = repr(value) if isinstance(value, str) else json.dumps(value, ensure_ascii=False, default=str)
    return shown if len(shown) <= 60 else shown[:60] + "…"


def _fault(where: str, details: list[ErrorDetails]) -> Fault:
    field = where.rpartition(".")[2]
    detail = details[0]
    shown = _as_written(detail["input"])
    if detail["type"] in ("extra_forbidden", "unexpected_keyword_argument"):
        kind = "clause" if "clauses" in where else "name"
        return Fault(where, f'"{field}" is not a known {kind}.', "Check the spelling or leave it out.")
    if detail["type"] == "missing":
        return Fault(where, f'"{field}" is needed and is not there.')
    if detail["type"] == "union_tag_invalid":
        asked, known = detail["input"], detail["ctx"]["expected_tags"].replace("'", "")
        tag = asked.get("kind") if isinstance(asked, dict) else getattr(asked, "kind", None)
        named = f'"{tag}"' if isinstance(tag, str) else _as_written(tag)
        return Fault(where, f"There is no kind {named}.", f"It can be {known}.")
    if detail["type"] == "value_error":
        return Fault(where, f"{detail['msg'].removeprefix('Value error, ')}.")
    expected = [str(d["ctx"]["expected"]) for d in details if d["type"] == "literal_error"]
    if expected:
        return Fault(where, f"{shown} is not a value of {field}.", f"It can be {', '.join(expected)}.")
    if detail["type"] == "too_short":
        told = detail["ctx"]
        return Fault(where, f"It has {told['actual_length']} parts, and needs {told['min_length']} or more.")
    if detail["type"] == "too_long":
        return Fault(where, f"It has more than {detail['ctx']['max_length']} parts, which is the most.")
    if detail["type"] in ("tuple_type", "list_type"):
        return Fault(where, f"{shown} is not a list.", "Write a list of its parts, in square brackets.")
    if detail["type"] in ("dataclass_type", "model_type"):
        return Fault(where, f"{shown} is not a value of {field}.", "Write an object of its parts, in braces.")
    return Fault(where, f"{shown}: {detail['msg'][0].lower()}{detail['msg'][1:]}.")
