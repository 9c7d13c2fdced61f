"""Servers killed at random moments: what was acknowledged is there, and nothing is half kept."""

from __future__ import annotations

import json
import random
import resource
import signal
import sqlite3
import sys
import tempfile
import threading
import unittest
from http.client import HTTPConnection, HTTPException
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from fastapi.testclient import TestClient
from sqlalchemy import create_engine

from humble_sum import records
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.containers.container import read_container
from humble_sum.records.backup import copy_records, restore_records, unsound
from humble_sum.records.database import Database
from humble_sum.records.issue_rows import issue_of, issues_of, next_number
from humble_sum.records.pack_rows import load_pack, pack_row, pack_rows
from humble_sum.server.app import create_app
from tests.every_change import GOOD
from tests.forked import FORKED, Server
from tests.server.template import demo_database
from tests.soak import SEED, TIMES, told

LONG = 30.0
SOURCE = b"Line,2026,2025\nFares,100,90\nHire,50,40\nTotal,150,130\n"
MIGRATIONS = Path(records.__file__).parent / "migrations"
WHY = "Killed in the middle."
WANTED = {
    "prepared_by": "Asha",
    "recipients": "the auditors",
    "files": ["html"],
    "reasons": dict.fromkeys(
        ("sums", "ties", "breaks", "whole", "places", "reasons", "readable", "signs", "units", "rates"), WHY
    ),
}


