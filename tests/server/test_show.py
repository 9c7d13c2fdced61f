"""Values by themselves over HTTP: every form, every sort, and what is refused."""

from typing import Any

from tests.server.test_server import ServerTest


class ShowTest(ServerTest):
    def shown(self, rule: dict[str, Any], *values: Any) -> Any:
        return self.post("/api/show", {"rule": rule, "values": list(values)})

    def test_each_value_comes_with_its_units_its_sort_and_its_looks(self) -> None:
        rule = {
            "form": "percent",
            "decimals": {"fixed": 1},
            "negative": "brackets",
            "bands": [{"when": {"below": "-0.1"}, "mark": "▼", "tone": "rust"}],
        }
        fall, nothing = self.shown(rule, "-0.1234", None)
        self.assertEqual(
            fall,
            {"text": "▼\xa0(12.3%)", "units": "-123", "exponent": -3, "sort": "amount"}
            | {"mark": "▼", "tone": "rust", "hang": ")", "too_wide": False},
        )
        self.assertEqual((nothing["text"], nothing["units"], nothing["sort"]), ("", None, "missing"))

    def test_dates_times_and_words_are_values_too(self) -> None:
        for rule, value, text in (
            ({"form": "date", "locale": "sv-SE"}, "20260331", "31 mars 2026"),
            ({"form": "time", "locale": "de-DE"}, "1430", "14:30"),
            ({"form": "yes_no", "words": {"yes": "on", "no": "off"}}, "1", "on"),
            ({"form": "text"}, "420.50", "420.50"),
        ):
            with self.subTest(rule["form"]):
                (shown,) = self.shown(rule, value)
                self.assertEqual((shown["text"], shown["units"], shown["sort"]), (text, None, "text"))

    def test_units_longer_than_a_double_come_whole(self) -> None:
        (shown,) = self.shown({"decimals": {"fixed": 2}}, "9" * 40 + ".995")
        self.assertEqual(shown["units"], "1" + "0" * 42)

    def test_bad_values_and_rules_say_where(self) -> None:
        for rule, values, said in (
            ({}, [1.5], "values[0]"),
            ({}, ["1", "about ten"], "values[1]"),
            ({"scale": "dozens"}, ["1"], "scale"),
            ({"decimals": {"fixed": 2, "significant": 3}}, ["1"], "keep one of them"),
            ({"before": "\u202enet"}, ["1"], "before"),
            ({"after": "a\nb"}, ["1"], "after"),
            ({"locale": "not a tag"}, ["1"], "is not a language tag"),
            ({"scale": "fit", "scale_word": "caption"}, ["1"], "say scale_word short or full"),
        ):
            with self.subTest(rule=rule, values=values):
                body = self.post("/api/show", {"rule": rule, "values": values}, 422)
                self.assertIn(said, self.problem(body, "bad-request"))
