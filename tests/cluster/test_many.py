"""Many packs: the same results on workers as here, whatever happens to a worker; nothing done twice."""

from __future__ import annotations

import json
import os
import signal
import unittest
from dataclasses import replace
from pathlib import Path
from typing import Any
from unittest import mock

import pyarrow.parquet as pq
from distributed import Client, LocalCluster

from humble_sum.cluster import engine
from humble_sum.cluster.engine import run_jobs
from humble_sum.cluster.jobs import Job, run_job
from humble_sum.core.errors import InputError
from humble_sum.exchange.pack_json import read_pack, write_pack
from tests.cli.test_cli import CliTest
from tests.every_change import DEMO
from tests.exchange.test_documents import FILES

PACK = write_pack(DEMO)
AT = "2026-05-04T09:30:00+00:00"
REASONS = dict.fromkeys(
    ("sums", "ties", "breaks", "whole", "placed", "reasons", "places", "readable", "units"), "known"
)
ISSUE = {"recipients": "the auditors", "prepared_by": "Asha", "number": 1, "state": "draft", "made": AT}
ISSUE |= {"files": ("csv",), "reasons": REASONS}


def jobs(count: int) -> list[Job]:
    """Packs that differ by name, footed."""
    return [
        Job(f"p{n}", "foot", "own", PACK.replace(b"Lanternfish Ferries", b"Ferry %d" % n))
        for n in range(count)
    ]


class JobsTest(unittest.TestCase):
    def test_each_kind_of_work_gives_its_files_and_what_is_open(self) -> None:
        checked = run_job(Job("p", "check", "Board", PACK))
        self.assertEqual((checked.entity, checked.failed), ("Lanternfish Ferries", ""))
        self.assertGreater(checked.open, 40)
        footed = run_job(Job("p", "foot", "own", PACK))
        self.assertLess(footed.open, 5)
        self.assertTrue(read_pack(footed.files["pack.json"]).nudges)
        written = run_job(Job("p", "render", "own", PACK, {"formats": ["html", "csv"]}))
        self.assertIn("edition.html", written.files)
        issued = run_job(Job("p", "issue", "own", PACK, ISSUE))
        self.assertEqual(issued.failed, "")
        data = issued.files["issue-1.zip"]
        self.assertEqual(run_job(Job("p", "verify", "own", data)).open, 0)
        read = run_job(Job("p", "proofread", "own", PACK, documents={"a.docx": FILES["a.docx"]}))
        self.assertGreater(read.open, 0)
        self.assertIn(b"should_print", read.files["documents.csv"])

    def test_what_fails_says_why_and_stops_no_other(self) -> None:
        bad = Job("bad", "check", "own", b"{")
        found = {job.name: result for job, result in run_jobs([bad, *jobs(1)], 2, workers=1)}
        self.assertIn("not JSON", found["bad"].failed)
        self.assertEqual(found["p0"].failed, "")
        self.assertIn("no edition", run_job(Job("p", "check", "nowhere", PACK)).failed)
        with mock.patch.dict("humble_sum.cluster.jobs.WORKS", {"check": lambda _: 1 / 0}):
            self.assertIn("our fault: ZeroDivisionError", run_job(Job("p", "check", "own", PACK)).failed)

    def test_a_digest_is_of_all_that_a_result_follows_from(self) -> None:
        job = Job("p", "proofread", "own", PACK, {"made": AT}, {"a": b"1", "b": b""})
        self.assertEqual(job.digest, replace(job, name="q", options={"made": "later"}).digest)
        others: list[dict[str, Any]] = [
            {"data": PACK + b" "},
            {"edition": "Board"},
            {"documents": {"a": b"", "b": b"1"}},
        ]
        others += [{"options": {"formats": ["csv"]}}, {"documents": {"a1": b"", "b": b""}}]
        self.assertEqual(len({job.digest, *(replace(job, **each).digest for each in others)}), 6)


class ClusterTest(unittest.TestCase):
    def test_a_killed_worker_changes_nothing(self) -> None:
        wanted = {job.name: dict(run_job(job).files) for job in jobs(8)}
        with LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None) as cluster:  # type: ignore[no-untyped-call]
            with Client(cluster) as client:  # type: ignore[no-untyped-call]
                pids = list(client.run(os.getpid).values())
            found = {}
            for number, (job, result) in enumerate(run_jobs(jobs(8), 8, address=cluster.scheduler_address)):
                if number == 1:
                    os.kill(pids[0], signal.SIGKILL)
                self.assertEqual(result.failed, "")
                found[job.name] = dict(result.files)
            self.assertEqual(found, wanted)
            with (
                mock.patch.object(engine, "__version__", "99"),
                self.assertRaisesRegex(InputError, "and this is 99"),
            ):
                list(run_jobs(jobs(1), 1, address=cluster.scheduler_address))

    def test_a_scheduler_that_is_not_there_is_said(self) -> None:
        with (
            mock.patch.object(engine, "WAIT", 0.5),
            self.assertRaisesRegex(InputError, "There is no scheduler"),
        ):
            list(run_jobs(jobs(2), 2, address="tcp://127.0.0.1:9"))


class ManyTest(CliTest):
    def test_what_is_unchanged_is_not_done_again(self) -> None:
        folder, out = self.folder / "packs", self.folder / "out"
        folder.mkdir()
        for job in jobs(3):
            (folder / f"{job.name}.json").write_bytes(job.data)
        given = ("many", "foot", folder, "--out", out, "--workers", "1")
        first = self.run_it(*given, code=1)
        self.assertIn("3 done; 3 have something open, 0 failed.", first)
        (folder / "p1.json").write_bytes(PACK)
        (out / "p2" / "own" / "pack.json").write_bytes(b"{}")
        rows = json.loads(self.run_it(*given, "--json", code=1))
        self.assertEqual(
            {row["pack"]: row["done"] for row in rows}, {"p0": "before", "p1": "now", "p2": "now"}
        )
        self.assertTrue(read_pack((out / "p2" / "own" / "pack.json").read_bytes()).nudges)
        self.assertEqual(pq.read_table(out / "foot.parquet").column("pack").to_pylist(), ["p0", "p1", "p2"])
        twice = self.run_it("many", "check", folder, self.other(folder), "--out", out, code=2)
        self.assertIn("have one name", twice)

    def other(self, folder: Path) -> Path:
        other = self.folder / "more"
        other.mkdir()
        (other / "p1.json").write_bytes((folder / "p1.json").read_bytes())
        return other


if __name__ == "__main__":
    unittest.main()
