"""The commands around seals: seal, key new. What they do is imported when they run."""

from __future__ import annotations

import os
import sys
from datetime import UTC, datetime
from pathlib import Path
from typing import Annotated, Literal

import typer

from humble_sum.cli.files import MOST_CONTAINER, is_there, read_file, write_file
from humble_sum.core.errors import Fault, InputError

keys = typer.Typer(help="Keys to seal issues with.", no_args_is_help=True)


@keys.command("new")
def new(
    name: Annotated[str, typer.Option("--name", help="Whose it is.")],
    out: Annotated[Path, typer.Option("--out", help="The private key; the public one is put beside it.")],
    until: Annotated[
        datetime | None, typer.Option(formats=["%Y-%m-%d"], help="The last day on which it is valid.")
    ] = None,
) -> None:
    """Make a key: a private one, which nobody else gets, and a public one to give away.

    humble-sum key new --name "Asha Rao" --out asha.key
    """
    from humble_sum.exchange.containers.seals import new_key, read_public_key

    public_out = out.with_name(f"{out.name}.pub")
    for file in (out, public_out):
        if is_there(file):
            raise InputError("bad-key", Fault(str(file), "It exists already.", "Name another one."))
    ends = until.replace(hour=23, minute=59, second=59, tzinfo=UTC) if until else None
    private, public = new_key(name, ends)
    write_file(public_out, public)
    try:
        _write_private(out, private)
    except InputError:
        public_out.unlink()  # both or neither
        raise
    print(f"{out}: the private key of {name.strip()}. Keep it where only you can read it.")
    print(f"{public_out}: its public key, {read_public_key(public).id}. Give it to those who verify.")


def _write_private(file: Path, data: bytes) -> None:
    """Write a new file that only its owner can read, or none."""
    try:
        handle = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        try:
            with os.fdopen(handle, "wb") as private:
                private.write(data)
        except OSError:
            file.unlink()
            raise
    except OSError as error:
        raise InputError("no-file", Fault(str(file), f"{error.strerror or error}.")) from None


def seal(
    container: Annotated[Path, typer.Argument(help="An issue's container.")],
    key: Annotated[Path, typer.Option("--key", help="The private key to seal it with.")],
    role: Annotated[
        Literal["prepared", "reviewed", "approved"],
        typer.Option("--as", help="The role in which you vouch for it."),
    ] = "prepared",
    out: Annotated[
        Path | None,
        typer.Option(help="A file to write the seal to, beside the container; otherwise it is put into it."),
    ] = None,
) -> None:
    """Seal an issue: sign its manifest, and so every file in it, with your key.

    The container is verified first; what does not hold is not sealed.

    humble-sum seal issue.zip --key asha.key
    """
    from humble_sum.cli.terminal_progress import on_terminal
    from humble_sum.exchange.containers.container import read_container, with_seal
    from humble_sum.exchange.containers.seals import make_seal, read_key
    from humble_sum.exchange.containers.verification import verify

    data = read_file(container, MOST_CONTAINER)
    private = read_key(read_file(key))
    _say_who_can_read(key)
    found = verify(data, on_terminal)
    if not found.holds:
        what = str(found.faults[0]) if found.faults else found.not_shown[0]
        raise InputError("bad-seal", Fault(str(container), f"It does not hold as issued: {what}"))
    opened = read_container(data)
    made = make_seal(opened.manifest, private, role, datetime.now(UTC))
    if out is not None:
        if is_there(out):
            what = "It exists already."
            raise InputError("bad-seal", Fault(str(out), what, "Name another one."))
        write_file(out, made)
    else:
        write_file(container, with_seal(opened, made))
    print(f"{out or container}: sealed, {role} by {private.public.name} ({private.public.id}).")


def _say_who_can_read(key: Path) -> None:
    if os.name == "posix" and key.stat().st_mode & 0o077:
        print(f"humble-sum: {key} can be read by others; run: chmod 600 {key}", file=sys.stderr)
