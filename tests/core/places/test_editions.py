"""Editions: a pack as other readers get it, footed on its own, and put back without a loss."""

from __future__ import annotations

import unittest
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.amounts import EXACT
from humble_sum.core.changes.apply import Applied, apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.changes.rulebook_use import alike, merged
from humble_sum.core.errors import InputError
from humble_sum.core.places.editions_beside import differences, in_editions, notes_on
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.edition import OWN, Edition, Rate
from humble_sum.core.statements.in_edition import base_of, in_edition, put_back
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.relations import exact_amounts
from humble_sum.core.statements.validation import check
from humble_sum.exchange.layout import rows
from humble_sum.records.demo import demo_pack
from tests.making import one_figure, pack, rule, statement

DEMO = demo_pack()
ALONE = ("add_edition", "remove_edition", "remove_dashboard")  # on no statement


def change(of: Pack, **said: Any) -> Applied:
    on = {"statement": "income"} if said["kind"] not in ALONE else {}
    return apply(prove_pack(of), read_change(on | said))


class EditionTest(unittest.TestCase):
    def test_it_prints_by_its_rules_and_foots_on_its_own(self) -> None:
        board = in_edition(DEMO, "Board")
        pack_proof = prove_pack(board)
        figures = pack_proof.proofs["income"].figures
        self.assertEqual([figures["net", c].printed.full_text for c in ("y26", "y25")], ["4.1", "3.0"])
        self.assertEqual(figures["claims", "y26"].printed.full_text, "not yet known")
        footed = change(board, kind="foot").pack
        after = prove_pack(footed)
        self.assertEqual([after.count(s.id, "gap") for s in DEMO.statements], [0] * 5)
        base = base_of(footed)
        edition = base.edition("Board")
        assert edition is not None
        self.assertTrue(edition.nudges)
        # The pack's own figures are as they were.
        self.assertEqual(
            (base.nudges, base.holds, base.statements), (DEMO.nudges, DEMO.holds, DEMO.statements)
        )
        self.assertEqual(in_edition(base, "Board").nudges, edition.nudges)

    def test_what_is_put_back_is_the_pack_again(self) -> None:
        for edition in ("Board", "Parent", OWN):
            self.assertEqual(put_back(in_edition(DEMO, edition)), DEMO)

    def test_a_word_chosen_in_an_edition_is_said_in_it_alone(self) -> None:
        board = in_edition(DEMO, "Board")
        word = {"line": "net", "column": "y26", "clause": "negative", "value": "minus"}
        said = change(board, kind="set_clause", **word)
        made = base_of(said.pack).rulebook.rules[-1]
        self.assertEqual((made.reach.editions, made.name), (("Board",), "Board, Statements"))
        costs = ("costs", "y26")
        texts = [
            prove_pack(in_edition(base_of(said.pack), id)).proofs["income"].figures[costs].printed.full_text
            for id in (OWN, "Board", "Parent")
        ]
        self.assertEqual(texts, ["(2,770)", "−27.7", "(3,075)"])
        # Chosen again it changes the same rule, and no other one is made.
        again = change(said.pack, kind="set_clause", **(word | {"value": "cr"}))
        self.assertEqual(len(base_of(again.pack).rulebook.rules), len(base_of(said.pack).rulebook.rules))

    def test_lines_are_those_of_every_edition(self) -> None:
        board = in_edition(DEMO, "Board")
        moved = change(board, kind="set_line", line="moor", label="Berths").pack
        self.assertEqual(moved.shown, "Board")
        line = base_of(moved).statements[0].line("moor")
        assert line is not None
        self.assertEqual(line.label, "Berths")

    def test_an_edition_that_is_shown_is_not_taken_out(self) -> None:
        with self.assertRaises(InputError) as caught:
            change(DEMO, kind="remove_edition", edition="Board")
        self.assertIn("Dashboard", caught.exception.faults[0].what)
        gone = change(DEMO, kind="remove_dashboard", dashboard="board").pack
        gone = change(gone, kind="remove_edition", edition="Board").pack
        self.assertEqual([each.id for each in gone.editions], ["Parent"])
        self.assertFalse([r for r in gone.rulebook.rules if "Board" in r.reach.editions])
        with self.assertRaises(InputError):
            in_edition(gone, "Board")

    def test_names_may_be_alike_and_ids_are_not(self) -> None:
        twice = change(DEMO, kind="add_edition", name="board").pack
        self.assertEqual([each.id for each in twice.editions], ["Board", "Parent", "board-2"])

    def test_a_column_that_goes_takes_its_rate_with_it(self) -> None:
        made = pack(statement({"a": ["1", "2"]}, {}), currency="INR")
        rates = [{"column": "now", "rate": "90"}, {"column": "then", "rate": "91", "statement": "s"}]
        added = apply(
            prove_pack(made),
            read_change({"kind": "add_edition", "name": "Far", "currency": "EUR", "rates": rates}),
        ).pack
        self.assertEqual(len(added.editions[0].rates), 2)
        check(added)


