"""humble-sum styles: a folder of house styles, and which packs follow them."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from humble_sum.cli.exit_codes import FOUND
from humble_sum.cli.files import read_file


def styles(
    folder: Annotated[Path, typer.Argument(help="A folder of rulebook files, each one version.")],
    packs: Annotated[list[Path] | None, typer.Argument(help="Pack files, to see what they follow.")] = None,
    keep: Annotated[
        str | None,
        typer.Option(help="Keep the one pack's rules as the next version of this name."),
    ] = None,
) -> None:
    """List the house styles of a folder, the changes of each version since the last, and which of these
    packs follow them; exit 1 when a pack follows an older version, or says otherwise, or a file is wrong."""
    from humble_sum.cli.style_report import follow_words, keep_next, style_words
    from humble_sum.exchange.pack_json import read_pack

    read = [(file, read_pack(read_file(file))) for file in packs or []]
    if keep is not None:
        print(keep_next(folder, keep, [pack for _, pack in read]))
        return
    said, wrong = style_words(folder)
    for file, pack in read:
        words, behind = follow_words(folder, pack)
        said += [f"{file}: {words[0]}", *(f"  {each}" for each in words[1:])]
        wrong = wrong or behind
    print("\n".join(said))
    if wrong:
        raise typer.Exit(FOUND)
