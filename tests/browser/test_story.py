"""The analyst's story in the browser, from gaps to a footed page taken away."""

import csv
import io
import json
from pathlib import Path

from tests.browser.desk import DeskTest, Keys, chromium, resize


class StoryTest(DeskTest):
    def test_from_gaps_to_a_footed_page_that_survives_a_power_cut(self) -> None:
        self.assertEqual(self.one("h2.text-\\[17px\\]").text, "Statement of income")
        self.assertEqual(self.gaps(), 15)
        self.assertEqual(self.figure("costs", "y26"), "(2,770)")
        self.assertEqual(self.one("[data-caption]").text, "₹ lakhs")
        self.clean()

        # Walk the gaps, and read the trace of one.
        self.keys("n", "n")
        self.until(lambda: self.selected() == "figure:costs:y26", "n goes to the third gap")
        self.until(lambda: "−2,770.3704975" in self.margin(), "its trace shows")
        self.assertIn("printed parts add to (2,768), the total prints (2,770)", self.margin())
        self.keys("p")
        self.until(lambda: self.selected() == "figure:tot:y26", "p goes back")

        # Decimals and negatives in the sentence: page, caption, specimens and gaps follow.
        self.keys("]")
        self.until(lambda: self.figure("costs", "y26") == "(2,770.4)", "one decimal more")
        self.until(lambda: "1,23,456.7" in self.margin(), "specimens follow")
        self.one("[data-word=negative]").click()
        self.button("with a minus").click()
        self.until(lambda: self.figure("costs", "y26") == "−2,770.4", "negatives take a minus")
        self.one("[data-word=scale]").click()
        self.button("crores").click()
        self.until(lambda: self.one("[data-caption]").text == "₹ crores", "the caption follows")
        for _ in range(3):
            self.keys("u")
        self.until(
            lambda: self.figure("costs", "y26") == "(2,770)" and self.gaps() == 15, "undo takes all back"
        )

        # Hold the surplus, foot, see what moved and why.
        self.one('[id="figure:net:y26"]').click()
        self.keys("h")
        self.until(lambda: self.all(".held"), "the surplus is held")
        self.until(lambda: self.all("[aria-label=Trace] input"), "a reason can be given")
        self.one("[aria-label=Trace] input").send_keys("agreed with the auditors", Keys.ENTER)
        self.until(lambda: "agreed with the auditors" in self.one("aside dl").text, "the reason is kept")
        here = "return document.activeElement.id"
        self.until(lambda: self.script(here) == "figure:net:y26", "keys go on at the figure")
        self.keys("f")
        self.until(lambda: self.gaps() == 0, "the page foots")
        self.assertIn("Footed the pack: 46 figures nudged, no plan is less", self.said())
        self.assertEqual(self.figure("net", "y26"), "413")
        self.assertEqual(len(self.all(".caret")), 12)
        self.until(lambda: "12 figures nudged" in self.margin(), "the nudges are listed")
        self.assertIn("Exact −148.496502 rounds to −148.", self.margin())
        self.clean()

        self.keys("u")
        self.until(lambda: self.gaps() == 15, "undo")
        self.keys("U")
        self.until(lambda: self.gaps() == 0, "redo")
        kept = [cell.text for cell in self.all(".statement td[role=gridcell]")]

        # Kill the server, close the browser, and find everything as it was.
        address = self.driver.current_url
        self.server.kill()
        self.server.start()
        fresh = chromium(Path(self.profile.name) / "another")
        self.addCleanup(fresh.quit)
        usual, type(self).driver = self.driver, fresh
        self.addCleanup(lambda: setattr(type(self), "driver", usual))
        self.driver.get(address)
        self.until(lambda: self.all(".statement td[role=gridcell]"), "the page opens again")
        self.assertEqual([cell.text for cell in self.all(".statement td[role=gridcell]")], kept)
        self.assertEqual(self.selected(), "figure:net:y26")
        self.until(lambda: "agreed with the auditors" in self.one("aside dl").text, "the reason too")
        self.keys("u")
        self.until(lambda: self.gaps() == 15, "undo reaches back past the restart")

    def test_holds_that_conflict_are_settled_from_the_margin(self) -> None:
        for line in ("pbt", "tax", "net"):
            self.one(f'[id="figure:{line}:y26"]').click()
            self.keys("h")
            self.until(lambda line=line: self.all(f'[id="figure:{line}:y26"].held'), f"{line} is held")  # type: ignore[misc]
        self.script("document.querySelector('aside').scrollTop = 400")
        self.keys("f")
        self.until(lambda: self.all("[role=alert]"), "it cannot foot")
        self.assertIn("these cannot all add: Surplus for the year, 2025–26", self.one("[role=alert]").text)
        inside = (
            "const a = document.querySelector('[role=alert]'); const top = a.getBoundingClientRect().top;"
        )
        self.assertTrue(self.script(inside + "return top >= a.closest('aside').getBoundingClientRect().top"))
        self.assertEqual(self.gaps(), 15)
        self.clean()
        self.button("Release it and foot").click()
        self.until(lambda: self.gaps() == 0, "one hold is released and the page foots")
        self.assertEqual(len(self.all(".held")), 2)

    def test_one_gap_is_closed_from_the_margin_and_cleared(self) -> None:
        self.one('[id="figure:costs:y26"]').click()
        self.until(lambda: "Harbour dues to (149)" in self.margin(), "ways are offered")
        self.button("Nudge Harbour dues").click()
        self.until(lambda: self.figure("dep", "y26") == "(315)", "the figures are nudged")
        self.until(lambda: "2 figures nudged" in self.margin(), "and listed")
        self.button("Clear nudges").click()
        self.until(lambda: not self.all(".caret"), "and cleared")

    def test_the_statement_is_taken_away(self) -> None:
        self.one("nav details summary").click()
        for name in ("Workbook", "Web page", "Figures as printed", "Text in Markdown", "Pack file"):
            self.button(name).click()
        expected = {
            f"lanternfish-ferries-income.{format}" for format in ("xlsx", "html", "csv", "md", "json")
        }
        self.until(lambda: expected <= {file.name for file in self.downloads.iterdir()}, "files arrive")
        text = (self.downloads / "lanternfish-ferries-income.csv").read_text(encoding="utf-8-sig")
        rows = {row[0]: row[1:] for row in csv.reader(io.StringIO(text))}
        self.assertEqual(rows["Total costs"][0], self.figure("costs", "y26"))

    def test_printing_gives_the_statement_alone(self) -> None:
        self.keys("2")
        self.until(lambda: "₹27,70,37,049.75" in self.one(".statement").text, "the exact lens is on")
        self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
        self.addCleanup(self.driver.execute_cdp_cmd, "Emulation.setEmulatedMedia", {"media": ""})
        text = self.one("body").text
        self.assertIn("Lanternfish Ferries", text)
        self.assertIn("Total costs (2,770)", text)
        self.assertIn("₹ lakhs", text)
        for desk in ("Foot the pack", "Saved", "Rule in force", "Footing", "37,049.75", "+1"):
            self.assertNotIn(desk, text)


