"""What a pack places outside of its statements: dashboards of tiles, charts and passages."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field

from humble_sum.core.amount_field import Amount
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.names import FigureRef, Label, Reason, cleaned

Measure = Literal["figure", "change", "change_percent", "change_points", "ratio", "share", "sum"]
MEASURES: dict[Measure, str] = {
    "figure": "the figure",
    "change": "its change",
    "change_percent": "its change in percent",
    "change_points": "its change in points",
    "ratio": "its ratio",
    "share": "its share",
    "sum": "the sum of columns",
}
Style = Literal["bars", "grouped", "stacked", "lines", "shares", "bridge"]


@dataclass(frozen=True)
class ChartStyle:
    """A way to draw a chart: what it is called. Where it is `of_total` its points are parts that print to
    a total, and where `to_hundred` they are percentages of it. Where it `labels_below`, what a negative
    point prints stands below it."""

    label: str
    of_total: bool = False
    to_hundred: bool = False
    labels_below: bool = True


# What works a style out stands in core/places/chart.py, and what draws it in exchange/chart_drawing.py.
STYLES: dict[Style, ChartStyle] = {
    "bars": ChartStyle("bars"),
    "grouped": ChartStyle("grouped bars"),
    "stacked": ChartStyle("stacked bars", labels_below=False),
    "lines": ChartStyle("lines", labels_below=False),
    "shares": ChartStyle("shares of a total", of_total=True, to_hundred=True),
    "bridge": ChartStyle("a bridge", of_total=True),
}
MOST_TEXT = 200_000  # characters of a passage
MOST_ITEMS = 200
Width = Annotated[int, Field(ge=2, le=12, description="Of the twelve that a dashboard is wide.")]
OwnClauses = Annotated[
    dict[str, Any],
    AfterValidator(lambda said: read_clauses(said).spelled()),
    Field(description="Clauses of its own, over every rule, as rulebook files spell them."),
]


class Shows(BaseModel):
    """What is placed: a figure, or a measure of figures.

    A change, a ratio and a share are taken `against` a second figure; a sum adds the figure's line over
    `columns`. Measures are worked out from exact amounts, or where `printed` is said from printed ones.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    figure: FigureRef
    measure: Measure = "figure"
    against: FigureRef | None = None
    columns: tuple[Id, ...] = ()
    printed: bool = False
    clauses: OwnClauses = {}
    accepted: Reason = Field(default="", description="Why it may show a nudge of the page.")


class _Item(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    label: Label


class Tile(_Item):
    """A figure on its own: with a comparison, past periods, a target."""

    kind: Literal["tile"]
    width: Width = 4
    shows: Shows
    compare: Shows | None = None
    against: Annotated[str, Field(max_length=60)] = Field(
        default="", description="What the comparison is with, in words: on last year."
    )
    trail: tuple[Id, ...] = Field(default=(), max_length=60, description="Columns of a small line.")
    target: Amount | None = Field(default=None, description="What was to be reached.")


class Chart(_Item):
    """Lines of a statement over its columns, drawn.

    A bridge goes from the first of its `columns` to the last of `total`, by the changes of `lines`;
    shares are of `total` in its one column.
    """

    kind: Literal["chart"]
    width: Width = 6
    style: Style
    statement: Id
    lines: tuple[Id, ...] = Field(min_length=1, max_length=60)
    columns: tuple[Id, ...] = Field(min_length=1, max_length=120)
    total: Id | None = None
    clauses: OwnClauses = {}


class Passage(_Item):
    """Text whose marks are figures; its form is docs/formats/passages.md. Repeated `over` lines or columns,
    each stands in the text as `*`."""

    kind: Literal["passage"]
    width: Width = 12
    text: Annotated[str, Field(max_length=MOST_TEXT), BeforeValidator(cleaned)] = ""
    over: tuple[Id, ...] = Field(
        default=(), max_length=400, description="Lines or columns it is repeated over."
    )


Item = Annotated[Tile | Chart | Passage, Field(discriminator="kind")]


class Dashboard(BaseModel):
    """Tiles, charts and passages on one page, for the readers of one edition."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    name: Label
    edition: Id = OWN
    items: tuple[Item, ...] = Field(default=(), max_length=MOST_ITEMS)

    def item(self, id: str) -> Tile | Chart | Passage | None:
        return next((item for item in self.items if item.id == id), None)
