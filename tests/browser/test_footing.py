"""The footing screen: the plan as a sentence, what it would move, compared on the page and kept."""

from tests.browser.desk import DeskTest


class FootingTest(DeskTest):
    def open_footing(self) -> None:
        self.button("Footing").click()
        self.until(lambda: self.all("main table"), "the plan is there")

    def moved(self) -> int:
        """How many figures the plan would move, as the margin says."""
        said = self.one("#after + dl").text.split()
        return int(said[said.index("Moved") + 1])

    def test_a_word_changes_what_would_move_and_the_plan_is_compared_and_kept(self) -> None:
        self.open_footing()
        self.clean()
        self.assertEqual(self.moved(), 46)
        self.assertIn("Night freight, 2025–26 in Income", self.one("main").text)
        self.pick("[data-word=choosing]", "the fewest figures")
        self.until(lambda: self.moved() < 46, "fewer figures would move")
        few = self.moved()
        self.button("Of figure").click()
        cells = self.all("[aria-labelledby=moves] tbody td:last-child")
        shares = [float(cell.text.strip("<%")) for cell in cells]
        self.assertEqual(shares, sorted(shares, reverse=True))

        self.one("[aria-label^='Why ']").click()
        self.until(lambda: "The least plan that leaves it alone" in self.one("main").text, "why it moves")
        self.clean()
        self.keys("c")
        self.until(lambda: self.all("[data-caption]"), "the page opens")
        self.until(lambda: f"{few} figures change" in self.margin(), "the plan is on trial")
        self.assertEqual(self.gaps(), 0)
        self.assertIn("15 gaps", self.one("nav").text)
        self.keys("d")
        self.until(lambda: self.gaps() == 15, "dropped")

        self.open_footing()
        self.pick("[data-word=choosing]", "the fewest figures")
        self.until(lambda: self.moved() == few, "planned again")
        self.keys("k")
        self.until(lambda: "15 gaps" not in self.one("nav").text, "kept")
        self.assertIn("Footed the pack", self.said())
        self.until(lambda: f"{few} nudges kept, nothing more would move" in self.one("body").text, "said")
        self.assertFalse(self.button("Kept").is_enabled())
        self.until(lambda: not self.all("main button.text-rust"), "no gap is left")
        self.keys("u")
        self.until(lambda: "15 gaps" in self.one("nav").text, "undone")

    def test_holds_in_the_way_are_said_and_released(self) -> None:
        for line in ("pbt", "tax", "net"):
            self.one(f'[id="figure:{line}:y26"]').click()
            self.keys("h")
            self.until(lambda line=line: self.all(f'[id="figure:{line}:y26"].held'), "held")  # type: ignore[misc]
        self.open_footing()
        self.until(lambda: "No plan can keep every hold" in self.margin(), "it is impossible")
        self.assertIn("Surplus for the year, 2025–26", self.margin())
        self.clean()
        others = [way.text for way in self.all("aside [role=alert] ul button")]
        self.assertEqual(len(others), 2)
        self.assertTrue(all("instead" in way for way in others), others)
        self.until(
            lambda: "Release" in self.script("return document.activeElement.textContent"),
            "the way out has the focus",
        )
        self.keys("r")
        self.until(lambda: self.all("#after"), "then there is a plan")
        self.assertIn("no plan is less", self.margin())
        self.one("[aria-labelledby=moves] tbody button").click()
        self.until(lambda: self.all('[id="figure:costs:y26"]'), "a figure of the list opens the page")


