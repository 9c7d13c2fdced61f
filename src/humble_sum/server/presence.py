"""Who is at which pack: kept in memory for a few seconds, as each window says where it is."""

from __future__ import annotations

import threading
from dataclasses import dataclass
from time import monotonic

from cachetools import TTLCache

SEEN_FOR = 12.0  # seconds for which a window counts as there
MOST_WINDOWS = 2_000


@dataclass(frozen=True)
class Here:
    """A window at a pack: whose it is, and the figure in hand there."""

    name: str
    statement: str
    line: str
    column: str


class Presence:
    """Which windows were heard of lately, by pack."""

    def __init__(self) -> None:
        self._seen: TTLCache[tuple[str, str], Here] = TTLCache(MOST_WINDOWS, SEEN_FOR, monotonic)
        self._lock = threading.Lock()

    def heard(self, pack: str, window: str, here: Here) -> list[Here]:
        """Note where a window is; the others at the pack, by name."""
        with self._lock:
            if window:
                self._seen[pack, window] = here
            found = [at for (where, other), at in self._seen.items() if where == pack and other != window]
        return sorted(found, key=lambda each: (each.name, each.statement, each.line, each.column))
