"""Readers and five writers on the demo pack, against one reader alone in the same run.

Run as `python -m bench load`. Loopback only, bounded to SECONDS for each part. Gives ratios and no verdict
but that nothing failed except changes on a stale revision.
"""

from __future__ import annotations

import json
import statistics
import subprocess
import sys
import tempfile
import threading
from collections import Counter
from collections.abc import Iterator
from http.client import HTTPConnection
from time import perf_counter, sleep

from bench.rows import Row, print_part

SECONDS = 8.0
WRITERS = 5
# How many read at once, and the seconds that each looks at what it has: as people do, and as programs do.
CROWDS = ((200, 1.0), (50, 0.1))
QUICK = 0.1  # seconds between what one reader alone asks
SERVE = "import sys; from humble_sum.cli.main import main; sys.argv[1:1] = ['demo']; main()"
PATHS = ("", "/statements/income/proof", "/statements/position/proof", "/history", "/agreement", "/rulebook")


class Client:
    """One connection, and how long its answers took."""

    def __init__(self, port: int):
        self.connection = HTTPConnection("127.0.0.1", port, timeout=60)
        self.took: list[float] = []
        self.statuses: Counter[int] = Counter()

    def ask(self, method: str, path: str, body: object = None) -> bytes:
        start = perf_counter()
        sent = None if body is None else json.dumps(body)
        self.connection.request(method, path, sent, {"Content-Type": "application/json"})
        answer = self.connection.getresponse()
        said = answer.read()
        self.took.append(perf_counter() - start)
        self.statuses[answer.status] += 1
        return said


def read(client: Client, pack: str, until: float, pause: float, offset: int) -> None:
    number = offset
    sleep(pause * (offset % 50) / 50)  # so that they do not all ask at once
    while perf_counter() < until:
        client.ask("GET", f"/api/packs/{pack}{PATHS[number % len(PATHS)]}")
        number += 1
        sleep(pause)


def write(client: Client, pack: str, until: float, pause: float, offset: int) -> None:
    digits = offset
    sleep(pause * offset / WRITERS)
    while perf_counter() < until:
        change(client, pack, digits)
        digits += 1
        sleep(pause)


def change(client: Client, pack: str, digits: int) -> None:
    """Another number of decimals."""
    revision = json.loads(client.ask("GET", f"/api/packs/{pack}"))["revision"]
    said = {
        "kind": "set_clause",
        "statement": "income",
        "line": "fares",
        "column": "y26",
        "clause": "decimals",
        "value": {"fixed": digits % 3},
    }
    client.ask("POST", f"/api/packs/{pack}/changes", {"revision": revision, "change": said})


def anew(port: int, pack: str, times: int = 20) -> Client:
    """One reader of pages that were changed since, so that each is made for it."""
    reader, writer = Client(port), Client(port)
    for number in range(times):
        change(writer, pack, number)
        for path in PATHS:
            reader.ask("GET", f"/api/packs/{pack}{path}")
    return reader


def together(
    port: int, pack: str, pause: float, readers: int, writers: int, lasting: float = SECONDS
) -> tuple[list[Client], list[Client]]:
    """Readers and writers at once, until the time is up."""
    until = perf_counter() + lasting
    asked = [Client(port) for _ in range(readers)], [Client(port) for _ in range(writers)]
    threads = [
        threading.Thread(target=work, args=(client, pack, until, pause, n))
        for work, clients in zip((read, write), asked, strict=True)
        for n, client in enumerate(clients)
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return asked


def rows(tiny: bool = False) -> Iterator[Row]:
    """One reader alone, and many with writers."""
    lasting = 0.3 if tiny else SECONDS
    crowds = ((10, QUICK),) if tiny else CROWDS
    with tempfile.TemporaryDirectory() as folder:
        server = subprocess.Popen(
            [sys.executable, "-c", SERVE, "--data", folder, "--port", "0"], stdout=subprocess.PIPE, text=True
        )
        assert server.stdout is not None
        try:
            port = int(server.stdout.readline().split("/  ")[0].rsplit(":", 1)[1])
            pack = json.loads(Client(port).ask("GET", "/api/packs"))[0]["id"]
            together(port, pack, QUICK, 1, 0, lasting)  # to warm it up
            (alone,), _ = together(port, pack, QUICK, 1, 0, lasting)
            made = anew(port, pack, 2 if tiny else 20)
            beside = [together(port, pack, pause, 1, WRITERS, lasting)[0][0] for _, pause in crowds]
            runs = [(pause, *together(port, pack, pause, many, WRITERS, lasting)) for many, pause in crowds]
        finally:
            server.kill()
            server.wait()
            server.stdout.close()
    single, fresh = statistics.median(alone.took), statistics.median(made.took)
    yield Row("one reader alone, median", f"{single * 1000:.1f} ms of {len(alone.took)}")
    yield Row("one reader, where each page has to be made", f"{fresh * 1000:.1f} ms")
    for (pause, readers, writers), one in zip(runs, beside, strict=True):
        yield told(pause, readers, writers, single, statistics.median(one.took))


def told(pause: float, readers: list[Client], writers: list[Client], single: float, beside: float) -> Row:
    """What a run came to, beside the medians of one reader: alone, and beside the same writers."""
    took = sorted(each for client in readers for each in client.took)
    p95, median = took[int(len(took) * 0.95)], statistics.median(took)
    statuses = sum((client.statuses for client in [*readers, *writers]), Counter[int]())
    if set(statuses) - {200, 201, 409}:
        raise RuntimeError(f"something failed: {dict(sorted(statuses.items()))}")
    return Row(
        f"{len(readers)} readers and {WRITERS} writers, {pause:g} s apart, {len(took)} reads",
        f"median {median * 1000:.1f} ms, 95 % within {p95 * 1000:.1f} ms: {p95 / single:.1f}× one reader's "
        f"median, {p95 / beside:.1f}× beside these writers ({beside * 1000:.1f} ms)",
    )


if __name__ == "__main__":
    print_part("load", rows)