class AnswersTest(DeskTest):
    def test_a_statement_planned_otherwise_is_seen_before_and_after_on_the_page(self) -> None:
        self.button("Footing").click()
        self.until(lambda: self.all("#after + dl"), "the plan is there")
        plan = self.one("[aria-label='The plan']")
        next(each for each in plan.find_elements("tag name", "button") if each.text == "Income").click()
        self.until(lambda: "In Income" in self.one("[aria-label='The plan']").text, "a plan of its own")
        self.clean()
        self.keys("c")
        self.until(lambda: self.all(".was"), "what was printed before stands beside it")
        self.assertIn("411", self.one(".was").text)
        self.clean()
        self.keys("k")
        self.until(lambda: not self.all(".was") and self.gaps() == 0, "kept")

    def test_a_total_takes_a_rounding_line_and_a_gap_is_left_with_a_note(self) -> None:
        self.one('[id="figure:costs:y26"]').click()
        self.until(lambda: "Total costs, 2025–26" in self.margin(), "the margin")
        self.pick("[data-word=answer]", "they are left with a note")
        self.until(
            lambda: "Figures may not add" in self.one("[data-caption]").text, "the note is on the page"
        )
        self.clean()
        self.pick("[data-word=answer]", "a rounding line takes them")
        self.until(lambda: "Rounding" in self.one(".statement").text, "the line is there")
        self.keys("f")
        self.until(lambda: self.gaps() == 0, "it foots")

    def test_one_gap_is_left_with_a_note_and_the_plan_lists_it(self) -> None:
        self.one('[id="figure:costs:y26"]').click()
        self.until(lambda: "Total costs, 2025–26" in self.margin(), "the margin")
        self.pick("[data-word=answered_in]", "in 2025–26")
        self.until(lambda: self.one("[data-word=answered_in]").text == "in 2025–26", "one column")
        self.pick("[data-word=answer]", "they are left with a note")
        self.until(lambda: "left with a note" in self.said(), "noted")
        self.one('[id="figure:costs:y25"]').click()
        self.until(lambda: "nudges make it add" in self.margin(), "not in the other column")
        self.button("Footing").click()
        self.until(lambda: self.all("[aria-label='The plan'] summary"), "the plan")
        self.one("[aria-label='The plan'] summary").click()
        listed = self.one("[aria-label='The plan'] details button")
        self.assertEqual(listed.text, "Total costs, 2025–26 in Income")
        self.clean()
        listed.click()
        self.until(lambda: self.all('[id="figure:costs:y26"].selected'), "opened from the list")

    def test_a_figure_is_tied_to_another_and_untied_by_keys(self) -> None:
        self.one('[id="figure:tot:y26"]').click()
        self.until(lambda: "Total income, 2025–26" in self.margin(), "the margin")
        self.keys("=")
        self.until(lambda: "Tie Total income, 2025–26 to" in self.margin(), "asked what it is tied to")
        self.button("Position").click()
        self.until(lambda: self.all('[id="figure:assets:y26"] bdi'), "on the page of another statement")
        self.one('[id="figure:assets:y26"]').click()
        self.until(lambda: "Total assets" in self.margin(), "a figure is pointed at")
        self.clean()
        self.keys("\ue007")
        self.until(lambda: "tied to Total assets, 31 March 2026" in self.said(), "tied on the page")
        self.keys("u")
        self.until(lambda: "Undone" in self.said(), "taken back")
        self.button("Income").click()
        self.until(lambda: self.all('[id="figure:tot:y26"] bdi'), "the first page")
        self.one('[id="figure:tot:y26"]').click()
        self.keys("=")
        self.until(lambda: self.all("aside [cmdk-input]"), "and by its name")
        self.one("aside [cmdk-input]").send_keys("bank 2025")
        self.until(lambda: "31 March 2025" in self.one("[cmdk-item]").text, "figures of that name")
        self.keys("\ue007")
        self.until(lambda: "tied to Cash and bank, 31 March 2025" in self.said(), "tied")
        self.until(lambda: "another amount" in self.margin(), "what differs is said")
        self.clean()
        self.button("Untie").click()
        self.until(lambda: "tied to nothing" in self.said(), "untied")

    def test_a_change_is_given_and_derived_again(self) -> None:
        self.one('[id="figure:tot:change"]').click()
        self.until(lambda: self.all("[data-word=terms]"), "the margin")
        self.pick("[data-word=terms]", "given")
        self.until(lambda: "Change is given" in self.said(), "given")
        self.pick("[data-word=terms]", "2025–26 less 2024–25")
        self.until(lambda: "less" in self.said(), "derived")
        self.clean()

    def test_changes_are_signed(self) -> None:
        self.one('[id="figure:costs:y26"]').click()
        self.button("0 changes today").click()
        self.until(lambda: "Your name" in self.margin(), "history")
        self.one("aside input").send_keys("A. Petrel")
        self.button("Income").click()
        self.until(lambda: self.all('[id="figure:costs:y26"]'), "the page")
        self.one('[id="figure:costs:y26"]').click()
        self.keys("h")
        self.until(lambda: "Held" in self.said(), "held")
        self.button("1 change today").click()
        self.until(lambda: "A. Petrel" in self.one("main table").text, "signed")
        self.clean()
