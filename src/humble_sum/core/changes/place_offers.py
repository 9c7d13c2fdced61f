"""Ready commands for what is placed: what would make a figure agree with its page."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from humble_sum.core.changes.change_union import Together
from humble_sum.core.changes.clause_commands import SetClause
from humble_sum.core.changes.footing_commands import ClearNudges
from humble_sum.core.changes.place_commands import (
    AcceptNudge,
    FollowFigure,
    PlaceItem,
    RemoveItem,
    WritePassage,
)
from humble_sum.core.places.agreement import Way as Settling
from humble_sum.core.places.passage_text import read_passage, write_passage
from humble_sum.core.places.places_report import Found
from humble_sum.core.printing.clauses import spelled
from humble_sum.core.rules.words import Way
from humble_sum.core.statements.placed import Chart, Passage, Tile


def ways_to_agree(found: Found) -> list[Way]:
    """What would settle a placed figure that does not agree, the usual way first. To accept it, the
    command still lacks its `reason`."""
    make: dict[Settling, Callable[[Found], Way | None]] = {
        "follow": _follow,
        "page_unit": _page_unit,
        "release": _release,
        "accept": _accept,
        "every_part": _every_part,
        "remove": _remove,
    }
    made = [make[way](found) for way in found.agrees.ways]
    return [way for way in made if way is not None]


def _of(found: Found) -> dict[str, Any]:
    return {"dashboard": found.dashboard.id, "item": found.item.id}


def _follow(found: Found) -> Way | None:
    piece = found.piece
    if piece is None or found.figure is None:
        return None
    paragraph, run = piece.at
    figure = None if piece.mark else piece.meant[0]
    change = FollowFigure(
        kind="follow_figure", paragraph=paragraph, run=run, within=piece.within, figure=figure, **_of(found)
    )
    return Way("Follow the figure", change)


def _page_unit(found: Found) -> Way | None:
    """Print it at the page's unit, where it prints what the page does."""
    placed = found.placed
    if placed is None or placed.page is None:
        return None
    unit = spelled(placed.page.clauses, ("scale", "decimals"))
    item = found.item
    if isinstance(item, Tile) and placed.shows == item.shows:
        shows = item.shows.model_copy(update={"clauses": item.shows.clauses | unit})
        changed: Any = item.model_copy(update={"shows": shows})
    elif isinstance(item, Chart):
        changed = item.model_copy(update={"clauses": item.clauses | unit})
    else:
        statement, line, column = placed.shows.figure
        ref: dict[str, Any] = {"statement": statement, "line": line, "column": column}
        said = [
            SetClause(kind="set_clause", clause=name, value=value, apply="figure", place=item.kind, **ref)
            for name, value in unit.items()
        ]
        return Way(
            "Print it at the page’s unit", Together(kind="together", statement=statement, changes=said)
        )
    change = PlaceItem(kind="place_item", dashboard=found.dashboard.id, item=changed)
    return Way("Print it at the page’s unit", change)


def _release(found: Found) -> Way | None:
    if found.figure is None or found.placed is None or found.placed.page is None:
        return None
    if found.placed.page.nudge is None:
        return None
    change = ClearNudges(kind="clear_nudges", statement=found.figure[0], figures=[found.figure])
    return Way("Release the page’s nudge", change)


def _accept(found: Found) -> Way | None:
    item = found.item
    if not isinstance(item, Tile) or found.placed is None or found.placed.shows != item.shows:
        return None
    change = AcceptNudge.model_construct(kind="accept_nudge", reason="", **_of(found))
    return Way("Accept it, with a reason", change)


def _every_part(found: Found) -> Way | None:
    """Shares of the whole whole."""
    chart = found.item
    if not isinstance(chart, Chart) or not found.parts or set(found.parts) == set(chart.lines):
        return None
    drawn = chart.model_copy(update={"lines": found.parts})
    change = PlaceItem(kind="place_item", dashboard=found.dashboard.id, item=drawn)
    return Way("Draw every part", change)


def _remove(found: Found) -> Way | None:
    if isinstance(found.item, Passage):
        return _as_text(found.item, found)
    return Way("Take it off", RemoveItem(kind="remove_item", **_of(found)))


def _as_text(passage: Passage, found: Found) -> Way | None:
    """What is gone stays as the text it last was; in a repeated passage that would be one of many."""
    if found.piece is None or passage.over:
        return None
    paragraph, run = found.piece.at
    paragraphs = read_passage(passage.text)
    paragraphs[paragraph][run] = found.piece.text
    change = WritePassage(kind="write_passage", text=write_passage(paragraphs), **_of(found))
    return Way("Leave it as plain text", change)