class RatesTest(unittest.TestCase):
    """One rate is changed at a time, and nothing of another currency is taken for the edition's."""

    def setUp(self) -> None:
        made = pack(statement({"a": ["1", "2"], "b": ["10", "20"]}, {}), currency="INR")
        rates = [
            {
                "column": "now",
                "rate": "0.5",
                "quoted": "edition_for_one",
                "source": "bank",
                "date": "2026-03-31",
            },
            {"column": "then", "rate": "2"},
        ]
        self.far = self.edit(made, kind="add_edition", name="Far", currency="EUR", rates=rates)

    def edit(self, of: Pack, **said: Any) -> Pack:
        return apply(prove_pack(of), read_change(said)).pack

    def printed(self, of: Pack) -> list[str]:
        figures = prove_pack(in_edition(of, "Far")).proofs["s"].figures
        return [figure.printed.full_text for figure in figures.values()]

    def in_dollars(self) -> Pack:
        (of,) = self.far.statements
        lines = (of.lines[0].model_copy(update={"currency": "USD"}), *of.lines[1:])
        return self.far.model_copy(update={"statements": (of.model_copy(update={"lines": lines}),)})

    def test_one_that_changes_leaves_the_others_as_they_are_quoted(self) -> None:
        changed = self.edit(self.far, kind="set_rate", edition="Far", column="then", rate="4", source="desk")
        now, then = changed.editions[0].rates
        self.assertEqual(now, self.far.editions[0].rates[0])
        self.assertEqual((then.rate, then.source), (Decimal(4), "desk"))

    def test_what_is_left_out_of_a_rate_stays(self) -> None:
        changed = self.edit(self.far, kind="set_rate", edition="Far", column="now", rate="0.25")
        now = changed.editions[0].rates[0]
        self.assertEqual((now.quoted, now.source, now.date), ("edition_for_one", "bank", "2026-03-31"))
        self.assertEqual(now.factor, Decimal("0.25"))

    def test_without_digits_it_is_taken_out_and_that_of_a_statement_is_another(self) -> None:
        own = self.edit(
            self.far,
            kind="set_rate",
            edition="Far",
            column="now",
            statement="s",
            rate="8",
            quoted="pack_for_one",
        )
        self.assertEqual([rate.statement for rate in own.editions[0].rates], [None, None, "s"])
        self.assertEqual(own.editions[0].rate_of("s", "now"), own.editions[0].rates[2])
        gone = self.edit(own, kind="set_rate", edition="Far", column="now")
        self.assertEqual([rate.column for rate in gone.editions[0].rates], ["then", "now"])

    def test_a_bad_one_is_refused(self) -> None:
        for said in ({"rate": "0"}, {"rate": "-1"}, {"rate": "x"}, {"rate": "1", "column": "gone"}):
            with self.subTest(said), self.assertRaises(InputError):
                self.edit(self.far, **({"kind": "set_rate", "edition": "Far", "column": "now"} | said))

    def test_rates_to_one_currency_are_never_those_to_another(self) -> None:
        changed = self.edit(self.far, kind="edit_edition", edition="Far", currency="JPY")
        self.assertEqual(changed.editions[0].rates, ())
        self.assertEqual(self.printed(changed), ["¥1", "¥2", "¥10", "¥20"])
        self.assertIn("no rate for", notes_on(prove_pack(in_edition(changed, "Far")))[0])
        named = self.edit(self.far, kind="edit_edition", edition="Far", currency="EUR", name="Farther")
        self.assertEqual(named.editions[0].rates, self.far.editions[0].rates)

    def test_a_line_in_its_own_currency_is_not_translated_at_the_packs_rates(self) -> None:
        mixed = self.in_dollars()
        self.assertEqual(self.printed(self.far), ["€1", "€1", "€5", "€10"])
        self.assertEqual(self.printed(mixed), ["$1", "$2", "€5", "€10"])
        self.assertIn("is in USD and stays so", " ".join(notes_on(prove_pack(in_edition(mixed, "Far")))))
        self.assertEqual(put_back(in_edition(mixed, "Far")), mixed)

    def test_it_is_once_each_of_its_amounts_has_a_rate_of_its_own(self) -> None:
        own = {"kind": "set_rate", "edition": "Far", "statement": "s", "line": "a", "rate": "0.25"}
        half = self.edit(self.in_dollars(), **own, column="now")
        self.assertEqual(self.printed(half), ["$1", "$2", "€5", "€10"])
        pack_proof = self.edit(half, **own, column="then")
        self.assertEqual(self.printed(pack_proof), ["€4", "€8", "€5", "€10"])
        self.assertEqual(notes_on(prove_pack(in_edition(pack_proof, "Far"))), [])


