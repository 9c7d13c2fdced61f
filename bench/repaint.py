"""From key to repainted page, measured inside the browser: python -m bench.repaint."""

from __future__ import annotations

import statistics

from tests.browser.desk import DeskTest

PRESS = """
const [key, done] = arguments;
const start = performance.now();
const page = document.querySelector('.statement');
new MutationObserver((_, watch) => {
  watch.disconnect();
  requestAnimationFrame(() => setTimeout(() => done(performance.now() - start)));
}).observe(page, {subtree: true, childList: true, characterData: true});
document.activeElement.dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true, cancelable: true}));
"""


class Repaint(DeskTest):
    """Changes decimals to and fro on the demo page."""

    times: list[float]

    def runTest(self) -> None:
        self.one("#figure-costs-y26").click()
        self.until(lambda: self.all("[data-word=decimals]"), "the sentence")
        taken = [self.driver.execute_async_script(PRESS, "[]"[n % 2 - 1]) for n in range(42)]
        type(self).times = taken[2:]


def main() -> None:
    Repaint.setUpClass()
    try:
        result = Repaint("runTest").run()
    finally:
        Repaint.doClassCleanups()
    if result is None or not result.wasSuccessful():
        raise SystemExit(str(result and result.errors + result.failures))
    middle, most = statistics.median(Repaint.times), max(Repaint.times)
    print(f"demo page, key to repaint: {middle:.0f} ms at the median, {most:.0f} ms at most, of 40 changes")


if __name__ == "__main__":
    main()
