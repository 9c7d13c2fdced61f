"""A report made elsewhere: taken in, walked by key, answered, and written back corrected."""

from __future__ import annotations

import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

from selenium.webdriver.common.action_chains import ActionChains

from tests.browser.desk import DeskTest, Keys
from tests.exchange.test_documents import FILES, RIGHT, WRONG


class DocumentsTest(DeskTest):
    def test_a_report_is_walked_answered_and_corrected_by_key(self) -> None:
        folder = TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        report = Path(folder.name) / "Annual report.docx"
        report.write_bytes(FILES["a.docx"])
        self.driver.get(f"{self.server.address.rstrip('/')}/documents/{self.pack()}")
        self.until(lambda: "Nothing has been taken in yet" in self.one("main").text, "there is none")
        self.one("main input[type=file]").send_keys(str(report))
        self.until(lambda: self.all("article button"), "its numbers")
        self.assertIn("Annual report.docx is read", self.said())
        self.until(lambda: f"it should be {RIGHT}" in self.margin(), "the first that is open is in hand")
        self.assertIn("Revenue from crossings", self.margin())
        self.clean()
        self.keys("n")
        self.until(lambda: "184 does not agree" in self.margin(), "the next")
        self.keys("o")
        self.until(lambda: "1 open" in self.margin(), "it is none of ours")
        self.keys("u")
        self.until(lambda: "2 open" in self.margin(), "undone")
        self.keys("k")
        copy = self.downloads / "Annual report corrected.docx"
        self.until(copy.exists, "the corrected copy")
        report.write_bytes(copy.read_bytes())
        self.one("main input[type=file]").send_keys(str(report))
        self.until(lambda: "nothing is open" in self.one("footer").text, "the copy agrees")
        self.assertNotIn(WRONG, self.one("article").text)
        self.keys(Keys.ESCAPE)
        self.clean()

    def test_a_figure_is_copied_as_it_prints_with_its_name(self) -> None:
        self.script(
            "document.addEventListener('copy', (event) => { window.copied = ['text/plain', 'text/html'].map("
            "(kind) => event.clipboardData.getData(kind)); })"
        )
        _, line, column = self.selected().split(":")
        self.script("document.querySelector('td[aria-selected=true]').focus()")
        ActionChains(self.driver).key_down(Keys.CONTROL).send_keys("c").key_up(Keys.CONTROL).perform()
        self.until(lambda: self.script("return window.copied"), "the figure is copied")
        plain, rich = self.script("return window.copied")
        self.assertEqual(plain, self.figure(line, column))
        address = self.script(
            "return new DOMParser().parseFromString(arguments[0], 'text/html').querySelector('a').href", rich
        )
        self.assertTrue(address.endswith(f"?of=Lanternfish+Ferries#{line}/{column}"), address)
        self.until(lambda: "with its name" in self.one("main [role=status]").text, "it is said")
        self.clean()
        self.driver.get(address)
        self.until(lambda: self.all("td[aria-selected=true]"), "a figure is in hand")
        self.assertEqual(self.selected(), f"figure:{line}:{column}")


if __name__ == "__main__":
    unittest.main()
