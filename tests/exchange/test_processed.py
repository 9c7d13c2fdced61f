"""Tagged pages in an open processor of XBRL, which has nothing to say of them; and what it needs for that."""

from __future__ import annotations

import re
import unittest
from typing import Any

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.exchange.containers.issue_files import proved_in
from humble_sum.exchange.inline.facts import facts_of
from humble_sum.exchange.inline.page import PAGE, write_inline
from humble_sum.exchange.inline.stated_facts import differences
from humble_sum.exchange.inline.taxonomy_files import namespace_of
from humble_sum.records.demo import demo_pack
from tests.exchange.test_inline import amounts, year_pack
from tests.exchange.xbrl_processor import logged
from tests.making import rule


class ProcessorTest(unittest.TestCase):
    """What an open processor of XBRL says of our pages: nothing."""

    def test_a_footed_pack_loads_without_a_word(self) -> None:
        made = apply(prove_pack(demo_pack()), read_change({"kind": "foot", "statement": "income"})).pack
        for edition in ("own", *(each.id for each in made.editions)):
            with self.subTest(edition):
                self.assertEqual(logged(write_inline(proved_in(made, edition))), [])

    def test_a_page_that_is_wrong_is_told(self) -> None:
        files = write_inline(
            prove_pack(year_pack(amounts("1843.75", "2"), rule("r", {"decimals": {"fixed": 2}})))
        )
        for was, now, said in (
            (b">1,843.75<", b">1'843.75<", "transformValueError"),
            (b">2.00<", b">3.00<", "Calculation"),
        ):
            self.assertIn(said, " ".join(logged(files | {PAGE: files[PAGE].replace(was, now)})))

    def test_awkward_packs_load_without_a_word(self) -> None:
        """A statement for each rule: marks and digits of many locales, what rounds away, holds, steps."""
        values = ("1234567.891", "-0.004", "0", "-98765.5", "12345678901234567890.25", "0.6")
        clauses: list[dict[str, Any]] = [
            {"locale": tag, "decimals": {"fixed": 2}, "currency": "CHF", "money_shown": "every"}
            for tag in (
                "de-CH",
                "fr-CH",
                "en-IN",
                "de",
                "fr",
                "sv",
                "ar-EG",
                "fa",
                "mr-IN",
                "bn",
                "es",
                "pl",
                "he",
            )
        ]
        clauses += [
            {"rounds_away": kind, "negative": negative, "zero": zero, "decimals": {"fixed": 2}}
            for kind in ("less_than", "dash", "signed", "reveal", "figure")
            for negative, zero in (("brackets", "dash"), ("triangle", {"word": "nil"}), ("cr", "blank"))
        ]
        clauses += [
            {"decimals": {"significant": 3}},
            {"decimals": {"up_to": 4}},
            {"rounding": "down", "scale": "lakhs"},
            {"rounding": "up", "scale": "millions", "decimals": {"fixed": 1}},
            {"step": "0.05", "decimals": {"fixed": 2}},
            {"form": "percent", "decimals": {"fixed": 1}},
            {"scale": "fit", "scale_word": "short", "decimals": {"fixed": 1}},
            {"before": "about 7 ", "after": " 9", "decimals": {"fixed": 2}},
        ]
        statements, rules = [], []
        for number, said in enumerate(clauses):
            of = amounts(*values).model_copy(
                update={"id": f"s{number}", "name": f"S{number}", "title": "Income"}
            )
            statements.append(of)
            rules.append(rule(f"r{number}", said, statement=f"s{number}"))
        made = year_pack(statements[0], *rules).model_copy(
            update={"statements": tuple(statements), "entity": "जहाज़"}
        )
        for footed in (False, True):
            pack_proof = prove_pack(made)
            if footed:
                pack_proof = prove_pack(
                    apply(pack_proof, read_change({"kind": "foot", "statement": "s0"})).pack
                )
            with self.subTest(footed=footed):
                files = write_inline(pack_proof)
                self.assertEqual(logged(files), [])
                self.assertEqual(list(differences(pack_proof, files[PAGE])), [])
                self.assertTrue(facts_of(pack_proof).untagged, "what prints no number is left out alone")

    def test_a_namespace_is_a_packs_own(self) -> None:
        of = year_pack(amounts("1"))
        others = [of.model_copy(update={"entity": name}) for name in ("राम", "東京", "Ábc", "abc", "a b c")]
        others += [of.model_copy(update={"period": "Year to 31 March 2027"})]
        found = {namespace_of(prove_pack(each)) for each in (of, *others)}
        self.assertEqual(len(found), 7)
        self.assertTrue(all(re.fullmatch(r"urn:humble-sum:[a-z0-9-]+:own", each) for each in found))


if __name__ == "__main__":
    unittest.main()
