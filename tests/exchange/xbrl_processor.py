"""Tagged pages loaded by an open processor of XBRL, offline: what it says of them."""

from __future__ import annotations

import contextlib
import io
import json
import tempfile
from pathlib import Path
from typing import Any

from humble_sum.exchange.inline.page import PAGE


def logged(files: dict[str, bytes]) -> list[str]:
    """What the processor says of a tagged page and its taxonomy, each with its code and level, Calculations
    1.1 checked by rounding to the nearest; what it says of its own work is left out."""
    from arelle.api.Session import Session
    from arelle.RuntimeOptions import RuntimeOptions

    with tempfile.TemporaryDirectory() as folder:
        for name, data in files.items():
            (Path(folder) / name).write_bytes(data)
        options: Any = RuntimeOptions(
            entrypointFile=str(Path(folder) / PAGE),
            internetConnectivity="offline",
            validate=True,
            calcs="round-to-nearest",
            disablePersistentConfig=True,
            logFormat="%(levelname)s %(messageCode)s %(message)s",
            logLevel="WARNING",
            logFile="logToBuffer",
        )
        with contextlib.redirect_stdout(io.StringIO()), Session() as session:
            session.run(options)
            told = json.loads(session.get_logs("json"))["log"]
    return [
        f"{each['level']} {each['code']} {each['message']['text']}"
        for each in told
        if each["level"] not in ("info", "debug")
    ]
