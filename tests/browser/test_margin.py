"""The margin: specimens of one's own, headings that are dates, figures too wide, rules that decided."""

import re

from selenium.webdriver.common.by import By

from tests.browser.desk import DeskTest, Keys

TWO = re.compile(r"\.\d\d\b")  # decimals


class MarginTest(DeskTest):
    def open_figure(self, line: str, column: str) -> None:
        """Choose a figure, and wait until the margin is its own; the last one's stays until then."""
        figure = self.one(f'[id="figure:{line}:{column}"]')
        figure.click()
        label = self.script("return arguments[0].closest('tr').querySelector('.label').textContent", figure)
        self.until(lambda: self.one("aside h2").text.startswith(f"{label},"), "its margin")

    def specimens(self) -> list[str]:
        return [row.text.replace("\n", " ") for row in self.all("[aria-labelledby=specimens] tr")]

    def test_specimens_of_your_own_are_kept_for_every_rule(self) -> None:
        self.open_figure("costs", "y26")
        field = self.one("[aria-labelledby=specimens] input")
        field.send_keys("-149999.50", Keys.ENTER)
        self.until(lambda: any(row.startswith("yours") for row in self.specimens()), "it is printed")
        self.assertIn("(1)", self.specimens()[-1])
        field.send_keys("ten", Keys.ENTER)
        self.until(lambda: self.all("[role=alert]"), "what is no amount is refused")
        self.button("Close").click()
        self.button("Rulebook").click()
        self.until(lambda: any(row.startswith("yours") for row in self.specimens()), "the rulebook has it")
        self.assertIn("−1", self.specimens()[-1])
        self.button("Remove -149999.50").click()
        self.until(lambda: not any(row.startswith("yours") for row in self.specimens()), "taken out")
        self.clean()

    def test_a_column_is_headed_by_a_date_that_follows_the_locale(self) -> None:
        self.open_figure("costs", "y26")
        self.button("Change the heading").click()
        label, date = self.all("#structure ~ form input")
        self.assertEqual(label.get_attribute("value"), "2025–26")
        date.send_keys("2026-02-30", Keys.ENTER)
        self.until(lambda: "not in the calendar" in self.margin(), "no such day")
        self.button("Close").click()
        self.button("Change the heading").click()
        self.all("#structure ~ form input")[1].send_keys("2026-03-31", Keys.ENTER)
        self.until(lambda: self.heads()[0] == "31 March 2026", "the heading is a date")
        self.button("Rulebook").click()
        self.until(lambda: self.all("main li [data-word]"), "the rules")
        self.keys("l")
        self.until(lambda: self.all("[role=dialog] tbody tr"), "locales side by side")
        self.clean()
        self.one("[role=dialog] input").send_keys("gsw-LI", Keys.ENTER)
        self.until(lambda: "gsw-LI" in self.one("[role=dialog] tbody tr").text, "another tag is shown first")
        self.button("Swedish, Sweden").click()
        self.until(lambda: "On trial" in self.margin(), "on trial")
        self.keys("t")
        self.until(lambda: self.all("[data-caption]") and self.heads()[0] == "31 mars 2026", "in Swedish")

    def heads(self) -> list[str]:
        return [head.text for head in self.all(".statement thead th")]

    def test_a_line_is_tagged_with_a_concept_of_another_taxonomy(self) -> None:
        self.open_figure("costs", "y26")

        def write(label: str, text: str) -> None:
            self.settled()
            field = next(each for each in self.all("aside label") if each.text.startswith(label))
            typed = field.find_element("tag name", "input")
            typed.clear()
            typed.send_keys(text)

        next(each for each in self.all("aside summary") if each.text == "Tags").click()
        self.assertIn("Tagged as its own concept", self.margin())
        write("Another taxonomy", "coast")
        write("Its namespace", "https://coast.example/2026")
        write("The schema", "https://coast.example/2026.xsd")
        self.button("Name it").click()
        self.until(lambda: "Concept of another taxonomy" in self.margin(), "it can be tagged from")
        write("Concept", "inland:Expense")
        self.button("Tag the line").click()
        self.until(lambda: "no taxonomy with the prefix" in self.margin(), "which one there is not")
        write("Concept", "coast:Expense")
        self.button("Tag the line").click()
        self.until(lambda: "Tagged as coast:Expense" in self.margin(), "tagged")
        self.clean()
        self.button("Remove the taxonomy coast").click()
        self.until(lambda: "Tagged as its own concept" in self.margin(), "its own again")

    def test_a_figure_too_wide_is_outlined_and_can_be_made_to_fit(self) -> None:
        self.open_figure("costs", "y26")
        self.button("+ more").click()
        self.one("[data-word=width]").click()
        self.until(lambda: self.all("[role=menu]"), "the word opens")
        self.button("another width").click()
        self.until(lambda: self.all("[aria-labelledby=rule-in-force] form input"), "a width can be typed")
        self.one("[aria-labelledby=rule-in-force] form input").send_keys("6", Keys.ENTER)
        self.until(lambda: self.all(".wide"), "figures of seven characters are outlined")
        self.assertEqual(self.figure("costs", "y26"), "(2,770)")
        self.until(lambda: self.all("#remedies"), "ways out are offered")
        self.clean()
        ways = [way.text for way in self.all("#remedies ~ ul button")]
        self.assertTrue(ways[0].startswith("Print in crores"), ways)
        self.all("#remedies ~ ul button")[-1].click()
        self.until(lambda: not self.all('[id="figure:costs:y26"].wide'), "it fits")
        self.until(lambda: not self.all("#remedies"), "no way out is offered any more")

    def test_a_rule_that_decided_opens_in_the_rulebook(self) -> None:
        self.open_figure("salv", "y26")
        decided = self.one("[aria-labelledby=decisions]")
        self.assertIn("rounds away: (0)", decided.text)
        decided.find_element(By.XPATH, ".//button[.='Line Salvage settlement']").click()
        self.until(lambda: self.all("main li [data-word]"), "the rulebook")
        self.until(
            lambda: self.script("return document.activeElement.textContent") == "Line Salvage settlement",
            "the rule has the focus",
        )
        self.driver.back()
        self.until(lambda: self.all('[id="figure:salv:y26"]'), "and back to the page")

    def test_a_trial_goes_along_from_page_to_page_and_is_taken_back_step_by_step(self) -> None:
        self.open_figure("costs", "y26")
        self.keys("t", "]", "]", "b")
        self.until(lambda: self.figure("costs", "y26") == "2,770.37−", "three keys, tried together")
        self.button("Cash flows").click()
        self.until(lambda: self.all("[data-caption]"), "another page")
        self.until(lambda: any(TWO.search(text) for text in self.figures()), "with two decimals too")
        self.keys("u")
        self.until(
            lambda: not any(text.endswith("−") for text in self.figures()), "the last one is taken back"
        )
        self.keys("f")
        self.until(lambda: "Footed the pack" in self.margin(), "footing is tried as well")
        self.assertIn("0 changes today", self.one("nav").text)
        self.keys("d")
        self.until(lambda: "On trial" not in self.margin(), "all of it is dropped")

    def figures(self) -> list[str]:
        return [figure.text for figure in self.all(".statement td bdi") if figure.text]
