"""Places measured beside the page's own figures, in one run: python -m bench places."""

from __future__ import annotations

import random
import time
from collections.abc import Callable, Iterator, Mapping
from decimal import Decimal

from bench.rows import Row, print_part
from humble_sum.core.places.places_report import placed_on
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook
from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.core.statements.placed import Chart, Dashboard, Shows, Style, Tile
from humble_sum.server.presenters.places_page import dashboard_view

LINES, COLUMNS = 400, 15
TILES, CHARTS, PLACED = 24, 6, 2_000
ROUNDS = 5
HOUSE = {"form": "amount", "currency": "INR", "scale": "lakhs", "locale": "en-IN", "negative": "brackets"}
STYLES: tuple[Style, ...] = ("grouped", "lines", "stacked")


def pack(house: Mapping[str, object], tiles: Mapping[str, object]) -> Pack:
    """Six thousand figures under a rule, and one for tiles."""
    made = random.Random(3)
    columns = tuple(Column(id=f"c{n}", label=f"C{n}") for n in range(COLUMNS))
    lines = []
    for n in range(LINES):
        amounts = {c.id: Decimal(made.randrange(-(10**11), 10**11)).scaleb(-2) for c in columns}
        lines.append(Line(id=f"l{n}", label=f"Line {n}", amounts=dict(amounts)))
    of = Statement(id="s", name="S", title="S", columns=columns, lines=tuple(lines))
    on_tiles = Rule(id="t", name="Tiles", reach=Reach(places=("tile",)), clauses=read_clauses(dict(tiles)))
    rules = (Rule(id="h", name="House", clauses=read_clauses(dict(house))), on_tiles)
    return Pack(entity="E", period="P", statements=(of,), rulebook=Rulebook(rules=rules))


def tile(number: int, column: str) -> Tile:
    figure = ("s", f"l{number}", column)
    change = Shows(figure=figure, measure="change_percent", against=("s", f"l{number}", "c1"))
    return Tile(kind="tile", id=f"{column}-{number}", label="T", shows=Shows(figure=figure), compare=change)


def dashboard() -> Dashboard:
    months = tuple(f"c{n}" for n in range(12))
    charts = [
        Chart(
            kind="chart",
            id=f"k{n}",
            label="C",
            style=STYLES[n % len(STYLES)],
            statement="s",
            lines=(f"l{n}", f"l{n + 1}"),
            columns=months,
        )
        for n in range(CHARTS)
    ]
    return Dashboard(id="d", name="D", items=(*(tile(n, "c0") for n in range(TILES)), *charts))


def best(work: Callable[[], object], rounds: int) -> float:
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times)


def placed() -> list[Dashboard]:
    """Dashboards that place two thousand figures."""
    return [
        Dashboard(id=f"d{c}", name="D", items=tuple(_alone(n, f"c{c}") for n in range(200)))
        for c in range(PLACED // 200)
    ]


def _alone(number: int, column: str) -> Tile:
    return tile(number, column).model_copy(update={"compare": None})


def rows(tiny: bool = False) -> Iterator[Row]:
    """A dashboard and the agreement of placed figures, beside a page of 6,000 figures."""
    rounds = 1 if tiny else ROUNDS
    tiles = {"scale": "crores", "decimals": {"fixed": 1}}
    one = prove_pack(pack(HOUSE, tiles))
    board = dashboard()
    dashboard_view(board, one, 1)
    page = best(lambda: prove_pack(one.pack).proofs["s"].figures.texts, rounds)
    warm = best(lambda: dashboard_view(board, one, 1).model_dump_json(), rounds)
    again = [pack(HOUSE, {"scale": "crores", "decimals": {"fixed": n}}) for n in (2, 3)]
    on_tiles = min(_changed(board, one, each) for each in again)
    houses = [pack(HOUSE | {"decimals": {"fixed": n}}, tiles) for n in (1, 2)]
    everywhere = min(_changed(board, one, each) for each in houses)
    boards = placed()[:1] if tiny else placed()
    agreement = best(lambda: [list(placed_on(each, one)) for each in boards], rounds)
    yield Row("a page of 6,000 figures proved and printed", f"{page * 1000:.0f} ms")
    for name, took in (
        (f"a dashboard of {TILES} tiles and {CHARTS} charts, warm", warm),
        ("a rule for tiles changed, and followed there", on_tiles),
        ("a rule for everything changed, charts drawn again", everywhere),
        (f"agreement of {PLACED:,} placed figures", agreement),
    ):
        yield Row(name, f"{took * 1000:.0f} ms, {took / page:.2f}× the page")


def _changed(board: Dashboard, before: PackProof, after: Pack) -> float:
    start = time.perf_counter()
    dashboard_view(board, prove_pack(after, before), 2)
    return time.perf_counter() - start


if __name__ == "__main__":
    print_part("places", rows)
