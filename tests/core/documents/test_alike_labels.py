"""A pack whose lines are called much alike: what a sentence names is found among hundreds that share its words."""

from __future__ import annotations

import random
import unittest

from humble_sum.core.documents.document import Block, Document, Paragraph, Table
from humble_sum.core.documents.proofreading import Proofread, Reader
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.pack import Pack

FIRST = ("Harbour", "Ferry", "Fuel", "Crew", "Pier", "Night", "Island", "Winter", "Season", "Cargo", "Radio")
SECOND = ("fees", "wages", "revenue", "upkeep", "charges", "grants", "rent", "repairs", "levies")
THIRD = ("north", "south", "east", "west")
LABELS = [f"{one} {two} {three}" for one in FIRST for two in SECOND for three in THIRD]
SENTENCE = "{} came to ₹{:.2f} crore (2024–25: ₹{:.2f} crore), as the winter season went on in the north."


def pack() -> tuple[Pack, dict[str, tuple[int, int]]]:
    draw = random.Random(11)
    amounts = {label: (draw.randint(10**7, 10**10), draw.randint(10**7, 10**10)) for label in LABELS}
    lines = [
        {"id": f"line-{n}", "label": label, "amounts": dict(zip(("a", "b"), map(str, two), strict=True))}
        for n, (label, two) in enumerate(amounts.items())
    ]
    columns = [{"id": "a", "label": "2025–26"}, {"id": "b", "label": "2024–25"}]
    statement = {"id": "s", "name": "Segments", "title": "Segments", "columns": columns, "lines": lines}
    whole = {"entity": "Lanternfish", "period": "2025–26", "currency": "INR", "statements": [statement]}
    return Pack.model_validate(whole), amounts


PACK, AMOUNTS = pack()
READER = Reader(prove_pack(PACK))


def wrong(read: Proofread) -> list[str]:
    return [f"{each.text}: {each.because[0]}" for each in read.numbers if each.says in ("disagrees", "doubt")]


class AlikeLabelsTest(unittest.TestCase):
    def test_sentences_and_tables_that_are_right_agree(self) -> None:
        labels = random.Random(3).sample(LABELS, 60)
        texts = [SENTENCE.format(each, *(amount / 10**7 for amount in AMOUNTS[each])) for each in labels]
        rows = [(each, *(f"{amount:,}" for amount in AMOUNTS[each])) for each in labels]
        blocks: tuple[Block, ...] = (
            *(Paragraph(n, text) for n, text in enumerate(texts)),
            Table(0, (("₹", "2025–26", "2024–25"), *rows)),
        )
        read = READER.proofread(Document("a.txt", "text", blocks))
        self.assertEqual(wrong(read), [])
        self.assertEqual(read.count("agrees") + read.count("rounds"), 240)

    def test_the_next_version_is_judged_as_if_it_were_the_first(self) -> None:
        labels = random.Random(5).sample(LABELS, 20)
        texts = [SENTENCE.format(each, *(amount / 10**7 for amount in AMOUNTS[each])) for each in labels]
        rows = (("₹", "2025–26"), *((each, f"{AMOUNTS[each][0]:,}") for each in labels[:5]))
        first: list[Block] = [*(Paragraph(n, text) for n, text in enumerate(texts)), Table(0, rows)]
        reader = Reader(READER.pack_proof)
        reader.proofread(Document("a.txt", "text", tuple(first)))
        edited = texts[10:] + texts[:9] + [texts[9].replace("crore", "lakh", 1)]
        other = (("₹", "2025–26"), (labels[6], "1"))
        second: list[Block] = [
            Table(0, other),
            *(Paragraph(n, text, page=2) for n, text in enumerate(edited)),
            Table(1, rows, page=3),
        ]
        document = Document("b.txt", "text", tuple(second))
        for later in (reader, reader.after(prove_pack(PACK))):
            read, fresh = later.proofread(document), Reader(READER.pack_proof).proofread(document)
            self.assertEqual((read.numbers, read.sums), (fresh.numbers, fresh.sums))

    def test_the_figure_of_a_wrong_number_is_that_of_its_line(self) -> None:
        label = "Island levies south"
        now, before = AMOUNTS[label]
        text = SENTENCE.format(label, now / 10**7 * 1.04, before / 10**7)
        read = READER.proofread(Document("a.txt", "text", (Paragraph(0, text),)))
        (one,) = [each for each in read.numbers if each.says == "disagrees"]
        self.assertEqual(one.figure, ("s", f"line-{LABELS.index(label)}", "a"))


if __name__ == "__main__":
    unittest.main()
