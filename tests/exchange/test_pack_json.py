import json
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.errors import InputError
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.exact_json import MOST_BYTES
from humble_sum.exchange.pack_json import read_pack, write_pack
from humble_sum.records.demo import demo_pack
from tests.making import pack, rule, statement

labels = st.text(
    st.characters(codec="utf-8", exclude_categories=["Cs", "Cc"], exclude_characters="\ufffe\uffff"),
    min_size=1,
    max_size=20,
)
amounts = st.one_of(
    st.none(),
    st.decimals(allow_nan=False, allow_infinity=False, places=4, min_value=-(10**30), max_value=10**30).map(
        str
    ),
)


def demo_data(**changes: Any) -> dict[str, Any]:
    data = json.loads(write_pack(demo_pack()))
    assert isinstance(data, dict)
    return data | changes


class RoundTripTest(unittest.TestCase):
    @settings(max_examples=50)
    @given(labels, amounts, amounts, st.integers(-(10**30), 10**30))
    def test_what_is_written_reads_back_equal(
        self, label: str, a: str | None, b: str | None, units: int
    ) -> None:
        of = statement({"a": [a, b]}, {"t": ["-a"]}, change=True)
        place = {"statement": "s", "line": "a", "column": "now"}
        made = pack(
            of,
            rule("house", {"currency": None, "zero": {"word": "nil"}, "decimals": "currency"}),
            rule("line", {"scale": "ones"}, line="a", column="now"),
            holds=(Hold.model_validate(place | {"printed": "12.50", "reason": label}),),
            nudges=(Nudge.model_validate(place | {"units": units, "exponent": -2, "natural": units}),),
        ).model_copy(update={"entity": label})
        self.assertEqual(read_pack(write_pack(made)), made)

    def test_a_byte_order_mark_is_no_matter(self) -> None:
        self.assertEqual(read_pack(b"\xef\xbb\xbf" + write_pack(demo_pack())), demo_pack())


class BadFileTest(unittest.TestCase):
    def refused(self, data: bytes | dict[str, Any], kind: str) -> str:
        raw = data if isinstance(data, bytes) else json.dumps(data).encode()
        with self.assertRaises(InputError) as caught:
            read_pack(raw)
        self.assertEqual(caught.exception.kind, kind)
        return str(caught.exception)

    def test_what_is_not_json_says_where(self) -> None:
        self.assertIn("line 2, column 4", self.refused(b'{\n "a" oops}'.replace(b' "a"', b"  "), "not-json"))
        self.assertIn("byte 1", self.refused(b'"\xff"', "not-json"))
        self.assertIn("nested", self.refused(b"[" * 100_000, "not-json"))
        self.refused(b"", "not-json")

    def test_another_kind_or_version_is_named(self) -> None:
        self.assertIn('"ledger"', self.refused({"kind": "ledger"}, "not-a-pack"))
        for data in (b"[]", b"3", b"null", b'{"kind": 3}'):
            self.refused(data, "not-a-pack")
        self.assertIn("version 2", self.refused(demo_data(version=2), "other-version"))
        self.refused(demo_data(version="1"), "other-version")

    def test_a_file_over_the_limit_is_refused_before_it_is_read(self) -> None:
        self.assertIn("32 MiB", self.refused(b" " * (MOST_BYTES + 1), "too-large"))

    def test_amounts_that_are_not_decimal_text_name_their_cell(self) -> None:
        values: tuple[Any, ...] = ("NaN", "1e400000", "twelve", "1,234", "", True, [], 12, 12.5, 10**200)
        for value in values:
            data = demo_data()
            data["statements"][0]["lines"][1]["amounts"]["y26"] = value
            with self.subTest(value=value):
                self.assertIn("statements[0].lines[1].amounts.y26", self.refused(data, "bad-pack"))

    def test_bare_nan_and_huge_numbers_in_json_are_refused_and_not_crashed_on(self) -> None:
        text = json.dumps(demo_data())
        for number in ("NaN", "Infinity", "1e400000", "9" * 5000):
            raw = text.replace('"184374651.40"', number).encode()
            with self.subTest(number=number[:9]):
                self.assertIn("lines[1].amounts.y26", self.refused(raw, "bad-pack"))

    def test_names_not_known_are_refused_at_their_place(self) -> None:
        data = demo_data()
        data["statements"][0]["lines"][1]["colour"] = "red"
        data["rulebook"]["rules"][0]["clauses"]["scale"] = "lacs"
        said = self.refused(data, "bad-pack")
        self.assertIn("statements[0].lines[1].colour", said)
        self.assertIn("rulebook.rules[0].clauses.scale: 'lacs' is not a value of scale", said)

    def test_structure_is_checked_too(self) -> None:
        data = demo_data()
        data["statements"][0]["lines"][2]["id"] = "fares"
        self.assertIn('"fares" is there twice', self.refused(data, "bad-pack"))

    def test_a_pack_whose_sums_do_not_add_is_taken(self) -> None:
        data = demo_data()
        costs = next(line for line in data["statements"][0]["lines"] if line["id"] == "costs")
        costs["amounts"] = {"y26": "-277037049.76"}
        self.assertIsInstance(read_pack(json.dumps(data).encode()), Pack)
