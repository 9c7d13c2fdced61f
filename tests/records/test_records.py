import sqlite3
import tempfile
import unittest
from decimal import Decimal
from pathlib import Path

from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.errors import InputError
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.rules.rulebook import Reach, with_clauses
from humble_sum.core.statements.pack import Column, Hold, Nudge, Pack
from humble_sum.core.statements.policy import Policy
from humble_sum.records.database import Database
from humble_sum.records.demo import demo_pack, ensure_demo
from humble_sum.records.history import at_revision, history, record, redo, undo
from humble_sum.records.packs import add_pack, load_pack, pack_row, pack_rows, state_of
from humble_sum.records.tables import Base
from tests.making import pack, rule, statement


class RecordsTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.file = Path(folder.name) / "records.sqlite"
        self.database = Database(self.file)
        self.addCleanup(lambda: self.database.close())

    def keep(self, made: Pack) -> str:
        with self.database.writing() as session:
            return add_pack(session, made).id

    def load(self, id: str) -> Pack:
        with self.database.reading() as session:
            return load_pack(session, pack_row(session, id))

    def change(self, id: str, new: Pack, summary: str = "change") -> bool:
        with self.database.writing() as session:
            row = pack_row(session, id)
            return record(session, row, load_pack(session, row), new, "test", summary)

    def reopen(self) -> None:
        self.database.close()
        self.database = Database(self.file)

    def decimals(self, id: str, places: int) -> Pack:
        """The pack as kept, with another number of decimals."""
        now = self.load(id)
        clauses = Clauses.model_validate({"decimals": {"fixed": places}})
        return now.model_copy(update={"rulebook": with_clauses(now.rulebook, Reach(), "House", clauses)})


class KeepingTest(RecordsTest):
    def test_what_footing_makes_of_lines_columns_and_statements_is_kept_and_undone(self) -> None:
        made = pack(statement({"a": ["10.4", "7.3"], "b": ["10.4", "7.3"]}, {"t": ["a", "b"]}, change=True))
        id = self.keep(made)
        of = made.statements[0]
        lines = (
            of.lines[0].model_copy(update={"readiness": "never"}),
            of.lines[1].model_copy(
                update={"readiness": "first", "rounding": True, "answers": {of.columns[0].id: "printed"}}
            ),
            of.lines[2].model_copy(update={"answer": "note"}),
        )
        columns = (
            of.columns[0],
            of.columns[1].model_copy(update={"published": True, "answers": {of.lines[1].id: "note"}}),
            of.columns[2].model_copy(update={"answer": "printed"}),
        )
        own = Policy(gives_way="totals_first", note="Rounded.", keep_published=False)
        changed = of.model_copy(update={"lines": lines, "columns": columns, "policy": own})
        hold = Hold(
            statement="s", line="a", column="now", reason="agreed", author="A. Petrel", made="2026-05-04"
        )
        said = made.model_copy(update={"statements": (changed,), "holds": (hold,)})
        self.change(id, said)
        self.reopen()
        self.assertEqual(self.load(id), said)
        with self.database.writing() as session:
            undo(session, pack_row(session, id))
        self.assertEqual(self.load(id), made)

    def test_a_pack_comes_back_as_it_went_in(self) -> None:
        made = pack(
            statement(
                {"a": ["9" * 60, "-0." + "1" * 60], "b": [None, "2.50"]},
                {"t": ["a", "-b"]},
                change=True,
                stated={"t": ["1", None]},
            ),
            rule("house", {"currency": None, "zero": {"word": "nil"}}),
            rule("line", {"decimals": "currency"}, line="a", column="now", statement="s"),
            holds=(Hold(statement="s", line="a", column="now", printed=Decimal("12.50"), reason="agreed"),),
            nudges=(
                Nudge(
                    statement="s", line="b", column="then", units=10**40, exponent=-2, own_rounding=-(10**40)
                ),
            ),
        )
        id = self.keep(made)
        self.reopen()
        self.assertEqual(self.load(id), made)

    def test_columns_that_add_others_are_kept(self) -> None:
        of = statement({"a": ["1", "2"]}, {}, change=True)
        both = Column(id="both", label="Both", sum=("now", "then"))
        made = pack(of.model_copy(update={"columns": (*of.columns, both)}))
        self.assertEqual(self.load(self.keep(made)), made)

    def test_headings_specimens_and_the_plan_are_kept_changed_and_undone(self) -> None:
        dated = Column(id="now", label="Now", date="2026-03-31")
        of = statement({"a": ["1", "2"]}, {})
        of = of.model_copy(update={"columns": (dated, of.columns[1])})
        made = pack(of, specimens=(Decimal("-0.0050"), Decimal(10) ** 40), policy=Policy(choosing="fewest"))
        id = self.keep(made)
        self.reopen()
        self.assertEqual(self.load(id), made)
        self.assertEqual(str(self.load(id).specimens[0]), "-0.0050")
        month = of.model_copy(
            update={"columns": (dated.model_copy(update={"date": "2026-03"}), of.columns[1])}
        )
        new = made.model_copy(
            update={
                "statements": (month,),
                "specimens": (),
                "policy": Policy(at_most=2, most_change=Decimal("0.05"), keep_signs=False),
            }
        )
        self.assertTrue(self.change(id, new))
        self.reopen()
        self.assertEqual(self.load(id), new)
        with self.database.writing() as session:
            undo(session, pack_row(session, id))
        self.assertEqual(self.load(id), made)
        with self.database.writing() as session:
            redo(session, pack_row(session, id))
        self.assertEqual(self.load(id), new)

    @settings(max_examples=30)
    @given(
        st.decimals(allow_nan=False, allow_infinity=False, places=9, min_value=-(10**45), max_value=10**45)
    )
    def test_amounts_keep_every_digit(self, amount: Decimal) -> None:
        id = self.keep(pack(statement({"a": [format(amount, "f")]}, {}, columns=("now",))))
        self.assertEqual(self.load(id).statements[0].lines[0].amounts["now"], amount)

    def test_a_failed_write_leaves_nothing(self) -> None:
        with self.assertRaises(RuntimeError), self.database.writing() as session:
            add_pack(session, demo_pack())
            raise RuntimeError
        with self.database.reading() as session:
            self.assertEqual(list(pack_rows(session)), [])

    def test_the_demo_is_kept_once(self) -> None:
        ensure_demo(self.database)
        ensure_demo(self.database)
        with self.database.reading() as session:
            self.assertEqual(len(pack_rows(session)), 1)

    def test_an_unknown_pack_is_refused(self) -> None:
        with self.assertRaises(InputError):
            self.load("none")


