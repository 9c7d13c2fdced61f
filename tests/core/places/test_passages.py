"""Passages: their form in files, what follows in them, and figures typed by hand."""

from __future__ import annotations

import unittest
from typing import Any, Literal

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.errors import InputError
from humble_sum.core.places.passage_text import Mark, Unread, read_passage, write_passage
from humble_sum.core.places.passages import Piece, SmallTable, printed_passage, refreshed
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.places.typed_figures import meant_by, typed_figures
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.core.statements.pack import Pack, Statement
from humble_sum.core.statements.placed import Passage
from humble_sum.records.demo import demo_pack

DEMO = demo_pack()
BOARD = prove_pack(in_edition(DEMO, "Board"))
CONTROLS: tuple[Literal["C"]] = ("C",)
SURROGATES: tuple[Literal["Cs"]] = ("Cs",)
IDS = st.from_regex(r"[A-Za-z0-9][A-Za-z0-9_.-]{0,8}", fullmatch=True)
REFS = st.tuples(IDS, IDS, IDS).map(":".join)
PRINTS = st.text(st.characters(exclude_characters="{}\n|!", exclude_categories=CONTROLS), max_size=12)
MARKS = st.one_of(
    st.tuples(REFS, PRINTS).map(lambda m: f"{{{m[0]} | {m[1].strip()}}}"),
    st.tuples(REFS, REFS).map(lambda m: f"{{change_percent {m[0]} {m[1]}}}"),
    st.tuples(REFS, PRINTS).map(lambda m: f"{{{m[0]} ! {m[1].strip()}}}"),
    REFS.map(lambda ref: f"{{word rose/fell/stood still {ref} | rose}}"),
    REFS.map(lambda ref: f"{{label {ref}}}"),
)
TEXT = st.text(st.characters(exclude_categories=SURROGATES), max_size=30)


def printed(text: str, **more: Any) -> list[Any]:
    passage = Passage(kind="passage", id="p", label="P", text=text, **more)
    return printed_passage(passage, BOARD, Placer(BOARD, "passage"))


def said(text: str, **more: Any) -> list[str]:
    return ["".join(piece.text for piece in block) for block in printed(text, **more)]


def judged(text: str) -> list[Piece]:
    return [piece for block in printed(text) for piece in block if piece.agrees is not None]


def direction(line: str, now: int, before: int) -> str:
    """The word for a line of costs alone, or for the result of them and of revenue."""
    lines = [
        {"id": "rev", "label": "Revenue", "amounts": {"a": 1, "b": 1}},
        {"id": "tax", "label": "Tax", "amounts": {"a": now - 1, "b": before - 1}},
        {"id": "result", "label": "Result", "kind": "total", "parts": [["rev", 1], ["tax", 1]]},
    ]
    columns = [{"id": "a", "label": "A"}, {"id": "b", "label": "B"}]
    statement = {"id": "s", "name": "S", "title": "S", "columns": columns, "lines": lines}
    statements = (Statement.model_validate(statement),)
    pack_proof = prove_pack(Pack(entity="E", period="P", currency="INR", statements=statements))
    text = f"{{word rose/fell s:{line}:a s:{line}:b}}"
    passage = Passage(kind="passage", id="p", label="P", text=text)
    (block,) = printed_passage(passage, pack_proof, Placer(pack_proof, "passage"))
    assert isinstance(block, list)
    return block[0].text


class FormTest(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.one_of(TEXT, MARKS), max_size=8).map("".join))
    def test_reading_never_raises_and_what_is_written_reads_back(self, text: str) -> None:
        read = read_passage(text)
        again = read_passage(write_passage(read))
        self.assertEqual(again, [runs for runs in read if runs])

    def test_marks_say_what_they_show(self) -> None:
        ((figure, _, change, _, word),) = read_passage(
            "{income:net:y26 | ₹4.1 crore} {change_percent income:net:y26 income:net:y25 printed} "
            "{word rose/fell income:net:y26 | rose}"
        )
        assert isinstance(figure, Mark) and isinstance(change, Mark) and isinstance(word, Mark)
        assert figure.shows and change.shows
        self.assertEqual((figure.shows.figure, figure.last), (("income", "net", "y26"), "₹4.1 crore"))
        self.assertEqual((change.shows.measure, change.shows.printed), ("change_percent", True))
        self.assertEqual(word.choices, ("rose", "fell"))

    def test_braces_are_doubled_and_what_is_no_mark_stays(self) -> None:
        self.assertEqual(said("a {{b}} {not a mark} c"), ["a {b} {not a mark} c"])
        (piece,) = judged("x {not a mark}")
        self.assertEqual((piece.agrees and piece.agrees.standing), "disagrees")
        self.assertIsInstance(read_passage("{word rose income:net:y26}")[0][0], Unread)


