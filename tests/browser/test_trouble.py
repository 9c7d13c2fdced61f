"""What is wrong with the records or the server is on every screen until it is over."""

from __future__ import annotations

import os
import unittest
from pathlib import Path

from tests.browser.desk import DeskTest


class TroubleTest(DeskTest):
    def banner(self) -> str:
        found = self.all("[data-banner]")
        return found[0].text if found else ""

    def test_records_that_are_gone_are_told_until_a_change_is_kept_again(self) -> None:
        file = self.server.folder / "records.sqlite"
        away = file.with_suffix(".away")
        file.rename(away)
        self.keys("f")
        # What is read at the same time may find it first.
        self.until(lambda: "Put their file back" in self.banner(), "the banner stands")
        self.assertFalse(file.exists(), "and no empty one is made in its place")
        self.assertEqual(self.gaps(), 15, "the page is as it was")
        away.rename(file)
        self.keys("f")
        self.until(lambda: not self.banner(), "a change that is kept ends it")
        self.until(lambda: self.gaps() == 0, "and the page is footed")
        self.driver.get_log("browser")  # type: ignore[no-untyped-call]  # the refusals, which were meant

    def test_a_server_that_stopped_is_told_until_it_answers_again(self) -> None:
        self.server.kill()
        self.keys("f")
        self.until(lambda: "does not answer" in self.banner(), "the banner stands")
        if shots := os.environ.get("SHOTS"):
            self.driver.save_screenshot(str(Path(shots) / "banner.png"))
        self.server.start()
        self.until(lambda: not self.banner(), "it goes away by itself")
        self.keys("f")
        self.until(lambda: self.gaps() == 0, "and the desk works on")
        self.driver.get_log("browser")  # type: ignore[no-untyped-call]


if __name__ == "__main__":
    unittest.main()
