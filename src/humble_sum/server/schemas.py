"""What the API answers with. Every printed text in here was made by core."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from humble_sum.core.changes.change_union import Change
from humble_sum.core.proof.checks import Status
from humble_sum.core.rules.rulebook import Level, LineKind

# A command as core has it, made there and sent on as it is.
Ready = Change


class StatementView(BaseModel):
    """A statement in the spine, with what does not foot."""

    id: str
    name: str
    title: str
    gaps: int
    breaks: int
    points: int = Field(description="Points on it that are not settled.")
    signed: list[Literal["prepared", "reviewed"]] = Field(
        description="Which signatures under it stand, in the edition shown."
    )


class EditionName(BaseModel):
    """An edition in the list of a pack's."""

    id: str
    name: str


class DashboardName(BaseModel):
    """A dashboard in the list of a pack's, and the edition it shows."""

    id: str
    name: str
    edition: str


class PackView(BaseModel):
    """A pack in one of its editions: its statements, its revision, and what undo and redo would do.

    `id` names the edition too where it is not the pack's own: it is the address of the pack in it.
    """

    id: str
    code: str = Field(description="The pack without its edition: the address of its own one.")
    edition: str
    editions: list[EditionName] = Field(description="Every edition, the pack's own first.")
    dashboards: list[DashboardName]
    entity: str
    period: str
    revision: int
    statements: list[StatementView]
    in_review: bool = Field(description="Whether it has a point or a signature.")
    undo: str | None = Field(description="What undo would take back.")
    redo: str | None = Field(description="What redo would put back.")
    last_change: int | None = Field(description="The number in history of what undo would take back.")
    changes_today: int
    foot: Ready = Field(description="Foots the pack by its plans.")


class PackName(BaseModel):
    """A pack in the list of packs."""

    id: str
    entity: str
    period: str


class ColumnView(BaseModel):
    id: str
    label: str
    heading: str = Field(description="What readers see over it: a date follows the locale.")
    derived: bool


@dataclass(slots=True)
class FigureCell:
    """A figure on the page.

    `hang` is the end of `text` that stands past the digits. `drift` is printed minus exact in
    units, as text; `drift_share` the same in thousandths of a unit, for drawing.
    """

    column: str
    text: str
    hang: str
    mark: str
    tone: Literal["plain", "rust"]
    too_wide: bool
    origin: Annotated[
        Literal["default"] | Level, Field(description="How narrow the narrowest rule is that decides it.")
    ]
    origin_rule: str
    exact: str
    sort: Literal["amount", "zero", "rounds_away", "missing", "text"]
    drift: str | None
    drift_share: int
    held: bool
    nudged: Literal["up", "down"] | None


@dataclass(frozen=True, slots=True)
class LineView:
    id: str
    label: str
    kind: LineKind
    indent: int
    absent: Annotated[bool, Field(description="A placeholder: the figures taken in have no such row.")]
    last: bool
    parts: list[str]
    figured: Annotated[bool, Field(description="Whether the line has figures, sent or not.")]
    figures: Annotated[
        list[FigureCell], Field(description="Of a large statement only the rows asked for have them.")
    ]


@dataclass(frozen=True, slots=True)
class CheckView:
    """A relation as printed: a bead on the rail."""

    id: str
    way: Literal["down", "across", "tie"]
    line: str
    column: str
    name: str
    elsewhere: Annotated[
        list[list[str]],
        Field(description="Of a tie: statement, line and column of the figures in other statements."),
    ]
    status: Status
    mark: Annotated[str, Field(description='What the bead says: "+1", "−2", or nothing where it foots.')]
    says: Annotated[str, Field(description="What is found of it, in a sentence; empty in a large statement.")]


class RowsView(BaseModel):
    """Some rows of a large statement, from `first`, with their figures."""

    revision: int
    first: int
    lines: list[LineView]


class ProofView(BaseModel):
    """A statement as its readers will see it, with every relation checked."""

    revision: int
    statement: str
    name: str
    title: str
    entity: str
    period: str
    caption: str
    exceptions: list[str]
    columns: list[ColumnView]
    lines: list[LineView]
    checks: list[CheckView] = Field(
        description="Every relation; of a large statement those that do not foot."
    )
    feet: dict[str, int] = Field(description="How many relations foot, by column, and under across and tie.")
    large: bool
    gaps: int
    nudges: int


class FoundView(BaseModel):
    """A figure found by its name."""

    statement: str
    line: str
    column: str
    name: str
    label: str = Field(description="What its line is called.")
    printed: str


class NudgeView(BaseModel):
    """A nudge on record."""

    line: str
    column: str
    label: str
    exact: str
    natural: str
    printed: str
    reason: str
    plan: str
    made: str
    author: str
    resting: bool


class FootingView(BaseModel):
    """The nudges of a statement, in page order."""

    revision: int
    nudges: list[NudgeView]
    added_drift: str
    held: list[list[str]]
    clear: Ready = Field(description="Lets every figure print its own rounding again.")


class ChangeStepView(BaseModel):
    """A time when a change was undone or put back, and by whom."""

    what: Literal["undone", "put back"]
    when: str = Field(description="To be read, in UTC.")
    author: str


class ChangeView(BaseModel):
    """A change on record, and what was done with it since."""

    number: int
    at: str
    when: str = Field(description="The same to be read, in UTC: 2026-11-30 05:04.")
    kind: str
    summary: str
    author: str
    state: Literal["applied", "undone", "abandoned"]
    steps: list[ChangeStepView]


class Outcome(BaseModel):
    """What a change did: said for people, and the pack and page as they now are."""

    changed: bool
    says: str
    pack: PackView
    proof: ProofView
