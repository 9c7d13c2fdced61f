"""The rulebook in the browser: rules read, tried, kept or dropped, added and used from a file."""

from pathlib import Path

from tests.browser.desk import DeskTest, Keys


class RulebookTest(DeskTest):
    def open_book(self) -> None:
        self.button("Rulebook").click()
        self.until(lambda: self.all("main li [data-word]"), "the rules are there")

    def choose(self, clause: str, choice: str) -> None:
        """Choose another value for a clause of the first rule."""
        self.one(f"main li:first-child [data-word={clause}]").click()
        self.until(lambda: self.all("[role=menu]"), "the word opens")
        self.button(choice).click()

    def test_a_change_is_tried_looked_at_on_the_page_and_kept_or_dropped(self) -> None:
        self.open_book()
        self.clean()
        self.choose("scale", "crores")
        self.until(lambda: "figures change" in self.margin(), "it is on trial")
        self.assertIn("51 gaps under these rules", self.one("footer").text)
        self.keys("t")
        self.until(lambda: self.all("[data-caption]"), "the page opens")
        self.assertEqual(self.one("[data-caption]").text, "₹ crores")
        self.assertIn("0 changes today", self.one("nav").text)
        self.clean()
        self.keys("d")
        self.until(lambda: self.one("[data-caption]").text == "₹ lakhs", "dropped")

        self.one('[id="figure:costs:y26"]').click()
        self.until(lambda: self.all("[data-word=decimals]"), "the sentence")
        self.keys("t", "]")
        self.until(lambda: "figures change" in self.margin(), "tried from the page")
        self.assertEqual(self.figure("costs", "y26"), "(2,770.4)")
        self.button("Position").click()
        self.until(lambda: self.all('[id="figure:assets:y26"] bdi'), "another page")
        self.until(lambda: self.figure("assets", "y26") == "6,042.4", "is on trial too")
        self.keys("k")
        self.until(lambda: "1 change today" in self.one("nav").text, "kept")
        self.assertEqual(self.figure("assets", "y26"), "6,042.4")

    def test_rules_are_added_switched_off_and_read_from_a_file(self) -> None:
        self.open_book()
        self.keys("a")
        self.until(lambda: self.all("main form input"), "a new rule")
        self.keys("Totals", Keys.ENTER)
        self.until(lambda: "Totals" in self.one("main ol").text, "it is there, on trial")
        self.assertIn("It has no clauses yet", self.one("main li:last-child").text)
        self.one("main li:last-child [aria-label^='More clauses']").click()
        self.pick("main li:last-child [data-word=plus]", "a plus")
        self.until(lambda: "Rises have" in self.one("main li:last-child").text, "its first word is tried")
        self.assertIn("0 changes today", self.one("nav").text)
        self.keys("k")
        self.until(lambda: "1 change today" in self.one("nav").text, "and both are kept as one")
        self.one("main li:last-child").find_element("xpath", ".//button[.='Switch off']").click()
        self.until(lambda: "switched off" in self.one("main li:last-child").text, "switched off, on trial")
        self.keys("u")
        self.until(lambda: "switched off" not in self.one("main li:last-child").text, "taken back")
        bad = Path(self.profile.name) / "bad.json"
        bad.write_text("{}")
        self.one("main input[type=file]").send_keys(str(bad))
        self.until(lambda: "This is not a rulebook" in self.margin(), "a bad file is refused")
        self.clean()

    def test_house_styles_are_kept_tried_and_followed(self) -> None:
        self.open_book()
        styles = "section[aria-labelledby=house-styles]"
        self.until(lambda: self.all(f"{styles} input"), "they are offered")
        self.one(f"{styles} input").click()
        self.keys("Ferries, statutory", Keys.ENTER)
        self.until(lambda: "Ferries, statutory, version 1" in self.one(styles).text, "one is kept")
        self.button("Try Ferries, statutory, version 1").click()
        self.until(lambda: "On trial" in self.margin(), "it is tried first")
        self.assertIn("follows no house style", self.one(styles).text)
        self.one("h1").click()
        self.keys("k")
        self.until(lambda: "Follows Ferries, statutory, version 1" in self.one(styles).text, "followed")
        self.choose("scale", "crores")
        self.until(lambda: "On trial" in self.margin(), "a word of its own")
        self.keys("k")
        self.until(lambda: "(1)" in self.one(styles).text, "which it says otherwise")
        self.button("Keep as version 2").click()
        self.until(lambda: "version 2 is there" in self.one(styles).text, "the next version")
        self.clean()
        self.button("Try version 2").click()
        self.until(lambda: "On trial" in self.margin(), "tried")
        self.button("Drop it").click()
        self.button("Stop following it").click()
        self.until(lambda: "follows no house style" in self.one(styles).text, "left")

    def test_origins_copied_clauses_and_another_locale(self) -> None:
        self.keys("4")
        self.until(lambda: self.all(".origin"), "the Origin lens")
        self.clean()
        self.one('[id="figure:salv:y26"]').click()
        self.keys("y")
        self.one('[id="figure:int:y26"]').click()
        self.keys("v")
        self.until(lambda: "Clauses given to 1 line" in self.said(), "given")
        self.keys("u")
        self.until(lambda: "Undone" in self.said(), "taken back")
        self.open_book()
        self.choose("locale", "Marathi, India")
        self.until(lambda: "figures change" in self.margin(), "tried in Marathi")
        self.keys("k", "t")
        self.until(lambda: self.all('[id="figure:costs:y26"] bdi'), "the page")
        self.until(lambda: self.figure("costs", "y26") == "(२,७७०)", "in its own digits")
        self.clean()

    def tab_to(self, name: str) -> None:
        """Tab until the control whose name starts so has the focus."""
        for _ in range(80):
            self.keys(Keys.TAB)
            label = self.script(
                "const at = document.activeElement; return (at.ariaLabel ?? at.textContent).trim()"
            )
            if label.startswith(name):
                return
        self.fail(f"Tab did not come to {name}")

    def test_the_story_by_keyboard_alone(self) -> None:
        self.keys("/")
        self.until(lambda: self.all("[role=dialog] input"), "the finder")
        self.keys("Rulebook", Keys.ENTER)
        self.until(lambda: self.all("main li [data-word]"), "the rules are there")
        self.until(lambda: self.in_hand() == "House rule", "the first rule has the focus")

        self.keys("a")
        self.until(lambda: self.all("main form input"), "a new rule")
        self.keys("Fares per passenger", Keys.TAB, Keys.TAB)
        self.pick(None, "of kind per")
        self.keys(*[Keys.TAB] * 3, Keys.ENTER)
        self.until(lambda: self.in_hand() == "Fares per passenger", "it has the focus, on trial")
        self.tab_to("More clauses")
        self.keys(Keys.ENTER)
        self.tab_to("decimals")
        self.pick(None, "the currency’s own decimals")
        self.until(lambda: "own decimals" in self.rule("Fares per passenger"), "its first word")

        self.keys("a")
        self.until(lambda: self.all("main form input"), "another rule")
        self.keys("Rises and falls", Keys.ENTER)
        self.until(lambda: self.in_hand() == "Rises and falls", "it has the focus")
        self.tab_to("More clauses")
        self.keys(Keys.ENTER)
        self.tab_to("marks by condition")
        self.pick(None, "▲ ▼, with a threshold")
        self.until(lambda: self.all("main li form input"), "a threshold can be typed")
        self.keys("-0.10", Keys.ENTER)
        self.until(lambda: "▼ below -0.10 in rust" in self.rule("Rises and falls"), "marks by condition")
        self.assertIn("figures change", self.margin())
        self.keys("t")
        self.until(lambda: self.all(".band"), "the marks are on the page, on trial")
        self.assertIn("0 changes today", self.one("nav").text)
        self.keys("k")
        self.until(lambda: "1 change today" in self.one("nav").text, "all of it is kept as one change")
        self.keys("u")
        self.until(lambda: not self.all(".band"), "and undone as one")

        self.keys("4")
        self.until(lambda: self.all(".origin"), "the Origin lens")
        self.one('[id="figure:salv:y26"]').send_keys("")  # as a reader of the page comes back to it
        self.keys("y", Keys.ARROW_UP)
        self.keys(Keys.SHIFT + Keys.ARROW_UP)
        self.keys("v")
        self.until(lambda: "Clauses given to" in self.said(), "given to the chosen lines")
        self.keys("u")
        self.until(lambda: "Undone" in self.said(), "taken back")

    def in_hand(self) -> str:
        return str(self.script("return document.activeElement.textContent"))

    def rule(self, name: str) -> str:
        return next(card.text for card in self.all("main li") if card.text.startswith(name))
