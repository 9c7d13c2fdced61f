"""What the footing screen is told: the shapes of its answers."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from humble_sum.core.changes.footing_commands import Foot
from humble_sum.core.proof.checks import Status
from humble_sum.core.statements.policy import Policy
from humble_sum.server.figure_schemas import SentenceView
from humble_sum.server.presenters.footing_exceptions import ExceptionView
from humble_sum.server.schemas import Ready


class MarkView(BaseModel):
    """How a relation stands in one column."""

    column: str
    status: Status
    mark: str


class RelationView(BaseModel):
    """A total and what it adds, in words, with how it stands in each column."""

    line: str
    total: str
    parts: str
    marks: list[MarkView]


class RelationsView(BaseModel):
    """A statement's sums down, or what goes across columns."""

    statement: str
    name: str
    way: Literal["down", "across", "tie"]
    columns: list[str]
    relations: list[RelationView]
    unlisted: int = Field(description="Relations that foot and are not listed, in a large statement.")


class MoveView(BaseModel):
    """A figure the plan would move."""

    statement: str
    line: str
    column: str
    label: str
    owner: str
    exact: str
    rounded: str
    printed: str
    share: str = Field(description="How much of the figure the move is; empty where it rounds to nothing.")
    weight: int = Field(description="The same in thousandths, to order by.")
    reason: str
    kept: bool = Field(description="Whether it prints so already.")


class AfterView(BaseModel):
    """How the pack would stand."""

    foots: int
    relations: int = Field(
        description="Those that can be checked: no part missing, one unit, no source break."
    )
    ties: int
    ties_agree: int
    moved: int
    figures: int
    farthest: str
    added_drift: str
    proved: bool
    solver_proved: bool
    bound: str | None
    proof: str = Field(description="What is known of other plans, in words.")
    leaves: list[str] = Field(description="Figures nudged now that the plan would let print their rounding.")


class HeldView(BaseModel):
    statement: str
    line: str
    column: str
    label: str
    printed: str
    reason: str


class BreakView(BaseModel):
    """A source break, and the slips that would explain it to the last digit."""

    says: str
    suspects: list[str]


class SettlingView(BaseModel):
    """Another way out, and what it would move: a hold to release by itself, or a plan that allows more."""

    says: str
    change: Ready


class ImpossibleView(BaseModel):
    """Why no plan exists: the sums in conflict, and the fewest holds whose release settles it."""

    conflict: list[str]
    release: list[HeldView] | None
    doubts: list[str] = Field(description="What the time did not suffice to show.")
    change: Ready | None = Field(description="Releases them all.")
    others: list[SettlingView]


class ApartView(BaseModel):
    """A statement with a plan of its own, and the plan without it."""

    statement: str
    name: str
    policy: Policy
    sentence: SentenceView
    like_others: Foot


class StatementName(BaseModel):
    """A statement, and the plan with one of its own for it."""

    id: str
    name: str
    apart: Foot


class AnswerView(BaseModel):
    """A way to answer every gap at once, other than nudging, and what it comes to."""

    says: str
    detail: str
    change: Ready


class FootingPageView(BaseModel):
    """Footing as a sentence, what it would move, and what it leaves."""

    revision: int
    policy: Policy
    sentence: SentenceView
    foot: Foot = Field(description="Foots by this plan, and keeps it.")
    apart: list[ApartView]
    statements: list[StatementName]
    exceptions: list[ExceptionView] = Field(description="What single lines, columns and sums say besides.")
    answers: list[AnswerView] = Field(description="Ways to answer every gap at once, other than nudging.")
    ended: bool = Field(description="The time given ran out before any plan was found.")
    gaps: int
    kept: bool = Field(description="Whether the plan is the one on record, so that nothing more would move.")
    relations: list[RelationsView]
    moves: list[MoveView]
    after: AfterView | None
    impossible: ImpossibleView | None
    held: list[HeldView]
    breaks: list[BreakView]
