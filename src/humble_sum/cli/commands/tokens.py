"""The commands around tokens: add, list, revoke. What they do is imported when they run."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Literal

import typer

from humble_sum.cli.commands.server import data_folder
from humble_sum.cli.options import DataOption

if TYPE_CHECKING:
    from humble_sum.records.database import Database

tokens = typer.Typer(help="Who is let in from other machines.", no_args_is_help=True)


@tokens.command("add")
def add(
    name: Annotated[str, typer.Option("--name", help="Whose it is: history has the name.")],
    role: Annotated[
        Literal["edit", "review", "read"],
        typer.Option("--role", help="What it allows: to change all, to put points and sign, or to read."),
    ] = "read",
    days: Annotated[
        int | None,
        typer.Option("--days", min=1, max=3_650, help="For how many days; else until revoked."),
    ] = None,
    data: DataOption = None,
) -> None:
    """Make a token, also while the server runs. It is told once, and only its digest is kept.

    humble-sum tokens add --name "Asha Rao" --role edit --days 90
    """
    from humble_sum.records.token_rows import add_token

    with _opened(data) as database, database.writing() as session:
        token = add_token(session, name, role, days)
    print(token)
    print(f"{' '.join(name.split())} signs in at the server's address with /enter#{token} behind it.")


@tokens.command("list")
def list_all(data: DataOption = None) -> None:
    """List every token that was made: its number, whose it is, what it allows, and whether it is in use."""
    from humble_sum.records.token_rows import standing_of, tokens_on_record

    with _opened(data) as database, database.reading() as session:
        rows = tokens_on_record(session)
        for row in rows:
            until = f", until {row.expires[:10]}" if row.expires else ""
            print(f"{row.id:>4}  {row.name}  {row.role}  {standing_of(row)}, made {row.made[:10]}{until}")
    if not rows:
        print("There are none. Make one: humble-sum tokens add --name NAME.")


@tokens.command("revoke")
def revoke(
    number: Annotated[int, typer.Argument(help="The number that the list has.")], data: DataOption = None
) -> None:
    """Let a token open nothing any more, also while the server runs. It stays on the list."""
    from humble_sum.records.token_rows import revoke_token

    with _opened(data) as database, database.writing() as session:
        row = revoke_token(session, number)
        print(f"The token of {row.name} opens nothing any more.")


@contextmanager
def _opened(data: Path | None) -> Iterator[Database]:
    """The records of a folder."""
    from humble_sum.records.backup import NAME
    from humble_sum.records.database import Database

    database = Database(data_folder(data) / NAME)
    try:
        yield database
    finally:
        database.close()