class TranslationTest(unittest.TestCase):
    @settings(max_examples=30, deadline=None)
    @given(
        st.lists(st.decimals(-(10**9), 10**9, places=2), min_size=2, max_size=6),
        st.decimals("0.001", "5000", places=4),
        st.sampled_from(["pack_for_one", "edition_for_one"]),
    )
    def test_what_added_before_adds_to_the_last_digit(
        self, amounts: list[Decimal], rate: Decimal, quoted: Any
    ) -> None:
        ids = [f"l{n}" for n in range(len(amounts))]
        stated = sum(amounts, Decimal(0))
        of = statement(
            {id: [str(amount)] for id, amount in zip(ids, amounts, strict=True)},
            {"t": ids},
            columns=("now",),
            stated={"t": [str(stated)]},
        )
        far = Edition(
            id="Far", name="Far", currency="EUR", rates=(Rate(column="now", rate=rate, quoted=quoted),)
        )
        made = pack(of, rule("money", {"currency": "INR"}), currency="INR", editions=(far,))
        pack_proof = prove_pack(in_edition(made, "Far"))
        self.assertEqual([c.status for c in pack_proof.proofs["s"].checks if c.status == "break"], [])
        exact = exact_amounts(pack_proof.pack.statements[0])
        factor = far.rates[0].factor
        for id, amount in zip(ids, amounts, strict=True):
            self.assertEqual(exact[id, "now"], EXACT.multiply(amount, factor))

    def test_a_half_stays_a_half(self) -> None:
        # 45.05 at 90.10 is 0.5 exactly, which prints as 1.
        far = Edition(
            id="Far", name="Far", currency="EUR", rates=(Rate(column="now", rate=Decimal("90.10")),)
        )
        made = one_figure("45.05", rule("money", {"currency": "INR"})).model_copy(update={"editions": (far,)})
        figure = prove_pack(in_edition(made, "Far")).proofs["s"].figures["a", "now"]
        self.assertEqual(figure.printed.units, 1)

    def test_a_column_may_have_a_rate_in_each_statement_and_only_one_there(self) -> None:
        def rated(*rates: Rate) -> Pack:
            far = Edition(id="Far", name="Far", currency="EUR", rates=rates)
            two = [statement({"a": ["1", "1"]}, {}).model_copy(update={"id": id, "name": id}) for id in "st"]
            made = pack(two[0], rule("money", {"currency": "INR"}), currency="INR", editions=(far,))
            return made.model_copy(update={"statements": tuple(two)})

        ninety = Decimal(90)
        in_s, in_t = (Rate(column="now", rate=ninety, statement=id) for id in "st")
        everywhere = Rate(column="now", rate=ninety)
        check(rated(everywhere, in_s, in_t))
        for twice in (everywhere, in_s):
            with self.assertRaisesRegex(InputError, "twice"):
                check(rated(in_t, twice, twice))

    def test_ties_that_only_the_rates_break_are_named_so(self) -> None:
        said = notes_on(prove_pack(in_edition(DEMO, "Parent")))
        self.assertEqual(len(said), 1)
        self.assertIn("a translation difference: their rates differ", said[0])

    def test_a_line_takes_up_the_translation_difference_and_everything_adds_and_ties(self) -> None:
        at = {"edition": "Parent", "figure": ["cash", "opening", "y26"], "column": "y25"}
        made = apply(prove_pack(DEMO), read_change({"kind": "translate_at"} | at)).pack
        pack_proof = prove_pack(in_edition(made, "Parent"))
        breaks = [c for p in pack_proof.proofs.values() for c in p.checks if c.status == "break"]
        self.assertEqual((breaks, [t for t in pack_proof.ties if t.status == "break"]), ([], []))
        proof = pack_proof.proofs["cash"]
        line = next(each for each in proof.statement.lines if each.translation)
        opening, was = (proof.figures[id, c].exact for id, c in (("opening", "y26"), ("closing", "y25")))
        self.assertEqual(opening, was)
        self.assertTrue(proof.figures[line.id, "y26"].exact)
        labels = [row.line.label for row in rows(proof)]
        self.assertIn("Translation difference", labels)
        # Nothing of it is in the pack's own edition, nor in one that translates nothing.
        own = prove_pack(made)
        self.assertEqual([own.count(s.id, "gap") for s in DEMO.statements], [15, 10, 6, 20, 0])
        self.assertNotIn("Translation difference", [row.line.label for row in rows(own.proofs["cash"])])
        self.assertEqual(own.proofs["cash"].figures["closing", "y26"].printed.full_text, "529")

    def test_counts_are_no_money(self) -> None:
        pack_proof = prove_pack(in_edition(DEMO, "Parent"))
        self.assertEqual(
            pack_proof.proofs["operations"].figures["crossings", "y25"].printed.full_text, "17,204"
        )

    def test_rates_are_more_than_zero_and_columns_without_one_are_named(self) -> None:
        for rate in ("0", "-1"):
            with self.assertRaises(InputError):
                read_change(
                    {"kind": "add_edition", "name": "Far", "rates": [{"column": "y26", "rate": rate}]}
                )
        added = change(DEMO, kind="add_edition", name="Far", currency="USD").pack
        said = notes_on(prove_pack(in_edition(added, "Far")))
        self.assertTrue(any("Income has no rate for 2025–26, 2024–25" in each for each in said))

    def test_an_edition_finer_than_its_source_says_so(self) -> None:
        of = statement({"a": ["1200000"], "b": ["300000"]}, {}, columns=("now",))
        fine = Edition(id="Fine", name="Fine")
        made = pack(of, rule("u", {"scale": "lakhs"}), editions=(fine,))
        fine_rule = rule("f", {"scale": "ones"}).model_copy(
            update={"reach": rule("x", {}).reach.model_copy(update={"editions": ("Fine",)})}
        )
        made = made.model_copy(
            update={"rulebook": made.rulebook.model_copy(update={"rules": (*made.rulebook.rules, fine_rule)})}
        )
        self.assertIn("prints finer than its amounts are", notes_on(prove_pack(in_edition(made, "Fine")))[0])


