"""Tiles and charts as sentences, whose words carry the change that would make the item otherwise."""

from __future__ import annotations

from typing import Any

from humble_sum.core.changes.place_commands import PlaceItem
from humble_sum.core.places.offered_marks import other_column
from humble_sum.core.rules.words import Sentence, Word, plain_word
from humble_sum.core.statements.pack import Column, Pack, Statement
from humble_sum.core.statements.placed import MEASURES, STYLES, Chart, Dashboard, Measure, Shows, Tile

NOTHING = "nothing"
COMPARED: tuple[Measure, ...] = ("change_percent", "change", "change_points", "share")
MOST_LINES = 40  # of a statement that are offered for one word


def tile_sentence(dashboard: Dashboard, tile: Tile, pack: Pack) -> Sentence:
    """What a tile shows, in words."""
    statement = pack.statement(tile.shows.figure[0])
    if statement is None or statement.line(tile.shows.figure[1]) is None:
        return ["Shows a figure that is gone."]

    def word(clause: str, value: Any, choices: list[tuple[Any, str, Tile]]) -> Word:
        labels = [(each, said) for each, said, _ in choices]
        changes = {each: _placed(dashboard, made) for each, _, made in choices}
        return plain_word(clause, value, labels, changes)

    line, column = tile.shows.figure[1], tile.shows.figure[2]
    columns = [
        (c.id, c.label, _at(tile, shows={"figure": (statement.id, line, c.id)})) for c in statement.columns
    ]
    found: Sentence = ["Shows", word("measure", tile.shows.measure, _measures(tile, statement))]
    found += ["of", word("line", line, _lines(tile, statement)), "in", word("column", column, columns)]
    if tile.shows.against is not None:
        found += ["against", word("against", tile.shows.against[2], _against(tile, statement))]
    found += [", beside it", word("comparison", _compared(tile), _comparisons(tile, statement))]
    if tile.compare is not None and tile.compare.against is not None:
        found += ["against", word("since", tile.compare.against[2], _since(tile, statement))]
    found += [". Below it", word("trail", bool(tile.trail), _trails(tile, statement)), "."]
    return found


def _placed(dashboard: Dashboard, item: Tile | Chart) -> PlaceItem:
    return PlaceItem.model_construct(kind="place_item", dashboard=dashboard.id, item=item, before=None)


def _at(tile: Tile, shows: dict[str, Any] | None = None, **otherwise: Any) -> Tile:
    changed = {"shows": tile.shows.model_copy(update=shows)} if shows else {}
    return tile.model_copy(update=changed | otherwise)


def _measures(tile: Tile, statement: Statement) -> list[tuple[Measure, str, Tile]]:
    figure = tile.shows.figure
    against = (figure[0], figure[1], other_column(statement, figure[2]))
    found: list[tuple[Measure, str, Tile]] = []
    for measure, said in MEASURES.items():
        if measure == "sum":
            columns = tile.shows.columns or tuple(c.id for c in statement.columns if not c.derived)
            found.append((measure, said, _at(tile, {"measure": measure, "columns": columns})))
        else:
            other = None if measure == "figure" else tile.shows.against or against
            found.append((measure, said, _at(tile, {"measure": measure, "against": other, "columns": ()})))
    return found


def _lines(tile: Tile, statement: Statement) -> list[tuple[str, str, Tile]]:
    lines = statement.figured[:MOST_LINES]
    own = statement.line(tile.shows.figure[1])
    if own is not None and own not in lines:
        lines = [own, *lines]
    found = []
    for line in lines:

        def on(shows: Shows, id: str = line.id) -> Shows:
            moved = {"figure": (shows.figure[0], id, shows.figure[2])}
            if shows.against is not None and shows.against[1] == tile.shows.figure[1]:
                moved["against"] = (shows.against[0], id, shows.against[2])
            return shows.model_copy(update=moved)

        compare = on(tile.compare) if tile.compare is not None else None
        label = line.label if tile.label == (own.label if own else "") else tile.label
        made = tile.model_copy(update={"shows": on(tile.shows), "compare": compare, "label": label})
        found.append((line.id, line.label, made))
    return found


def _against(tile: Tile, statement: Statement) -> list[tuple[str, str, Tile]]:
    of = tile.shows.against
    assert of is not None
    owner = of[:2]
    return [(c.id, c.label, _at(tile, {"against": (*owner, c.id)})) for c in _columns(statement, of[2])]


def _columns(statement: Statement, own: str) -> list[Column]:
    return [c for c in statement.columns if not c.share or c.id == own]


def _compared(tile: Tile) -> str:
    return tile.compare.measure if tile.compare is not None else NOTHING


