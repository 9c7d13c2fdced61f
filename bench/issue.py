"""Issuing and verifying the demo with all of its files, as whole processes: python -m bench issue."""

from __future__ import annotations

import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from bench.rows import Row, print_part
from humble_sum.exchange.formats import OF_ISSUES
from humble_sum.exchange.pack_json import write_pack
from humble_sum.records.demo import demo_pack

ROUNDS = 3
COMMAND = [sys.executable, "-c", "from humble_sum.cli.main import main; main()"]
WHY = ("--why", "whole=The claim is not known.", "--why", "places=As last year.")


def rows(tiny: bool = False) -> Iterator[Row]:
    """Seconds, and seconds of processor time, of the commands that a user gives."""
    with tempfile.TemporaryDirectory() as folder:
        pack, footed = Path(folder) / "pack.json", Path(folder) / "footed.json"
        pack.write_bytes(write_pack(demo_pack()))
        run("foot", pack, "--out", footed)
        chosen = ["html", "csv"] if tiny else list(OF_ISSUES)
        issuing, verifying = [], []
        for number in range(1 if tiny else ROUNDS):
            out = Path(folder) / f"issue-{number}.zip"
            wanted = ("--to", "the auditors", "--by", "Asha", "--files", ",".join(chosen))
            issuing.append(run("issue", footed, "--out", out, *wanted, *WHY))
            verifying.append(run("verify", out))
    for name, taken in (("issued", issuing), ("verified", verifying)):
        seconds, spent = min(taken)
        yield Row(
            f"the demo {name}, with {len(chosen)} kinds of files", f"{seconds:.1f} s, {spent:.1f} s spent"
        )


def run(*arguments: str | Path) -> tuple[float, float]:
    """Seconds that a command takes, and those of processor time that it and its children spend."""
    before, start = resource.getrusage(resource.RUSAGE_CHILDREN), time.perf_counter()
    done = subprocess.run([*COMMAND, *map(str, arguments)], capture_output=True, text=True)
    took, after = time.perf_counter() - start, resource.getrusage(resource.RUSAGE_CHILDREN)
    if done.returncode not in (0, 1):
        raise RuntimeError(done.stderr)
    return took, after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime


if __name__ == "__main__":
    print_part("issue", rows)
