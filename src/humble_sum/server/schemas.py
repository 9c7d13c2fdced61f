"""What the API answers with. Every printed text in here was made by core."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field

from humble_sum.core.changes.clause_commands import SetClause
from humble_sum.core.changes.commands import Change, HoldFigure
from humble_sum.core.changes.rule_commands import SetRuleClause
from humble_sum.core.changes.structure_commands import GroupLines, SetColumn, SetMembers
from humble_sum.core.changes.tagging_commands import SetConcept, SetTaxonomies
from humble_sum.core.proof.checks import Status
from humble_sum.core.rules.rulebook import Apply, Level, LineKind
from humble_sum.core.statements.taxonomy import Taxonomy

# A command as core has it, made there and sent on as it is.
Ready = Change


class StatementView(BaseModel):
    """A statement in the spine, with what does not foot."""

    id: str
    name: str
    title: str
    gaps: int
    breaks: int


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
    edition: str
    editions: list[EditionName] = Field(description="Every edition, the pack's own first.")
    dashboards: list[DashboardName]
    entity: str
    period: str
    revision: int
    statements: list[StatementView]
    undo: str | None = Field(description="What undo would take back.")
    redo: str | None = Field(description="What redo would put back.")
    changes_today: int


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


class ClauseOrigin(BaseModel):
    clause: str
    level: str
    rule: str


class StepView(BaseModel):
    """One step of a trace, and the rules that decided it."""

    name: str
    value: str
    reason: str
    origins: list[ClauseOrigin]


class ChoiceView(BaseModel):
    value: Any
    label: str
    example: str
    change: Ready | None = Field(description="The command that chooses it; null where nothing would change.")


class TypedView(BaseModel):
    """A value that can be typed: the menu's words, the field's name, an example, and its command."""

    menu: str
    name: str
    example: str
    change: Annotated[SetClause | SetRuleClause, Field(discriminator="kind")] = Field(
        description="The command that takes it, once its `text` is what was typed."
    )


class OfferView(BaseModel):
    """A ready command and what it is called."""

    label: str
    change: Ready


class WordView(BaseModel):
    """A word of a sentence that opens, with the command of each of its choices."""

    clause: str
    name: str
    label: str
    value: Any
    chosen: int = Field(description="Which of the choices it says; -1 where it says none of them.")
    adds: str = Field(description="What the word is called where a sentence does not have it yet.")
    level: Literal["default"] | Level
    rule: str | None
    rule_name: str
    choices: list[ChoiceView]
    typed: TypedView | None
    drop: OfferView | None = Field(description="The command that leaves it unsaid, where it can be.")


SentenceView = list[str | WordView]


class SpecimenView(BaseModel):
    sort: str
    amount: str | None = Field(description="The exact amount as plain decimal text.")
    exact: str
    text: str


class DecidedView(BaseModel):
    """A clause, and what it says now."""

    clause: str
    says: str


class DecisionView(BaseModel):
    """A rule, null for the defaults, and the clauses of the figure that it decided."""

    rule: str | None
    name: str
    level: Literal["default"] | Level
    clauses: list[DecidedView]


class RemedyView(BaseModel):
    """A clause that would let a figure fit that is wider than its rule allows."""

    says: str
    text: str
    change: Ready


class WayView(BaseModel):
    id: Literal["closest", "largest", "total"]
    says: str
    detail: str
    gaps_after: int
    change: Ready


class GapView(BaseModel):
    """The gap of the relation in hand, and the ways to close it."""

    check: str
    name: str
    says: str
    ways: list[WayView]


class ReachView(BaseModel):
    """Where a change to the sentence can apply."""

    apply: Apply
    label: str


class PartView(BaseModel):
    """A line that a total adds or takes away."""

    line: str
    label: str
    sign: Literal[1, -1]
    flip: Ready = Field(description="Takes it away where it is added, and the other way round.")


class MembersView(BaseModel):
    """A chosen list of members, and which of them are absent."""

    id: str
    label: str
    axis: Literal["lines", "columns"]
    members: list[str]
    absent: list[str]
    change: SetMembers = Field(description="Chooses the list, once its `members` are those wanted.")


class StructureView(BaseModel):
    """A line's place in its statement: a sentence whose words open, and what it adds."""

    sentence: SentenceView
    parts: list[PartView]
    flip: Ready | None = Field(description="Turns the line's sign in its total.")
    earlier: Ready | None = Field(description="Moves the line up by one.")
    later: Ready | None = Field(description="Moves the line down by one.")
    dissolve: Ready | None = Field(description="Takes the subtotal out and keeps its parts.")
    group: GroupLines = Field(
        description="Puts lines under a new subtotal, once its `lines` and `label` are."
    )
    members: list[MembersView]


class FoundView(BaseModel):
    """A figure found by its name."""

    statement: str
    line: str
    column: str
    name: str
    printed: str


class TiedView(BaseModel):
    """A figure that the one in hand is tied to, or could be; `same` where their exact amounts are."""

    statement: str
    line: str
    column: str
    name: str
    printed: str
    same: bool
    tie: Ready | None = Field(description="Ties the figure in hand to it; null where they are tied.")


class KeySteps(BaseModel):
    """What the keys that step through a clause do to the figure in hand; null at an end."""

    fewer_decimals: Ready | None
    more_decimals: Ready | None
    next_negative: Ready | None
    next_zero: Ready | None
    next_scale: Ready | None


class TaggingView(BaseModel):
    """What a line's figures are tagged with in Inline XBRL."""

    concept: str | None = Field(description="Of another taxonomy; null is the line's own.")
    negated: bool = Field(description="Stated there with the other sign.")
    taxonomies: list[Taxonomy]
    change: SetConcept = Field(description="Tags the line otherwise, once its `concept` and `negated` are.")
    naming: SetTaxonomies = Field(description="Names other taxonomies, once its `taxonomies` are.")


class FigureView(BaseModel):
    """Everything about one figure: trace, rule sentence, specimens, ways to close its gap."""

    revision: int
    line: str
    column: str
    column_label: str
    column_date: str | None
    column_sentence: SentenceView
    column_heading: SetColumn = Field(description="Heads the column, once its `label` and `date` are.")
    label: str
    steps: list[StepView]
    sentence: SentenceView
    more: list[WordView] = Field(description="Words the sentence does not have yet.")
    decisions: list[DecisionView] = Field(description="Every clause, under the rule that decided it.")
    remedies: list[RemedyView]
    reaches: list[ReachView]
    specimens: list[SpecimenView]
    gaps: list[GapView]
    tied: list[TiedView]
    in_words: str = Field(description="The exact amount in English words.")
    structure: StructureView
    held: bool
    hold_reason: str
    hold: Ready | None = Field(description="Holds the figure, or releases it where it is held.")
    hold_because: HoldFigure | None = Field(description="Holds it for a reason, once its `reason` is.")
    untie: Ready | None
    tagging: TaggingView
    keys: KeySteps


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


class ChangeView(BaseModel):
    """A change on record."""

    number: int
    at: str
    kind: str
    summary: str
    author: str
    state: Literal["applied", "undone", "abandoned"]


class Outcome(BaseModel):
    """What a change did: said for people, and the pack and page as they now are."""

    changed: bool
    says: str
    pack: PackView
    proof: ProofView