class FollowingTest(unittest.TestCase):
    def test_a_cost_that_grows_has_risen_and_what_prints_the_same_has_not_moved(self) -> None:
        words = "rose/fell/stood still"
        for line, word in {"costs": "rose", "fuel": "fell", "rev": "rose", "fin": "fell"}.items():
            self.assertEqual(said(f"{{word {words} income:{line}:y26 income:{line}:y25}}"), [word], line)
        for line, amounts, word in (("tax", (-8, -5), "rose"), ("result", (-8, -5), "fell")):
            self.assertEqual(direction(line, *amounts), word, "a loss is no cost")
        # In crores with one decimal the amounts of both years print alike, and they are not alike.
        alike = [
            line.id
            for line in DEMO.statements[0].figured
            if said(f"{{income:{line.id}:y26}}") == said(f"{{income:{line.id}:y25}}")
        ]
        self.assertTrue(alike)
        for line in alike:
            self.assertEqual(said(f"{{word {words} income:{line}:y26 income:{line}:y25}}"), ["stood still"])

    def test_figures_words_and_labels_follow(self) -> None:
        text = (
            "{label income:int:y26} {word rose/fell/stood still income:int:y26 income:int:y25} to "
            "{income:int:y26}, {income:mail:y26} from {label income:mail:y26} "
            "{word rose/fell/stood still income:mail:y26 income:mail:y25}."
        )
        self.assertEqual(
            said(text),
            ["Interest on deposits fell to nil, ₹1.2\u202fcrore from Island mail contract stood still."],
        )

    def test_what_is_gone_stands_with_its_last_print_and_disagrees(self) -> None:
        (piece,) = judged("It was {income:none:y26 | ₹7 crore}.")
        self.assertEqual((piece.text, piece.agrees and piece.agrees.off), ("₹7 crore", "gone"))

    def test_a_passage_is_repeated_over_lines(self) -> None:
        found = said(
            "{label routes:*:year} took {share routes:*:year routes:routes:year}.", over=("outer", "kelp")
        )
        self.assertEqual(found, ["Outer Isles took 34.5%.", "Kelp Point took 17.6%."])
        by_year = said("{column income:net:*} ended with {income:net:*}.", over=("y26", "y25"))
        self.assertEqual(
            by_year, ["2025–26 ended with ₹4.1\u202fcrore.", "2024–25 ended with ₹3.0\u202fcrore."]
        )

    def test_a_small_table_of_lines(self) -> None:
        (table,) = printed("{table income rev,net,none y26,y25}")
        assert isinstance(table, SmallTable)
        self.assertEqual(table.heads, ("2025–26", "2024–25"))
        self.assertEqual(
            [label for label, _ in table.rows], ["Revenue from crossings", "Surplus for the year"]
        )
        self.assertIn("none", table.gone)

    def test_kept_text_has_the_last_prints(self) -> None:
        passage = Passage(
            kind="passage", id="p", label="P", text="{income:rev:y26 | old} and {income:none:y26 | x}"
        )
        self.assertEqual(
            refreshed(passage, BOARD).text, "{income:rev:y26 | ₹33.4\u202fcrore} and {income:none:y26 | x}"
        )

    def test_html_is_text(self) -> None:
        self.assertEqual(said("<script>alert(1)</script>"), ["<script>alert(1)</script>"])


class TypedTest(unittest.TestCase):
    def test_figures_are_told_from_years_days_and_counts(self) -> None:
        text = (
            "On 31 March 2026, 18 sailings took ₹4.14 crore, 6.4%, 1,23,456 and Rs 12 lakh; see note 3.2 of IFRS 15, "
            "10.5 per cent, model A320, 24x7."
        )
        self.assertEqual(
            [each.text for each in typed_figures(text)],
            ["₹4.14 crore", "6.4%", "1,23,456", "Rs 12 lakh", "3.2", "10.5 per cent"],
        )

    def test_amounts_and_last_digits_are_exact(self) -> None:
        (typed,) = typed_figures("₹4.14 crore")
        self.assertEqual((int(typed.amount), typed.exponent), (41_400_000, 5))
        (percent,) = typed_figures("12.50%")
        self.assertEqual((percent.amount.normalize().as_tuple().exponent, percent.exponent), (-3, -4))

    def test_the_figure_it_is_meant_for_is_found_by_name_and_nearness(self) -> None:
        text = "The surplus for the year was 4.14 crore."
        (typed,) = typed_figures(text)
        meant = meant_by(typed, text[: typed.start], BOARD)
        self.assertEqual((meant[0].figure, meant[0].prints), (("income", "net", "y26"), False))

    def test_typed_text_is_judged_and_can_be_made_to_follow(self) -> None:
        cases = {
            "{income:net:y26 ! ₹4.14 crore}": ("disagrees", "off by 0.01"),
            "{income:net:y26 ! ₹4.13 crore}": ("agrees", ""),
            "{income:net:y26 ! a loss}": ("disagrees", "typed differently"),
            "The surplus of ₹4.14 crore": ("disagrees", "off by 0.01"),
            "The surplus of ₹4.13 crore": ("agrees", ""),
            "A grant of ₹9.99 crore": ("agrees", ""),
        }
        for text, expected in cases.items():
            (piece,) = judged(text)
            assert piece.agrees is not None
            self.assertEqual((piece.agrees.standing, piece.agrees.off), expected, text)

    def test_in_one_step_it_follows(self) -> None:
        pack = written(DEMO, "Now {{here}} the surplus of ₹4.14 crore is kept.")
        (piece,) = judged("Now {{here}} the surplus of ₹4.14 crore is kept.")
        assert piece.within is not None
        follow = {"kind": "follow_figure", "dashboard": "board", "item": "note", "paragraph": 0, "run": 0}
        made = apply(
            prove_pack(pack),
            read_change(follow | {"within": list(piece.within), "figure": list(piece.meant[0])}),
        )
        item = made.pack.dashboards[0].items[-1]
        assert isinstance(item, Passage)
        self.assertEqual(item.text, "Now {{here}} the surplus of {income:net:y26 | ₹4.1\u202fcrore} is kept.")
        with self.assertRaises(InputError):
            apply(prove_pack(pack), read_change(follow | {"run": 9}))


def written(pack: Pack, text: str) -> Pack:
    said = {"kind": "write_passage", "dashboard": "board", "item": "note", "text": text}
    return apply(prove_pack(pack), read_change(said)).pack
