"""A browser at a desk: Chromium on a server of its own, over a fresh folder of records."""

from __future__ import annotations

import json
import os
import re
import shutil
import tempfile
import unittest
from collections.abc import Callable
from functools import cache
from multiprocessing.util import Finalize
from pathlib import Path
from typing import Any

from selenium import webdriver
from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from tests.forked import Server
from tests.server.template import demo_database

os.environ.setdefault("SE_OFFLINE", "true")
ROOT = Path(__file__).parent.parent.parent
AXE = ROOT / "web/node_modules/axe-core/axe.min.js"
FLAGS = [
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
PATIENCE = 20  # seconds: how long a wait may take before it is a failure


class Drawn(WebElement):
    """An element whose text the browser tells itself: reading a margin took 17 ms of scripts, and a page more."""

    @property
    def text(self) -> str:
        shown = str(self.parent.execute_script("return arguments[0].innerText", self))
        # Spaces as WebDriver tells them; the narrow ones within figures stay.
        lines = (re.sub(r"[ \t\u00a0]+", " ", line).strip(" ") for line in shown.split("\n"))
        return "\n".join(line for line in lines if line)


class Driven(webdriver.Chrome):
    _web_element_cls = Drawn


def chromium(profile: Path, downloads: Path | None = None) -> webdriver.Chrome:
    """Debian's Chromium with a profile of its own."""
    options = webdriver.ChromeOptions()
    options.binary_location = shutil.which("chromium") or "chromium"
    for flag in (*FLAGS, f"--user-data-dir={profile}"):
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    if downloads is not None:
        options.add_experimental_option("prefs", {"download.default_directory": str(downloads)})
    driver = Driven(options=options, service=webdriver.ChromeService(shutil.which("chromedriver")))
    resize(driver, 1280, 800)
    return driver


def resize(driver: webdriver.Chrome, width: int, height: int) -> None:
    metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)


@cache
def browser() -> tuple[webdriver.Chrome, tempfile.TemporaryDirectory[str]]:
    """The browser of this process with its folder, both gone when the process ends."""
    folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
    driver = chromium(Path(folder.name) / "profile", Path(folder.name) / "downloads")

    def end() -> None:
        driver.quit()
        folder.cleanup()

    Finalize(None, end, exitpriority=1)
    return driver, folder


