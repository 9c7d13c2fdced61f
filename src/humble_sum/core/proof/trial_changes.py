"""What a change on trial would print otherwise: first what matters, then the rest by rule."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

from humble_sum.core.printing.resolved_clauses import NAMES
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.rules.rulebook import Decided
from humble_sum.core.statements.names import FigureRef

NUDGED = "Moved by footing"


@dataclass(frozen=True)
class Changed:
    """A figure that prints otherwise: what it printed and what it would."""

    spot: FigureRef
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


Seen = Callable[[Figure, Figure], bool]  # a figure before and after
# What a reader could be misled by, in words, and how it is told of a figure before and after.
WIDE = "Now wider than their rule allows"
MATTERS: dict[str, Seen] = {
    WIDE: lambda was, now: (
        now.clauses.width is not None and now.printed.too_wide and not was.printed.too_wide
    ),
    "Now round away to nothing": lambda was, now: bool(now.exact) and now.units == 0 != was.units,
    "No longer show their sign": lambda was, now: (
        now.clauses.negative == "unsigned" != was.clauses.negative and now.exact is not None and now.exact < 0
    ),
}


def trial_changes(before: PackProof, after: PackProof) -> TrialChanges:
    """Every figure of `after` that prints otherwise than in `before`, in page order."""
    matters = {says: ChangedFigures(says) for says in ("Would no longer foot", *MATTERS)}
    rest: dict[str, ChangedFigures] = {}
    matters["Would no longer foot"].figures += _new_gaps(before, after)
    matters[WIDE].figures += _new_width(before, after)
    count = 0
    rules: dict[tuple[int, int], str] = {}
    for old, new, number, changed in _reprinted(before, after):
        count += 1
        figure, was = new.figures[new.grid.cells[number]], old.figures.get(new.grid.cells[number])
        why = next((says for says, seen in MATTERS.items() if was is not None and seen(was, figure)), None)
        if why is not None:
            matters[why].figures.append(changed)
            continue
        by = NUDGED
        if was is not None and was.decided != figure.decided:
            pair = (id(was.decided), id(figure.decided))
            by = rules.setdefault(pair, _rule_of(was.decided, figure.decided))
        rest.setdefault(by, ChangedFigures(by)).figures.append(changed)
    listed = sorted(rest.values(), key=lambda group: len(group.figures), reverse=True)
    return TrialChanges(count, tuple(each for each in matters.values() if each.figures), tuple(listed))


def _reprinted(before: PackProof, after: PackProof) -> Iterator[tuple[Proof, Proof, int, Changed]]:
    """Figures with another text: the statement before and after, and the figure's number after."""
    for id, new in after.proofs.items():
        old = before.proofs.get(id)
        if old is None or old is new:
            continue
        was, now = old.figures.texts, new.figures.texts
        for number, cell in enumerate(new.grid.cells):
            place = number if old.grid is new.grid else old.grid.number.get(cell)
            text = now[number] if place is None else was[place]
            if text != now[number]:
                changed = Changed((id, *cell), text or "a blank", now[number] or "a blank")
                yield old, new, number, changed


def _new_gaps(before: PackProof, after: PackProof) -> Iterator[Changed]:
    """Totals with a gap that they did not have, as they print before and after."""
    for id, new in after.proofs.items():
        old = before.proofs.get(id)
        known = {check.relation.id for check in old.gaps} if old else set()
        for check in new.gaps:
            if check.relation.id in known:
                continue
            total = check.relation.total
            was = old.figures[total].printed.whole if old and total in old.figures else ""
            yield Changed((id, *total), was or "a blank", new.figures[total].printed.whole or "a blank")


def _new_width(before: PackProof, after: PackProof) -> Iterator[Changed]:
    """Figures that print as they did, and are too wide for what their rule now allows."""
    for id, new in after.proofs.items():
        old = before.proofs.get(id)
        if old is None or old is new or old.grid is not new.grid:
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
    """The rule that decides the first clause which differs, or what decided it before."""
    for name in NAMES:
        if getattr(was.clauses, name) != getattr(now.clauses, name):
            rule = now.origins[name] or was.origins[name]
            return rule.name if rule else "Default"
    return NUDGED
