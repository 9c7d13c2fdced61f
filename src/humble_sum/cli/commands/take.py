"""humble-sum take: figures from files. What it does is imported when it runs."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from humble_sum.cli.exit_codes import FOUND


def take(
    files: Annotated[
        list[str],
        typer.Argument(
            metavar="FILE...",
            help="Workbooks, CSV or TSV, or JSON records; or the address of a database, such as "
            "postgresql://host/name, with --query. Passwords come from the environment (PGPASSWORD).",
        ),
    ],
    as_pack: Annotated[
        Path | None, typer.Option("--as", help="Write what was read as this pack file.")
    ] = None,
    convention: Annotated[
        list[str] | None,
        typer.Option(
            help="Read every column so: point (1,234.5), comma (1.234,5) or arabic; or one column, by "
            "its heading or letter: C=comma. Can be repeated."
        ),
    ] = None,
    into: Annotated[
        Path | None,
        typer.Option(help="Bring the figures into the layout of this pack file, as its next period."),
    ] = None,
    restate: Annotated[
        bool, typer.Option("--restate", help="With --into: take restated comparatives, not published ones.")
    ] = False,
    entity: Annotated[
        str | None, typer.Option(help="Whose statements they are.", show_default="Entity")
    ] = None,
    period: Annotated[str, typer.Option(help="The period they cover.")] = "Period",
    currency: Annotated[str | None, typer.Option(help="ISO 4217 code, where the cells do not say.")] = None,
    unit: Annotated[
        str | None,
        typer.Option(help="The unit of the amounts, over what the source says: ones, thousands, lakhs, …"),
    ] = None,
    decisions: Annotated[Path | None, typer.Option(help="Use this file of decisions.")] = None,
    decisions_out: Annotated[
        Path | None, typer.Option(help="Write the decisions to this file, for next month.")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Answer in JSON.")] = False,
    quiet: Annotated[bool, typer.Option("--quiet", help="Print only the questions.")] = False,
    query: Annotated[
        str, typer.Option(help="Of an SQLite file or a database, the result of this SELECT.")
    ] = "",
) -> None:
    """Take figures in from files: say what was read and how, and write it as a pack.

    Amounts are kept in ones, by the unit that the source states. Each column's number convention is found
    from its cells. Formulas become sums; where there are only values, sums are found from the figures, each
    with its evidence. What a careful colleague would ask is asked. Exit code 1 says that something is asked,
    or that a total does not foot in its source. The answers go in a file of decisions. Nothing is written
    without --as.

    With --into, the figures go into a pack's layout by line code, then label: what came, went and
    moved is listed, and last period's printed figures stand beside the new ones as published.
    """
    from humble_sum.cli.draft_report import Wanted, take_in

    wanted = Wanted(
        files,
        as_pack,
        convention or [],
        into,
        restate,
        entity,
        period,
        _currency(currency),
        unit,
        decisions,
        decisions_out,
        as_json,
        quiet,
        query,
    )
    if take_in(wanted):
        raise typer.Exit(FOUND)


def _currency(code: str | None) -> str | None:
    from humble_sum.core.printing.clauses import read_clauses

    return None if code is None else read_clauses({"currency": code}).currency