class DeskTest(unittest.TestCase):
    """One browser and one address for all tests of a process; one server and one fresh record for each. By
    the address the browser knows the program from the test before and need not compile it again."""

    port = 0
    driver: webdriver.Chrome
    profile: tempfile.TemporaryDirectory[str]
    downloads: Path

    @classmethod
    def setUpClass(cls) -> None:
        cls.driver, cls.profile = browser()
        cls.downloads = Path(cls.profile.name) / "downloads"
        shutil.rmtree(cls.downloads, ignore_errors=True)

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        demo_database(Path(folder.name) / "records.sqlite").close()
        self.server = Server(Path(folder.name), self.port)
        self.addCleanup(self.server.kill)
        DeskTest.port = self.server.port
        resize(self.driver, 1280, 800)
        self.open()

    def open(self) -> None:
        self.driver.get("about:blank")
        self.driver.get_log("browser")  # type: ignore[no-untyped-call]  # drops what an earlier test left
        kept = {"origin": self.server.address.rstrip("/"), "storageTypes": "cookies,local_storage,indexeddb"}
        self.driver.execute_cdp_cmd("Storage.clearDataForOrigin", kept)
        self.driver.get(self.server.address)
        self.until(lambda: self.all(".statement td[role=gridcell]"), "the page opens")
        self.settled()

    def all(self, selector: str) -> list[WebElement]:
        return self.driver.find_elements(By.CSS_SELECTOR, selector)

    def one(self, selector: str) -> WebElement:
        return self.driver.find_element(By.CSS_SELECTOR, selector)

    def until(self, holds: Callable[[], object], what: str) -> None:
        """Wait until something holds, or fail saying what did not come to be."""
        # What is looked at may be redrawn between finding it and reading it; then look again.
        redrawn = [StaleElementReferenceException]
        WebDriverWait(self.driver, PATIENCE, 0.05, redrawn).until(lambda _: holds(), what)

    def settled(self) -> None:
        """Wait until nothing on the page moves any more, so that a click meets what it aims at."""
        refs = (
            "return JSON.stringify([...document.querySelectorAll('button, a')]"
            ".map((each) => each.getBoundingClientRect()))"
        )
        before: list[object] = [None]

        def still() -> bool:
            before.append(self.script(refs))
            return before[-1] == before[-2]

        self.until(still, "the page keeps still")

    def keys(self, *keys: str) -> None:
        for key in keys:
            ActionChains(self.driver).send_keys(key).perform()

    def script(self, source: str, *arguments: Any) -> Any:
        return self.driver.execute_script(source, *arguments)

    def button(self, name: str) -> WebElement:
        """The button, link or menu item of this name, or else the first whose name starts so, once it is
        there."""
        found: list[object] = []

        def there() -> bool:
            found.append(self._named(name))
            return found[-1] is not None

        self.until(there, f"a control called {name}")
        assert isinstance(found[-1], WebElement)
        return found[-1]

    def _named(self, name: str) -> object:
        return self.script(
            "const named = [...document.querySelectorAll('button, a, [role^=menuitem]')].map((control) =>"
            " [control, (control.ariaLabel ?? control.textContent).trim()]);"
            "const exact = named.find(([, name]) => name === arguments[0]);"
            "return (exact ?? named.find(([, name]) => name.startsWith(arguments[0])))?.[0]",
            name,
        )

    def pick(self, word: str | None, choice: str) -> None:
        """Open a word, or the one that has the focus, and choose by arrows and Enter."""
        if word is not None:
            self.script("document.querySelector(arguments[0]).focus()", word)
        self.keys(Keys.ENTER)
        self.until(lambda: self.all("[role=menu]"), "the word opens")
        for _ in range(50):
            if self.script("return document.activeElement.textContent").lstrip("•").startswith(choice):
                break
            self.keys(Keys.ARROW_DOWN)
        self.keys(Keys.ENTER)
        self.until(lambda: not self.all("[role=menu]"), f"{choice} is chosen")

    def pack(self) -> str:
        """The id of the first pack."""
        asked = "fetch('/api/packs').then((answer) => answer.json()).then(([pack]) => arguments[0](pack.id))"
        return str(self.driver.execute_async_script(asked))

    def figure(self, line: str, column: str) -> str:
        """The printed text of a figure, without the pencil marks beside it."""
        digits = f"document.getElementById('figure:{line}:{column}').querySelector('bdi').textContent"
        return str(self.script(f"return {digits}"))

    def selected(self) -> str:
        return str(self.one("td[aria-selected=true]").get_attribute("id"))

    def gaps(self) -> int:
        """How many gaps the page flags."""
        return len(self.all(".statement .flag:not(.break)"))

    def said(self) -> str:
        return self.one("header [role=status]").text

    def margin(self) -> str:
        return self.one("aside").text

    def clean(self, *but: str) -> None:
        """The page breaks no rule axe knows, but for those named, and nothing went to the console."""
        if not self.script("return window.axe !== undefined"):
            self.script(AXE.read_text(encoding="utf-8"))
        found = self.driver.execute_async_script(
            "const done = arguments[0]; axe.run({resultTypes: ['violations']}).then((r) => done("
            "JSON.stringify(r.violations.map((v) => [v.id, v.nodes.slice(0, 3).map((n) => n.html.slice(0, 150))]))))"
        )
        self.assertEqual([each for each in json.loads(found) if each[0] not in but], [])
        severe = [entry for entry in self.driver.get_log("browser") if entry["level"] == "SEVERE"]  # type: ignore[no-untyped-call]
        self.assertEqual(
            [entry for entry in severe if "409" not in entry["message"] and "422" not in entry["message"]], []
        )


__all__ = ["DeskTest", "Keys", "resize"]