class PacksTest(DeskTest):
    def test_a_pack_file_is_opened_and_a_bad_one_is_refused_beside_its_cause(self) -> None:
        folder = self.downloads.parent
        self.one("nav details summary").click()
        self.button("Pack file").click()
        file = self.downloads / "lanternfish-ferries-income.json"
        self.until(file.exists, "the pack arrives")
        data = json.loads(file.read_text(encoding="utf-8"))

        bad = folder / "bad.json"
        data["statements"][0]["lines"][1]["amounts"]["y26"] = "NaN"
        bad.write_text(json.dumps(data), encoding="utf-8")
        self.one("input[type=file]").send_keys(str(bad))
        self.until(lambda: self.all("[role=alert]"), "the bad file is refused")
        self.assertIn("statements[0].lines[1].amounts.y26", self.one("[role=alert]").text)

        # A total that is not the sum of its parts: a source break, which footing leaves alone.
        data["entity"] = "Lanternfish Islands"
        data["statements"][0]["lines"][1]["amounts"]["y26"] = "184374651.40"
        costs = next(line for line in data["statements"][0]["lines"] if line["id"] == "costs")
        costs["amounts"] = {"y26": "-277137049.75"}
        other = folder / "other.json"
        other.write_text(json.dumps(data), encoding="utf-8")
        self.one("input[type=file]").send_keys(str(other))
        self.until(lambda: "Lanternfish Islands" in self.one("nav").text, "the good file opens")
        self.until(lambda: self.all(".flag.break"), "its break is shown beside the total")
        self.keys("f")
        self.until(lambda: self.gaps() == 0, "the rest foots")
        self.assertTrue(self.all(".flag.break"))
        self.assertIn("2 breaks", self.one("nav").text)
        self.clean()


