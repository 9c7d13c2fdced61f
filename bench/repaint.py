"""From key to repainted page, measured inside the browser: python -m bench repaint."""

from __future__ import annotations

import statistics
from collections.abc import Iterator
from decimal import Decimal
from pathlib import Path
from typing import ClassVar

import numpy as np
from tests.browser.desk import DeskTest

from bench.rows import Row, print_part
from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.exchange.pack_json import write_pack

PRESS = """
const [key, done] = arguments;
const start = performance.now();
const page = document.querySelector('.statement');
new MutationObserver((_, watch) => {
  watch.disconnect();
  requestAnimationFrame(() => {
    const painted = new MessageChannel(); // its message comes right after the frame
    painted.port1.onmessage = () => done(performance.now() - start);
    painted.port2.postMessage(0);
  });
}).observe(page, {subtree: true, childList: true, characterData: true});
document.activeElement.dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true, cancelable: true}));
"""


class Repaint(DeskTest):
    """Changes decimals to and fro on a page: kept on the demo page, tried on a large one."""

    times: ClassVar[dict[str, list[float]]] = {}
    tiny: ClassVar[bool] = False

    def runTest(self) -> None:
        self.one('[id="figure:costs:y26"]').click()
        self.measure("demo page, a change kept")
        path = Path(self.profile.name) / "large.json"
        path.write_bytes(write_pack(large_pack()))
        self.one("input[type=file]").send_keys(str(path))
        self.until(lambda: self.all('[id="figure:t0:m0"] bdi'), "the large page opens")
        self.one('[id="figure:t0:m0"]').click()
        self.measure("6,000 figures, a change kept")
        self.keys("t")
        self.until(lambda: self.one("[type=checkbox]").is_selected(), "changes are tried")
        # What was tried once is kept, so each is tried once.
        self.measure("6,000 figures, a trial of decimals", "]" * 10)
        self.measure("6,000 figures, a trial of negatives", "b" * 5, "negative")

    def measure(self, what: str, keys: str = ("]" * 10 + "[" * 10) * 2, word: str = "decimals") -> None:
        """By default through eleven numbers of decimals, so that no page was tried just before."""
        self.until(lambda: self.all(f"[data-word={word}]"), "the sentence")
        taken = []
        for key in keys[:2] if self.tiny else keys:
            said = self.one(f"[data-word={word}]").text
            taken.append(self.driver.execute_async_script(PRESS, key))
            self.wait_for_other(word, said)
        self.times[what] = taken[1:]

    def wait_for_other(self, word: str, said: str) -> None:
        self.until(lambda: self.one(f"[data-word={word}]").text != said, "the margin")


def large_pack() -> Pack:
    """Forty totals of nine lines each by fifteen columns: 6,000 figures."""
    made = np.random.default_rng(7)
    columns = tuple(Column(id=f"m{c}", label=f"M{c}") for c in range(15))
    lines: list[Line] = []
    for total in range(40):
        parts = []
        for n in range(9):
            amounts = {column.id: Decimal(int(made.integers(-(10**9), 10**10))) / 100 for column in columns}
            parts.append(Line(id=f"l{total}-{n}", label=f"Line {total}.{n}", amounts=amounts))
        adds = tuple((part.id, 1) for part in parts)
        lines += [*parts, Line(id=f"t{total}", label=f"Total {total}", kind="subtotal", parts=adds)]
    statement = Statement(id="large", name="Large", title="Large", columns=columns, lines=tuple(lines))
    return Pack(entity="Long Island", period="2026", statements=(statement,))


def rows(tiny: bool = False) -> Iterator[Row]:
    """Medians and most of each kind of change."""
    Repaint.tiny = tiny
    Repaint.setUpClass()
    try:
        result = Repaint("runTest").run()
    finally:
        Repaint.doClassCleanups()
    if result is None or not result.wasSuccessful():
        raise RuntimeError(str(result and result.errors + result.failures))
    for what, times in Repaint.times.items():
        middle, most = statistics.median(times), max(times)
        yield Row(f"{what}, key to repaint", f"median {middle:.0f} ms, most {most:.0f} ms, of {len(times)}")


if __name__ == "__main__":
    print_part("repaint", rows)
