"""A server in a process of its own, forked from the test's: to import one again takes longer than most tests."""

from __future__ import annotations

import os
import re
import signal
import sys
from multiprocessing import get_context
from pathlib import Path

from humble_sum.cli.serve import serve_records

LONG = 60.0  # seconds until a server that is told to end must have ended
FORKED = get_context("fork")


class Server:
    """Serves a folder of records, with the demo pack where it has none, until it is killed."""

    def __init__(self, folder: Path, port: int = 0):
        self.folder, self.port = folder, port
        self.start()

    def start(self) -> None:
        """Start, where it was before if it was."""
        hears, says = os.pipe()
        self.process = FORKED.Process(target=_serve, args=(self.folder, self.port, hears, says))
        self.process.start()
        os.close(says)
        with os.fdopen(hears) as told:
            said = told.readline()  # printed once it listens
        found = re.search(r"http://\S+:(\d+)/", said)
        assert found, said
        self.address, self.port = found[0], int(found[1])

    def kill(self) -> None:
        """End it at once, as a power cut would."""
        self.process.kill()
        self.process.join(LONG)


def _serve(folder: Path, port: int, hears: int, says: int) -> None:
    os.close(hears)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    sys.stdout = os.fdopen(says, "w")
    serve_records(folder, "127.0.0.1", port, with_demo=True)
