"""The demo as a group: Lanternfish's twelve small entities, and a parent that quotes them."""

from __future__ import annotations

import random
from decimal import Decimal
from typing import Any

from humble_sum.core.statements.pack import Pack
from humble_sum.records.database import Database
from humble_sum.records.pack_rows import add_pack, pack_rows

ENTITIES = (
    "Outer Isles Line",
    "Lantern Sound Line",
    "Kelp Point Pier",
    "Grey Heron Freight",
    "Saltmarsh Yard",
    "Winter Relief Trust",
    "Tern Chandlery",
    "Moonrise Cruises",
    "Harbour Kitchens",
    "Island Mail Boats",
    "Beacon Training",
)
PARENT, PERIOD = "Lanternfish Group", "Year to 31 March 2026"
COLUMNS = [{"id": "y26", "label": "2025–26"}, {"id": "y25", "label": "2024–25"}]
INCOMES, COSTS = ("Fares", "Freight", "Other income"), ("Fuel", "Crew", "Upkeep", "Rent of piers")
STATEMENT = "income-statement"
LAKHS = {"scale": "lakhs", "negative": "brackets"}
# What the parent's note says otherwise than the entity's own pack does, in rupees.
PLANTED = {"Outer Isles Line": Decimal(100_000), "Saltmarsh Yard": Decimal(-250_000)}


def group_packs() -> list[Pack]:
    """The packs of the group, the parent first; the same every time."""
    draw = random.Random(2026)
    own = [_entity(name, draw) for name in ENTITIES]
    return [_parent(own), *own]


def ensure_group(database: Database) -> None:
    """Keep the group in a database, but for packs that are there already."""
    with database.writing() as session:
        have = {(row.entity, row.period) for row in pack_rows(session)}
        for pack in group_packs():
            if (pack.entity, pack.period) not in have:
                add_pack(session, pack)


def _entity(name: str, draw: random.Random) -> Pack:
    def amounts(low: int, high: int, sign: int = 1) -> dict[str, str]:
        return {each["id"]: str(sign * Decimal(draw.randint(low, high)) / 100) for each in COLUMNS}

    lines: list[dict[str, Any]] = [{"id": "income", "label": "Income", "kind": "heading"}]
    lines += [_line(label, amounts(10**8, 9 * 10**9)) for label in INCOMES]
    lines.append(_total("total", "Total income", [_id(label) for label in INCOMES]))
    lines.append({"id": "costs", "label": "Costs", "kind": "heading"})
    lines += [_line(label, amounts(10**7, 3 * 10**9, -1)) for label in COSTS]
    lines.append(_total("spent", "Total costs", [_id(label) for label in COSTS]))
    lines.append(_total("surplus", "Surplus for the year", ["total", "spent"]))
    return _pack(name, "INR", "Income", lines)


def _parent(own: list[Pack]) -> Pack:
    lines: list[dict[str, Any]] = []
    taken: list[dict[str, Any]] = []
    for pack in own:
        statement = pack.statements[0]
        parts = [line for line in statement.lines if line.label in INCOMES]
        sums = {
            column["id"]: sum((line.amounts[column["id"]] or Decimal(0) for line in parts), Decimal(0))
            for column in COLUMNS
        }
        sums["y26"] += PLANTED.get(pack.entity, Decimal(0))
        lines.append(_line(pack.entity, {id: str(amount) for id, amount in sums.items()}))
        taken += [_taken(pack, id, amount) for id, amount in sums.items()]
    lines.append(_total("total", "Income of the group", [line["id"] for line in lines]))
    return _pack(PARENT, "INR", "Note 5: income by entity", lines, taken)


def _taken(pack: Pack, column: str, amount: Decimal) -> dict[str, Any]:
    """A figure of the parent's note as it was taken from an entity."""
    source = {"entity": pack.entity, "period": PERIOD, "figure": [STATEMENT, "total", column]}
    return {"figure": [STATEMENT, _id(pack.entity), column], "sources": [source | {"amount": str(amount)}]}


def _pack(
    entity: str,
    currency: str,
    title: str,
    lines: list[dict[str, Any]],
    taken: list[dict[str, Any]] | None = None,
) -> Pack:
    statement = {"id": STATEMENT, "name": title, "title": title, "columns": COLUMNS, "lines": lines}
    rule = {"id": "house", "name": "House rule", "clauses": LAKHS}
    whole = {"entity": entity, "period": PERIOD, "currency": currency, "taken": taken or []}
    return Pack.model_validate({**whole, "statements": [statement], "rulebook": {"rules": [rule]}})


def _line(label: str, amounts: dict[str, str]) -> dict[str, Any]:
    return {"id": _id(label), "label": label, "amounts": amounts}


def _total(id: str, label: str, parts: list[str]) -> dict[str, Any]:
    return {"id": id, "label": label, "kind": "total", "parts": [[part, 1] for part in parts]}


def _id(label: str) -> str:
    return label.lower().replace(" ", "-")
