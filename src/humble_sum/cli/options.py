"""Arguments and options that several commands take."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

PackArgument = Annotated[Path, typer.Argument(metavar="PACK", help="A pack file (JSON).")]
ProblemArgument = Annotated[
    Path, typer.Argument(metavar="FILE", help="A pack file, or a bare footing problem (JSON).")
]
StatementOption = Annotated[
    str | None, typer.Option("--statement", help="Only this statement, by id. Otherwise the first, or all.")
]
EditionOption = Annotated[str | None, typer.Option(help="The edition; otherwise the pack's own.")]
RuleOption = Annotated[
    str | None,
    typer.Option(
        "--rule",
        help='Clauses to print by, over every rule of the pack: JSON such as {"decimals": {"fixed": 1}}, '
        "or a file of it.",
    ),
]
HoldOption = Annotated[
    list[str] | None,
    typer.Option("--hold", help="Hold STATEMENT/LINE/COLUMN at what it prints. Can be repeated."),
]
JsonOption = Annotated[bool, typer.Option("--json", help="Answer in JSON.")]
DataOption = Annotated[
    Path | None,
    typer.Option(help="Where records are kept. Otherwise $HUMBLE_SUM_DATA, or the user's data folder."),
]
StylesOption = Annotated[
    Path | None,
    typer.Option("--house-styles", help="The folder of house styles offered; else one beside the records."),
]
PortOption = Annotated[int, typer.Option(help="The port; 0 picks a free one.")]
HostOption = Annotated[str, typer.Option(help="The address to listen on. Beyond loopback a token is needed.")]
AllowOption = Annotated[
    list[str] | None, typer.Option("--allow", help="A host name it may be asked for by. Can be repeated.")
]
EditorOption = Annotated[
    list[str] | None,
    typer.Option("--editor", help="Who edits, by name: history has it. Beyond loopback; may be given again."),
]
ReviewerOption = Annotated[
    list[str] | None,
    typer.Option("--reviewer", help="Who puts points and signs, by name. Can be repeated."),
]
ReaderOption = Annotated[
    list[str] | None, typer.Option("--reader", help="Who only reads, by name. Can be repeated.")
]
