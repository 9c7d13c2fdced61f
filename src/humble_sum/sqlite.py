"""House rules as functions of a SQLite database: amounts are printed where they lie.

connection = sqlite3.connect("ledger.sqlite")
register(connection, rule={"scale": "lakhs", "negative": "brackets"})
connection.execute("SELECT account, as_printed(amount) FROM balances")
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from humble_sum.core.amounts import read_amount
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.resolved_clauses import ResolvedClauses

MOST_RULES = 256


def register(connection: sqlite3.Connection, rule: Mapping[str, Any] | None = None) -> None:
    """Give a connection `as_printed(amount)`, by a rule, and `as_printed(amount, rule)`, by one as JSON.

    Amounts are text or whole numbers; NULL prints as missing. A REAL is refused, since its decimal digits
    are not its owner's: keep amounts as text. Raises InputError where the rule cannot be read; the function
    itself fails the statement that calls it.
    """
    own = ResolvedClauses.of(read_clauses(dict(rule or {})).named())

    def printed(amount: object, said: str | None = None) -> str:
        clauses = own if said is None else _resolved(said)
        return print_amount(None if amount is None else read_amount(amount), clauses).full_text

    connection.create_function("as_printed", 1, printed, deterministic=True)
    connection.create_function("as_printed", 2, printed, deterministic=True)


@lru_cache(maxsize=MOST_RULES)
def _resolved(rule: str) -> ResolvedClauses:
    return ResolvedClauses.of(read_clauses(json.loads(rule)).named())
