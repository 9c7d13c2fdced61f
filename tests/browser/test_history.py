"""The history as a screen: what it lists, and the ways back."""

from __future__ import annotations

from tests.browser.desk import DeskTest, Keys


class HistoryTest(DeskTest):
    def rows(self) -> list[str]:
        return [row.text for row in self.all("main tbody tr")]

    def choose(self, word: str, choice: str) -> None:
        self.pick(f"[data-word={word}]", choice)

    def test_what_was_done_is_listed_filtered_looked_at_and_gone_back_to(self) -> None:
        self.one('[id="figure:net:y26"]').click()
        self.keys("h")
        self.until(lambda: "Held" in self.said(), "held")
        self.one('[id="figure:fuel:y26"]').click()
        self.keys("z")
        self.until(lambda: "2 changes today" in self.one("nav").text, "a rule changed")
        self.keys("f")
        self.until(lambda: self.gaps() == 0, "footed")
        self.button("3 changes today").click()
        self.until(lambda: len(self.rows()) == 3, "all of it")
        self.assertIn("Footed the pack", self.rows()[0])
        self.clean()

        # A name is put to what is changed from here on.
        self.one("aside input").send_keys("A. Petrel")
        self.one("body").click()
        self.keys("u")
        self.until(lambda: "undone" in self.rows()[0], "undone")
        self.keys("U")
        self.until(lambda: "undone" not in self.rows()[0], "redone")

        self.driver.get(self.driver.current_url.replace("/packs/", "/history/"))
        self.until(lambda: len(self.rows()) == 3, "the address is the screen's own")
        self.keys("a")
        self.until(lambda: self.all("[cmdk-input]"), "which figure")
        self.one("[cmdk-input]").send_keys("surplus for the year 2025")
        self.until(lambda: "Surplus for the year, 2025–26" in self.one("[cmdk-item]").text, "it is found")
        self.keys(Keys.ENTER)
        self.until(lambda: len(self.rows()) < 3, "its changes alone")
        self.assertTrue(any("Held" in row for row in self.rows()))
        self.choose("about", "everything")
        self.until(lambda: len(self.rows()) == 3, "all again")
        self.choose("person", "nobody named")
        self.until(lambda: len(self.rows()) == 3, "nobody had a name then")

        self.all("main tbody button")[2].click()
        self.until(lambda: "Held" in self.one("aside h2").text, "the first change")
        self.button("Look at the pack after it").click()
        self.until(lambda: self.gaps() == 15 and "The pack as it was" in self.margin(), "as it was then")
        self.button("Back to now").click()
        self.until(lambda: self.gaps() == 0, "as it is")
        self.button("3 changes today").click()
        self.until(lambda: len(self.rows()) == 3, "the history again")
        self.all("main tbody button")[2].click()
        self.until(lambda: "undoes the 2 changes after it" in self.margin(), "what going back does")
        self.button("Go back to it").click()
        self.until(lambda: len([row for row in self.rows() if "undone" in row]) == 2, "both are undone")
        self.clean()

    def test_words_longer_than_their_place_do_not_push_the_screen_sideways(self) -> None:
        self.one('[id="figure:fuel:y26"]').click()
        self.until(lambda: "Fuel and lubricants" in self.margin(), "the margin")
        self.button("0 changes today").click()
        self.until(lambda: "Your name" in self.margin(), "history")
        self.one("aside input").send_keys("W" * 90)
        self.assertEqual(self.one("aside input").get_attribute("value"), "W" * 80)  # what is kept
        self.button("Income").click()
        self.until(lambda: self.all('[id="figure:fuel:y26"]'), "the page")
        self.one('[id="figure:fuel:y26"]').click()
        self.keys("h")
        self.until(lambda: "Held" in self.said(), "held")
        self.button("1 change today").click()
        self.until(lambda: "WWWW" in self.one("aside").text, "who did it")
        self.until(lambda: len(self.rows()) == 1, "the change")
        self.assertEqual(
            self.script(
                "return [...document.querySelectorAll('main, main *, aside, aside :not(input)')]"
                ".filter((each) => each.clientWidth > 0 && each.scrollWidth > each.clientWidth + 1)"
                ".map((each) => each.outerHTML.slice(0, 80))"
            ),
            [],
        )
        self.clean()
