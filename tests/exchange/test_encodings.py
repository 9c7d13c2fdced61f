"""Texts in older encodings: told by their letters, or refused with what they could be; never wrong letters."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.errors import InputError
from humble_sum.core.intake.draft import draft
from humble_sum.exchange.sources.encodings import ENCODINGS, is_sure, ways_to_read
from humble_sum.exchange.sources.opening import open_source
from tests.tables.content import WORDS

OF = {
    "cs": ("cp1250", "iso8859_2"),
    "pl": ("cp1250", "iso8859_2"),
    "ru": ("cp1251", "koi8_r", "iso8859_5"),
    "tr": ("cp1254",),
    "zh": ("gb18030",),
    "ja": ("cp932", "euc_jp"),
    "de": ("cp1252",),
    "fr": ("cp1252",),
    "sv": ("cp1252",),
    "da": ("cp1252",),
    "pt": ("cp1252",),
}
LINES = {
    "el": ("cp1253", "Έσοδα από εισιτήρια;5\nΈξοδα πληρώματος;6\nΣύνολο;11\n"),
    "ko": ("cp949", "여객 수입;5\n화물 수입;6\n합계;11\n"),
    "zh-Hant": ("big5", "客運收入;5\n貨運收入;6\n合計;11\n"),
    "lt": (
        "cp1257",
        "Pardavimo pajamos;5\nVeiklos sąnaudos;6\nĮsipareigojimai iš viso;8\nGrynųjų pinigų pokytis;3\n",
    ),
}


class EncodingsTest(unittest.TestCase):
    @settings(max_examples=150, deadline=None)
    @given(st.sampled_from(sorted(OF)), st.data())
    def test_letters_are_right_or_the_text_is_refused(self, language: str, draw: st.DataObject) -> None:
        encoding = draw.draw(st.sampled_from(OF[language]))
        words = draw.draw(
            st.lists(st.sampled_from(sorted(WORDS[language].values())), min_size=4, max_size=12)
        )
        text = "".join(f"{word};{n}\n" for n, word in enumerate(words, 1))
        data = text.encode(encoding)
        if data.isascii():
            return
        ways = ways_to_read(data)
        if is_sure(ways):
            self.assertEqual(ways[0].text, text, (encoding, ways[0].encoding))

    def test_whole_statements_are_told(self) -> None:
        sure = 0
        every = [(encoding, language) for language, of in OF.items() for encoding in of]
        for encoding, language in every:
            text = "".join(f"{word};{n}\n" for n, word in enumerate(WORDS[language].values(), 1))
            ways = ways_to_read(text.encode(encoding))
            sure += is_sure(ways) and ways[0].text == text
        self.assertEqual(sure, len(every))

    def test_what_was_read_is_said_and_its_labels_are_right(self) -> None:
        for encoding, text in LINES.values():
            with self.subTest(encoding):
                (table,) = open_source("a.csv", f"Line;2026\n{text}".encode(encoding))
                labels = [line.label for line in draft(table).lines]
                self.assertEqual(labels, [line.split(";")[0] for line in text.splitlines()])
                self.assertTrue(any("its letters are" in note.what for note in table.notes))

    def test_what_letters_do_not_tell_is_refused_with_what_it_could_be(self) -> None:
        data = "Megnevezés;2026\nJelleg\u0171;5\n".encode("cp1250")
        with self.assertRaises(InputError) as refused:
            open_source("a.csv", data)
        (fault,) = refused.exception.faults
        self.assertIn("Jelleg\u0171", fault.what)
        self.assertIn("Save it as UTF-8", fault.remedy)

    def test_every_encoding_is_one_that_python_knows(self) -> None:
        for encodings in ENCODINGS.values():
            for encoding in encodings:
                self.assertEqual("abc".encode(encoding), b"abc")


if __name__ == "__main__":
    unittest.main()
