"""The desk on a phone and on a small tablet: one of spine, work and margin at a time, and room for a thumb."""

from __future__ import annotations

import unittest

from selenium.webdriver.remote.webelement import WebElement

from tests.browser.desk import DeskTest, resize

WIDTHS = ((390, 844), (768, 1024))
SCREENS = ("page", "figures", "rulebook", "footing", "places", "issue", "history")
LEAST = 44  # pixels of what is pressed
SMALL = """
return [...document.querySelectorAll(".desk > :is(nav, header, main, aside, footer) :is(button, a, summary), .panes button")]
  .filter((each) => !each.closest("main a, .statement"))
  .filter((each) => each.checkVisibility())
  .map((each) => [each, each.getBoundingClientRect()])
  .filter(([, box]) => box.width > 1 && (box.height < arguments[0] || box.width < arguments[0]))
  .map(([each, box]) => `${each.ariaLabel ?? each.textContent}: ${box.width} x ${box.height}`)
"""


class PhoneTest(DeskTest):
    def pane(self, name: str) -> WebElement:
        """A button of the bar at the bottom: the first begins the pack, the last is of the margin."""
        (found,) = [each for each in self.all(".panes button") if each.text == name]
        return found

    def narrow(self, width: int, height: int) -> None:
        resize(self.driver, width, height)
        self.until(lambda: self.script("return innerWidth") == width, "the screen is narrow")

    def test_every_screen_fits_and_every_control_has_room(self) -> None:
        pack = self.pack()
        for width, height in WIDTHS:
            self.narrow(width, height)
            for screen in SCREENS:
                if screen != "page":
                    path = "/figures" if screen == "figures" else f"/{screen}/{pack}"
                    self.driver.get(self.server.address.rstrip("/") + path)
                    self.until(lambda: self.all(".desk > main, .desk > aside"), screen)
                    self.until(lambda: "Opening…" not in self.one("body").text, f"{screen} is there")
                for place in range(3):
                    self.until(lambda: len(self.all(".panes button")) == 3, "what may be in view")
                    self.all(".panes button")[place].click()
                    self.settled()
                    with self.subTest(width=width, screen=screen, place=place):
                        self.assertEqual(self.script("return document.documentElement.scrollWidth"), width)
                        self.assertEqual(self.script(SMALL, LEAST), [])
                        # While the work is out of view there is no main part of the page.
                        self.clean(*([] if place == 1 else ["landmark-one-main"]))
            self.open()

    def test_a_gap_is_walked_to_looked_into_and_closed_with_a_thumb(self) -> None:
        self.narrow(390, 844)
        self.pane("Pack").click()
        self.until(lambda: "Cash flows" in self.one(".desk > [aria-label=Pack]").text, "the pack")
        self.assertFalse(self.one(".desk > main").is_displayed())
        self.button("Cash flows").click()
        self.until(lambda: self.one("h1").text == "Cash flows", "the statement comes into view")
        self.button("Next gap").click()
        self.until(lambda: self.all("td[aria-selected=true]"), "a figure in hand")
        self.pane("Figure").click()
        self.until(lambda: self.all("aside [aria-label=Trace]"), "how it came to print")
        self.assertIn("printed parts add to", self.one("aside").text)
        self.pane("Cash flows").click()
        self.button("Foot the pack").click()
        self.until(lambda: not self.all("td .gap, footer [aria-label^='+']"), "nothing is left open")
        self.pane("Pack").click()
        self.until(lambda: "gap" not in self.one(".desk > [aria-label=Pack] ul").text, "the pack foots")


if __name__ == "__main__":
    unittest.main()
