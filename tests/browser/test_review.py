"""Two people: one prepares at a desk, another reviews on a phone, each under the name of their own link."""

from __future__ import annotations

import json
import re
import subprocess
import sys
import unittest
import urllib.parse
import urllib.request
from pathlib import Path
from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.browser.desk import DeskTest, resize

COMMAND = [sys.executable, "-c", "from humble_sum.cli.main import main; main()"]
ADDRESS = "127.0.0.2"  # of this machine, and not one by which everybody is let in
PEOPLE = ["--editor", "Asha", "--reviewer", "Rita"]
FUEL = {"statement": "income", "line": "fuel", "column": "y26"}


class ReviewTest(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        folder = Path(self.server.folder)
        self.server.kill()
        shown = [*COMMAND, "serve", "--data", str(folder), "--host", ADDRESS, "--port", "0", *PEOPLE]
        server = subprocess.Popen(shown, stdout=subprocess.PIPE, text=True)
        self.addCleanup(server.communicate)
        self.addCleanup(server.kill)
        assert server.stdout is not None
        self.links = dict[str, str]()
        while len(self.links) < 2:
            line = server.stdout.readline()
            self.assertTrue(line, "it ended before it said who may come in")
            if found := re.search(r"(\w+) (?:edits|reviews): (\S+)", line):
                self.links[found[1]] = found[2]

    def signed_in(self, name: str) -> None:
        self.driver.delete_all_cookies()
        self.driver.get("about:blank")
        self.driver.get(self.links[name])
        self.until(lambda: self.all(".statement td[role=gridcell]"), "the page opens")
        self.settled()
        # What the server that is gone left there, and that nobody was signed in at first.
        self.driver.get_log("browser")  # type: ignore[no-untyped-call]

    def sent(self, name: str, method: str, path: str, body: Any = None) -> Any:
        """What another window of somebody would send."""
        link = urllib.parse.urlsplit(self.links[name])
        asked = urllib.request.Request(
            f"http://{link.netloc}{path}",
            json.dumps(body).encode() if body is not None else None,
            {"Authorization": f"Bearer {link.fragment}", "Content-Type": "application/json"},
            method=method,
        )
        with urllib.request.urlopen(asked, timeout=20) as answer:
            return json.load(answer)

    def change(self, name: str, change: dict[str, Any]) -> Any:
        pack = self.sent(name, "GET", "/api/packs")[0]["id"]
        revision = self.sent(name, "GET", f"/api/packs/{pack}")["revision"]
        body = {"revision": revision, "change": change}
        return self.sent(name, "POST", f"/api/packs/{pack}/changes", body)

    def test_a_point_goes_to_and_fro_and_both_sign(self) -> None:
        # Rita, on a phone: taps a figure, whose sheet opens, and puts a point.
        resize(self.driver, 390, 844)
        self.signed_in("Rita")
        self.script("document.getElementById('figure:fuel:y26').scrollIntoView({block: 'center'})")
        self.script("document.getElementById('figure:fuel:y26').click()")
        self.until(lambda: "Fuel" in self.margin(), "the sheet of the figure")
        self.button("Put a point").click()
        self.until(lambda: self.all("aside textarea"), "room for words")
        self.one("aside textarea").send_keys("Is bunkering in here?" + Keys.CONTROL + Keys.ENTER)
        self.until(lambda: "Rita, 20" in self.margin() and "open" in self.margin(), "the point is there")
        self.clean("landmark-one-main")
        self.assertEqual(self.script("return document.documentElement.scrollWidth"), 390)
        # Asha, at a desk: sees it marked, walks to it by key, answers it with a change.
        resize(self.driver, 1280, 800)
        self.signed_in("Asha")
        self.until(lambda: self.all("[id='figure:fuel:y26'] .point"), "the mark on the figure")
        self.assertIn("1 point", self.one("nav[aria-label=Pack]").text)
        for _ in range(30):
            self.keys("n")
            if self.selected() == "figure:fuel:y26" and "Rita asks" in self.said():
                break
        self.assertIn("Rita asks: Is bunkering in here?", self.said())
        self.keys("h")
        self.until(lambda: self.all("[id='figure:fuel:y26'].held"), "she holds the figure")
        self.button("Answer with the last change").click()
        self.until(lambda: "Change 2, Held" in self.margin(), "the change answers it")
        self.clean()
        # Rita's part comes without a reload, by name.
        points = self.sent("Rita", "GET", f"/api/packs/{self.pack()}/review")["points"]
        self.assertEqual((points[0]["standing"], points[0]["waits"]), ("answered", True))
        self.change("Rita", {"kind": "settle_point", "point": points[0]["id"]})
        self.until(lambda: "Rita: Point settled" in self.said(), "who changed what")
        self.until(lambda: not self.all("[id='figure:fuel:y26'] .point"), "the mark goes")
        # Both sign; what prints otherwise lifts the marks and says what.
        self.keys("x")
        self.until(lambda: "Prepared by Asha" in self.margin(), "her signature")
        self.change("Rita", {"kind": "sign", "role": "reviewed", "statements": ["income"]})
        self.until(lambda: "Reviewed by Rita" in self.margin(), "the reviewer's")
        self.assertIn("prepared, reviewed", self.one("nav[aria-label=Pack]").text)
        self.keys("]")
        self.until(lambda: re.search(r"figures? since 20", self.margin()), "they are lifted")
        self.assertNotIn("reviewed", self.one("nav[aria-label=Pack]").text)
        self.keys("u")
        self.until(lambda: not re.search(r"figures? since 20", self.margin()), "they stand again")

    def test_who_else_is_there_is_shown_with_the_figure_in_hand(self) -> None:
        self.signed_in("Asha")
        pack = self.pack()
        where = urllib.parse.urlencode(FUEL | {"window": "other"})
        self.until(
            lambda: (
                self.sent("Rita", "GET", f"/api/packs/{pack}/now?{where}")
                and self.all("[id='figure:fuel:y26'].in-hand")
            ),
            "the figure in another's hand is marked",
        )
        self.assertIn("Rita is here", self.one("nav[aria-label=Pack]").text)
        self.clean()


if __name__ == "__main__":
    unittest.main()
