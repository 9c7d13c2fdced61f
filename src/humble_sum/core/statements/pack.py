"""Packs, statements, lines and columns: what there is to print, and what adds up to what."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.amount_field import Amount
from humble_sum.core.printing.clause_checks import Currency
from humble_sum.core.rules.headings import PeriodDate
from humble_sum.core.rules.house_style import Followed
from humble_sum.core.rules.rulebook import Id, LineKind, Rulebook
from humble_sum.core.statements.document_answers import DocumentAnswer
from humble_sum.core.statements.edition import OWN, Edition
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.names import FigureRef, Label
from humble_sum.core.statements.placed import Dashboard
from humble_sum.core.statements.policy import DEFAULT, Policy
from humble_sum.core.statements.review_marks import Point, Signature
from humble_sum.core.statements.taken import Taken
from humble_sum.core.statements.taxonomy import Concept, Taxonomy

APART: tuple[LineKind, ...] = ("memo", "per_unit", "count", "percent")  # kinds that no total counts
# Kinds that may have an amount of their own in a column that adds others: shares in issue are no sum of
# quarters.
OWN_ACROSS: tuple[LineKind, ...] = ("per_unit", "percent", "count")
RATIOS: tuple[LineKind, ...] = ("per_unit", "percent")  # kinds that do not add across columns either
UsualSign = Literal["either", "positive", "negative"]
Part = tuple[Id, Literal[1, -1]]
Answer = Literal["nudge", "printed", "note"]
Readiness = Literal["usual", "first", "never"]
READINESS: dict[Readiness, str] = {
    "usual": "moved like others",
    "first": "moved before others",
    "never": "never moved",
}
ANSWERS: dict[Answer, str] = {
    "nudge": "nudges make it add",
    "printed": "it is printed from printed figures",
    "note": "they are left with a note",
}


class Column(BaseModel):
    """A period given by the figures' owner, or derived from others.

    A derived column is a difference, a sum, or shares: a column's figures over one line's. An
    `absent` column is a placeholder: the figures taken in have no such column. A column with a
    `date` is headed by it, in the locale its figures print in; its label names it elsewhere.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    label: Label
    date: PeriodDate | None = None
    difference: tuple[Id, Id] | None = Field(
        default=None, description="Derived: the first column minus the second."
    )
    sum: tuple[Id, ...] | None = Field(
        default=None, min_length=2, description="Derived: these columns added, as quarters make a year."
    )
    share: tuple[Id, Id] | None = Field(
        default=None, description="Derived: this column's figures as shares of this line's."
    )
    apart: bool = Field(
        default=False,
        description="Its figures stand by themselves, as percentages of change do: no total adds them down.",
    )
    absent: bool = False
    published: bool = Field(
        default=False, description="Already published: a plan may keep its figures as they were."
    )
    answer: Answer = Field(
        default="nudge",
        description="Of a derived column: made to add by nudges, from the printed figures, or noted.",
    )
    answers: dict[Id, Answer] = Field(
        default_factory=dict, description="On single lines, by id, in place of `answer`."
    )

    def answer_on(self, line: str) -> Answer:
        """What is done about a gap across to this column on one line."""
        return self.answers.get(line, self.answer)

    @property
    def derived(self) -> bool:
        return bool(self.difference or self.sum or self.share)

    @property
    def terms(self) -> tuple[tuple[str, int], ...]:
        """The columns a difference or a sum is made of, with signs; none for others."""
        if self.difference:
            return ((self.difference[0], 1), (self.difference[1], -1))
        return tuple((id, 1) for id in self.sum or ())


PeriodType = Literal["instant", "duration"]


class Line(BaseModel):
    """One row. A total's parts are the signed lines it adds; its amounts follow from them.

    An amount left out or null is missing, which is not zero. A total may state amounts of its
    own; where they are not the sum of its parts the statement has a source break. Memo lines,
    counts, percentages and per-unit amounts stand apart: no total counts them. `usual_sign` is the
    sign the line mostly has; a cost is usually negative. An `absent` line is a placeholder: the
    figures taken in have no such row.
    """

    # Files keep the names they have had since the first version.
    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True, serialize_by_alias=True)
    id: Id
    label: Label
    kind: LineKind = "line"
    parts: tuple[Part, ...] = ()
    amounts: dict[Id, Amount | None] = Field(default_factory=dict)
    usual_sign: UsualSign = Field(default="either", alias="natural")
    currency: Currency = Field(default=None, description="The line's own, where it is not the pack's.")
    indent: Annotated[int, Field(ge=0, le=8)] | None = Field(
        default=None, description="Steps in from the margin; left out, the kind decides."
    )
    absent: bool = False
    readiness: Readiness = Field(default="usual", description="How readily footing moves its figures.")
    answer: Answer = Field(
        default="nudge",
        description="Of a total: made to add by nudges, printed as the sum of its printed parts, or noted.",
    )
    answers: dict[Id, Answer] = Field(
        default_factory=dict, description="In single columns, by id, in place of `answer`."
    )
    translation: bool = Field(
        default=False,
        description="A line of its total that takes up what its other parts miss by rates of their own.",
    )
    concept: Concept = Field(
        default=None,
        description="The concept of another taxonomy it is tagged with, a prefix and a name; else its own.",
    )
    concept_negated: bool = Field(
        default=False,
        description="Stated under its concept with the other sign, as costs below zero mostly are.",
    )
    period_type: PeriodType | None = Field(
        default=None,
        description="Whether its amounts are at a day or over a time (XBRL 2.1); left out, its columns' "
        "dates decide.",
    )
    rounding: bool = Field(
        default=False, description="A line that prints what its total's other parts miss by rounding."
    )

    def answer_in(self, column: str) -> Answer:
        """What is done about a gap of this total in one column."""
        return self.answers.get(column, self.answer)

    @property
    def adds(self) -> bool:
        return self.kind in ("subtotal", "total")

    @property
    def steps(self) -> int:
        """How many steps the label stands in from the margin."""
        if self.indent is not None:
            return self.indent
        return 0 if self.adds or self.kind == "heading" else 1