class BesideTest(unittest.TestCase):
    def test_what_differs_other_than_scale(self) -> None:
        said = differences(prove_pack(DEMO), prove_pack(in_edition(DEMO, "Board")), "income")
        self.assertIn("Storm claims receivable, 2025–26 prints “not yet known” in Board.", said)
        self.assertFalse([each for each in said if "scale" in each.lower()])

    def test_a_figure_in_every_edition(self) -> None:
        proofs = {id: prove_pack(in_edition(DEMO, id)) for id in (OWN, "Board", "Parent")}
        found = in_editions(proofs, ("income", "freight", "y26"))
        self.assertEqual([each.figure.printed.full_text for each in found], ["411", "4.1", "457"])
        self.assertEqual(found[1].agrees.says, "A reader who rounds 411 gets 4.1 too.")


class SaidOnceTest(unittest.TestCase):
    def test_rules_that_say_the_same_are_one_and_decide_alike(self) -> None:
        split = []
        for each in DEMO.rulebook.rules:
            if each.id == "statements":
                for id in each.reach.statements:
                    reach = each.reach.model_copy(update={"statements": (), "statement": id})
                    split.append(each.model_copy(update={"id": f"of-{id}", "name": id, "reach": reach}))
            else:
                split.append(each)
        book = DEMO.rulebook.model_copy(update={"rules": tuple(split)})
        (group,) = [ids for ids in alike(book) if "of-income" in ids]
        self.assertEqual(group, ["of-income", "of-position", "of-cash", "of-routes"])
        once = merged(book, group)
        texts = [
            proof.figures.texts
            for rulebook in (book, once)
            for proof in prove_pack(DEMO.model_copy(update={"rulebook": rulebook})).proofs.values()
        ]
        self.assertEqual(texts[:5], texts[5:])
        with self.assertRaises(InputError):
            merged(book, ["house", "of-cash"])

    def test_a_hidden_figure_prints_nothing_and_counts(self) -> None:
        hidden = {"line": "fuel", "column": "y26", "clause": "shown", "value": False, "apply": "figure"}
        said = change(DEMO, kind="set_clause", **hidden)
        proof = prove_pack(said.pack).proofs["income"]
        figure = proof.figures["fuel", "y26"]
        self.assertEqual((figure.printed.full_text, figure.printed.units), ("", -886))
        self.assertEqual(proof.figures.texts[proof.grid.number["fuel", "y26"]], "")
        before = prove_pack(DEMO).proofs["income"]
        self.assertEqual([c.gap for c in proof.checks], [c.gap for c in before.checks])