class KeyboardTest(DeskTest):
    def test_the_whole_story_without_a_pointer(self) -> None:
        self.keys("n", "n")
        self.until(
            lambda: self.script("return document.activeElement.id") == self.selected(), "focus on a figure"
        )
        self.keys(Keys.ARROW_DOWN, Keys.ARROW_RIGHT)
        self.until(lambda: self.selected() == "figure:op:y25", "arrows move")
        self.keys(Keys.END, Keys.HOME, Keys.ARROW_UP, Keys.ARROW_UP)
        self.until(lambda: self.selected() == "figure:dep:y26", "home and end too")

        # Enter goes to the sentence, Enter opens the word, arrows choose, Escape leaves.
        self.keys(Keys.ENTER)
        self.until(
            lambda: self.script("return document.activeElement.dataset.word") == "form", "in the sentence"
        )
        for _ in range(3):
            self.keys(Keys.TAB)
        self.assertEqual(self.script("return document.activeElement.dataset.word"), "decimals")
        self.keys(Keys.ENTER)
        self.until(lambda: self.all("[role=menu]"), "the word opens")
        self.clean()
        self.keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN, Keys.ENTER)
        self.until(lambda: self.figure("dep", "y26") == "(314.50)", "two decimals are chosen")
        self.until(
            lambda: self.script("return document.activeElement.dataset.word") == "decimals", "focus stays"
        )
        self.keys(Keys.ESCAPE)
        self.until(
            lambda: self.script("return document.activeElement.id") == "figure:dep:y26", "back on the page"
        )

        # Single keys for the common clauses.
        self.keys("[", "[")
        self.until(lambda: self.figure("dep", "y26") == "(314)", "fewer decimals")
        self.keys("b")
        self.until(lambda: self.figure("dep", "y26") == "314−", "negatives")
        self.keys("z")
        self.until(lambda: self.figure("int", "y26") == "", "zeros")
        self.keys("s")
        self.until(lambda: self.one("[data-caption]").text == "₹ millions", "scale")
        self.keys("u", "u", "u", "u", "u", "u")
        self.until(
            lambda: self.figure("dep", "y26") == "(314)" and self.figure("int", "y26") == "–", "undone"
        )

        self.keys("1")
        self.until(lambda: self.gaps() == 0 and not self.all(".drifting"), "the Print lens shows print alone")
        self.keys("3")
        self.until(lambda: self.gaps() == 15, "the Drift lens shows gaps")
        self.keys("?")
        self.until(lambda: self.all("[role=dialog]"), "all keys are listed")
        self.clean()
        self.keys("f")  # rests while the sheet is open
        self.keys(Keys.ESCAPE)
        self.until(lambda: not self.all("[role=dialog]"), "Escape takes the sheet away")
        self.assertEqual(self.gaps(), 15)
        self.keys("f")
        self.until(lambda: self.gaps() == 0, "f foots")
        self.keys("n")
        self.until(lambda: "Every sum" in self.said(), "n says there is no gap")

    def test_anything_is_found_by_part_of_its_name(self) -> None:
        self.keys("/")
        self.until(lambda: self.all("[role=dialog] input"), "find opens")
        self.clean()
        self.keys(*"dues change", Keys.ENTER)
        self.until(lambda: self.selected() == "figure:dues:change", "a figure is found")
        self.until(
            lambda: self.script("return document.activeElement.id") == "figure:dues:change", "with the focus"
        )
        self.keys("/")
        self.until(lambda: self.all("[role=dialog] input"), "find opens again")
        self.keys(*"foot the", Keys.ENTER)
        self.until(lambda: self.gaps() == 0, "a deed is done")

    def test_a_word_of_ones_own_and_an_exception_for_a_line(self) -> None:
        self.one('[id="figure:claims:y26"]').click()
        self.until(lambda: self.all("[data-word=missing]"), "the sentence shows")
        self.one("[data-word=reach]").click()
        self.button("on line Storm claims receivable").click()
        self.one("[data-word=missing]").click()
        self.button("another word").click()
        self.until(
            lambda: self.script("return document.activeElement.tagName") == "INPUT", "a field takes the focus"
        )
        self.keys(*"in dispute", Keys.ENTER)
        self.until(lambda: self.figure("claims", "y26") == "in dispute", "the word prints")
        self.until(
            lambda: "Line" in self.one("[aria-label='Where a word was set']").text, "as the line's own"
        )
        self.one("[data-word=missing]").click()
        self.button("leave it to the broader rule").click()
        self.until(lambda: self.figure("claims", "y26") == "n/a", "and is left to the house again")

    def test_quick_keys_never_collide(self) -> None:
        self.one('[id="figure:costs:y26"]').click()
        self.script(
            "for (const key of ']]]]]]')"
            " document.activeElement.dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true, cancelable: true}))"
        )
        self.until(lambda: self.figure("costs", "y26") == "(2,770.370498)", "six decimals more")
        self.assertFalse(self.all("[role=alert]"))

    def test_a_change_made_elsewhere_is_shown_and_not_written_over(self) -> None:
        pack = self.script("return fetch('/api/packs').then((r) => r.json()).then((packs) => packs[0].id)")
        self.script(
            "return fetch(`/api/packs/${arguments[0]}/changes`, {method: 'POST',"
            " headers: {'Content-Type': 'application/json'}, body: JSON.stringify({revision: 1, change:"
            " {kind: 'set_clause', statement: 'income', line: 'costs', column: 'y26', clause: 'scale', value: 'crores'}})})"
            ".then((r) => r.status)",
            pack,
        )
        self.one('[id="figure:costs:y26"]').click()
        self.keys("]")
        self.until(lambda: self.all("[role=alert]"), "the stale change is refused")
        self.assertIn("The pack has changed since", self.one("[role=alert]").text)
        self.until(lambda: self.one("[data-caption]").text == "₹ crores", "and the other's change is shown")


class WidthTest(DeskTest):
    def test_nothing_is_lost_at_any_width(self) -> None:
        for width, height in ((1024, 768), (1280, 800), (1920, 1080)):
            with self.subTest(width=width):
                resize(self.driver, width, height)
                self.open()
                self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), width)
                page = "const m = document.querySelector('main'); return m.scrollWidth - m.clientWidth"
                self.assertLessEqual(self.script(page), 0, "the page needs no sideways scrolling")
                self.assertTrue(self.button("Foot the pack").is_displayed())
                self.clean()

    def test_history_is_on_record(self) -> None:
        self.keys("f")
        self.until(lambda: self.gaps() == 0, "it foots")
        self.button("1 change today").click()
        self.until(lambda: "Footed the pack: 46 figures nudged" in self.one("main").text, "history shows it")
        self.clean()