class Members(BaseModel):
    """Who should be there: routes, vessels or months, by label, in order.

    A member with no row (or column) of its own is shown as a placeholder, so that what is absent
    can be seen. `id` names the list.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    label: Label
    axis: Literal["lines", "columns"] = "lines"
    members: Annotated[tuple[Label, ...], Field(min_length=1, max_length=2_000)]


class Statement(BaseModel):
    """Lines by columns under a title; `name` is the short one."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    name: Label
    title: Label
    columns: tuple[Column, ...] = Field(min_length=1)
    lines: tuple[Line, ...] = Field(min_length=1)
    members: tuple[Members, ...] = ()
    policy: Policy | None = Field(default=None, description="Its own plan, in place of the pack's.")

    @property
    def figured(self) -> list[Line]:
        """The lines that have figures."""
        return [line for line in self.lines if line.kind != "heading"]

    def line(self, id: str) -> Line | None:
        return next((line for line in self.lines if line.id == id), None)

    def column(self, id: str) -> Column | None:
        return next((column for column in self.columns if column.id == id), None)


Language = Annotated[str, Field(max_length=35, pattern=r"^[A-Za-z]{2,3}(-[A-Za-z0-9]{1,8})*$")]


class Tie(BaseModel):
    """Figures that are one and the same: closing cash in two statements, or what a year opens with and
    what the one before closed with."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    figures: tuple[FigureRef, ...] = Field(min_length=2)


class Pack(BaseModel):
    """One entity and period: its statements, ties between them, rulebook, holds and nudges; editions for
    other readers, and dashboards.

    `specimens` are its owner's own sample amounts, to see what a rule would print.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    entity: Label
    period: Label
    currency: Currency = None
    statements: tuple[Statement, ...] = Field(min_length=1)
    ties: tuple[Tie, ...] = ()
    rulebook: Rulebook = Rulebook()
    follows: Followed | None = Field(default=None, description="The house style its rules are taken from.")
    taxonomies: tuple[Taxonomy, ...] = Field(
        default=(),
        max_length=12,
        description="Taxonomies of others that its lines are tagged from.",
    )
    taken: tuple[Taken, ...] = Field(
        default=(), max_length=20_000, description="Figures that are taken from other packs."
    )
    holds: tuple[Hold, ...] = ()
    nudges: tuple[Nudge, ...] = ()
    specimens: tuple[Amount, ...] = Field(default=(), max_length=24)
    policy: Policy = Field(default=DEFAULT, description="How the pack is made to foot.")
    language: Language | None = Field(
        default=None, description="The language of its labels and titles (BCP 47), such as hi or pt-BR."
    )
    own_edition: Label = Field(default="Statutory", description="What the pack's own edition is called.")
    editions: tuple[Edition, ...] = Field(default=(), max_length=24)
    dashboards: tuple[Dashboard, ...] = Field(default=(), max_length=60)
    points: tuple[Point, ...] = Field(default=(), max_length=2_000, description="What reviewers put to it.")
    document_answers: tuple[DocumentAnswer, ...] = Field(
        default=(), max_length=20_000, description="What was said of numbers in documents made elsewhere."
    )
    signatures: tuple[Signature, ...] = Field(
        default=(), max_length=2_000, description="Who prepared and reviewed what, as it printed then."
    )

    @property
    def shown(self) -> str:
        """The edition in which its figures print."""
        return OWN

    @property
    def translates(self) -> bool:
        """Whether its amounts of money were translated to another currency."""
        return False

    def edition(self, id: str) -> Edition | None:
        return next((edition for edition in self.editions if edition.id == id), None)

    def edition_name(self, id: str) -> str:
        """What an edition is called."""
        edition = self.edition(id)
        return edition.name if edition else self.own_edition

    def dashboard(self, id: str) -> Dashboard | None:
        return next((dashboard for dashboard in self.dashboards if dashboard.id == id), None)

    def policy_of(self, statement: Statement) -> Policy:
        """The plan for one statement: its own, or the pack's."""
        return statement.policy or self.policy

    def statement(self, id: str) -> Statement | None:
        return next((statement for statement in self.statements if statement.id == id), None)
