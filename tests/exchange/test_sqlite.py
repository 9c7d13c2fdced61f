"""Amounts printed inside SQLite by the same rules as anywhere."""

from __future__ import annotations

import json
import sqlite3
import unittest

from hypothesis import given
from hypothesis import strategies as st

from humble_sum import show
from humble_sum.core.errors import InputError
from humble_sum.sqlite import register

RULE = {"scale": "lakhs", "negative": "brackets", "locale": "en-IN", "missing": {"word": "n/a"}}


class SqliteTest(unittest.TestCase):
    def printed(self, sql: str, *values: object) -> object:
        connection = sqlite3.connect(":memory:")
        self.addCleanup(connection.close)
        register(connection, RULE)
        return connection.execute(sql, values).fetchone()[0]

    @given(
        st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**12), max_value=10**12, places=2)
    )
    def test_a_query_prints_as_the_program_does(self, amount: object) -> None:
        text = f"{amount:f}"
        (shown,) = show([text], RULE)
        self.assertEqual(self.printed("SELECT as_printed(?)", text), shown.text)

    def test_rules_of_their_own_missing_and_whole_numbers(self) -> None:
        other = json.dumps({"decimals": {"fixed": 1}, "negative": "minus"})
        self.assertEqual(self.printed("SELECT as_printed(NULL)"), "n/a")
        self.assertEqual(self.printed("SELECT as_printed(-25, ?)", other), "−25.0")
        connection = sqlite3.connect(":memory:")
        self.addCleanup(connection.close)
        register(connection)
        connection.execute("CREATE TABLE t (a TEXT)")
        connection.executemany("INSERT INTO t VALUES (?)", [("1234567.5",), ("-3",)])
        rows = [row for (row,) in connection.execute("SELECT as_printed(a) FROM t")]
        self.assertEqual(rows, [each.text for each in show(["1234567.5", "-3"], {})])

    def test_a_binary_number_and_a_bad_rule_fail_the_query(self) -> None:
        for sql in (
            "SELECT as_printed(0.1)",
            "SELECT as_printed('x')",
            "SELECT as_printed(1, '{\"scale\": 1}')",
        ):
            with self.assertRaises(sqlite3.OperationalError):
                self.printed(sql)
        with self.assertRaises(InputError):
            register(sqlite3.connect(":memory:"), {"scale": "dozens"})


if __name__ == "__main__":
    unittest.main()
