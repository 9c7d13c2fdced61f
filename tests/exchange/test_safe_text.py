"""Text that travels: no formula, no markup, no link, and no direction of its own beyond its end."""

from __future__ import annotations

import csv
import io
import unicodedata
import unittest

from hypothesis import given
from hypothesis import strategies as st

from humble_sum.exchange.safe_text import CLOSES, closed, escaped, isolated, neutral, one_line

UNSEEN = ("", " ", "\u00a0", "\u200b", "\ufeff", "\u202f \u200e", "\u3000")


class TravellingTest(unittest.TestCase):
    def test_no_cell_starts_a_formula_behind_what_is_not_seen(self) -> None:
        for ahead in UNSEEN:
            for sign in ("=", "+", "-", "@", "＝", "＋", "－", "＠"):
                with self.subTest(ahead=ahead, sign=sign):
                    self.assertEqual(neutral(f"{ahead}{sign}SUM(A1)"), f"'{ahead}{sign}SUM(A1)")
        for plain in ("Fares", "(5)", "−5", "a=b", " Fares = all", "", "₹ 5"):
            self.assertEqual(neutral(plain), plain)

    def test_nothing_that_is_ignored_or_separates_hides_a_formula(self) -> None:
        ignored = [
            c for c in map(chr, range(0x110000)) if unicodedata.category(c) in ("Cf", "Cc", "Zs", "Zl", "Zp")
        ]
        ignored += [*"\u034f\u115f\u1160\u3164\uffa0\u17b4\u17b5\u180b\ufe00\ufe0f\U000e0100\U000e01ef\u2800"]
        for character in ignored:
            made = neutral(f"{character}=1")
            self.assertIn("'", made[: made.index("=")], f"U+{ord(character):04X}")
        for text, said in (
            (";=1", ";'=1"),
            ("Fares;=1;-2", "Fares;'=1;'-2"),
            ("a; \u2066=1", "a;' \u2066=1\u2069"),
            ("a|@x", "a|'@x"),
            ("a\n=1", "a\n'=1"),
            ("=a;=b", "'=a;'=b"),
            ("Fares; other", "Fares; other"),
            ("a, -b", "a, -b"),
        ):
            with self.subTest(text=text):
                self.assertEqual(neutral(text), said)

    @given(st.text(alphabet=st.sampled_from("ab=+-@;|\t\n \u2066\u3164'\ufe0f,\"")))
    def test_split_anywhere_no_piece_starts_a_formula(self, text: str) -> None:
        out = io.StringIO()
        csv.writer(out).writerow(["x", neutral(text), "y"])
        for mark in (",", ";", "|", "\t"):
            for row in csv.reader(io.StringIO(out.getvalue(), newline=""), delimiter=mark):
                for cell in row:
                    bare = "".join(c for c in cell if c not in " \t\n\u2066\u2069\u3164\ufe0f")
                    self.assertFalse(bare[:1] in ("=", "+", "-", "@"), (mark, cell))

    def test_markdown_stays_one_cell_of_plain_text(self) -> None:
        for text, said in (
            ("a\nb", "a b"),
            ("a\r\n\r\n| x |", "a \\| x \\|"),
            ("R&D &amp; <b>", "R\\&D \\&amp; \\<b>"),
            ("http://example.org", "http&#58;//example.org"),
            ("see www.example.org", "see www&#46;example.org"),
            ("a@example.org", "a&#64;example.org"),
            ("1. Fares", "1\\. Fares"),
            ("- Fares", "\\- Fares"),
            ("# Fares", "\\# Fares"),
            ("> Fares", "\\> Fares"),
            ("-5", "-5"),
            ("1.5", "1.5"),
        ):
            with self.subTest(text=text):
                self.assertEqual(escaped(text), said)

    @given(
        st.text(
            alphabet=st.sampled_from("ab \n\u2028|<\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069")
        )
    )
    def test_directions_end_with_the_text(self, text: str) -> None:
        made = closed(text)
        open_: list[str] = []
        for character in made:
            if character in CLOSES:
                open_.append(CLOSES[character])
            elif character in CLOSES.values():
                self.assertEqual(open_.pop(), character)
        self.assertEqual(open_, [])
        self.assertEqual(closed(made), made)
        bare = [c for c in text if c not in CLOSES and c not in CLOSES.values()]
        self.assertEqual([c for c in made if c not in CLOSES and c not in CLOSES.values()], bare)

    @given(st.text())
    def test_a_line_is_one_line(self, text: str) -> None:
        for made in (one_line(text), escaped(text)):
            self.assertEqual(len(made.splitlines()) <= 1, True, made)

    @given(st.text())
    def test_pages_have_no_markup_of_a_label(self, text: str) -> None:
        inside = isolated(text).removeprefix("<bdi>").removesuffix("</bdi>")
        self.assertFalse(set(inside) & set("<>\"'"))
        self.assertTrue(unicodedata.normalize("NFC", isolated("x")).startswith("<bdi>"))


if __name__ == "__main__":
    unittest.main()
