import unittest
from typing import Any

from humble_sum.core.errors import InputError
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.validation import check


def data(**changes: Any) -> dict[str, Any]:
    """A pack of two lines and their total, as JSON, with some of it changed."""
    lines: list[dict[str, Any]] = [
        {"id": "h", "label": "Heading", "kind": "heading"},
        {"id": "a", "label": "A", "amounts": {"now": "1", "then": "2"}},
        {"id": "b", "label": "B", "amounts": {"now": "3", "then": None}},
        {"id": "t", "label": "T", "kind": "total", "parts": [["a", 1], ["b", 1]]},
    ]
    columns: list[dict[str, Any]] = [
        {"id": "now", "label": "Now"},
        {"id": "then", "label": "Then"},
        {"id": "change", "label": "Change", "difference": ["now", "then"]},
    ]
    for key, change in changes.pop("lines", {}).items():
        lines[key] = lines[key] | change
    lines += changes.pop("more_lines", [])
    columns += changes.pop("more_columns", [])
    statement = {"id": "s", "name": "S", "title": "S", "columns": columns, "lines": lines}
    return {"entity": "E", "period": "P", "statements": [statement]} | changes


class CheckTest(unittest.TestCase):
    def faults(self, **changes: Any) -> list[str]:
        with self.assertRaises(InputError) as caught:
            check(Pack.model_validate(data(**changes)))
        return [str(fault) for fault in caught.exception.faults]

    def test_a_whole_pack_passes(self) -> None:
        check(Pack.model_validate(data()))

    def test_each_fault_names_its_place(self) -> None:
        place = {"statement": "s", "line": "a", "column": "now"}
        nudge = place | {"units": 1, "exponent": 0, "natural": 0}
        rule = {"id": "r", "name": "R", "reach": {"line": "zz"}, "clauses": {}}
        for changes, said in (
            ({"more_lines": [{"id": "a", "label": "again"}]}, 'statements[0].lines[4]: "a" is there twice'),
            ({"more_columns": [{"id": "now", "label": "again"}]}, 'statements[0].columns[3]: "now"'),
            ({"lines": {3: {"parts": [["zz", 1]]}}}, 'lines[3].parts[0]: There is no line "zz"'),
            ({"lines": {3: {"parts": [["h", 1]]}}}, 'lines[3].parts[0]: "h" is a heading'),
            ({"lines": {3: {"parts": []}}}, "lines[3].parts: The total"),
            ({"lines": {3: {"parts": [["a", 1], ["a", 1]]}}}, 'lines[3].parts[1]: "a" is there twice'),
            ({"lines": {1: {"parts": [["b", 1]]}}}, 'lines[1].parts: The line "a" has parts'),
            ({"lines": {0: {"amounts": {"now": "1"}}}}, 'lines[0]: The heading "h" has amounts'),
            ({"lines": {1: {"amounts": {"zz": "1"}}}}, 'lines[1].amounts: There is no column "zz"'),
            ({"lines": {1: {"amounts": {"change": "1"}}}}, "lines[1].amounts.change"),
            (
                {"more_columns": [{"id": "x", "label": "X", "difference": ["zz", "now"]}]},
                'columns[3].difference: There is no column "zz"',
            ),
            (
                {"more_columns": [{"id": "x", "label": "X", "sum": ["now", "zz"]}]},
                'columns[3].sum: There is no column "zz"',
            ),
            (
                {"more_columns": [{"id": "x", "label": "X", "sum": ["now", "now"]}]},
                'columns[3][1]: "now" is there twice',
            ),
            (
                {
                    "more_columns": [
                        {"id": "x", "label": "X", "sum": ["now", "then"], "difference": ["now", "then"]}
                    ]
                },
                'columns[3]: The column "x" is derived in two ways',
            ),
            ({"holds": [place | {"line": "zz"}]}, 'holds[0].line: There is no line "zz"'),
            ({"holds": [place | {"column": "zz"}]}, 'holds[0].column: There is no column "zz"'),
            ({"holds": [place | {"statement": "zz"}]}, 'holds[0].statement: There is no statement "zz"'),
            ({"holds": [place | {"line": "h"}]}, 'holds[0].line: "h" is a heading'),
            ({"holds": [place, place]}, 'holds[1]: "s/a/now" is there twice'),
            ({"nudges": [nudge, nudge]}, "nudges[1]"),
            ({"rulebook": {"rules": [rule]}}, 'rulebook.rules[0].reach.line: There is no line "zz"'),
        ):
            with self.subTest(said=said):
                self.assertTrue(
                    any(said in fault for fault in self.faults(**changes)), self.faults(**changes)
                )

    def test_a_concept_is_of_a_taxonomy_that_is_named(self) -> None:
        ours = [
            {
                "prefix": "coast",
                "namespace": "https://coast.example/1",
                "schema_at": "https://coast.example/1.xsd",
            }
        ]
        tagged = {1: {"concept": "coast:Fares"}}
        check(Pack.model_validate(data(lines=tagged, taxonomies=ours)))
        for taxonomies in ([], [ours[0] | {"prefix": "shore"}]):
            (said,) = self.faults(lines=tagged, taxonomies=taxonomies)
            self.assertIn('lines[1].concept: A: there is no taxonomy with the prefix "coast"', said)

    def test_circular_sums_are_shown_as_a_circle(self) -> None:
        circle = [
            {"id": "x", "label": "X", "kind": "subtotal", "parts": [["y", 1]]},
            {"id": "y", "label": "Y", "kind": "subtotal", "parts": [["x", 1]]},
        ]
        (said,) = self.faults(more_lines=circle)
        self.assertRegex(said, "go round in a circle: (x → y → x|y → x → y)")

    def test_circular_differences_are_refused(self) -> None:
        columns = [
            {"id": "p", "label": "P", "difference": ["q", "now"]},
            {"id": "q", "label": "Q", "difference": ["p", "now"]},
        ]
        self.assertIn("circle", self.faults(more_columns=columns)[0])

    def test_every_fault_is_listed_at_once(self) -> None:
        self.assertEqual(len(self.faults(lines={1: {"amounts": {"x": "1"}}, 3: {"parts": [["y", 1]]}})), 2)