def _comparisons(tile: Tile, statement: Statement) -> list[tuple[str, str, Tile]]:
    figure = tile.shows.figure
    against = (figure[0], figure[1], other_column(statement, figure[2]))
    found: list[tuple[str, str, Tile]] = [(NOTHING, NOTHING, _at(tile, compare=None))]
    for measure in COMPARED:
        now = tile.compare.against if tile.compare is not None else None
        made = (tile.compare or Shows(figure=figure)).model_copy(
            update={"measure": measure, "against": now or against}
        )
        found.append((measure, MEASURES[measure], _at(tile, compare=made)))
    if tile.compare is not None and _compared(tile) not in {each for each, _, _ in found}:
        found.append((tile.compare.measure, MEASURES[tile.compare.measure], tile))
    return found


def _since(tile: Tile, statement: Statement) -> list[tuple[str, str, Tile]]:
    compare = tile.compare
    assert compare is not None and compare.against is not None
    owner = compare.against[:2]
    return [
        (c.id, c.label, _at(tile, compare=compare.model_copy(update={"against": (*owner, c.id)})))
        for c in _columns(statement, compare.against[2])
    ]


def _trails(tile: Tile, statement: Statement) -> list[tuple[bool, str, Tile]]:
    given = tuple(c.id for c in statement.columns if not c.derived and c.date) or tuple(
        c.id for c in reversed(statement.columns) if not c.derived
    )
    return [
        (False, NOTHING, _at(tile, trail=())),
        (True, "a small line of its periods", _at(tile, trail=tile.trail or given)),
    ]


def chart_sentence(dashboard: Dashboard, chart: Chart, pack: Pack) -> Sentence:
    """What a chart draws, in words."""
    statement = pack.statement(chart.statement)
    if statement is None:
        return ["Draws a statement that is gone."]

    def made(**otherwise: Any) -> PlaceItem:
        return _placed(dashboard, chart.model_copy(update=otherwise))

    styles = {style: made(style=style) for style in STYLES}
    labels_of_styles = {style: each.label for style, each in STYLES.items()}
    found: Sentence = ["Draws", plain_word("style", chart.style, labels_of_styles, styles), "of"]
    drawn = _line_choices(chart, statement)
    lines = {ids: made(lines=ids) for ids in drawn}
    found.append(plain_word("lines", chart.lines, drawn, lines))
    together = spans(statement)
    if chart.columns not in [columns for _, columns in together]:
        together.insert(0, (_span_said(statement, chart.columns), chart.columns))
    labels = [(columns, said) for said, columns in together]
    changes = {columns: made(columns=columns) for _, columns in together}
    found += ["over", plain_word("columns", chart.columns, labels, changes)]
    if STYLES[chart.style].of_total:
        adding = [line for line in statement.figured if line.adds][:MOST_LINES]
        totals: list[tuple[Any, str]] = [(line.id, line.label) for line in adding]
        if chart.total not in [id for id, _ in totals]:
            totals.insert(0, (chart.total, chart.total or "no total"))
        of = {id: made(total=id) for id, _ in totals}
        found += ["; the total is", plain_word("total", chart.total, totals, of)]
    return [*found, "."]


def _line_choices(chart: Chart, statement: Statement) -> dict[tuple[str, ...], str]:
    """The lines a chart may draw: its own, the parts of a total, one fewer, and one more."""
    names = [line.label for id in chart.lines if (line := statement.line(id))]
    found = {chart.lines: ", ".join(names) if len(names) <= 3 else f"{len(names)} lines"}
    for total in statement.lines:
        parts = tuple(part for part, _ in total.parts)
        if 1 < len(parts) <= MOST_LINES:
            found.setdefault(parts, f"the parts of {total.label}")
    if len(chart.lines) > 1:
        for id, name in zip(chart.lines, names, strict=False):
            found.setdefault(tuple(each for each in chart.lines if each != id), f"without {name}")
    order = [line.id for line in statement.figured]
    for line in statement.figured[:MOST_LINES]:
        if line.id not in chart.lines and len(chart.lines) < MOST_LINES:
            more = tuple(sorted((*chart.lines, line.id), key=order.index))
            found.setdefault(more, f"and {line.label}")
    return found


def spans(statement: Statement) -> list[tuple[str, tuple[str, ...]]]:
    """Columns that go together: those given with dates, those that add others, and all that are given."""
    months = tuple(c.id for c in statement.columns if c.date and not c.derived)
    sums = tuple(c.id for c in statement.columns if c.sum)
    given = tuple(c.id for c in statement.columns if not c.derived)
    back = tuple(reversed(given))
    spans = [("its periods", months), ("its sums of periods", sums), ("every column given", given)]
    spans.append((_span_said(statement, back), back))
    found: dict[tuple[str, ...], str] = {}
    for said, columns in spans:
        if columns and columns not in found:
            found[columns] = said
    return [(said, columns) for columns, said in found.items()]


def _span_said(statement: Statement, columns: tuple[str, ...]) -> str:
    heads = [c.label for id in columns if (c := statement.column(id))]
    return ", ".join(heads) if len(heads) <= 4 else f"{heads[0]} to {heads[-1]}"
