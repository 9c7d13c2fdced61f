"""Two people from other machines: links in a mail, one signed in after the other, and out again."""

from __future__ import annotations

import re
import subprocess
import sys
import urllib.parse
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from humble_sum.records.backup import NAME
from tests.browser.desk import AXE, DeskTest

COMMAND = [sys.executable, "-c", "from humble_sum.cli.main import main; main()"]
ADDRESS = "127.0.0.2"  # of this machine, and not one by which everybody is let in
PEOPLE = ["--editor", "Asha", "--reader", "Ravi"]


class SigningInTest(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        folder = Path(self.server.folder)
        self.server.kill()
        self.assertTrue((folder / NAME).exists())
        shown = [*COMMAND, "serve", "--data", str(folder), "--host", ADDRESS, "--port", "0", *PEOPLE]
        server = subprocess.Popen(shown, stdout=subprocess.PIPE, text=True)
        self.addCleanup(server.communicate)
        self.addCleanup(server.kill)
        assert server.stdout is not None
        self.links = dict[str, str]()
        while len(self.links) < 2:
            line = server.stdout.readline()
            self.assertTrue(line, "it ended before it said who may come in")
            if found := re.search(r"(\w+) (?:edits|reads): (\S+)", line):
                self.links[found[1]] = found[2]

    def follow(self, name: str) -> None:
        """Click a link in a page of another site, such as a mail."""
        mail = f"<!doctype html><title>mail</title><a href='{self.links[name]}'>the statements</a>"
        self.driver.get(f"data:text/html,{urllib.parse.quote(mail)}")
        self.one("a").click()

    def history(self) -> str:
        """The address of the pack's history."""
        return f"http://{urllib.parse.urlsplit(self.links['Asha']).netloc}/history/{self.pack()}"

    def test_a_link_from_a_mail_signs_in_and_another_asks_first(self) -> None:
        self.follow("Asha")
        self.until(lambda: self.all(".statement td[role=gridcell]"), "the page opens")
        token = self.links["Asha"].partition("#")[2]
        self.assertNotIn(token, self.script("return location.href + document.cookie + document.referrer"))
        self.driver.refresh()
        self.until(lambda: self.all(".statement td[role=gridcell]"), "the page opens again")
        # Somebody else's link does not take this place unasked.
        self.follow("Ravi")
        self.until(lambda: self.all("#instead:not([hidden])"), "the other link is asked about")
        self.assertIn("You are signed in here as Asha.", self.one("main").text)
        self.script(AXE.read_text())
        wrong = self.driver.execute_async_script(
            "axe.run().then((found) => arguments[0](found.violations.map((each) => each.id)))"
        )
        self.assertEqual(wrong, [])
        self.script("document.querySelector('#stay').focus()")
        self.keys(Keys.ENTER)
        self.until(lambda: self.all(".statement td[role=gridcell]"), "Asha stays")
        self.follow("Ravi")
        self.until(lambda: self.all("#instead:not([hidden])"), "it is asked again")
        self.one("#change").click()
        self.until(lambda: self.all(".statement td[role=gridcell]"), "Ravi reads")
        self.driver.get(self.history())
        self.until(lambda: "Ravi" in self.one("body").text, "whose changes these would be")
        self.assertIn("who reads and changes nothing", self.one("body").text)
        self.button("Sign out").click()
        self.until(lambda: self.all("#by-link:not([hidden])"), "nobody is signed in")
        self.one("#link").send_keys("nothing" + Keys.ENTER)
        self.until(lambda: "opens nothing" in self.one("#says").text, "a wrong link is refused")
        self.one("#link").send_keys(self.links["Asha"] + Keys.ENTER)
        self.until(lambda: self.driver.find_elements(By.CSS_SELECTOR, ".statement"), "a pasted link signs in")


if __name__ == "__main__":
    import unittest

    unittest.main()
