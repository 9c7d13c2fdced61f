"""The command that has numbers of Word documents follow figures. What it does is imported when it runs."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated

import typer

from humble_sum.cli.commands.proofread import proved
from humble_sum.cli.files import read_file, write_file


def write(
    file: Annotated[Path, typer.Argument(help="A Word document.")],
    out: Annotated[Path, typer.Option("--out", help="The document to write.")],
    pack: Annotated[Path | None, typer.Option("--pack", help="The pack file whose figures it has.")] = None,
    edition: Annotated[str | None, typer.Option(help="The edition; otherwise the pack's own.")] = None,
    issue: Annotated[
        Path | None, typer.Option("--issue", help="The container of an issue, in place of a pack.")
    ] = None,
    refresh: Annotated[
        bool, typer.Option("--refresh", help="Write the numbers that follow figures as the pack prints them.")
    ] = False,
    as_json: Annotated[bool, typer.Option("--json", help="Answer in JSON.")] = False,
) -> None:
    """Have numbers of a Word document follow figures: put every number that agrees into a content control
    that names its figure. With --refresh, write the numbers that follow figures anew instead.
    """
    from humble_sum.core.documents.proofreading import Reader
    from humble_sum.exchange.documents.follow import following, refreshed
    from humble_sum.exchange.documents.reading import MOST_BYTES, read_document

    data = read_file(file, MOST_BYTES)
    read = Reader(proved(pack, edition, issue)).proofread(read_document(file.name, data))
    if not refresh:
        made, count = following(file.name, data, read)
        write_file(out, made)
        said = (
            f"{count} numbers follow their figures now" if count != 1 else "1 number follows its figure now"
        )
        print(json.dumps({"following": count}) if as_json else f"{said}: {out}")
        return
    made, done = refreshed(file.name, data, read)
    write_file(out, made)
    if as_json:
        told = [{"place": e.place.says, "was": e.was, "now": e.now, "figure": e.figure} for e in done]
        print(json.dumps({"refreshed": told}, ensure_ascii=False, indent=1))
        return
    for each in done:
        print(f"{each.place.says}: {each.was} is {each.now} now ({each.figure})")
    print(
        f"{len(done)} of {sum(each.follows for each in read.numbers)} numbers that follow were changed: {out}"
    )
