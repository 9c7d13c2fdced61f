"""What becomes of editions and dashboards when a pack rolls forward to the next period."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from humble_sum.core.places.passage_text import EACH, Mark, Run, read_passage, write_passage
from humble_sum.core.places.repeating import marked
from humble_sum.core.statements.edition import Edition, Rate
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.placed import Dashboard, Passage, Shows, Tile

Columns = Mapping[str, Mapping[str, str]]  # by statement: column ids before, and what they are now


def edition_forward(edition: Edition, periods: Columns) -> Edition:
    """The edition with the rates of the periods that stay, under the ids these now have. Plans stay; holds
    and nudges were of figures that have changed."""
    rates: dict[tuple[str | None, str | None, str], Rate] = {}
    for rate in edition.rates:
        owners = [rate.statement] if rate.statement else list(periods)
        for owner in owners:
            new = periods.get(owner, {}).get(rate.column)
            if new is not None:
                rates.setdefault((rate.statement, rate.line, new), rate.model_copy(update={"column": new}))
    apart = {id: policy for id, policy in edition.apart.items() if id in periods}
    changed = {"rates": tuple(rates.values()), "apart": apart, "holds": (), "nudges": ()}
    return edition.model_copy(update=changed)


def dashboard_forward(dashboard: Dashboard, new_columns: Columns) -> Dashboard:
    """The dashboard with each figure in the column that has taken its place: this year's stays this
    year's."""
    return dashboard.model_copy(update={"items": tuple(_item(item, new_columns) for item in dashboard.items)})


def _item(item: Any, new_columns: Columns) -> Any:
    if isinstance(item, Tile):
        columns = new_columns.get(item.shows.figure[0], {})
        changed = {
            "shows": _shows(item.shows, new_columns),
            "compare": _shows(item.compare, new_columns) if item.compare else None,
            "trail": tuple(columns.get(id, id) for id in item.trail),
        }
        return item.model_copy(update=changed)
    if isinstance(item, Passage):
        paragraphs = [[_run(run, new_columns) for run in runs] for runs in read_passage(item.text)]
        of = next((ref[0] for ref in marked(item) if ref[2] == EACH), "")
        over = tuple(new_columns.get(of, {}).get(id, id) for id in item.over)
        return item.model_copy(update={"text": write_passage(paragraphs), "over": over})
    columns = new_columns.get(item.statement, {})
    return item.model_copy(update={"columns": tuple(columns.get(id, id) for id in item.columns)})


def _run(run: Run, new_columns: Columns) -> Run:
    if not isinstance(run, Mark):
        return run
    if run.shows is not None:
        return replace(run, shows=_shows(run.shows, new_columns))
    columns = new_columns.get(run.statement, {})
    return replace(run, columns=tuple(columns.get(id, id) for id in run.columns))


def _shows(shows: Shows, new_columns: Columns) -> Shows:
    columns = new_columns.get(shows.figure[0], {})
    return shows.model_copy(
        update={
            "figure": _ref(shows.figure, new_columns),
            "against": _ref(shows.against, new_columns) if shows.against else None,
            "columns": tuple(columns.get(id, id) for id in shows.columns),
            "accepted": "",
        }
    )


def _ref(ref: FigureRef, new_columns: Columns) -> FigureRef:
    statement, line, column = ref
    return statement, line, new_columns.get(statement, {}).get(column, column)
