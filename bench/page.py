"""What the browser fetches before the page stands, beside all that there is: python -m bench page."""

from __future__ import annotations

import gzip
import re
from collections.abc import Iterator

from bench.rows import Row, print_part
from humble_sum.server.app import SITE


def rows(tiny: bool = False) -> Iterator[Row]:
    """Kilobytes of scripts, which browsers read before anything stands, and of styles."""
    page = (SITE / "index.html").read_text(encoding="utf-8")
    for what, ending in (("scripts", "js"), ("styles", "css")):
        first = set(re.findall(rf"assets/[\w./-]+\.{ending}", page))
        every = {f"assets/{file.name}" for file in (SITE / "assets").glob(f"*.{ending}")}
        one, all_of_it = (sum(map(_gzipped, names)) for names in (first, every))
        yield Row(
            f"first load, {what}", f"{one / 1000:.0f} kB gzipped, {all_of_it / 1000:.0f} kB with every screen"
        )


def _gzipped(name: str) -> int:
    return len(gzip.compress((SITE / name).read_bytes()))


if __name__ == "__main__":
    print_part("page", rows)
