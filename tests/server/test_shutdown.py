"""Stopping the server: soon, with the records in one file; and who has their folder meanwhile."""

from __future__ import annotations

import json
import shutil
import signal
import subprocess
import sys
import tempfile
import unittest
import urllib.request
from http.client import HTTPConnection
from pathlib import Path
from urllib.parse import urlsplit

from sqlalchemy import select

from humble_sum.cli.records import put_back
from humble_sum.core.errors import InputError
from humble_sum.records.backup import NAME, copy_records
from humble_sum.records.database import Database
from humble_sum.records.folder_lock import alone, shared
from humble_sum.records.tables import PackRow
from tests.server.template import demo_database

COMMAND = [sys.executable, "-c", "from humble_sum.cli.main import main; main()"]
HARD = Path(__file__).parents[1] / "cases/hard"
LONGEST = 30  # seconds that anything here may take on a busy machine


class OneFileTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def packs_of(self, file: Path) -> int:
        database = Database(file)
        self.addCleanup(database.close)
        with database.reading() as session:
            return len(session.scalars(select(PackRow.id)).all())

    def test_records_are_one_file_when_closed_and_when_nothing_happens(self) -> None:
        database = demo_database(self.folder / NAME)
        self.assertEqual(database.idle_for(), 0)
        for number, ended in enumerate((database.checkpoint, database.close)):
            with database.writing() as session:
                (row,) = session.scalars(select(PackRow)).all()
                row.entity = f"Ferries {number}"
            self.assertGreater(database.idle_for(), 0)
            ended()
            self.assertEqual(database.idle_for(), 0)
            copy = self.folder / f"copy-{number}.sqlite"
            shutil.copyfile(self.folder / NAME, copy)  # this file alone, as people do
            other = Database(copy)
            with other.reading() as session:
                self.assertEqual(session.scalars(select(PackRow.entity)).all(), [f"Ferries {number}"])
            other.close()

    def test_a_folder_in_use_keeps_its_records(self) -> None:
        demo_database(self.folder / NAME).close()
        copy = self.folder / "copy.sqlite"
        copy_records(self.folder / NAME, copy)
        in_use = self.assertRaisesRegex(InputError, "A server is using this folder")
        with shared(self.folder), shared(self.folder), in_use:
            put_back(self.folder, copy)
        self.assertIn("in place", put_back(self.folder, copy))
        with alone(self.folder), self.assertRaises(InputError), shared(self.folder):
            self.fail("held by another")

    def served(self) -> tuple[subprocess.Popen[str], str]:
        """A server of its own on this folder, and its address."""
        server = subprocess.Popen(
            [*COMMAND, "demo", "--data", self.folder, "--port", "0"], stdout=subprocess.PIPE, text=True
        )
        self.addCleanup(server.communicate)
        self.addCleanup(server.kill)
        assert server.stdout is not None
        return server, server.stdout.readline().split()[4]

    def test_a_signal_ends_a_search_and_leaves_one_file(self) -> None:
        left = self.folder / f"{NAME}.before-restore.part"
        left.write_text("a copy that was never finished")
        server, address = self.served()
        self.assertFalse(left.exists())
        problem = json.loads(max(HARD.glob("*.json"), key=lambda file: file.stat().st_size).read_bytes())
        asked = HTTPConnection(urlsplit(address).netloc, timeout=LONGEST)
        self.addCleanup(asked.close)
        body = json.dumps({name: problem[name] for name in ("figures", "relations")})
        asked.request("POST", "/api/foot?seconds=600", body, {"Content-Type": "application/json"})
        with urllib.request.urlopen(f"{address}api/packs", timeout=LONGEST) as others:
            self.assertEqual(others.status, 200, "answered while the search goes on")
        server.send_signal(signal.SIGTERM)
        said = json.load(asked.getresponse())
        self.assertEqual(server.wait(timeout=LONGEST), -signal.SIGTERM)
        # The best plan so far, or a word that there is none.
        self.assertTrue("proved" in said or said["title"] == "The server is stopping", said)
        self.assertEqual(sorted(file.name for file in self.folder.iterdir()), ["records.lock", NAME])
        self.assertEqual(self.packs_of(self.folder / NAME), 1)


if __name__ == "__main__":
    unittest.main()
