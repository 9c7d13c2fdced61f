"""Points and signatures as rows of tables, for the record of an issue."""

from __future__ import annotations

from humble_sum.core.review.points import describe_subject, unsettled
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.table_csv import table_csv

POINTS = ("On", "Point", "By", "When", "Answers", "Standing")
SIGNATURES = ("Page", "As", "By", "When", "Since")


def point_rows(pack: Pack) -> list[tuple[str, ...]]:
    """Every point with its answers, in the order in which they were put."""
    return [
        (
            describe_subject(base_of(pack), point.on) or "what is gone",
            point.words,
            point.author,
            point.made,
            "; ".join(f"{each.author or 'nobody named'}: {each.words or each.did}" for each in point.answers),
            point.standing,
        )
        for point in pack.points
    ]


def signature_rows(pack: Pack) -> list[tuple[str, ...]]:
    """The signatures of the edition: under which page, as what, by whom and when, and since when that page
    prints otherwise."""
    rows: list[tuple[str, ...]] = []
    for each in pack.signatures:
        if each.edition == pack.shown:
            statement = pack.statement(each.statement or "")
            dashboard = pack.dashboard(each.dashboard or "")
            page = statement.name if statement else dashboard.name if dashboard else "what is gone"
            since = f"prints otherwise since {each.lifted}" if each.lifted else "prints so"
            since = "came with a file" if each.brought else since
            rows.append((page, each.role, each.author, each.made, since))
    return rows


def points_on(pack: Pack, statement: str) -> dict[tuple[str, str], list[str]]:
    """What is to be noted at figures of a statement: the points on them that are not settled."""
    notes: dict[tuple[str, str], list[str]] = {}
    for point in unsettled(pack):
        on = point.on
        if on.statement == statement and on.line and on.column:
            by = f" ({point.author})" if point.author else ""
            notes.setdefault((on.line, on.column), []).append(f"Point, {point.standing}: {point.words}{by}")
    return notes


def write_points(pack: Pack) -> bytes:
    """The points as a table (RFC 4180)."""
    return table_csv(POINTS, point_rows(pack))
