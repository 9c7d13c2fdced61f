"""Everything that is placed on dashboards, and how each stands to the page of its edition."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from humble_sum.core.places.agreement import AGREES, Agreement, agreement
from humble_sum.core.places.chart import chart_data, point_of
from humble_sum.core.places.passages import Piece, SmallTable, printed_passage
from humble_sum.core.places.placed_figure import Placed, Placer
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.placed import Chart, Dashboard, Item, Passage, Tile


@dataclass(frozen=True)
class Found:
    """One figure that is placed: on which item, what it prints, and how it stands. `piece` is set in a
    passage, `placed` where it is a figure that follows."""

    dashboard: Dashboard
    item: Item
    text: str
    agrees: Agreement
    name: str
    placed: Placed | None = None
    piece: Piece | None = None

    @property
    def figure(self) -> FigureRef | None:
        """The figure it shows, or is meant for."""
        if self.placed is not None:
            return self.placed.shows.figure
        return self.piece.meant[0] if self.piece is not None and self.piece.meant else None


def placed_on(dashboard: Dashboard, whole: PackProof) -> Iterator[Found]:
    """Every figure placed on a dashboard, whose edition the pack is proved in."""
    placers = {
        "tile": Placer(whole, "tile"),
        "chart": Placer(whole, "chart"),
        "passage": Placer(whole, "passage"),
    }
    for item in dashboard.items:
        placer = placers[item.kind]
        if isinstance(item, Tile):
            yield from _of_tile(dashboard, item, placer)
        elif isinstance(item, Chart):
            yield from _of_chart(dashboard, item, whole, placer)
        else:
            yield from _of_passage(dashboard, item, whole, placer)


def _of_tile(dashboard: Dashboard, tile: Tile, placer: Placer) -> Iterator[Found]:
    for shows in (tile.shows, tile.compare):
        if shows is not None:
            placed = placer.shown(shows)
            yield Found(dashboard, tile, placed.text, agreement(placed), placed.name, placed)


def _of_chart(dashboard: Dashboard, chart: Chart, whole: PackProof, placer: Placer) -> Iterator[Found]:
    data = chart_data(chart, whole, placer)
    if data.fault:
        yield Found(
            dashboard, chart, "", Agreement("disagrees", data.fault, "not drawn", ("remove",)), chart.label
        )
        return
    if chart.style == "shares" and data.notes:
        yield Found(dashboard, chart, "", Agreement("disagrees", data.notes[0], "not 100"), chart.label)
    if chart.style in ("shares", "bridge"):
        for point in data.series[0].points:
            yield Found(dashboard, chart, point.text, AGREES, point.name)
        return
    for line in chart.lines:
        for column in chart.columns:
            placed = placer.shown(point_of(chart, line, column))
            yield Found(dashboard, chart, placed.text, agreement(placed), placed.name, placed)


def _of_passage(dashboard: Dashboard, passage: Passage, whole: PackProof, placer: Placer) -> Iterator[Found]:
    for block in printed_passage(passage, whole, placer):
        if isinstance(block, SmallTable):
            if block.gone:
                yield Found(dashboard, passage, "", Agreement("disagrees", block.gone, "gone"), passage.label)
            continue
        for piece in block:
            if piece.agrees is not None:
                name = piece.placed.name if piece.placed else piece.text
                yield Found(dashboard, passage, piece.text, piece.agrees, name, piece.placed, piece)
