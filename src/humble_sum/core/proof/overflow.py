"""Ways out for a figure that is wider than its rule allows. It is never cut."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from humble_sum.core.locales import locale
from humble_sum.core.printing.clause_values import POWERS, FixedDecimals, Width
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.scaling import caption_word
from humble_sum.core.proof.figures import Figure


@dataclass(frozen=True)
class Remedy:
    """One clause changed: what it is called, the clause and its value, and how the figure would print."""

    says: str
    clause: str
    value: Any
    text: str


def remedies(figure: Figure) -> list[Remedy]:
    """Changes of one clause after which the figure fits; none where it is not too wide."""
    if not figure.printed.too_wide or figure.exact is None:
        return []
    found: list[Remedy] = []
    for says, changed in _tries(figure.clauses, len(figure.printed.full_text)):
        (clause,) = changed
        after = figure.clauses.at(**changed)
        printed = print_amount(figure.exact, after, money=figure.money, usual_sign=figure.usual_sign)
        if not printed.too_wide and clause not in {each.clause for each in found}:
            value = Clauses.model_validate(changed).spelled()[clause]
            found.append(Remedy(says, clause, value, printed.full_text))
    return found


def _tries(clauses: ResolvedClauses, most: int) -> Iterator[tuple[str, dict[str, Any]]]:
    """Every change worth a try, the least first."""
    assert clauses.width is not None
    for decimal_places in reversed(range(clauses.decimal_places)):
        said = (
            "no decimals"
            if decimal_places == 0
            else f"{decimal_places} decimals"
            if decimal_places > 1
            else "one decimal"
        )
        yield f"Print {said}", {"decimals": FixedDecimals(fixed=decimal_places)}
    if clauses.form in ("amount", "number") and clauses.scale != "fit":
        indian = locale(clauses.locale).grouping == (3, 2)
        for scale, power in POWERS.items():
            if power > clauses.power and (scale in ("lakhs", "crores", "lakh_crores")) == indian:
                yield f"Print in {caption_word(clauses.locale, scale)}", {"scale": scale}
    if clauses.money_shown == "every" and clauses.currency:
        yield "Say the currency in the caption", {"money_shown": "caption"}
    wider = Width(most=most, gives_way=clauses.width.gives_way)
    yield f"Allow {most} characters", {"width": wider}