class DatabaseTest(RecordsTest):
    def test_the_file_is_in_wal_with_foreign_keys(self) -> None:
        with self.database.engine.connect() as connection:
            self.assertEqual(connection.exec_driver_sql("PRAGMA journal_mode").scalar(), "wal")
            self.assertEqual(connection.exec_driver_sql("PRAGMA foreign_keys").scalar(), 1)

    def test_migrations_make_the_tables_as_declared(self) -> None:
        with self.database.engine.connect() as connection:
            context = MigrationContext.configure(connection)
            self.assertEqual(compare_metadata(context, Base.metadata), [])

    def test_amounts_are_text_in_the_file(self) -> None:
        self.keep(demo_pack())
        self.database.close()
        connection = sqlite3.connect(self.file)
        self.addCleanup(connection.close)
        kinds = connection.execute("SELECT DISTINCT typeof(amount) FROM amounts").fetchall()
        self.assertEqual({kind for (kind,) in kinds}, {"text", "null"})


class HistoryTest(RecordsTest):
    def setUp(self) -> None:
        super().setUp()
        self.pack_id = self.keep(demo_pack())

    def step(self, way: str) -> str:
        with self.database.writing() as session:
            row = pack_row(session, self.pack_id)
            return (undo if way == "undo" else redo)(session, row).summary

    def states(self) -> list[tuple[str, bool, bool]]:
        with self.database.reading() as session:
            rows = history(session, pack_row(session, self.pack_id))
            return [(row.summary, row.undone, row.abandoned) for row in rows]

    def test_undo_and_redo_walk_through_every_state_and_survive_a_restart(self) -> None:
        packs = [self.load(self.pack_id)]
        for places in (1, 2, 3):
            self.change(self.pack_id, self.decimals(self.pack_id, places), f"to {places}")
            packs.append(self.load(self.pack_id))
        for expected in reversed(packs[:-1]):
            self.step("undo")
            self.reopen()
            self.assertEqual(self.load(self.pack_id), expected)
        with self.assertRaises(InputError):
            self.step("undo")
        for expected in packs[1:]:
            self.step("redo")
            self.reopen()
            self.assertEqual(self.load(self.pack_id), expected)
        with self.assertRaises(InputError):
            self.step("redo")

    def test_a_change_after_undo_abandons_what_was_undone_and_keeps_it_on_record(self) -> None:
        self.change(self.pack_id, self.decimals(self.pack_id, 1), "one")
        self.change(self.pack_id, self.decimals(self.pack_id, 2), "two")
        self.step("undo")
        self.change(self.pack_id, self.decimals(self.pack_id, 3), "three")
        with self.assertRaises(InputError):
            self.step("redo")
        self.assertEqual(self.states(), [("three", False, False), ("two", True, True), ("one", False, False)])
        self.assertEqual([self.step("undo"), self.step("undo")], ["three", "one"])
        self.assertEqual(self.load(self.pack_id), demo_pack())
        self.assertEqual([self.step("redo"), self.step("redo")], ["one", "three"])

    def test_a_change_that_changes_nothing_is_no_change(self) -> None:
        self.assertFalse(self.change(self.pack_id, self.load(self.pack_id)))
        self.assertEqual(self.states(), [])

    def test_each_change_counts_one_revision_and_a_stale_one_is_refused(self) -> None:
        self.change(self.pack_id, self.decimals(self.pack_id, 1))
        with self.database.writing() as session:
            self.assertEqual(at_revision(session, self.pack_id, 2).revision, 2)
            with self.assertRaises(InputError) as caught:
                at_revision(session, self.pack_id, 1)
        self.assertEqual(caught.exception.kind, "stale-revision")

    def test_undo_of_one_part_leaves_the_others(self) -> None:
        hold = Hold(statement="income", line="net", column="y26", reason="agreed")
        self.change(self.pack_id, self.load(self.pack_id).model_copy(update={"holds": (hold,)}), "hold")
        self.change(self.pack_id, self.decimals(self.pack_id, 2), "decimals")
        self.step("undo")
        self.assertEqual(self.load(self.pack_id).holds, (hold,))
        self.assertEqual(state_of(self.load(self.pack_id))["rules"], state_of(demo_pack())["rules"])
