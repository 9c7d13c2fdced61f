"""What the screens show of dashboards: tiles, charts, passages, and what each agrees with."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from humble_sum.core.changes.place_commands import RemoveDashboard
from humble_sum.core.places.agreement import Standing
from humble_sum.core.statements.placed import Chart, Passage, Tile
from humble_sum.server.figure_schemas import OfferView
from humble_sum.server.schemas import Ready


class AgreementView(BaseModel):
    """How a placed figure stands to its page, and what would settle it."""

    standing: Standing
    says: str
    off: str
    ways: list[OfferView]


class PrintedView(BaseModel):
    """A placed figure as it prints; `figure` is what it shows, its statement, line and column."""

    text: str
    mark: str
    tone: Literal["plain", "rust"]
    name: str
    exact: str
    figure: list[str] | None
    too_wide: bool
    agrees: AgreementView


class TargetView(BaseModel):
    """What was to be reached; `reached` in thousandths of it, for drawing."""

    text: str
    reached: int
    says: str


class ItemCommands(BaseModel):
    """What can be done with an item where it stands; null at an end."""

    earlier: Ready | None
    later: Ready | None
    narrower: Ready | None
    wider: Ready | None
    remove: Ready


class TileView(BaseModel):
    kind: Literal["tile"] = "tile"
    id: str
    label: str
    width: int
    commands: ItemCommands
    shows: PrintedView
    unit: str
    compare: PrintedView | None
    against: str
    trail: list[list[list[int]]] = Field(description="Runs of places in a drawing of 200 by 24.")
    target: TargetView | None
    item: Tile


class PointView(BaseModel):
    """A point of a chart: its id in the drawing, what it is, and what it prints."""

    id: str
    name: str
    text: str


class SeriesView(BaseModel):
    name: str
    points: list[PointView]


class ChartView(BaseModel):
    kind: Literal["chart"] = "chart"
    id: str
    label: str
    width: int
    commands: ItemCommands
    caption: str
    style: str
    svg: str = Field(description="The drawing, whose text is text; ids begin with the item's.")
    heads: list[str]
    series: list[SeriesView]
    fault: str
    notes: list[str]
    agrees: AgreementView
    keys: list[str] = Field(description="A small drawing for each series.")
    item: Chart


class PieceView(BaseModel):
    """A piece of a passage; plain text has no `agrees`."""

    text: str
    sort: Literal["text", "figure", "word", "label", "column", "typed", "unread"]
    name: str
    figure: list[str] | None
    agrees: AgreementView | None


class TextBlock(BaseModel):
    kind: Literal["text"] = "text"
    pieces: list[PieceView]


class TableRow(BaseModel):
    label: str
    texts: list[str]


class TableBlock(BaseModel):
    kind: Literal["table"] = "table"
    caption: str
    heads: list[str]
    rows: list[TableRow]
    gone: str


class RunView(BaseModel):
    """A run of a passage for an editor: text, or what prints for a mark, with the mark as it is kept."""

    text: str
    mark: str | None


class PassageView(BaseModel):
    kind: Literal["passage"] = "passage"
    id: str
    label: str
    width: int
    commands: ItemCommands
    blocks: list[Annotated[TextBlock | TableBlock, Field(discriminator="kind")]]
    disagreeing: int
    editing: list[list[RunView]] = Field(description="Its paragraphs for an editor.")
    item: Passage


class FollowView(BaseModel):
    """What a passage may follow: its name, the mark as it is written, and what it prints now."""

    name: str
    source: str
    text: str


class FindingView(BaseModel):
    """A placed figure that does not agree with its page: on which item, and where in it."""

    dashboard: str
    dashboard_name: str
    edition: str
    item: str
    label: str
    name: str
    text: str
    figure: list[str] | None
    agrees: AgreementView


class DashboardView(BaseModel):
    """A dashboard as its readers see it, with how each figure stands to the page of its edition."""

    revision: int
    id: str
    name: str
    edition: str
    edition_name: str
    items: list[Annotated[TileView | ChartView | PassageView, Field(discriminator="kind")]]
    remove: RemoveDashboard = Field(description="Takes the dashboard out.")
    placed: int = Field(description="How many figures are placed on it.")
    agreeing: int
    findings: list[FindingView]
