"""Records that cannot be used are said to be so plainly, and copies of them are whole or not there."""

from __future__ import annotations

import os
import shutil
import sqlite3
import tempfile
import unittest
from pathlib import Path

from sqlalchemy.exc import DBAPIError

from humble_sum.cli.records import back_up, examine, put_back
from humble_sum.core.errors import InputError
from humble_sum.records.backup import NAME
from humble_sum.records.database import Database
from humble_sum.records.demo import demo_pack, ensure_demo
from humble_sum.records.pack_rows import add_pack, pack_row


class FaultsTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.file = self.folder / NAME

    def made(self) -> None:
        database = Database(self.file)
        ensure_demo(database)
        database.close()

    def refused(self, file: Path) -> str:
        with self.assertRaises(InputError) as caught:
            Database(file)
        self.assertEqual(caught.exception.kind, "no-records")
        (fault,) = caught.exception.faults
        self.assertTrue(fault.remedy)
        return fault.what

    def test_what_is_no_folder_of_records_is_named(self) -> None:
        (self.folder / "file").write_text("x")
        self.assertIn("is a file", self.refused(self.folder / "file" / NAME))
        self.file.write_bytes(os.urandom(9_000))
        self.assertIn("damaged", self.refused(self.file))
        other = self.folder / "other"
        other.mkdir()
        with sqlite3.connect(other / NAME) as connection:
            connection.execute("CREATE TABLE t (a)")
        connection.close()
        self.assertIn("another program", self.refused(other / NAME))

    def test_records_of_a_newer_version_or_cut_short_are_left_as_they_are(self) -> None:
        self.made()
        newer, cut = self.folder / "newer.sqlite", self.folder / "cut.sqlite"
        back_up(self.folder, newer)
        cut.write_bytes(newer.read_bytes()[: newer.stat().st_size // 2])
        with sqlite3.connect(newer) as connection:
            connection.execute("UPDATE alembic_version SET version_num = '9999'")
        connection.close()
        for file, said in ((newer, "newer version"), (cut, "cut short")):
            before = file.read_bytes()
            self.assertIn(said, self.refused(file))
            self.assertEqual(file.read_bytes(), before)

    def test_nothing_is_acknowledged_once_the_file_is_gone(self) -> None:
        database = Database(self.file)
        ensure_demo(database)
        self.file.unlink()
        with self.assertRaises(InputError) as caught, database.writing() as session:
            add_pack(session, demo_pack())
        self.assertIn("nothing was kept", caught.exception.faults[0].what)
        database.engine.dispose()  # as when more ask at once than before
        with self.assertRaises(DBAPIError), database.reading() as session:
            pack_row(session, "any")
        self.assertFalse(self.file.exists(), "no empty one takes its place")
        database.close()

    def test_a_copy_is_whole_checked_and_can_be_put_back(self) -> None:
        self.made()
        copy = self.folder / "copy.sqlite"
        self.assertIn("it is sound", back_up(self.folder, copy))
        with self.assertRaises(InputError):
            back_up(self.folder, copy)
        elsewhere = self.folder / "elsewhere"
        put_back(elsewhere, copy)
        said, sound = examine(elsewhere)
        self.assertTrue(sound)
        self.assertIn("Lanternfish Ferries, Year to 31 March 2026: sound, 0 changes on record.", said)
        broken = self.folder / "broken.sqlite"
        broken.write_bytes(copy.read_bytes()[:5_000])
        before = (elsewhere / NAME).read_bytes()
        with self.assertRaises(InputError):
            put_back(elsewhere, broken)
        self.assertEqual((elsewhere / NAME).read_bytes(), before)
        self.assertFalse(list(self.folder.rglob("*.part")))

    def test_what_is_no_copy_of_records_is_never_put_in_their_place(self) -> None:
        self.made()
        before = self.file.read_bytes()
        other, empty, newer = (self.folder / name for name in ("other", "empty", "newer"))
        with sqlite3.connect(other) as connection:
            connection.execute("CREATE TABLE t (a)")
        connection.close()
        empty.touch()
        back_up(self.folder, newer)
        with sqlite3.connect(newer) as connection:
            connection.execute("UPDATE alembic_version SET version_num = '9999'")
        connection.close()
        for file in (other, empty, newer, self.folder / "gone", self.folder):
            with self.subTest(file.name), self.assertRaises(InputError):
                put_back(self.folder, file)
            self.assertEqual(self.file.read_bytes(), before)
        self.assertFalse(list(self.folder.glob("*before-restore*")))

    def test_damaged_records_give_way_to_a_copy_and_are_kept_as_they_were(self) -> None:
        self.made()
        copy = self.folder / "copy"
        back_up(self.folder, copy)
        for damage in (os.urandom(20_000), copy.read_bytes()[:9_000], b""):
            self.file.write_bytes(damage)
            self.file.with_name(f"{NAME}-wal").write_bytes(b"left over")
            put_back(self.folder, copy)
            said, sound = examine(self.folder)
            self.assertTrue(sound, said)
        kept = [file.read_bytes() for file in self.folder.glob("*before-restore*")]
        self.assertIn(copy.read_bytes()[:9_000], kept)

    def test_the_doctor_names_what_is_wrong(self) -> None:
        self.made()
        with sqlite3.connect(self.file) as connection:
            connection.execute("UPDATE rules SET line = 'none' WHERE code = 'salvage'")
        connection.close()
        said, sound = examine(self.folder)
        self.assertFalse(sound)
        self.assertTrue(any('There is no line "none"' in each for each in said))

    def test_one_copy_is_kept_before_a_migration(self) -> None:
        self.made()
        old = self.folder / "old"
        old.mkdir()
        shutil.copy(self.file, old / NAME)
        with sqlite3.connect(old / NAME) as connection:
            for table in (
                "editions",
                "dashboards",
                "issues",
                "tokens",
                "points",
                "signatures",
                "deleted_issues",
                "document_answers",
                "documents",
                "standings",
            ):
                connection.execute(f"DROP TABLE {table}")
            for name in ("own_edition", "standing", "shared"):
                connection.execute(f"ALTER TABLE packs DROP COLUMN {name}")
            for name in ("statements", "lines"):
                connection.execute(f"ALTER TABLE rules DROP COLUMN {name}")
            connection.execute("ALTER TABLE changes DROP COLUMN steps")
            connection.execute("UPDATE alembic_version SET version_num = '0007'")
        connection.close()
        Database(old / NAME).close()
        self.assertTrue((old / f"{NAME}.before-0016").exists())
        Database(old / NAME).close()
        self.assertEqual(len(list(old.glob("*.before-*"))), 1)
