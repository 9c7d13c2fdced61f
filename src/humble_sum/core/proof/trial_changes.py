"""What a change on trial would print otherwise: first what matters, then the rest by rule."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import NamedTuple

from humble_sum.core.printing.resolved_clauses import NAMES
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.rules.rulebook import Decided
from humble_sum.core.statements.names import FigureRef

NUDGED = "Moved by footing"


class Changed(NamedTuple):
    """A figure that prints otherwise: what it printed and what it would."""

    ref: FigureRef
    was: str
    now: str


@dataclass
class ChangedFigures:
    """Figures that change for one reason."""

    says: str
    figures: list[Changed] = field(default_factory=list)


@dataclass(frozen=True)
class TrialChanges:
    """How many figures change; those that need a look, by why; and all the others, by rule. Totals that
    would no longer foot, and figures that would be too wide, are among what matters whether or not they
    print otherwise."""

    figures: int
    matters: tuple[ChangedFigures, ...]
    rest: tuple[ChangedFigures, ...]


# What a reader could be misled by, in words.
UNFOOTED = "Would no longer foot"
WIDE = "Now wider than their rule allows"
AWAY = "Now round away to nothing"
UNSIGNED = "No longer show their sign"


def trial_changes(before: PackProof, after: PackProof) -> TrialChanges:
    """Every figure of `after` that prints differently from `before`, in page order."""
    matters = {says: ChangedFigures(says) for says in (UNFOOTED, WIDE, AWAY, UNSIGNED)}
    rest: dict[str, ChangedFigures] = {}
    matters[UNFOOTED].figures += _new_gaps(before, after)
    matters[WIDE].figures += _new_width(before, after)
    count = 0
    rules: dict[tuple[int, int], str] = {}  # by what decided before and after, which many figures share
    for each in _reprinted(before, after):
        count += 1
        if (why := each.why) is not None:
            matters[why].figures.append(each.changed)
            continue
        pair = (id(each.was), id(each.now))
        if pair not in rules:
            rules[pair] = _rule_of(each.was, each.now)
        by = rules[pair]
        rest.setdefault(by, ChangedFigures(by)).figures.append(each.changed)
    listed = sorted(rest.values(), key=lambda group: len(group.figures), reverse=True)
    return TrialChanges(count, tuple(each for each in matters.values() if each.figures), tuple(listed))


class _Reprinted(NamedTuple):
    """A figure with another text: its statement and number, before and after."""

    old: Proof
    place: int
    new: Proof
    number: int
    changed: Changed

    @property
    def was(self) -> Decided:
        return self.old.figures.decided[self.place]

    @property
    def now(self) -> Decided:
        return self.new.figures.decided[self.number]

    @property
    def why(self) -> str | None:
        """What a reader could be misled by."""
        was, now, amount = self.was.clauses, self.now.clauses, self.new.grid.amounts[self.number]
        if now.width is not None and self._too_wide(self.new) and not self._too_wide(self.old):
            return WIDE
        if amount and self.new.units[self.number] == 0 != self.old.units[self.place]:
            return AWAY
        if now.negative == "unsigned" != was.negative and amount is not None and amount < 0:
            return UNSIGNED
        return None

    def _too_wide(self, proof: Proof) -> bool:
        return proof.figures[self.new.grid.cells[self.number]].printed.too_wide


def _reprinted(before: PackProof, after: PackProof) -> Iterator[_Reprinted]:
    """Figures with another text. Figures that are new print as they do."""
    for id, new in after.proofs.items():
        old = before.proofs.get(id)
        if old is None or old is new:
            continue
        was, now = old.figures.texts, new.figures.texts
        for number, cell in enumerate(new.grid.cells):
            place = number if old.grid is new.grid else old.grid.number.get(cell)
            if place is not None and was[place] != now[number]:
                changed = Changed((id, *cell), was[place] or "a blank", now[number] or "a blank")
                yield _Reprinted(old, place, new, number, changed)


def _new_gaps(before: PackProof, after: PackProof) -> Iterator[Changed]:
    """Totals with a gap that they did not have, as they print before and after."""
    for id, new in after.proofs.items():
        old = before.proofs.get(id)
        known = {check.relation.id for check in old.gaps} if old else set()
        for check in new.gaps:
            if check.relation.id in known:
                continue
            total = check.relation.total
            was = old.figures[total].printed.full_text if old and total in old.figures else ""
            yield Changed((id, *total), was or "a blank", new.figures[total].printed.full_text or "a blank")


def _new_width(before: PackProof, after: PackProof) -> Iterator[Changed]:
    """Figures that print as they did, and are too wide for what their rule now allows."""
    for id, new in after.proofs.items():
        old = before.proofs.get(id)
        if old is None or old is new or old.grid is not new.grid:
            continue
        if all(each.clauses.width is None for each in new.figures.distinct):
            continue
        texts = zip(
            old.figures.decided, new.figures.decided, old.figures.texts, new.figures.texts, strict=True
        )
        for number, (was, now, old_text, text) in enumerate(texts):
            width = now.clauses.width
            narrowed = was is not now and width is not None and width != was.clauses.width
            if narrowed and text == old_text and new.figures[new.grid.cells[number]].printed.too_wide:
                yield Changed((id, *new.grid.cells[number]), text or "a blank", text or "a blank")


def _rule_of(was: Decided, now: Decided) -> str:
    """The rule that decides the first clause which differs, or what decided it before; where none does,
    footing moved the figure."""
    for name in NAMES:
        if getattr(was.clauses, name) != getattr(now.clauses, name):
            rule = now.origins[name] or was.origins[name]
            return rule.name if rule else "Default"
    return NUDGED
