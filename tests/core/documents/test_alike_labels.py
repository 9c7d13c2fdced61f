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

    def test_the_figure_of_a_wrong_number_is_that_of_its_line(self) -> None:
        label = "Island levies south"
        now, before = AMOUNTS[label]
        text = SENTENCE.format(label, now / 10**7 * 1.04, before / 10**7)
        read = READER.proofread(Document("a.txt", "text", (Paragraph(0, text),)))
        (one,) = [each for each in read.numbers if each.says == "disagrees"]
        self.assertEqual(one.figure, ("s", f"line-{LABELS.index(label)}", "a"))


if __name__ == "__main__":
    unittest.main()
