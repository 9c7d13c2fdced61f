"""What the margin shows of one figure: its trace, the rule in force, ways out, structure."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field

from humble_sum.core.changes.change_union import Change
from humble_sum.core.changes.clause_commands import SetClause
from humble_sum.core.changes.contents_commands import AddColumn, AddLine, CorrectAmount, EditStatement
from humble_sum.core.changes.footing_commands import HoldFigure
from humble_sum.core.changes.rule_commands import SetRuleClause
from humble_sum.core.changes.structure_commands import GroupLines, SetColumn, SetMembers
from humble_sum.core.changes.tagging_commands import SetConcept, SetPeriodType, SetTaxonomies
from humble_sum.core.rules.rulebook import Apply, Level
from humble_sum.core.statements.pack import PeriodType
from humble_sum.core.statements.taxonomy import Taxonomy

# A command as core has it, made there and sent on as it is.
Ready = Change


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


class TiedView(BaseModel):
    """A figure that the one in hand is tied to, or could be; `same` where their exact amounts are."""

    statement: str
    line: str
    column: str
    name: str
    printed: str
    same: bool
    tie: Ready | None = Field(description="Ties the selected figure to it; null where they are tied.")


class ContentsView(BaseModel):
    """What the pack holds, changed after the fact. Those that say what they wait for are sent once it is
    filled in."""

    correct: CorrectAmount = Field(description="Waits for its `amount` and `reason`.")
    add_line: AddLine = Field(description="Waits for its `label`.")
    add_column: AddColumn = Field(description="Waits for its `label`.")
    edit_statement: EditStatement = Field(description="Waits for its `name` and `title`.")
    remove_line: Ready
    remove_column: Ready
    column_last: Ready
    statement_earlier: Ready | None
    statement_later: Ready | None
    remove_statement: Ready


class KeySteps(BaseModel):
    """What the keys that step through a clause do to the figure in hand; null at an end."""

    fewer_decimals: Ready | None
    more_decimals: Ready | None
    next_negative: Ready | None
    next_zero: Ready | None
    next_scale: Ready | None
    hold: Ready | None = Field(description="Holds the figure, or releases it where it is held.")
    flip_sign: Ready | None = Field(description="Turns the line's sign in its total.")


class ReadyTiming(BaseModel):
    """A way to say whether amounts are at a day or over a time, for the line or its whole statement."""

    says: str
    chosen: bool
    change: SetPeriodType


class TaggingView(BaseModel):
    """What a line's figures are tagged with in Inline XBRL."""

    concept: str | None = Field(description="Of another taxonomy; null is the line's own.")
    negated: bool = Field(description="Stated there with the other sign.")
    period_type: PeriodType | None = Field(description="At a day or over a time; null, as its dates say.")
    taxonomies: list[Taxonomy]
    timing: list[ReadyTiming] = Field(description="Ways to say whether amounts are at a day or over a time.")
    change: SetConcept = Field(description="Tags the line, once its `concept` and `negated` are filled in.")
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
    contents: ContentsView
