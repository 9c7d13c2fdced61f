"""Ready commands: what every choice that is offered for a figure or a rule would do.

Whatever is offered comes with its command, so that the browser, the command line and Python only
apply commands and make up none of their own.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from humble_sum.core.changes.clause_commands import DropClause, SetClause
from humble_sum.core.changes.footing_commands import CloseGap, HoldFigure, ReleaseFigures
from humble_sum.core.changes.rule_commands import SetRuleClause
from humble_sum.core.errors import InputError
from humble_sum.core.printing.clause_values import MOST_DECIMALS, FixedDecimals
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.proof.figures import Figure
from humble_sum.core.rules.rulebook import Place, Rule
from humble_sum.core.rules.sentence import word_of
from humble_sum.core.rules.words import Way
from humble_sum.core.statements.names import FigureRef

Step = Literal["fewer_decimals", "more_decimals", "next_negative", "next_zero", "next_scale"]
BROADEST = ("default", "everywhere")


@dataclass(frozen=True)
class FigureOffers:
    """Changes of a figure's sentence: each clause where it was decided, on the page or in another place."""

    statement: str
    line: str
    column: str
    place: Place = "page"

    def value(self, clause: str, value: Any) -> SetClause:
        return SetClause.model_construct(
            kind="set_clause",
            statement=self.statement,
            line=self.line,
            column=self.column,
            clause=clause,
            value=value,
            text=None,
            apply="origin",
            place=self.place,
        )

    def text(self, clause: str) -> SetClause:
        return self.value(clause, None).model_copy(update={"text": ""})

    def drop(self, clause: str, rule: Rule | None) -> Way | None:
        if rule is None or rule.reach.level in BROADEST:
            return None
        change = DropClause(kind="drop_clause", statement=self.statement, rule=rule.id, clause=clause)
        return Way("leave it to the broader rule", change)


@dataclass(frozen=True)
class RuleOffers:
    """Changes of one rule's sentence; only clauses that it names can be taken out."""

    statement: str
    rule: Rule

    def value(self, clause: str, value: Any) -> SetRuleClause:
        return SetRuleClause.model_construct(
            kind="set_rule_clause",
            statement=self.statement,
            rule=self.rule.id,
            clause=clause,
            value=value,
            text=None,
        )

    def text(self, clause: str) -> SetRuleClause:
        return self.value(clause, None).model_copy(update={"text": ""})

    def drop(self, clause: str, rule: Rule | None) -> Way | None:
        if clause not in self.rule.clauses.named():
            return None
        change = DropClause(kind="drop_clause", statement=self.statement, rule=self.rule.id, clause=clause)
        return Way("take this word out", change)


def steps(figure: Figure, offers: FigureOffers) -> dict[Step, SetClause | None]:
    """What the keys that step through a clause would do: one decimal fewer or more, and the next way of
    negatives, zeros and scale, round and round. None at an end."""
    made: dict[Step, Callable[[], SetClause | None]] = {
        "fewer_decimals": lambda: _decimals(figure, offers, -1),
        "more_decimals": lambda: _decimals(figure, offers, 1),
        "next_negative": lambda: _next(figure, offers, "negative"),
        "next_zero": lambda: _next(figure, offers, "zero"),
        "next_scale": lambda: _next(figure, offers, "scale"),
    }
    return {step: make() for step, make in made.items()}


def _decimals(figure: Figure, offers: FigureOffers, by: int) -> SetClause | None:
    """From any sort of decimals to as many fixed ones as there are, and one more or fewer."""
    now = figure.clauses.decimal_places
    decimal_places = min(MOST_DECIMALS, max(0, now + by))
    fixed = isinstance(figure.clauses.decimals, FixedDecimals)
    return offers.value("decimals", {"fixed": decimal_places}) if decimal_places != now or not fixed else None


def _next(figure: Figure, offers: FigureOffers, clause: str) -> SetClause | None:
    """The next choice that the rule which decides the clause can take."""
    word = word_of(clause, figure.decided, offers)
    rule = figure.decided.origins[clause]
    others = rule.clauses.spelled() if rule else {}
    for step in range(1, len(word.choices)):
        choice = word.choices[(word.chosen + step) % len(word.choices)]
        try:
            read_clauses(others | {clause: choice.value})
        except InputError:
            continue
        assert isinstance(choice.change, SetClause)
        return choice.change
    return None


def hold_offer(figure: Figure, ref: FigureRef) -> HoldFigure | ReleaseFigures | None:
    """Hold the figure at what it prints, or release it where it is held; None where it is missing."""
    if figure.held is not None:
        return ReleaseFigures(kind="release", statement=ref[0], figures=[ref])
    if figure.exact is None:
        return None
    return HoldFigure(kind="hold", statement=ref[0], line=ref[1], column=ref[2])


def reason_offer(figure: Figure, ref: FigureRef) -> HoldFigure | None:
    """Say why a held figure is held; its `reason` is what is typed."""
    if figure.held is None:
        return None
    held = HoldFigure(kind="hold", statement=ref[0], line=ref[1], column=ref[2])
    return held.model_copy(update={"reason": figure.held.reason})


def gap_offer(statement: str, check: str, way: Literal["closest", "largest", "total"]) -> CloseGap:
    return CloseGap(kind="close_gap", statement=statement, check=check, way=way)
