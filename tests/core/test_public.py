"""The Python face: what its docstrings show is what happens, and packs go through it unharmed."""

import doctest
import unittest

import humble_sum
from humble_sum import InputError, PackFile, packs, read_pack
from humble_sum.core.printing import printer
from humble_sum.records.demo import demo_pack


class PublicTest(unittest.TestCase):
    def test_docstrings_show_what_happens(self) -> None:
        for module in (packs, printer):
            failed, tried = doctest.testmod(module)
            self.assertEqual(failed, 0)
            self.assertGreater(tried, 2)

    def test_every_public_name_says_what_it_is(self) -> None:
        for name in humble_sum.__all__:
            self.assertTrue(getattr(humble_sum, name).__doc__, name)

    def test_a_pack_is_read_changed_and_written(self) -> None:
        pack = read_pack(PackFile(demo_pack()).write())
        self.assertEqual(pack.pack, demo_pack())
        held, says = pack.apply(
            {"kind": "hold", "statement": "income", "line": "costs", "column": "y26"}, author="A. Petrel"
        )
        self.assertEqual(says, "Held Total costs, 2025–26 at (2,770)")
        self.assertEqual([hold.author for hold in held.pack.holds], ["A. Petrel"])
        self.assertEqual(pack.pack.holds, ())
        self.assertEqual(read_pack(held.write().decode()).pack, held.pack)
        self.assertEqual(len(pack.findings()), 51)
        for change in ({"kind": "holds"}, {"kind": "hold", "statement": "income"}, {}):
            with self.assertRaises(InputError):
                pack.apply(change)
        with self.assertRaises(InputError):
            pack.texts("nowhere")
