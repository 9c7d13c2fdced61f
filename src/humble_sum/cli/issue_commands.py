"""The commands around issues: issue, verify, diff. What they do is imported when they run."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Literal

import typer

from humble_sum.cli.exit_codes import FOUND
from humble_sum.cli.files import read_file
from humble_sum.core.errors import Fault, InputError


def issue(
    pack: Annotated[Path, typer.Argument(help="A pack file.")],
    out: Annotated[Path, typer.Option("--out", help="The container to write; there is none of this name.")],
    to: Annotated[str, typer.Option("--to", help="Who it goes to.")],
    by: Annotated[str, typer.Option("--by", help="Who prepared it.")],
    edition: Annotated[str, typer.Option(help="The edition; otherwise the pack's own.")] = "own",
    number: Annotated[int, typer.Option(min=1, help="Its number.")] = 1,
    state: Annotated[Literal["draft", "final"], typer.Option(help="What it goes out as.")] = "draft",
    reviewed: Annotated[str, typer.Option("--reviewed-by", help="Who reviewed it.")] = "",
    files: Annotated[
        str, typer.Option(help="What goes out: html, pdf, xbrl, exact, unit, printed, csv, record.")
    ] = "html,exact,csv,record",
    why: Annotated[
        list[str] | None,
        typer.Option("--why", help="CHECK=REASON, for a check that stays open. May be given again."),
    ] = None,
) -> None:
    """Issue an edition of a pack: check it, freeze it, and write it with its files into one container."""
    from humble_sum.cli.issue import issue_pack
    from humble_sum.exchange.issuing import Wanted

    reasons = {}
    for each in why or ():
        check, found, reason = each.partition("=")
        if not found:
            raise InputError("bad-issue", Fault("--why", f'"{each}" is no CHECK=REASON.'))
        reasons[check.strip()] = reason
    chosen = [each.strip() for each in files.split(",") if each.strip()]
    wanted = Wanted(by, to, state, reviewed, chosen, reasons)
    print(issue_pack(read_file(pack), edition, number, wanted, out))


def verify(
    container: Annotated[Path, typer.Argument(help="An issue's container.")],
    as_json: Annotated[bool, typer.Option("--json", help="Answer in JSON.")] = False,
) -> None:
    """Check an issue with nothing but its container: digests, prints, sums, nudges, certificate, every file
    read back; exit 1 when something does not hold."""
    from humble_sum.cli.issue import told, verify_container

    found = verify_container(read_file(container))
    if as_json:
        faults = [{"where": each.where, "what": each.what} for each in found.faults]
        answer = {"issue": found.issue.model_dump(mode="json"), "holds": found.holds, "faults": faults}
        print(json.dumps(answer, ensure_ascii=False, indent=1))
    else:
        print(told(found))
    if found.faults:
        raise typer.Exit(FOUND)


def diff(
    before: Annotated[Path, typer.Argument(help="A pack file, an issue's container, or a rulebook file.")],
    after: Annotated[Path, typer.Argument(help="Another: two rulebook files are told apart by their rules.")],
    edition: Annotated[str, typer.Option(help="The edition of pack files; otherwise their own.")] = "own",
) -> None:
    """Say which figures print otherwise in the second, and why; exit 1 when any does. Of two rulebook files,
    say what the second says otherwise."""
    from humble_sum.cli.issue import rulebooks_told_apart, tell_apart

    first, second = read_file(before), read_file(after)
    changed = rulebooks_told_apart(first, second)
    if changed is not None:
        print("\n".join(changed or ["Both say the same."]))
        lines = changed
    else:
        lines, as_before = tell_apart(first, second, edition)
        print("\n".join([*lines, f"{len(lines)} figures print otherwise, {as_before} as before."]))
    if lines:
        raise typer.Exit(FOUND)
