"""Running the server on a folder of records."""

from __future__ import annotations

import gc
import socket
from pathlib import Path

import uvicorn

from humble_sum.core.errors import Fault, InputError
from humble_sum.records.database import Database
from humble_sum.records.demo import ensure_demo
from humble_sum.server.app import LOOPBACK, create_app


def serve_records(folder: Path, host: str, port: int, with_demo: bool = False) -> None:
    """Serve until stopped, printing the address first. Raises InputError when the port is taken."""
    try:
        listener = socket.create_server((host, port))
    except OSError as error:
        remedy = "Give another with --port, or --port 0 for a free one."
        raise InputError("no-port", Fault(f"{host}:{port}", f"{error.strerror}.", remedy)) from None
    database = Database(folder / "records.sqlite")
    if with_demo:
        ensure_demo(database)
    print(f"Humble Sum is at http://{host}:{listener.getsockname()[1]}/  (Ctrl+C stops it)", flush=True)
    # Proved packs are many small objects that live long. Looking through them for rubbish at every
    # few hundred new ones took as long as the answers themselves.
    gc.set_threshold(50_000, 20, 100)
    app = create_app(database, LOOPBACK if host in LOOPBACK else ("*",))
    uvicorn.Server(uvicorn.Config(app, log_level="warning")).run(sockets=[listener])
