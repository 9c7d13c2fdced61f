"""Running the server on a folder of records."""

from __future__ import annotations

import gc
import socket
from collections.abc import Sequence
from pathlib import Path
from socket import AF_INET, AF_INET6

import uvicorn

from humble_sum.core.errors import Fault, InputError
from humble_sum.records.database import Database
from humble_sum.records.demo import ensure_demo
from humble_sum.server.app import LOOPBACK, create_app
from humble_sum.server.gate import Tokens, new_tokens
from humble_sum.server.patience import PatientProtocol

MOST_PORT = 65_535
EVERY = ("0.0.0.0", "::")  # every address of the machine


def serve_records(
    folder: Path, host: str, port: int, with_demo: bool = False, allowed: Sequence[str] = ()
) -> None:
    """Serve until stopped, printing the address first. Beyond loopback only who has a token is let in, under
    the host names allowed. Raises InputError when the port is taken, or the records cannot be used."""
    if not 0 <= port <= MOST_PORT:
        what = f"There is no port {port}."
        raise InputError("no-port", Fault("--port", what, f"Give one from 0 to {MOST_PORT}."))
    here = host in LOOPBACK
    hosts = (*LOOPBACK, *allowed) if here else (*LOOPBACK, *allowed, *([] if host in EVERY else [host]))
    if host in EVERY and not allowed:
        what = f"{host} is every address of this machine."
        remedy = "Say by which names it will be asked for: --allow ledger.example."
        raise InputError("no-host", Fault("--host", what, remedy))
    database = Database(folder / "records.sqlite")
    if with_demo:
        ensure_demo(database)
    try:
        listener = socket.create_server((host, port), family=AF_INET6 if ":" in host else AF_INET)
    except OSError as error:
        remedy = "Give another with --port, or --port 0 for a free one."
        raise InputError("no-port", Fault(f"{host}:{port}", f"{error.strerror}.", remedy)) from None
    tokens = None if here else new_tokens()
    _say_where(host if here else (allowed[0] if allowed else host), listener.getsockname()[1], tokens)
    # Proved packs are many small objects that live long. Looking through them for rubbish at every
    # few hundred new ones took as long as the answers themselves.
    gc.set_threshold(50_000, 20, 100)
    app = create_app(database, hosts, tokens[0] if tokens else None)
    uvicorn.Server(uvicorn.Config(app, log_level="warning", timeout_keep_alive=30, http=PatientProtocol)).run(
        sockets=[listener]
    )


def _say_where(host: str, port: int, tokens: tuple[Tokens, str, str] | None) -> None:
    address = f"http://{f'[{host}]' if ':' in host else host}:{port}/"
    if tokens is None:
        print(f"Humble Sum is at {address}  (Ctrl+C stops it)", flush=True)
        return
    _, edit, read = tokens
    print(
        f"Humble Sum is at {address}  (Ctrl+C stops it)\n"
        "Every pack here can be read and changed by whoever has these links; they are not told again, and "
        "what is sent is not encrypted.\n"
        f"  edits: {address}?token={edit}\n  reads: {address}?token={read}",
        flush=True,
    )
