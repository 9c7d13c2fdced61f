"""The figures of a statement as records: one each, all of its facts as text."""

from __future__ import annotations

import json
from collections.abc import Iterator
from decimal import Decimal

from humble_sum.core.amounts import amount_text
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.proof.trace import trace
from humble_sum.core.statements.pack import Pack

RECORD_FIELDS = (
    *("entity", "edition", "period", "statement", "line", "label", "kind", "column", "head"),
    *("exact", "printed", "units", "exponent", "own_rounding", "drift", "nudged", "held", "trace"),
)


def figure_records(pack: Pack, proof: Proof) -> Iterator[dict[str, str]]:
    """A record for each figure, in page order. `exact` is in ones; `units` and `own_rounding` count units of
    10**`exponent`, and `drift` is in units. What a figure has not is empty."""
    statement = proof.statement
    heads = {column.id: head for column, head in zip(statement.columns, proof.heads, strict=True)}
    for line in statement.figured:
        for column in statement.columns:
            figure = proof.figures[line.id, column.id]
            yield {
                "entity": pack.entity,
                "edition": pack.edition_name(pack.shown),
                "period": pack.period,
                "statement": statement.id,
                "line": line.id,
                "label": line.label,
                "kind": line.kind,
                "column": column.id,
                "head": heads[column.id],
                "exact": _amount(figure.exact),
                "printed": figure.printed.full_text,
                **_rounding(figure),
                "nudged": figure.nudge.reason if figure.nudge and figure.moved else "",
                "held": (figure.held.reason or "held") if figure.held else "",
                "trace": " → ".join(f"{step.name}: {step.value}" for step in trace(figure)),
            }


def write_records(pack: Pack, proof: Proof) -> bytes:
    """The records as JSON (RFC 8259), with amounts as text, so that nobody reads binary ones."""
    text = json.dumps(list(figure_records(pack, proof)), ensure_ascii=False, indent=1)
    return f"{text}\n".encode()


def _rounding(figure: Figure) -> dict[str, str]:
    if figure.units is None:
        return dict.fromkeys(("units", "exponent", "own_rounding", "drift"), "")
    return {
        "units": str(figure.units),
        "exponent": str(figure.exponent),
        "own_rounding": str(figure.own_rounding),
        "drift": _amount(figure.drift),
    }


def _amount(amount: Decimal | None) -> str:
    return "" if amount is None else amount_text(amount)
