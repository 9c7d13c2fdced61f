import sqlite3
import tempfile
import unittest
from decimal import Decimal
from pathlib import Path
from typing import Any

from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from hypothesis import given, settings
from hypothesis import strategies as st
from sqlalchemy import select

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.errors import InputError
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook, with_clauses
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.pack import Column, Pack
from humble_sum.core.statements.policy import Policy
from humble_sum.records.database import Database
from humble_sum.records.demo import demo_pack, ensure_demo
from humble_sum.records.pack_rows import add_pack, load_pack, pack_row, pack_rows, state_of, with_state
from humble_sum.records.revisions import (
    at_revision,
    concerns_figure,
    concerns_rule,
    history,
    pack_after,
    record,
    redo,
    undo,
)
from humble_sum.records.tables import Base, LineRow
from tests.every_change import DEMO, GOOD, NOT_YET
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


class DifferenceTest(RecordsTest):
    """Only what differs is written, and what is read back is what was meant, in order."""

    def ids(self, table: Any) -> dict[str, int]:
        with self.database.reading() as session:
            named = "code" if hasattr(table, "code") else "line"
            return {getattr(row, named): row.id for row in session.scalars(select(table))}

    def test_lines_left_alone_stay_where_they_are(self) -> None:
        id = self.keep(demo_pack())
        before = self.ids(LineRow)
        now = self.load(id)
        income = now.statements[0]
        lines = list(income.lines)
        lines[3] = lines[3].model_copy(update={"label": "Deck fares"})
        moved = [*lines[:5], lines[6], lines[5], *lines[7:]]
        changed = income.model_copy(update={"lines": tuple(moved)})
        new = now.model_copy(update={"statements": (changed, *now.statements[1:])})
        self.assertTrue(self.change(id, new))
        self.assertEqual(self.load(id), new)
        after = self.ids(LineRow)
        self.assertEqual({code for code in after if after[code] != before[code]}, {lines[3].id})
        with self.database.writing() as session:
            undo(session, pack_row(session, id))
        self.assertEqual(self.load(id), now)

    @settings(max_examples=15)
    @given(st.data())
    def test_any_walk_of_holds_and_rules_comes_back_as_it_was_meant(self, data: st.DataObject) -> None:
        self.setUp()
        made = pack(statement({name: ["10.4", "7"] for name in "abcdef"}, {"t": list("abcdef")}))
        id = self.keep(made)
        states = [made]
        for _ in range(data.draw(st.integers(1, 5))):
            now = states[-1]
            column = now.statements[0].columns[0].id
            held = data.draw(st.lists(st.sampled_from("abcdef"), unique=True))
            reasons = {name: data.draw(st.sampled_from(["", "agreed"])) for name in held}
            holds = tuple(
                Hold(statement="s", line=name, column=column, printed=Decimal(10), reason=reasons[name])
                for name in held
            )
            rules = tuple(
                Rule(id=name, name=name, clauses=Clauses.model_validate({"plus": "always"}))
                for name in data.draw(st.lists(st.sampled_from(["one", "two", "three"]), unique=True))
            )
            new = now.model_copy(update={"holds": holds, "rulebook": Rulebook(rules=rules)})
            if self.change(id, new):
                states.append(new)
            self.assertEqual(self.load(id), states[-1])
        for now in reversed(states[:-1]):
            with self.database.writing() as session:
                undo(session, pack_row(session, id))
            self.assertEqual(self.load(id), now)


class PastTest(RecordsTest):
    def test_every_kind_of_change_is_kept_undone_and_put_back(self) -> None:
        """The tables hold just the pack that each change makes, and the one before it again."""
        id, proved = self.keep(DEMO), prove_pack(DEMO)
        for said in (each for each in GOOD if each["kind"] not in NOT_YET):
            with self.subTest(said["kind"]), self.database.writing() as session:
                row = pack_row(session, id)
                new = apply(proved, read_change(said)).pack
                changed = record(session, row, DEMO, new, said["kind"], "made")
                self.assertEqual(changed, new != DEMO)
                if not changed:
                    continue
                for step, was, wanted in ((None, DEMO, new), (undo, new, DEMO), (redo, DEMO, new)):
                    if step is not None:
                        told = with_state(was, step(session, row).becomes)
                        self.assertEqual(told, wanted, "told without reading it again")
                    session.expire_all()
                    self.assertEqual(load_pack(session, row), wanted)
                self.assertEqual(pack_after(session, row, new, 0), DEMO)
                undo(session, row)

    def test_the_pack_is_read_as_it_was_after_each_change_in_force(self) -> None:
        id = self.keep(demo_pack())
        states = [self.load(id)]
        for places in (1, 2, 3):
            self.change(id, self.decimals(id, places))
            states.append(self.load(id))
        with self.database.reading() as session:
            row = pack_row(session, id)
            for number, state in enumerate(states):
                self.assertEqual(pack_after(session, row, states[-1], number), state)
        with self.database.writing() as session:
            undo(session, pack_row(session, id))
        with self.database.reading() as session:
            row = pack_row(session, id)
            self.assertEqual(pack_after(session, row, self.load(id), 2), states[2])
            for gone in (3, 4, -1):
                with self.assertRaises(InputError) as refused:
                    pack_after(session, row, self.load(id), gone)
                self.assertEqual(refused.exception.kind, "no-such-change")

    def test_the_history_of_a_figure_is_what_touched_it(self) -> None:
        id = self.keep(demo_pack())
        now = self.load(id)
        fuel, y26 = "fuel", "y26"
        hold = Hold(statement="income", line=fuel, column=y26, printed=Decimal(10**5))
        self.change(id, now.model_copy(update={"holds": (hold,)}), "held")
        clauses = Clauses.model_validate({"plus": "always"})
        for name, reach in (("line", Reach(statement="income", line=fuel)), ("other", Reach(line="salv"))):
            now = self.load(id)
            book = with_clauses(now.rulebook, reach, name, clauses)
            self.change(id, now.model_copy(update={"rulebook": book}), name)
        self.change(id, self.decimals(id, 1), "everywhere")
        with self.database.reading() as session:
            changes = history(session, pack_row(session, id))
            touched = [c.summary for c in changes if concerns_figure(c, ("income", fuel, y26))]
            self.assertEqual(touched, ["everywhere", "line", "held"])
            other = [c.summary for c in changes if concerns_figure(c, ("income", fuel, "y25"))]
            self.assertEqual(other, ["everywhere", "line"])
            self.assertEqual([c.summary for c in changes if concerns_rule(c, "house")], ["everywhere"])
