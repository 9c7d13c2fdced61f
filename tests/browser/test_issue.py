"""The story of an issue: open checks settled or explained, issued, changed since, withdrawn."""

from __future__ import annotations

import json
import os
import unittest
from pathlib import Path
from typing import Any

from selenium.webdriver.common.keys import Keys

from humble_sum.exchange.containers.verification import verify
from tests.browser.desk import DeskTest


class IssueTest(DeskTest):
    def shoot(self, name: str) -> None:
        if shots := os.environ.get("SHOTS"):
            self.driver.save_screenshot(str(Path(shots) / f"{name}.png"))

    def write(self, label: str, text: str) -> None:
        field = self.one(f"[aria-label='{label}']")
        self.script("arguments[0].focus()", field)
        field.send_keys(text)

    def fetched(self, path: str) -> Any:
        return self.driver.execute_async_script(
            "const [url, done] = arguments; fetch(url).then(async (answer) => done(await answer.text()))",
            path,
        )

    def open_checks(self) -> int:
        return len(self.all("[aria-label=Checks] input"))

    def stop_one_that_has_a_pdf(self) -> None:
        """Paper takes its time: what is being made is told, and can be stopped."""
        paper = next(label for label in self.all("label") if label.text.startswith("PDF"))
        paper.click()
        self.script("document.activeElement.blur()")
        self.keys("i")
        self.until(lambda: self.all("progress"), "its files are told")
        self.shoot("issue-making")
        self.button("Stop").click()
        self.until(lambda: "Stopped" in self.said(), "it was stopped")
        self.assertEqual(self.all("progress"), [])
        self.until(lambda: "has not been issued yet" in self.margin(), "nothing went out")
        paper.click()
        self.script("document.activeElement.blur()")

    def test_an_edition_goes_out_checked_frozen_and_numbered(self) -> None:
        self.button("Issue").click()
        self.until(lambda: self.all("[aria-label=Checks] li"), "the checks stand")
        self.settled()
        self.assertEqual(self.open_checks(), 3)
        self.shoot("issue-open")
        self.keys("i")
        self.until(lambda: "goes to somebody" in self.margin(), "nothing goes out to nobody")
        self.button("Foot the pack").click()
        self.until(lambda: self.open_checks() == 2, "footing settles the sums")
        self.write("Prepared by", "Asha")
        self.write("Goes to", "the auditors")
        self.keys(Keys.ESCAPE)
        self.script("document.activeElement.blur()")
        self.keys("i")
        self.until(lambda: "Checks are open" in self.margin(), "what is open needs a word")
        for field in self.all("[aria-label=Checks] input"):
            field.send_keys("Known, and said in the note")
        self.script("document.activeElement.blur()")
        self.clean()
        self.stop_one_that_has_a_pdf()
        self.keys("i")
        self.until(lambda: "1, to the auditors" in self.margin(), "it went out")
        self.assertIn("Issued as number 1", self.said())
        self.settled()
        self.shoot("issue-out")
        self.clean()
        pack = json.loads(self.fetched("/api/packs"))[0]["id"]
        container = self.driver.execute_async_script(
            "const [url, done] = arguments; fetch(url).then(async (answer) => done([...new Uint8Array("
            "await answer.arrayBuffer())]))",
            f"/api/packs/{pack}/issues/1/container",
        )
        found = verify(bytes(container))
        self.assertEqual((found.issue.recipients, found.faults), ("the auditors", []))
        self.assertIn(found.digest, self.margin().replace("\n", ""))
        self.keys("u")
        self.until(
            lambda: "differently" in self.margin() and "46 figures print" in self.margin(),
            "what changed since",
        )
        self.assertIn("nudged or held differently", self.margin())
        self.shoot("issue-since")
        self.one("aside summary").click()
        self.write("Why issue 1 is withdrawn", "Tax was wrong")
        self.button("Withdraw").click()
        self.until(lambda: "Withdrawn by Asha: Tax was wrong" in self.margin(), "it says so")
        self.assertIn("As it went out", self.margin())
        self.driver.get_log("browser")  # type: ignore[no-untyped-call]  # the refusals, which were meant


if __name__ == "__main__":
    unittest.main()