class Killed(Server):
    """A server that is killed while changes are sent to it one after another."""

    def __init__(self, folder: Path):
        super().__init__(folder)
        self.acknowledged = 0
        self.revision = 0
        self.issued = 0

    def ask(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        connection = HTTPConnection("127.0.0.1", self.port, timeout=LONG)
        try:
            sent = None if body is None else json.dumps(body)
            connection.request(method, path, sent, {"Content-Type": "application/json"})
            answer = connection.getresponse()
            return answer.status, json.loads(answer.read())
        finally:
            connection.close()

    def change_on(self, pack: str, pick: random.Random) -> None:
        """Send changes until the server is gone."""
        try:
            while True:
                path = pick.choice(["changes"] * 5 + ["undo", "redo", "issues"])
                body: dict[str, Any] = {"revision": self.revision, "statement": "income"}
                if path == "changes":
                    body = {"revision": self.revision, "change": pick.choice(GOOD), "page": "income"}
                if path == "issues":
                    body = WANTED | {"revision": self.revision, "number": self.issued + 1}
                status, answer = self.ask("POST", f"/api/packs/{pack}/{path}", body)
                if status == 201:
                    self.issued += 1
                elif status == 200:
                    self.revision = answer["pack"]["revision"]
                    self.acknowledged += 1
                else:
                    assert status < 500, answer
        except (OSError, HTTPException, ValueError):
            return

    def take_in(self) -> None:
        """Take figures in and keep them as packs until the server is gone."""
        named = {"statements": [{"table": 0, "name": "Income"}]}
        whose = {"entity": "Lanternfish Ferries", "period": "2026"} | named
        try:
            while True:
                connection = HTTPConnection("127.0.0.1", self.port, timeout=LONG)
                typed = {"Content-Type": "application/octet-stream"}
                connection.request("POST", "/api/intakes?name=close.csv", SOURCE, typed)
                intake = json.loads(connection.getresponse().read())["id"]
                connection.close()
                status, answer = self.ask("POST", f"/api/intakes/{intake}/accept", whose)
                assert status == 201, answer
                self.acknowledged += 1
        except (OSError, HTTPException, ValueError):
            return


def packs_of(database: Database) -> list[Pack]:
    """Every pack on record; the database is closed then."""
    with database.reading() as session:
        found = [load_pack(session, row) for row in pack_rows(session)]
    database.close()
    return found


def take_back(file: Path, version: str) -> None:
    """Give records the tables of an earlier version."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    engine = create_engine(f"sqlite:///{file}")
    with engine.connect() as connection:
        config.attributes["connection"] = connection
        command.downgrade(config, version)
        connection.commit()
    engine.dispose()


class KillsTest(unittest.TestCase):
    def test_what_was_acknowledged_outlives_a_kill(self) -> None:
        pick, kills, changes = random.Random(SEED), 2 * TIMES, 0
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "records.sqlite"
            demo_database(file).close()
            for _ in range(kills):
                server = Killed(Path(folder))
                _, packs = server.ask("GET", "/api/packs")
                pack = packs[0]["id"]
                server.revision = before = server.ask("GET", f"/api/packs/{pack}")[1]["revision"]
                server.issued = server.ask("GET", f"/api/packs/{pack}/issue")[1]["number"] - 1
                sending = threading.Thread(target=server.change_on, args=(pack, pick))
                sending.start()
                sending.join(pick.uniform(0.05, 1.2))
                server.kill()
                sending.join(LONG)
                changes += server.acknowledged
                self.assertEqual(unsound(file), [])
                database = Database(file)
                with database.reading() as session:
                    row = pack_row(session, pack)
                    # One more may have been kept than was told; none that was told is gone.
                    self.assertIn(row.revision - server.revision, (0, 1), before)
                    load_pack(session, row)
                    self.assertIn(next_number(session, row) - 1 - server.issued, (0, 1))
                    for kept in issues_of(session, row):
                        read_container(issue_of(session, row, kept.issue.number)[1])
                database.close()
        told(f"kills with {changes:,} acknowledged changes", kills)

    def test_a_copy_that_is_killed_leaves_no_half_copy(self) -> None:
        pick, kills = random.Random(SEED), 2 * TIMES
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "records.sqlite"
            demo_database(file).close()
            with sqlite3.connect(file) as connection:  # large enough to be caught at it
                connection.execute("CREATE TABLE ballast (bytes BLOB)")
                connection.executemany("INSERT INTO ballast VALUES (zeroblob(100000))", [()] * 60)
            connection.close()
            for number in range(kills):
                target = Path(folder) / f"copy-{number}"
                copying = FORKED.Process(target=copy_records, args=(file, target))
                copying.start()
                copying.join(pick.uniform(0, 0.05))
                copying.kill()
                copying.join(LONG)
                self.assertEqual(unsound(file), [])
                if target.exists():
                    self.assertEqual(unsound(target), [])
                    restored = Path(folder) / f"restored-{number}.sqlite"
                    restore_records(target, restored)
                    self.assertEqual(unsound(restored), [])
                copy_records(file, Path(folder) / f"again-{number}")
        told("copies killed", kills)

    def test_figures_that_were_kept_outlive_a_kill(self) -> None:
        pick, kills = random.Random(SEED + 1), 2 * TIMES
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "records.sqlite"
            demo_database(file).close()
            kept = 1
            for _ in range(kills):
                server = Killed(Path(folder))
                sending = threading.Thread(target=server.take_in)
                sending.start()
                sending.join(pick.uniform(0.05, 0.8))
                server.kill()
                sending.join(LONG)
                self.assertEqual(unsound(file), [])
                database = Database(file)
                with database.reading() as session:
                    rows = pack_rows(session)
                    # What was taken in and not accepted is gone; one more may be kept than was told.
                    self.assertIn(len(rows) - kept - server.acknowledged, (0, 1))
                    kept = len(rows)
                    for row in rows[1:]:
                        lines = load_pack(session, row).statements[0].lines
                        self.assertEqual([line.label for line in lines], ["Fares", "Hire", "Total"])
                database.close()
        told(f"kills while figures are taken in, with {kept - 1:,} packs kept", kills)

    def test_a_migration_that_is_killed_is_made_whole_by_the_next_start(self) -> None:
        pick, kills = random.Random(SEED + 2), 3 * TIMES
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "old.sqlite"
            demo_database(file).close()
            take_back(file, "0007")
            undisturbed = Path(folder) / "undisturbed.sqlite"
            undisturbed.write_bytes(file.read_bytes())
            wanted = packs_of(Database(undisturbed))
            for number in range(kills):
                other = Path(folder) / f"{number}.sqlite"
                other.write_bytes(file.read_bytes())
                starting = FORKED.Process(target=Database, args=(other,))
                starting.start()
                starting.join(pick.uniform(0, 0.25))
                starting.kill()
                starting.join(LONG)
                database = Database(other)
                self.assertEqual(packs_of(database), wanted)
                self.assertEqual(unsound(other), [])
                copies = list(Path(folder).glob(f"{number}.sqlite.before-*"))
                self.assertEqual([unsound(copy) for copy in copies], [[]] * len(copies))
        told("migrations killed", kills)

    def test_a_full_disk_keeps_nothing_by_halves(self) -> None:
        pick, tries = random.Random(SEED), 3 * TIMES
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "records.sqlite"
            demo_database(file).close()
            for _ in range(tries):
                self.assertEqual(self.in_child(file, pick.randrange(1, 400_000), pick.choice(GOOD)), 0)
                self.assertEqual(unsound(file), [])
        told("disks filled", tries)

    def in_child(self, file: Path, room: int, change: Any) -> int | None:
        """The exit code of a child that makes a change while its files may grow by so much only."""
        child = FORKED.Process(target=change_in_little_room, args=(file, room, change))
        child.start()
        child.join(4 * LONG)
        return child.exitcode


def change_in_little_room(file: Path, room: int, change: Any) -> None:
    """Make a change; the process ends with 1 where it is neither kept nor refused, whole."""
    client = TestClient(create_app(Database(file)), base_url="http://localhost")
    pack = client.get("/api/packs").json()[0]["id"]
    at = f"/api/packs/{pack}"
    before = client.get(at).json()["revision"]
    signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_FSIZE, (room, resource.RLIM_INFINITY))
    told = client.post(f"{at}/changes", json={"revision": before, "change": change, "page": "income"})
    resource.setrlimit(resource.RLIMIT_FSIZE, (resource.RLIM_INFINITY, resource.RLIM_INFINITY))
    after = client.get(at).json()["revision"]
    kept = told.status_code == 200 and after - before in (0, 1)
    refused = told.status_code in (503, 507, 409, 422, 404) and after == before
    sys.exit(0 if kept or refused else 1)


if __name__ == "__main__":
    unittest.main()
