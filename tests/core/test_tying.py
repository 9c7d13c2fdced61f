import unittest

from humble_sum.core.changes.ties import tie, tieable, untie
from humble_sum.core.errors import InputError
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack
from humble_sum.records.demo import demo_pack

NET: FigureRef = ("income", "net", "y26")
FUNDS: FigureRef = ("position", "surplus", "y26")
CASH: FigureRef = ("position", "bank", "y26")
OPENING: FigureRef = ("cash", "opening", "y26")


class TyingTest(unittest.TestCase):
    def ties(self, pack: Pack, ref: FigureRef) -> list[tuple[FigureRef, ...]]:
        return [tie.figures for tie in pack.ties if ref in tie.figures]

    def test_a_figure_joins_what_the_other_is_tied_to(self) -> None:
        bare = demo_pack().model_copy(update={"ties": ()})
        made = tie(bare, FUNDS, NET)
        self.assertEqual(self.ties(made, NET), [(NET, FUNDS)])
        made = tie(made, ("cash", "surplus", "y26"), FUNDS)
        self.assertEqual(self.ties(made, NET), [(NET, FUNDS, ("cash", "surplus", "y26"))])
        self.assertEqual([check.status for check in prove_pack(made).ties], ["foots"])
        # Two ties become one; no figure is in two.
        other = tie(tie(made, OPENING, CASH), CASH, NET)
        self.assertEqual(self.ties(other, OPENING), [(*made.ties[0].figures, CASH, OPENING)])
        self.assertEqual(len(other.ties), 1)

    def test_what_is_left_of_a_tie_stays_tied(self) -> None:
        pack = demo_pack()
        (figures,) = self.ties(pack, NET)
        left = untie(pack, NET)
        self.assertEqual(self.ties(left, FUNDS), [tuple(ref for ref in figures if ref != NET)])
        self.assertEqual(self.ties(untie(left, FUNDS), ("cash", "surplus", "y26")), [])
        self.assertEqual(len(left.ties), len(pack.ties))

    def test_what_cannot_be_tied_is_said(self) -> None:
        pack = demo_pack()
        for ref, to, says in (
            (NET, NET, "to itself"),
            (FUNDS, NET, "tied to Surplus for the year.* already"),
        ):
            with self.assertRaisesRegex(InputError, says):
                tie(pack, ref, to)
        with self.assertRaisesRegex(InputError, "tied to nothing"):
            untie(pack, ("income", "fuel", "y26"))

    def test_figures_of_the_same_amount_come_first_and_others_by_name(self) -> None:
        pack_proof = prove_pack(demo_pack().model_copy(update={"ties": ()}))
        found = tieable(pack_proof, NET, "")
        self.assertTrue(all(each.same for each in found))
        # Funds rose by the surplus, no more.
        funds = ("position", "funds", "change")
        self.assertEqual({each.ref for each in found}, {FUNDS, ("cash", "surplus", "y26"), funds})
        named = tieable(pack_proof, NET, "position SURPLUS")
        self.assertEqual(named[0].ref, FUNDS)
        self.assertTrue(all("surplus" in each.name.lower() for each in named))
        self.assertGreater(len(named), 1)
        tied = prove_pack(tie(pack_proof.pack, FUNDS, NET))
        self.assertNotIn(FUNDS, [each.ref for each in tieable(tied, NET, "")])
        cash = [each.name for each in tieable(pack_proof, NET, "cash") if not each.same]
        own = [name.rsplit(" in ", 1)[0] for name in cash]
        have = ["cash" in name.lower() for name in own]
        self.assertEqual(have, sorted(have, reverse=True))
        self.assertIn(False, have)
