"""What a tile shows: its figure, a comparison, a small line of past periods, a target with what is left."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import EXACT
from humble_sum.core.places.placed_figure import Placed, Placer
from humble_sum.core.printing.figure import Printed, fitted, print_amount
from humble_sum.core.proof.statement_proof import unit_said
from humble_sum.core.statements.placed import Shows, Tile
from humble_sum.core.statements.relations import QUOTIENT

TRAIL_WIDE, TRAIL_HIGH = 200, 24  # in the units of the drawing


@dataclass(frozen=True)
class Target:
    """What was to be reached: as it prints, how much of it is there in thousandths, and what is left."""

    text: str
    reached: int
    says: str


@dataclass(frozen=True)
class TileFace:
    """A tile, printed. `trail` has the past periods as places in a drawing of 200 by 24, in runs that
    missing periods break; `unit` is what the figure does not say itself."""

    placed: Placed
    compare: Placed | None
    unit: str
    trail: tuple[tuple[tuple[int, int], ...], ...] = ()
    target: Target | None = None


def tile_face(tile: Tile, placer: Placer) -> TileFace:
    """What a tile shows."""
    placed = placer.shown(tile.shows)
    compare = placer.shown(tile.compare) if tile.compare is not None else None
    unit = unit_said(placed.clauses) if placed.clauses is not None and placed.printed is not None else ""
    target = _target(tile, placed) if tile.target is not None else None
    return TileFace(placed, compare, unit, _trail(tile, placer), target)


def _trail(tile: Tile, placer: Placer) -> tuple[tuple[tuple[int, int], ...], ...]:
    points = [placer.shown(_at(tile.shows, column)).exact for column in tile.trail]
    there = [point for point in points if point is not None]
    if len(there) < 2:
        return ()
    low, span = min(there), max(there) - min(there)
    runs: list[list[tuple[int, int]]] = [[]]
    for place, point in enumerate(points):
        if point is None:
            runs.append([])
            continue
        share = (point - low) / span if span else Decimal("0.5")
        runs[-1].append((TRAIL_WIDE * place // (len(points) - 1), TRAIL_HIGH - int(share * TRAIL_HIGH)))
    return tuple(tuple(run) for run in runs if run)


def _at(shows: Shows, column: str) -> Shows:
    statement, line, _ = shows.figure
    return shows.model_copy(
        update={"figure": (statement, line, column), "measure": "figure", "against": None}
    )


def _target(tile: Tile, placed: Placed) -> Target | None:
    if placed.exact is None or placed.clauses is None or tile.target is None:
        return None
    # The target and what is left print in the tile's own unit, without its marks.
    clauses = fitted(placed.exact, placed.clauses).at(bands=(), plus="never", before="", after="")
    text = print_amount(tile.target, clauses).text
    left = EXACT.subtract(tile.target, placed.exact)
    printed: Printed = print_amount(left.copy_abs(), clauses)
    reached = int(QUOTIENT.divide(placed.exact, tile.target) * 1000) if tile.target > 0 else 0
    if printed.units == 0:
        says = f"as planned, {text}"
    else:
        says = f"{printed.text} {'short of' if left > 0 else 'more than'} {text}"
    return Target(text, max(0, min(1250, reached)), says)
