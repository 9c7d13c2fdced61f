"""Dashboards and editions, from core's answers to the API's views."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import Any

from humble_sum.core.changes.item_sentence import chart_sentence, tile_sentence
from humble_sum.core.changes.passage_sentence import passage_sentence
from humble_sum.core.changes.place_commands import MoveItem, RemoveDashboard, RemoveItem, SizeItem
from humble_sum.core.changes.place_offers import ways_to_agree
from humble_sum.core.places.chart import ChartData, chart_data
from humble_sum.core.places.passage_text import EACH, Mark, Unread, read_passage, write_run
from humble_sum.core.places.passages import Piece, SmallTable, pieces_of, printed_passage
from humble_sum.core.places.placed_figure import Placed, Placer
from humble_sum.core.places.places_report import Found, placed_in, placers
from humble_sum.core.places.tile import TileFace, tile_face
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.placed import Chart, Dashboard, Passage, Tile
from humble_sum.server.figure_schemas import SentenceView
from humble_sum.server.presenters.place_models import (
    AgreementView,
    ChartView,
    DashboardView,
    FindingView,
    ItemCommands,
    PassageView,
    PieceView,
    PointView,
    PrintedView,
    RunView,
    SeriesView,
    TableBlock,
    TableRow,
    TargetView,
    TextBlock,
    TileView,
)
from humble_sum.server.presenters.word_page import offer_view, sentence_view


def dashboard_view(dashboard: Dashboard, pack_proof: PackProof, revision: int) -> DashboardView:
    """A dashboard; the pack is proved in its edition."""
    by_place = placers(pack_proof)
    found = [list(placed_in(dashboard, item, pack_proof, by_place, said=True)) for item in dashboard.items]
    every = [each for of_item in found for each in of_item]
    findings = [finding_view(each) for each in every if each.agrees.standing != "agrees"]
    return DashboardView(
        revision=revision,
        id=dashboard.id,
        name=dashboard.name,
        edition=dashboard.edition,
        edition_name=pack_proof.pack.edition_name(dashboard.edition),
        items=[
            _item(dashboard, place, pack_proof, by_place[item.kind], found[place])
            for place, item in enumerate(dashboard.items)
        ],
        remove=RemoveDashboard(kind="remove_dashboard", dashboard=dashboard.id),
        placed=len(every),
        agreeing=len(every) - len(findings),
        findings=findings,
    )


def item_words(dashboard: Dashboard, item: Tile | Chart | Passage, pack: Pack) -> SentenceView:
    """An item as a sentence, whose words carry the change that would make it otherwise."""
    if isinstance(item, Tile):
        return sentence_view(tile_sentence(dashboard, item, pack))
    if isinstance(item, Chart):
        return sentence_view(chart_sentence(dashboard, item, pack))
    return sentence_view(passage_sentence(dashboard, item, pack))


def finding_view(found: Found) -> FindingView:
    return FindingView(
        dashboard=found.dashboard.id,
        dashboard_name=found.dashboard.name,
        edition=found.dashboard.edition,
        item=found.item.id,
        label=found.item.label,
        name=found.name,
        text=found.text,
        figure=list(found.figure) if found.figure else None,
        agrees=_agrees(found),
    )


def _agrees(found: Found) -> AgreementView:
    return AgreementView(
        standing=found.agrees.standing,
        says=found.agrees.says,
        off=found.agrees.off,
        ways=[offer_view(way) for way in ways_to_agree(found)],
    )


def _item(
    dashboard: Dashboard, place: int, pack_proof: PackProof, placer: Placer, found: Sequence[Found]
) -> TileView | ChartView | PassageView:
    item = dashboard.items[place]
    commands = _commands(dashboard, place)
    if isinstance(item, Tile):
        return _tile(item, placer, found, commands)
    if isinstance(item, Chart):
        return _chart(dashboard, item, chart_data(item, pack_proof, placer), found, commands)
    return _passage(dashboard, item, pack_proof, placer, found, commands)


def _commands(dashboard: Dashboard, place: int) -> ItemCommands:
    items = dashboard.items
    item = items[place]
    of: dict[str, Any] = {"dashboard": dashboard.id, "item": item.id}
    after_next = items[place + 2].id if place + 2 < len(items) else None
    return ItemCommands.model_construct(
        earlier=MoveItem(kind="move_item", before=items[place - 1].id, **of) if place else None,
        later=MoveItem(kind="move_item", before=after_next, **of) if place + 1 < len(items) else None,
        narrower=SizeItem(kind="size_item", width=item.width - 1, **of) if item.width > 2 else None,
        wider=SizeItem(kind="size_item", width=item.width + 1, **of) if item.width < 12 else None,
        remove=RemoveItem(kind="remove_item", **of),
    )


def _printed(placed: Placed, found: Found) -> PrintedView:
    printed = placed.printed
    text = placed.text if printed is None else printed.text
    return PrintedView(
        text=text,
        mark=printed.mark if printed else "",
        tone=printed.tone if printed else "plain",
        name=placed.name,
        exact=placed.exact_text,
        figure=list(placed.shows.figure),
        too_wide=bool(printed and printed.too_wide),
        agrees=_agrees(found),
    )


def _tile(tile: Tile, placer: Placer, found: Sequence[Found], commands: ItemCommands) -> TileView:
    face: TileFace = tile_face(tile, placer)
    target = face.target
    return TileView(
        id=tile.id,
        label=tile.label,
        width=tile.width,
        commands=commands,
        shows=_printed(face.placed, found[0]),
        unit=face.unit,
        compare=_printed(face.compare, found[1]) if face.compare else None,
        against=tile.against,
        trail=[[list(point) for point in run] for run in face.trail],
        target=TargetView(text=target.text, reached=target.reached, says=target.says) if target else None,
        item=tile,
    )


@lru_cache(maxsize=256)
def _drawn(data: ChartData, id: str, width: int) -> str:
    """Charts are kept by what they show. What draws takes long to be read, and is when it is first needed."""
    from humble_sum.exchange.chart_drawing import DESK, write_svg

    return write_svg(data, id, width, DESK)


def _keys(data: ChartData) -> list[str]:
    if len(data.series) < 2:
        return []
    from humble_sum.exchange.chart_drawing import legend

    return legend(data)


def _chart(
    dashboard: Dashboard, chart: Chart, data: ChartData, found: Sequence[Found], commands: ItemCommands
) -> ChartView:
    worst = next((each for each in found if each.agrees.standing != "agrees"), found[0])
    id = f"{dashboard.id}-{chart.id}"
    return ChartView(
        id=chart.id,
        label=chart.label,
        width=chart.width,
        commands=commands,
        caption=data.caption,
        style=chart.style,
        svg="" if data.fault else _drawn(data, id, chart.width),
        heads=list(data.heads),
        series=[
            SeriesView(
                name=series.name,
                points=[
                    PointView(id=f"{id}-point-{number}-{place}", name=point.name, text=point.text)
                    for place, point in enumerate(series.points)
                ],
            )
            for number, series in enumerate(data.series)
        ],
        fault=data.fault,
        notes=list(data.notes),
        agrees=_agrees(worst),
        keys=_keys(data),
        item=chart,
    )


def _passage(
    dashboard: Dashboard,
    passage: Passage,
    pack_proof: PackProof,
    placer: Placer,
    found: Sequence[Found],
    commands: ItemCommands,
) -> PassageView:
    blocks: list[TextBlock | TableBlock] = []
    for block in printed_passage(passage, pack_proof, placer):
        if isinstance(block, SmallTable):
            rows = [
                TableRow(label=label, texts=[each.full_text for each in printed])
                for label, printed in block.rows
            ]
            blocks.append(
                TableBlock(caption=block.caption, heads=list(block.heads), rows=rows, gone=block.gone)
            )
        else:
            blocks.append(TextBlock(pieces=[_piece(dashboard, passage, each) for each in block]))
    return PassageView(
        id=passage.id,
        label=passage.label,
        width=passage.width,
        commands=commands,
        blocks=blocks,
        editing=_editing(passage, pack_proof, placer),
        disagreeing=sum(each.agrees.standing == "disagrees" for each in found),
        item=passage,
    )


def _editing(passage: Passage, pack_proof: PackProof, placer: Placer) -> list[list[RunView]]:
    return [
        [
            RunView(text=run, mark=None) if isinstance(run, str) else _run(run, pack_proof, placer)
            for run in runs
        ]
        for runs in read_passage(passage.text)
    ]


def _run(run: Mark | Unread, pack_proof: PackProof, placer: Placer) -> RunView:
    source = write_run(run)
    if isinstance(run, Unread):
        return RunView(text=source, mark=None)
    if run.sort == "table" or (run.shows and EACH in run.shows.figure):
        return RunView(text=run.last or source, mark=source)
    pieces = pieces_of(run, (0, 0), "", pack_proof, placer)
    return RunView(text=pieces[0].text or run.last or "…", mark=source)


def _piece(dashboard: Dashboard, passage: Passage, piece: Piece) -> PieceView:
    if piece.agrees is None:
        return PieceView(text=piece.text, sort="text", name="", figure=None, agrees=None)
    found = Found(dashboard, passage, piece.agrees, piece.placed, piece)
    mark = piece.mark
    sort: Any = "typed" if piece.within or (mark and mark.typed) else mark.sort if mark else "unread"
    figure = list(found.figure) if found.figure else None
    return PieceView(text=piece.text, sort=sort, name=found.name, figure=figure, agrees=_agrees(found))
