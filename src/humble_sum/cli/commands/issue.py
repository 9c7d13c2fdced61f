"""The commands around issues: issue, verify, diff. What they do is imported when they run."""

from __future__ import annotations

import json
from dataclasses import asdict
from pathlib import Path
from typing import Annotated, Literal

import typer

from humble_sum.cli.exit_codes import FOUND
from humble_sum.cli.files import MOST_CONTAINER, read_file
from humble_sum.core.errors import Fault, InputError
from humble_sum.exchange.formats import OF_ISSUES, USUAL


def issue(
    pack: Annotated[Path, typer.Argument(help="A pack file.")],
    out: Annotated[Path, typer.Option("--out", help="The container to write. It must not exist yet.")],
    to: Annotated[str, typer.Option("--to", help="Who it goes to.")],
    by: Annotated[str, typer.Option("--by", help="Who prepared it.")],
    edition: Annotated[str, typer.Option(help="The edition; otherwise the pack's own.")] = "own",
    number: Annotated[int, typer.Option(min=1, help="Its number.")] = 1,
    state: Annotated[Literal["draft", "final"], typer.Option(help="Its state: a draft or final.")] = "draft",
    reviewed: Annotated[str, typer.Option("--reviewed-by", help="Who reviewed it.")] = "",
    files: Annotated[
        str,
        typer.Option(help=f"What goes out: {', '.join(OF_ISSUES)}."),
    ] = ",".join(USUAL),
    why: Annotated[
        list[str] | None,
        typer.Option("--why", help="CHECK=REASON, for a check that stays open. Can be repeated."),
    ] = None,
    documents: Annotated[
        list[Path] | None,
        typer.Option("--document", help="A document that has to agree with it. Can be repeated."),
    ] = None,
) -> None:
    """Issue an edition of a pack: check it, freeze it, and write it with its files into one container."""
    from humble_sum.exchange.paper import papers_of, presses

    reasons = {}
    for each in why or ():
        check, found, reason = each.partition("=")
        if not found:
            raise InputError("bad-issue", Fault("--why", f'"{each}" is no CHECK=REASON.'))
        reasons[check.strip()] = reason
    chosen = [each.strip() for each in files.split(",") if each.strip()]
    with presses(papers_of(chosen)) as press:  # they make themselves ready while all else is imported
        from humble_sum.cli.issue_work import issue_pack
        from humble_sum.exchange.containers.new_issue import Wanted

        wanted = Wanted(by, to, state, reviewed, chosen, reasons)
        print(issue_pack(read_file(pack), edition, number, wanted, out, press, documents or ()))


def verify(
    container: Annotated[Path, typer.Argument(help="An issue's container.")],
    signed_by: Annotated[
        list[Path] | None,
        typer.Option(help="A public key that must have sealed it. Can be repeated."),
    ] = None,
    seals: Annotated[
        list[Path] | None, typer.Option("--seal", help="A seal beside the container. Can be repeated.")
    ] = None,
    digest: Annotated[
        str | None, typer.Option(help="The SHA-256 that the container must have.", metavar="SHA256")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Answer in JSON.")] = False,
) -> None:
    """Verify an issue with nothing but its container: make every file again from the frozen pack and compare
    it byte for byte; say what is shown, what does not hold and what is not shown.

    Exit codes: 0 shown; 1 something does not hold as issued, or could not be looked at here; 2 no container
    of ours, or altered.
    """
    from humble_sum.exchange.paper import papers_in, presses

    data = read_file(container, MOST_CONTAINER)
    with presses(papers_in(data)) as press:  # they make themselves ready while all else is imported
        from humble_sum.cli.terminal_progress import on_terminal
        from humble_sum.exchange.containers.seals import read_public_key
        from humble_sum.exchange.containers.verification import shown_lines
        from humble_sum.exchange.containers.verification import verify as verify_data

        keys = [read_public_key(read_file(file)) for file in signed_by or ()]
        beside = [read_file(file) for file in seals or ()]
        found = verify_data(data, on_terminal, keys, digest, beside, press=press)
    of = found.issue
    if as_json:
        answer = {
            "issue": of.model_dump(mode="json"),
            "digest": found.digest,
            "shown": found.shown,
            "does_not_hold": [{"where": each.where, "what": each.what} for each in found.faults],
            "not_shown": found.not_shown,
            "open": [check.model_dump(mode="json") for check in found.open],
            "seals": [asdict(seal) for seal in found.seals],
        }
        print(json.dumps(answer, ensure_ascii=False, indent=1))
    else:
        print(f"{of.entity}, {of.period}: {of.edition_name}, issue {of.number}, {of.state}")
        print(f"SHA-256 of the container as issued: {found.digest}")
        print("\n".join(shown_lines(found)))
    if not found.holds:
        raise typer.Exit(FOUND)


def diff(
    before: Annotated[Path, typer.Argument(help="A pack file, an issue's container, or a rulebook file.")],
    after: Annotated[Path, typer.Argument(help="Another. Two rulebook files are compared by their rules.")],
    edition: Annotated[str, typer.Option(help="The edition of pack files; otherwise their own.")] = "own",
) -> None:
    """Say which figures print otherwise in the second, and why; exit 1 when any does. Of two rulebook files,
    say what the second says otherwise."""
    from humble_sum.cli.issue_work import rulebooks_told_apart, tell_apart

    first, second = read_file(before), read_file(after)
    changed = rulebooks_told_apart(first, second)
    if changed is not None:
        print("\n".join(changed or ["They are the same."]))
        lines = changed
    else:
        lines, as_before = tell_apart(first, second, edition)
        print("\n".join([*lines, f"{len(lines)} figures print differently, {as_before} as before."]))
    if lines:
        raise typer.Exit(FOUND)
