"""Running the server on a folder of records."""

from __future__ import annotations

import gc
import socket
import sys
from collections.abc import Sequence
from pathlib import Path
from socket import AF_INET, AF_INET6

import uvicorn

from humble_sum.cli.files import is_there
from humble_sum.core.errors import Fault, InputError
from humble_sum.exchange.style_folder import read_styles
from humble_sum.records.backup import NAME, clear_unfinished
from humble_sum.records.database import Database
from humble_sum.records.demo import ensure_demo
from humble_sum.records.demo_group import ensure_group
from humble_sum.records.folder_lock import shared
from humble_sum.records.token_rows import standing_of, tokens_on_record
from humble_sum.server.app import LOOPBACK, create_app
from humble_sum.server.authentication import Person, Role, Tokens, new_tokens
from humble_sum.server.connections import most_connections, tell_once_a_minute
from humble_sum.server.memory import share_heaps
from humble_sum.server.shutdown import FOR_ANSWERS, StoppableServer
from humble_sum.server.timeouts import PatientProtocol

MOST_PORT = 65_535
EVERY = ("0.0.0.0", "::")  # every address of the machine


def serve_records(
    folder: Path,
    host: str,
    port: int,
    with_demo: bool = False,
    allowed: Sequence[str] = (),
    people: Sequence[Person] = (),
    styles: Path | None = None,
    with_group: bool = False,
) -> None:
    """Serve until stopped, printing the address first. Beyond loopback only who has a token is let in, under
    the host names allowed. Raises InputError when the port is taken, or the records cannot be used."""
    if not 0 <= port <= MOST_PORT:
        what = f"There is no port {port}."
        raise InputError("no-port", Fault("--port", what, f"Give one from 0 to {MOST_PORT}."))
    if styles is not None and not (is_there(styles) and styles.is_dir()):
        what = "There is no such folder."
        raise InputError("no-house-styles", Fault(f"--house-styles {styles}", what, "Make it first."))
    here = host in LOOPBACK
    hosts = (*LOOPBACK, *allowed) if here else (*LOOPBACK, *allowed, *([] if host in EVERY else [host]))
    if host in EVERY and not allowed:
        what = f"{host} is every address of this machine."
        remedy = "Say by which names it will be asked for: --allow ledger.example."
        raise InputError("no-host", Fault("--host", what, remedy))
    with shared(folder):
        _serve(folder, host, port, hosts, (with_demo, with_group), allowed, people, styles)


def _serve(
    folder: Path,
    host: str,
    port: int,
    hosts: tuple[str, ...],
    demo: tuple[bool, bool],
    allowed: Sequence[str],
    people: Sequence[Person],
    styles: Path | None,
) -> None:
    """Serve from a folder that is held, by the names that it may be asked for; with the demo pack, and with
    its group."""
    here = host in LOOPBACK
    clear_unfinished(folder / NAME)
    database = Database(folder / NAME)
    if demo[0]:
        ensure_demo(database)
    if demo[1]:
        ensure_group(database)
    try:
        listener = socket.create_server((host, port), family=AF_INET6 if ":" in host else AF_INET)
    except OSError as error:
        remedy = "Give another with --port, or --port 0 for a free one."
        raise InputError("no-port", Fault(f"{host}:{port}", f"{error.strerror}.", remedy)) from None
    if here and people:
        what = "On this machine alone no token is needed."
        raise InputError("no-host", Fault("--editor", what, "Give --host too, or leave the names out."))
    # Heads and bodies go out in two parts; without this the second waits for the first to be acknowledged.
    listener.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
    tokens = None if here else _tokens(database, people)
    _say_where(host if here else (allowed[0] if allowed else host), listener.getsockname()[1], tokens)
    # Proved packs are many small objects that live long. Looking through them for rubbish at every
    # few hundred new ones took as long as the answers themselves.
    gc.set_threshold(50_000, 20, 100)
    share_heaps()
    tell_once_a_minute()
    PatientProtocol.held.most = most_connections()
    # A short answer takes turns with long ones more often than by default, so that it waits less for them.
    sys.setswitchinterval(0.001)
    for fault in read_styles(styles).faults if styles else ():
        print(f"humble-sum: {fault}", file=sys.stderr, flush=True)
    app = create_app(database, hosts, tokens[0] if tokens else None, styles)
    gc.freeze()  # what the program itself consists of stays
    config = uvicorn.Config(
        app,
        log_level="warning",
        timeout_keep_alive=15,
        timeout_graceful_shutdown=FOR_ANSWERS,
        http=PatientProtocol,
    )
    StoppableServer(config, app.state.stopping, database.close).run(sockets=[listener])


def _tokens(database: Database, people: Sequence[Person]) -> tuple[Tokens, tuple[str, ...]]:
    """The tokens of this start: one for each person named. Where nobody is named and none is on record, one
    that edits and one that reads, without names."""
    with database.reading() as session:
        on_record = any(standing_of(row) == "in use" for row in tokens_on_record(session))
    return new_tokens() if not people and not on_record else new_tokens(people)


def people_of(
    editors: Sequence[str] | None, reviewers: Sequence[str] | None, readers: Sequence[str] | None
) -> list[Person]:
    """Who is to have a token, in order."""
    named: tuple[tuple[Role, Sequence[str] | None], ...]
    named = (("edit", editors), ("review", reviewers), ("read", readers))
    return [Person(name, role) for role, names in named for name in names or ()]


def _say_where(host: str, port: int, tokens: tuple[Tokens, tuple[str, ...]] | None) -> None:
    address = f"http://{f'[{host}]' if ':' in host else host}:{port}/"
    print(f"Humble Sum is at {address}  (Ctrl+C stops it)", flush=True)
    if tokens is None:
        return
    print("What is sent is not encrypted. Who has a token signs in; humble-sum tokens lists those on record.")
    if tokens[1]:
        print(
            "Every pack here can be read and changed by whoever has these links, which are not shown again."
        )
    for (_, person), text in zip(tokens[0].people, tokens[1], strict=True):
        says = f"{person.name} {person.role}s".strip()
        print(f"  {says}: {address}enter#{text}", flush=True)
