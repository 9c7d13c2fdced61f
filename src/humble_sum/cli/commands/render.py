"""The command that writes statements and dashboards. What it does is imported when it runs."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Annotated

import typer

from humble_sum.cli.files import write_file
from humble_sum.cli.options import EditionOption, PackArgument, RuleOption, StatementOption
from humble_sum.core.errors import Fault, InputError
from humble_sum.exchange.formats import FORMATS, OF_DASHBOARDS, OF_STATEMENTS

RENDERED = {**OF_STATEMENTS, "xbrl": FORMATS["xbrl"], **OF_DASHBOARDS}


def render(
    pack: PackArgument,
    to: Annotated[
        str,
        typer.Option(help=f"The format: {', '.join(RENDERED)}."),
    ] = "html",
    statement: StatementOption = None,
    edition: EditionOption = None,
    place: Annotated[
        str | None, typer.Option(help="A dashboard in place of a statement, or one chart: DASHBOARD/ITEM.")
    ] = None,
    rule: RuleOption = None,
    out: Annotated[
        Path | None, typer.Option(help="The file, or with --all the folder. Otherwise standard output.")
    ] = None,
    every: Annotated[
        bool, typer.Option("--all", help="Every statement and dashboard of the edition, in every format.")
    ] = False,
) -> None:
    """Write a statement or a dashboard as a file, as printed; or all of an edition into a folder."""
    from humble_sum.cli.rendered_files import render_all, rendered

    if every:
        if out is None or statement or place:
            what = "--all writes everything into a folder."
            raise InputError("no-such-format", Fault("--all", what, "Name the folder with --out, alone."))
        for written in render_all(pack, edition, rule, out):
            print(written)
        return
    data = rendered(pack, to, statement, edition, place, rule)
    if out is not None:
        write_file(out, data)
    elif FORMATS[to].binary and sys.stdout.isatty():
        raise InputError(
            "no-terminal",
            Fault("--out", "This format cannot be printed to a terminal.", "Name a file with --out."),
        )
    else:
        sys.stdout.buffer.write(data)
