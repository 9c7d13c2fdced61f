"""Points: what they are on, and whom they wait for."""

from __future__ import annotations

from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.review_marks import Point, Subject


def describe_subject(pack: Pack, on: Subject) -> str | None:
    """What a point is on, in words: "Crew, 2025–26 in Income"; None where it is not in the pack."""
    if on.dashboard is not None:
        dashboard = pack.dashboard(on.dashboard)
        item = next((each for each in dashboard.items if each.id == on.item), None) if dashboard else None
        if dashboard is None or (on.item is not None and item is None):
            return None
        return dashboard.name if item is None else f"{item.label} on {dashboard.name}"
    if on.statement is None:
        return "the pack"
    statement = pack.statement(on.statement)
    line = statement.line(on.line) if statement and on.line else None
    column = statement.column(on.column) if statement and on.column else None
    if statement is None or (on.line and line is None) or (on.column and column is None):
        return None
    if line is None:
        return statement.name
    return (
        f"{line.label}, {column.label} in {statement.name}" if column else f"{line.label} in {statement.name}"
    )


def awaits(point: Point, name: str) -> bool:
    """Whether a point waits for somebody: an open one for everybody but who put it, an answered one for who
    put it. Where nobody has a name it waits for everybody until it is settled."""
    if point.standing == "settled":
        return False
    if not name or not point.author:
        return True
    return (point.author == name) == (point.standing == "answered")


def unsettled(pack: Pack) -> list[Point]:
    """The points that are not settled, in the order in which they were put."""
    return [point for point in pack.points if point.standing != "settled"]
