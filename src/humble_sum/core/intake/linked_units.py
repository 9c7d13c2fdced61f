"""Sheets that state no unit and repeat figures of a sheet that does: its unit is theirs, or their own
formulas would be false."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from humble_sum.core.intake.columns import lay_out
from humble_sum.core.intake.signed_cells import foreign_cell
from humble_sum.core.intake.table import Table
from humble_sum.core.intake.units import Unit


def with_linked_units(tables: Sequence[Table]) -> list[Table]:
    """The tables of one source, those that state no unit with that of the one sheet in a unit whose cells
    their formulas repeat as they stand. Several units leave it open."""
    linked = {n: others for n, table in enumerate(tables) if (others := set(_linked(table)))}
    if not linked:
        return list(tables)
    units = {table.name.casefold(): _unit_of(table) for table in tables}
    made = list(tables)
    for n, names in linked.items():
        if units.get(made[n].name.casefold()) is not None:
            continue
        found = {(u.currency, u.power): (u, name) for name in names if (u := units.get(name)) and u.power}
        if len(found) == 1:
            unit, name = next(iter(found.values()))
            own = next(table.name for table in tables if table.name.casefold() == name)
            made[n] = replace(made[n], linked=replace(unit, said=f"{unit.said} of {own}, which it repeats,"))
    return made


def _linked(table: Table) -> Iterator[str]:
    """The sheets whose cells a table's formulas repeat."""
    for row in table.rows:
        for cell in row:
            if cell.formula is not None and (named := foreign_cell(cell.formula)):
                yield named[0].casefold()


def _unit_of(table: Table) -> Unit | None:
    """The one unit that a table states."""
    layout = lay_out(table)
    stated = [column.unit.over(layout.unit) if column.unit else layout.unit for column in layout.figures]
    found = {(unit.currency, unit.power): unit for unit in stated if unit is not None and unit.power}
    return next(iter(found.values())) if len(found) == 1 else None
