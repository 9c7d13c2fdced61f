"""The Python face: what its docstrings show is what happens, and packs go through it unharmed."""

import doctest
import unittest
from pathlib import Path

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

    def test_the_page_of_python_shows_what_happens(self) -> None:
        page = Path(__file__).parent.parent.parent / "docs/python.md"
        text = page.read_text(encoding="utf-8").replace("```", "")
        demo = PackFile(demo_pack()).write()
        examples = doctest.DocTestParser().get_doctest(text, {"demo": demo}, page.name, str(page), 0)
        failed, tried = doctest.DocTestRunner().run(examples)
        self.assertEqual(failed, 0)
        for name in set(humble_sum.__all__) - {"InputError", "PackFile", "Shown", "print_batches"}:
            self.assertIn(f"import {name}\n", text)
        self.assertGreater(tried, 20)

    def test_every_public_name_says_what_it_is(self) -> None:
        for name in humble_sum.__all__:
            self.assertTrue(getattr(humble_sum, name).__doc__, name)
        with self.assertRaises(AttributeError):
            humble_sum.nothing  # noqa: B018

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
