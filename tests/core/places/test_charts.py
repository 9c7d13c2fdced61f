"""Charts: what they draw is what prints, and parts print to their whole."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.places.chart import ChartData, chart_data
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.places.tile import tile_face
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.placed import Chart, Shows, Style, Tile
from humble_sum.records.demo import demo_pack
from tests.making import pack, rule, statement

AMOUNTS = st.decimals(-(10**8), 10**8, places=2)


def drawn(
    pack_proof: PackProof, style: Style, lines: list[str], columns: list[str], **more: Any
) -> ChartData:
    chart = Chart(
        kind="chart",
        id="c",
        label="C",
        style=style,
        statement=pack_proof.pack.statements[0].id,
        lines=tuple(lines),
        columns=tuple(columns),
        **more,
    )
    return chart_data(chart, pack_proof, Placer(pack_proof, "chart"))


def table(rows: list[list[Decimal | None]], total: bool = False, **clauses: Any) -> PackProof:
    ids = [f"l{n}" for n in range(len(rows))]
    columns = tuple(f"c{n}" for n in range(len(rows[0])))
    amounts = {id: [None if x is None else str(x) for x in row] for id, row in zip(ids, rows, strict=True)}
    of = statement(amounts, {"t": ids} if total else {}, columns=columns)
    return prove_pack(pack(of, rule("all", clauses)))


class AxisTest(unittest.TestCase):
    @settings(max_examples=50, deadline=None)
    @given(
        st.lists(AMOUNTS, min_size=1, max_size=8),
        st.sampled_from(["ones", "thousands", "lakhs", "crores"]),
        st.integers(0, 2),
    )
    def test_ticks_are_round_distinct_and_hold_every_point(
        self, amounts: list[Decimal], scale: str, decimals: int
    ) -> None:
        pack_proof = table([list(amounts)], scale=scale, decimals={"fixed": decimals}, locale="en-IN")
        data = drawn(pack_proof, "bars", ["l0"], [f"c{n}" for n in range(len(amounts))])
        texts = [tick.text for tick in data.ticks]
        self.assertEqual(len(set(texts)), len(texts))
        self.assertIn(Decimal(0), [tick.amount for tick in data.ticks])
        self.assertLessEqual(data.floor, min(amounts))
        self.assertGreaterEqual(data.ceiling, max(amounts))
        self.assertLessEqual(len(texts), 10)
        unit = Decimal(10) ** pack_proof.proofs["s"].figures["l0", "c0"].exponent
        self.assertTrue(all(not tick.amount % unit for tick in data.ticks))

    def test_a_missing_month_is_a_gap_and_no_zero(self) -> None:
        pack_proof = table([[Decimal(3), None, Decimal(0)]], missing={"word": "n/a"})
        points = drawn(pack_proof, "lines", ["l0"], ["c0", "c1", "c2"]).series[0].points
        self.assertEqual([(p.drawn, p.text) for p in points], [(3, "3"), (None, "n/a"), (0, "0")])

    def test_stacks_go_up_and_down_from_nothing(self) -> None:
        pack_proof = table([[Decimal(3)], [Decimal(-2)], [Decimal(4)], [Decimal(-1)]])
        data = drawn(pack_proof, "stacked", ["l0", "l1", "l2", "l3"], ["c0"])
        self.assertEqual(
            [(s.points[0].base, s.points[0].drawn) for s in data.series], [(0, 3), (0, -2), (3, 4), (-2, -1)]
        )

    def test_what_cannot_be_drawn_is_said(self) -> None:
        pack_proof = table([[None, None]])
        self.assertIn("missing", drawn(pack_proof, "bars", ["l0"], ["c0", "c1"]).fault)
        self.assertIn("zz", drawn(pack_proof, "bars", ["zz"], ["c0"]).fault)
        self.assertIn("numbers", drawn(table([[Decimal(1)]], form="yes_no"), "bars", ["l0"], ["c0"]).fault)
        demo = prove_pack(demo_pack())
        chart = Chart(
            kind="chart",
            id="c",
            label="C",
            style="bars",
            statement="routes",
            lines=("outer", "carried"),
            columns=("apr",),
        )
        self.assertIn("one axis cannot have them all", chart_data(chart, demo, Placer(demo, "chart")).fault)
        one = drawn(table([[Decimal(5)]]), "lines", ["l0"], ["c0"])
        self.assertTrue(one.notes)


class WholeTest(unittest.TestCase):
    @settings(max_examples=40, deadline=None)
    @given(st.lists(st.decimals("0.01", 10**7, places=2), min_size=2, max_size=9), st.integers(0, 2))
    def test_shares_print_to_a_hundred(self, amounts: list[Decimal], decimals: int) -> None:
        pack_proof = table([[amount] for amount in amounts], total=True)
        lines = [f"l{n}" for n in range(len(amounts))]
        data = drawn(
            pack_proof, "shares", lines, ["c0"], total="t", clauses={"decimals": {"fixed": decimals}}
        )
        texts = [Decimal(point.text.rstrip("%")) for point in data.series[0].points]
        self.assertEqual(sum(texts), 100)
        self.assertFalse(data.notes)

    def test_shares_that_are_not_all_say_what_they_come_to(self) -> None:
        pack_proof = table([[Decimal(3)], [Decimal(1)]], total=True)
        self.assertIn("come to 75.0%", drawn(pack_proof, "shares", ["l0"], ["c0"], total="t").notes[0])
        zero = table([[Decimal(3)], [Decimal(-3)]], total=True)
        self.assertIn("is zero", drawn(zero, "shares", ["l0", "l1"], ["c0"], total="t").fault)

    @settings(max_examples=40, deadline=None)
    @given(st.lists(st.tuples(AMOUNTS, AMOUNTS), min_size=1, max_size=7), st.integers(0, 7))
    def test_a_bridge_adds_as_printed_whatever_is_left_out(
        self, rows: list[tuple[Decimal, Decimal]], left: int
    ) -> None:
        pack_proof = table([list(row) for row in rows], total=True, scale="thousands", decimals={"fixed": 1})
        lines = [f"l{n}" for n in range(len(rows)) if n != left]
        if not lines:
            return
        data = drawn(pack_proof, "bridge", lines, ["c0", "c1"], total="t")
        printed = [Decimal(p.text.replace("−", "-").replace(",", "")) for p in data.series[0].points]
        if not data.notes:
            self.assertEqual(printed[0] + sum(printed[1:-1]), printed[-1])
        self.assertEqual(len(data.heads), len(data.series[0].points))


class TileTest(unittest.TestCase):
    def test_a_target_says_what_is_left_and_a_trail_breaks_where_a_period_is_missing(self) -> None:
        pack_proof = table([[Decimal(30), None, Decimal(10), Decimal(20)]])
        tile = Tile(
            kind="tile",
            id="t",
            label="T",
            shows=Shows(figure=("s", "l0", "c0")),
            target=Decimal(38),
            trail=("c0", "c1", "c2", "c3"),
        )
        face = tile_face(tile, Placer(pack_proof, "tile"))
        assert face.target is not None
        self.assertEqual((face.target.says, face.target.reached), ("8 short of 38", 789))
        self.assertEqual([len(run) for run in face.trail], [1, 2])
