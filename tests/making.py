"""Small packs and statements for tests."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Mapping, Sequence
from decimal import Decimal
from pathlib import Path
from typing import Any

from humble_sum.core.intake.decisions import TableDecided
from humble_sum.core.intake.draft import Draft, draft
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook
from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.core.statements.validation import in_place
from humble_sum.exchange.number_codes import codes_of, is_live
from humble_sum.exchange.sources.opening import open_source
from humble_sum.records.demo import demo_pack

CASES = Path(__file__).parent / "cases"


def cases(name: str) -> list[Any]:
    """The solved cases of one file."""
    found = json.loads((CASES / f"{name}.json").read_text(encoding="utf-8"))
    assert isinstance(found, list)
    return found


def rule(id: str, clauses: dict[str, Any], **reach: str) -> Rule:
    return Rule(id=id, name=id, reach=Reach(**reach), clauses=Clauses.model_validate(clauses))


def statement(
    amounts: Mapping[str, Sequence[str | None]],
    totals: Mapping[str, Sequence[str]],
    columns: tuple[str, ...] = ("now", "then"),
    change: bool = False,
    stated: Mapping[str, Sequence[str | None]] | None = None,
) -> Statement:
    """Lines by id with an amount a column, then totals by id with signed parts such as "-b"."""
    given = [Column(id=id, label=id.title()) for id in columns]
    derived = [Column(id="change", label="Change", difference=("now", "then"))] if change else []
    lines = [
        Line.model_validate({"id": id, "label": id.title(), "amounts": dict(zip(columns, row, strict=True))})
        for id, row in amounts.items()
    ]
    for id, parts in totals.items():
        own = dict(zip(columns, (stated or {})[id], strict=True)) if stated and id in stated else {}
        signed = [(part.lstrip("-"), -1 if part.startswith("-") else 1) for part in parts]
        lines.append(
            Line.model_validate(
                {"id": id, "label": id.title(), "kind": "total", "parts": signed, "amounts": own}
            )
        )
    return Statement(id="s", name="S", title="Statement", columns=(*given, *derived), lines=tuple(lines))


def pack(of: Statement, *rules: Rule, **more: Any) -> Pack:
    return Pack(entity="Test", period="Year", statements=(of,), rulebook=Rulebook(rules=rules), **more)


def one_figure(amount: str | None, *rules: Rule) -> Pack:
    """A pack of a single figure at line "a", column "now"."""
    return pack(statement({"a": [amount]}, {}, columns=("now",)), *rules)


def demo_income() -> Pack:
    """The demo pack with its income statement alone."""
    demo = demo_pack()
    alone = demo.model_copy(
        update={"statements": demo.statements[:1], "ties": (), "editions": (), "dashboards": ()}
    )
    rules = tuple(rule for each in demo.rulebook.rules if (rule := in_place(alone, each)))
    return alone.model_copy(update={"rulebook": Rulebook(rules=rules)})


def exact(text: str) -> Decimal:
    return Decimal(text)


def code_of(of: Pack) -> tuple[str, bool]:
    """The number code of a pack's single figure, and whether it is live."""
    proof = prove(of, of.statements[0])
    amounts = {cell: figure.exact for cell, figure in proof.figures.items()}
    code = codes_of(proof, amounts, False, ())["a", "now"]
    return code, is_live(code)


def resolved(clauses: Mapping[str, Any]) -> ResolvedClauses:
    """Clauses in force, each as if it came from a rule of its own."""
    each = {name: getattr(Clauses.model_validate({name: value}), name) for name, value in clauses.items()}
    return ResolvedClauses.of(each)


def drafted(table_rows: Sequence[Sequence[str]], **decided: Any) -> Draft:
    """The draft of a table written as CSV, read as was decided."""
    out = io.StringIO()
    csv.writer(out).writerows(table_rows)
    (table,) = open_source("made.csv", out.getvalue().encode())
    return draft(table, TableDecided.model_validate(decided))
