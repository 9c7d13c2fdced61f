"""The commands around records and their server. What they do is imported when they run."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Annotated

import typer

from humble_sum.cli.exit_codes import FOUND
from humble_sum.cli.options import (
    AllowOption,
    DataOption,
    EditorOption,
    HostOption,
    PortOption,
    ReaderOption,
    ReviewerOption,
    StylesOption,
)


def demo(
    data: DataOption = None,
    host: HostOption = "127.0.0.1",
    port: PortOption = 8440,
    allow: AllowOption = None,
    editor: EditorOption = None,
    reviewer: ReviewerOption = None,
    reader: ReaderOption = None,
    house_styles: StylesOption = None,
    group: Annotated[
        bool, typer.Option("--group", help="Bring Lanternfish's other entities too, as a group of twelve.")
    ] = False,
) -> None:
    """Start with the demo pack, Lanternfish Ferries, and print the address."""
    from humble_sum.cli.serve import people_of, serve_records

    people = people_of(editor, reviewer, reader)
    serve_records(
        data_folder(data),
        host,
        port,
        with_demo=True,
        with_group=group,
        allowed=allow or (),
        people=people,
        styles=house_styles,
    )


def serve(
    data: DataOption = None,
    host: HostOption = "127.0.0.1",
    port: PortOption = 8440,
    allow: AllowOption = None,
    editor: EditorOption = None,
    reviewer: ReviewerOption = None,
    reader: ReaderOption = None,
    house_styles: StylesOption = None,
) -> None:
    """Start with the records that are there, and print the address."""
    from humble_sum.cli.serve import people_of, serve_records

    people = people_of(editor, reviewer, reader)
    serve_records(data_folder(data), host, port, allowed=allow or (), people=people, styles=house_styles)


def backup(
    file: Annotated[Path, typer.Argument(help="The file to copy to. It must not exist yet.")],
    data: DataOption = None,
) -> None:
    """Copy the records to a file, as they are at one moment, also while the server runs."""
    from humble_sum.cli.records import back_up

    print(back_up(data_folder(data), file))


def restore(
    file: Annotated[Path, typer.Argument(help="A copy that `backup` made.")], data: DataOption = None
) -> None:
    """Put a copy in the place of the records, which are kept beside it. Stop the server first."""
    from humble_sum.cli.records import put_back

    print(put_back(data_folder(data), file))


def doctor(data: DataOption = None) -> None:
    """Look whether the records are sound, and say what to do; exit 1 when something is wrong."""
    from humble_sum.cli.records import examine

    said, sound = examine(data_folder(data))
    print("\n".join(said))
    if not sound:
        raise typer.Exit(FOUND)


def data_folder(given: Path | None) -> Path:
    """The folder of records: the one given, else that of the surroundings, else the user's own."""
    if given is not None:
        return given
    if named := os.environ.get("HUMBLE_SUM_DATA"):
        return Path(named)
    base = os.environ.get("XDG_DATA_HOME")
    return (Path(base) if base else Path.home() / ".local/share") / "humble-sum"
