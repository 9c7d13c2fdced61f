"""Footing of Arrow tables: the plan of names, whatever the types, and every refusal by its column."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import unittest
from decimal import Decimal
from pathlib import Path
from typing import Any

import dask.dataframe as dd
import duckdb
import pandas as pd  # type: ignore[import-untyped]
import pyarrow as pa
import pyarrow.parquet as pq

from humble_sum import InputError, foot, foot_batches, foot_tables

AMOUNTS = {"fares": "10.4", "freight": "10.4", "mail": "-3.25", "all": "17.55", "again": "17.55"}
RELATIONS: list[tuple[str, list[tuple[str, int]]]] = [
    ("all", [("fares", 1), ("freight", 1), ("mail", 1)]),
    ("again", [("all", 1)]),
]


def figures(kind: str = "decimal", **columns: Any) -> pa.Table:
    exact = [Decimal(text) for text in AMOUNTS.values()]
    made = {
        "decimal": pa.array(exact, pa.decimal128(38, 2)),
        "wide": pa.array(exact, pa.decimal256(70, 2)),
        "text": pa.array(AMOUNTS.values()),
        "double": pa.array(map(float, AMOUNTS.values())),
    }
    return pa.table({"figure": pa.array(AMOUNTS), "amount": made[kind]} | columns)


def relations(**columns: Any) -> pa.Table:
    rows = [(total, part, sign) for total, parts in RELATIONS for part, sign in parts]
    total, part, sign = zip(*rows, strict=True)
    return pa.table({"total": total, "part": part, "sign": pa.array(sign, pa.int8())} | columns)


def many(count: int) -> tuple[pa.Table, pa.Table]:
    """Several problems in one table each, by a key; the last cannot foot."""
    keyed = [
        figures(problem=pa.array([n] * len(AMOUNTS)), held=pa.nulls(len(AMOUNTS), pa.int64()))
        for n in range(count)
    ]
    held = pa.array([10, 10, -3, 99, None], pa.int64())
    keyed.append(figures(problem=pa.array([count] * len(AMOUNTS)), held=held))
    sums = [relations(problem=pa.array([n] * 4)) for n in range(count, -1, -1)]
    return pa.concat_tables(keyed), pa.concat_tables(sums)


class BatchesTest(unittest.TestCase):
    def test_each_problem_is_footed_as_alone_wherever_batches_are_cut(self) -> None:
        every, sums = many(4)
        alone = foot_tables(figures(), relations())[1]
        assert alone is not None
        for size in (1, 3, 7, 100):
            found = list(foot_batches(every.to_batches(max_chunksize=size), sums))
            self.assertEqual([set(table["problem"].to_pylist()) for table in found], [{n} for n in range(5)])
            for table in found[:4]:
                self.assertEqual(table.select(["figure", "printed", "moved"]), alone)
                self.assertEqual(set(table["proved"].to_pylist()), {True})
            self.assertEqual(found[4]["printed"].null_count, len(AMOUNTS))
            self.assertEqual(set(found[4]["says"].to_pylist()), {"Its figures cannot foot."})

    def test_problems_that_are_not_beside_each_other_and_bad_ones(self) -> None:
        every, sums = many(1)
        with self.assertRaisesRegex(InputError, "comes again"):
            list(foot_batches([every, every], sums))
        with self.assertRaisesRegex(InputError, "There is no such column"):
            list(foot_batches([figures()], sums))
        bad = every.set_column(1, "amount", pa.array([1.5] * every.num_rows))
        self.assertIn("no exact amounts", next(foot_batches([bad], sums))["says"][0].as_py())

    def test_in_engines_that_hand_out_arrow(self) -> None:
        every, sums = many(3)
        connection = duckdb.connect()
        streamed = connection.sql("SELECT * FROM every ORDER BY problem").to_arrow_reader(4)
        found = pa.concat_tables(foot_batches(streamed, sums))
        self.assertEqual(found, pa.concat_tables(foot_batches([every], sums)))

        def footed(frame: pd.DataFrame) -> pd.DataFrame:
            table = pa.Table.from_pandas(frame, preserve_index=False).cast(every.schema)
            return pa.concat_tables(foot_batches([table], sums)).to_pandas()

        types = {
            name: pd.ArrowDtype(field.type)
            for name, field in zip(every.column_names, every.schema, strict=True)
        }
        frame = every.to_pandas(types_mapper=lambda of: pd.ArrowDtype(of)).astype(types)
        parts = dd.from_pandas(frame.set_index("problem", drop=False), npartitions=2)  # type: ignore[no-untyped-call]
        meta = found.slice(0, 0).to_pandas()
        made = parts.map_partitions(footed, meta=meta).compute(scheduler="synchronous")
        printed, wanted = (pa.array(each["printed"], from_pandas=True) for each in (made, found.to_pandas()))
        self.assertEqual(printed, wanted)


class TablesTest(unittest.TestCase):
    def test_tables_come_to_what_names_come_to(self) -> None:
        named = foot(AMOUNTS, RELATIONS)
        assert named.printed is not None and named.moved is not None
        for kind in ("decimal", "wide", "text"):
            found, printed = foot_tables(figures(kind), relations())
            assert printed is not None
            self.assertEqual(
                dict(zip(*printed.select([0, 1]).to_pydict().values(), strict=True)), named.printed
            )
            moved = printed.filter(printed["moved"])["figure"].to_pylist()
            self.assertEqual((sorted(moved), found.proved), (sorted(named.moved), True))
        encoded = figures().set_column(0, "figure", figures()["figure"].dictionary_encode())
        self.assertEqual(foot_tables(encoded, relations())[1], printed)

    def test_holds_and_several_ways_of_one_total(self) -> None:
        held = pa.array([10, None, None, None, 17], pa.int64())
        found, printed = foot_tables(figures(held=held), relations())
        assert printed is not None
        self.assertEqual(printed["printed"].to_pylist(), [10, 10, -3, 17, 17])
        ways = pa.table({"relation": [1, 1, 2], "total": ["all"] * 3, "part": ["fares", "mail", "again"]})
        ways = ways.append_column("sign", pa.array([1, 1, 1], pa.int64()))
        found, printed = foot_tables(figures(held=held), ways)
        self.assertFalse(found.feasible)
        self.assertIsNone(printed)
        assert found.conflict is not None
        self.assertTrue({*found.conflict.tolist()} <= {0, 2}, "first rows of relations")

    def test_without_relations_each_rounds_by_itself(self) -> None:
        found, printed = foot_tables(figures())
        assert printed is not None and found.moved is not None
        self.assertEqual(printed["printed"].to_pylist(), [10, 10, -3, 18, 18])
        self.assertEqual(len(found.moved), 0)

    def test_what_cannot_be_read_is_named_by_its_column(self) -> None:
        hole = pa.array([Decimal("1.5"), None, Decimal("1.5"), Decimal("3"), Decimal("3")])
        for given, adding, where in (
            (figures("double"), relations(), "figures.amount"),
            (figures().set_column(1, "amount", hole), relations(), "figures.amount"),
            (figures().drop_columns(["amount"]), relations(), "figures.amount"),
            (figures(held=pa.array([1.5] * 5)), relations(), "figures.held"),
            (figures().set_column(0, "figure", pa.array(["a"] * 5)), relations(), "figures.figure"),
            (figures().slice(0, 0), relations(), "figures"),
            (figures(), relations(sign=pa.array([2, 1, 1, 1])), "relations.sign"),
            (figures(), relations(sign=pa.array([1.0, 1.0, 1.0, 1.0])), "relations.sign"),
            (figures(), relations(part=["nobody"] * 4), "relations.part"),
            (figures(), relations(part=pa.array(["fares", None, "mail", "all"])), "relations.part"),
            (figures(), relations(relation=[1, 1, 1, 1]), "relations.total"),
        ):
            with self.subTest(where=where), self.assertRaises(InputError) as refused:
                foot_tables(given, adding)
            self.assertEqual(refused.exception.faults[0].where, where)

    def test_the_command_writes_what_is_printed(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            given, adding, out = (Path(folder) / name for name in ("figures", "relations", "printed"))
            pq.write_table(figures(), given)
            with pa.OSFile(str(adding), "wb") as file, pa.ipc.new_file(file, relations().schema) as writer:
                writer.write_table(relations())
            command = [sys.executable, "-c", "from humble_sum.cli.main import main; main()", "foot-tables"]
            done = subprocess.run([*command, given, adding, "--out", out], capture_output=True, text=True)
            self.assertEqual(done.returncode, 0, done.stderr)
            said = json.loads(done.stdout)
            self.assertEqual((said["feasible"], said["figures"], said["proved"]), (True, 5, True))
            self.assertEqual(pq.read_table(out), foot_tables(figures(), relations())[1])
            pq.write_table(figures(held=pa.array([10, 10, -3, 20, None])), given)
            done = subprocess.run([*command, given, adding], capture_output=True, text=True)
            said = json.loads(done.stdout)
            self.assertEqual((done.returncode, said["conflict"]), (1, [1]))
            self.assertEqual(len(said["release"]), 1)
            given.write_bytes(b"PAR1 and nothing else PAR1")
            done = subprocess.run([*command, given, adding], capture_output=True, text=True)
            self.assertEqual(done.returncode, 2)
            self.assertIn("cannot be read", done.stderr)


if __name__ == "__main__":
    unittest.main()
