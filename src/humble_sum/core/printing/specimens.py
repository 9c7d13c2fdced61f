"""Specimens: sample amounts of each awkward sort, printed under the rule in hand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import scaled
from humble_sum.core.printing.figure import exact_text, print_amount
from humble_sum.core.printing.resolved_clauses import ResolvedClauses

# In units of the rule, so that each stays the sort it is at every scale.
IN_UNITS = {
    "large": Decimal("1234567.3"),
    "negative": Decimal("-2770.4"),
    "tie": Decimal("2.5"),
    "rounds away": Decimal("-0.2"),
    "zero": Decimal(0),
}


@dataclass(frozen=True)
class Specimen:
    """A sample: what sort it is, its exact amount as text, and how it prints."""

    sort: str
    amount: Decimal | None
    exact: str
    text: str


OWN = "yours"


def specimens(clauses: ResolvedClauses, own: Sequence[Decimal] = ()) -> list[Specimen]:
    """The built-in specimens under these clauses, and then the user's own amounts."""
    found = []
    for sort, units in IN_UNITS.items():
        amount = scaled(units, clauses.exponent)
        found.append(
            Specimen(sort, amount, exact_text(amount, clauses), print_amount(amount, clauses).full_text)
        )
    found.append(Specimen("missing", None, "", print_amount(None, clauses).text))
    found += [
        Specimen(OWN, each, exact_text(each, clauses), print_amount(each, clauses).full_text) for each in own
    ]
    return found
