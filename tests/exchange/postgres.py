"""A PostgreSQL server of the tests' own: on a free port of this machine, as a user that is not root."""

from __future__ import annotations

import os
import shutil
import socket
import subprocess
import tempfile
from pathlib import Path

USER = "postgres"  # the user that Debian's package brings


def programs() -> Path | None:
    """The folder of the server's programs, None where it is not installed."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"))
    if found:
        return found[-1].parent
    named = shutil.which("initdb")
    return Path(named).resolve().parent if named else None


class Postgres:
    """A server with an empty database, started in a folder of its own and gone with it."""

    def __init__(self, where: Path):
        self.where = where
        self.folder = Path(tempfile.mkdtemp(prefix="humble-sum-"))
        self.data = self.folder / "data"
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        if os.getuid() == 0:
            shutil.chown(self.folder, USER)
        self._run("initdb", "-D", str(self.data), "-A", "trust", "-U", "analyst", "-E", "UTF8", "--no-sync")
        options = f"-p {self.port} -c listen_addresses=127.0.0.1 -k {self.folder} -c fsync=off"
        self._run(
            "pg_ctl", "-D", str(self.data), "-w", "-o", options, "-l", str(self.folder / "log"), "start"
        )

    @property
    def address(self) -> str:
        return f"postgresql://analyst@127.0.0.1:{self.port}/postgres"

    def stop(self) -> None:
        self._run("pg_ctl", "-D", str(self.data), "-w", "-m", "immediate", "stop")
        shutil.rmtree(self.folder, ignore_errors=True)

    def _run(self, program: str, *arguments: str) -> None:
        command = [str(self.where / program), *arguments]
        if os.getuid() == 0:
            command = ["runuser", "-u", USER, "--", *command]
        subprocess.run(command, check=True, capture_output=True, cwd=self.folder, timeout=60)
