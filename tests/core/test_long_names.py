"""Names as long as they may be: what the product makes of them fits its own limits."""

from __future__ import annotations

import unittest

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.footing.plan import Plan, plan
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.in_edition import base_of
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.pack_json import read_pack, write_pack
from tests.every_change import DEMO, GOOD, NOT_YET
from tests.making import pack, rule, statement

MOST = 2_000


def long_named(of: Pack) -> Pack:
    """The pack with every name in it as long as a name may be."""

    def long(name: str) -> str:
        return name + "x" * (MOST - len(name))

    statements = [
        each.model_copy(
            update={
                "name": long(each.name),
                "title": long(each.title),
                "columns": tuple(c.model_copy(update={"label": long(c.label)}) for c in each.columns),
                "lines": tuple(n.model_copy(update={"label": long(n.label)}) for n in each.lines),
            }
        )
        for each in of.statements
    ]
    return of.model_copy(
        update={"entity": long(of.entity), "period": long(of.period), "statements": tuple(statements)}
    )


class LongNamesTest(unittest.TestCase):
    def assert_keeps(self, of: Pack) -> None:
        base = base_of(of)
        self.assertEqual(read_pack(write_pack(base)), base)

    def footed(self, pack_proof: PackProof) -> Pack:
        found = plan(pack_proof, made="2026-05-04T09:30:00+00:00")
        assert isinstance(found, Plan)
        self.assertTrue(found.nudges)
        return pack_proof.pack.model_copy(update={"nudges": found.nudges})

    def test_a_pack_with_long_names_is_footed(self) -> None:
        of = statement({"a": ["1.4", "2"], "b": ["1.4", "3"]}, {"t": ["a", "b"]}, change=True)
        pack_proof = prove_pack(long_named(pack(of, rule("house", {"decimals": {"fixed": 0}}))))
        footed = self.footed(pack_proof)
        self.assert_keeps(footed)
        self.assertTrue(all("Adds" in each.reason for each in footed.nudges), "the reason says all it should")

    def test_a_tie_between_long_names_too(self) -> None:
        self.assert_keeps(self.footed(prove_pack(long_named(DEMO))))

    def test_every_change_of_a_pack_with_long_names_can_be_kept(self) -> None:
        pack_proof = prove_pack(long_named(DEMO))
        for said in GOOD:
            if said["kind"] not in NOT_YET | {"set_members"}:  # which names lines as they were
                with self.subTest(said["kind"]):
                    self.assert_keeps(apply(pack_proof, read_change(said)).pack)


if __name__ == "__main__":
    unittest.main()
