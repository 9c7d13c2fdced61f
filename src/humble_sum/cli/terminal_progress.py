"""How far long work is, on the terminal of whoever waits for it; Ctrl-C stops it, and nothing is written."""

from __future__ import annotations

import sys


def on_terminal(done: int, total: int, what: str) -> None:
    """Say so on one line that the next takes the place of; where it is read by a program, say nothing."""
    if sys.stderr.isatty():
        print(f"\r{what}: {100 * done // max(total, 1)}%", end="\033[K\r", file=sys.stderr)
