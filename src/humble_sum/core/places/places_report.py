"""Everything that is placed on dashboards, and how each stands to the page of its edition."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from humble_sum.core.places.agreement import AGREES, Agreement, agreement
from humble_sum.core.places.chart import chart_data, chart_fault, point_of
from humble_sum.core.places.passages import Piece, SmallTable, printed_passage
from humble_sum.core.places.placed_figure import Placed, Placer
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.placed import STYLES, Chart, Dashboard, Item, Passage, Tile


@dataclass(frozen=True)
class Found:
    """One figure that is placed: on which item, and how it stands. `piece` is set in a passage, `placed`
    where it is a figure that follows; `label` and `says` are of what is neither: a whole chart, a point.
    `parts` are all the lines of the whole, where shares are of some of them."""

    dashboard: Dashboard
    item: Item
    agrees: Agreement
    placed: Placed | None = None
    piece: Piece | None = None
    label: str = ""
    says: str = ""
    parts: tuple[str, ...] = ()

    @property
    def figure(self) -> FigureRef | None:
        """The figure it shows, or is meant for."""
        if self.placed is not None:
            return self.placed.shows.figure
        return self.piece.meant[0] if self.piece is not None and self.piece.meant else None

    @property
    def text(self) -> str:
        """What it prints."""
        if self.piece is not None:
            return self.piece.text
        return self.placed.text if self.placed is not None else self.says

    @property
    def name(self) -> str:
        """What it is."""
        return self.placed.name if self.placed is not None else self.label or self.text


def placers(pack_proof: PackProof) -> dict[str, Placer]:
    """What prints in each sort of place."""
    return {
        "tile": Placer(pack_proof, "tile"),
        "chart": Placer(pack_proof, "chart"),
        "passage": Placer(pack_proof, "passage"),
    }


def placed_on(
    dashboard: Dashboard, pack_proof: PackProof, by_place: Mapping[str, Placer] | None = None
) -> Iterator[Found]:
    """Every figure placed on a dashboard, whose edition the pack is proved in; `by_place` has what prints
    there, where several dashboards are looked through."""
    by_place = by_place or placers(pack_proof)
    for item in dashboard.items:
        yield from placed_in(dashboard, item, pack_proof, by_place)


def placed_in(
    dashboard: Dashboard,
    item: Item,
    pack_proof: PackProof,
    by_place: Mapping[str, Placer],
    said: bool = False,
) -> Iterator[Found]:
    """Every figure placed on one item; `said` has those that agree say what there is to say of them."""
    placer = by_place[item.kind]
    if isinstance(item, Tile):
        yield from _of_tile(dashboard, item, placer, said)
    elif isinstance(item, Chart):
        yield from _of_chart(dashboard, item, pack_proof, placer)
    else:
        yield from _of_passage(dashboard, item, pack_proof, placer)


def _of_tile(dashboard: Dashboard, tile: Tile, placer: Placer, said: bool) -> Iterator[Found]:
    for shows in (tile.shows, tile.compare):
        if shows is not None:
            placed = placer.shown(shows)
            yield Found(dashboard, tile, agreement(placed, said), placed)


def _of_chart(dashboard: Dashboard, chart: Chart, pack_proof: PackProof, placer: Placer) -> Iterator[Found]:
    if not STYLES[chart.style].of_total and not chart_fault(chart, pack_proof, placer):
        for line in chart.lines:
            for column in chart.columns:
                placed = placer.shown(point_of(chart, line, column))
                yield Found(dashboard, chart, agreement(placed, False), placed)
        return
    data = chart_data(chart, pack_proof, placer)
    if data.fault:
        off = Agreement("disagrees", data.fault, "not drawn", ("remove",))
        yield Found(dashboard, chart, off, label=chart.label)
        return
    if STYLES[chart.style].to_hundred and data.notes:
        off = Agreement("disagrees", data.notes[0], "not 100", ("every_part", "remove"))
        yield Found(dashboard, chart, off, label=chart.label, parts=parts_of(chart, pack_proof))
    for point in data.series[0].points:
        yield Found(dashboard, chart, AGREES, label=point.name, says=point.text)


def parts_of(chart: Chart, pack_proof: PackProof) -> tuple[str, ...]:
    """Every line of what a chart's shares are of; none where a part is taken off the whole."""
    total = pack_proof.proofs[chart.statement].statement.line(chart.total or "")
    parts = total.parts if total is not None else ()
    return tuple(id for id, _ in parts) if all(sign > 0 for _, sign in parts) else ()


def _of_passage(
    dashboard: Dashboard, passage: Passage, pack_proof: PackProof, placer: Placer
) -> Iterator[Found]:
    for block in printed_passage(passage, pack_proof, placer):
        if isinstance(block, SmallTable):
            if block.gone:
                gone = Agreement("disagrees", block.gone, "gone")
                yield Found(dashboard, passage, gone, label=passage.label)
            continue
        for piece in block:
            if piece.agrees is not None:
                yield Found(dashboard, passage, piece.agrees, piece.placed, piece)
