"""Structure in the browser: parts, signs, subtotals, order and members, by keys and by dragging."""

from decimal import Decimal
from pathlib import Path

from selenium.webdriver.common.action_chains import ActionChains

from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.exchange.pack_json import write_pack
from tests.browser.desk import DeskTest, Keys


class StructureTest(DeskTest):
    def labels(self) -> list[str]:
        return [each.text for each in self.all(".statement tbody th .label")]

    def with_key(self, key: str, *pressed: str) -> None:
        ActionChains(self.driver).key_down(key).send_keys(*pressed).key_up(key).perform()

    def test_lines_are_rearranged_by_keys_alone_and_undone(self) -> None:
        before = self.labels()
        self.one('[id="figure:keep:y26"]').click()
        self.with_key(Keys.SHIFT, Keys.ARROW_DOWN)
        self.keys("g")
        self.until(lambda: "2 lines under" in self.margin(), "it asks for a name")
        self.keys("Running the fleet", Keys.ENTER)
        self.until(lambda: "Running the fleet" in self.labels(), "the subtotal is there")
        self.assertEqual(self.figure("Running-the-fleet", "y26"), "(544)")
        self.one('[id="figure:dues:y26"]').click()
        self.with_key(Keys.ALT, Keys.ARROW_UP)
        self.until(
            lambda: self.labels().index("Harbour dues") < self.labels().index("Vessel upkeep"), "it moves up"
        )
        self.until(lambda: self.selected() == "figure:dues:y26", "and stays in hand")
        self.keys("-")
        self.until(lambda: "now taken away" in self.said(), "its sign is turned")
        self.assertEqual(self.figure("Running-the-fleet", "y26"), "(247)")
        self.one('[id="figure:dep:y26"]').click()
        self.until(lambda: "Depreciation is" in self.margin(), "its structure is said")
        self.keys("m")
        self.until(lambda: self.all("[role=menuitemradio]"), "the totals it could be a part of")
        self.button("Running the fleet").click()
        self.until(lambda: "made part of Running the fleet" in self.said(), "it is a part of it")
        self.clean()
        for _ in range(4):
            self.keys("u")
        self.until(lambda: self.labels() == before, "undo takes all of it back")

    def test_a_line_is_dragged_onto_a_total_and_to_another_place(self) -> None:
        def drag(line: str, onto: str, down: int) -> None:
            ActionChains(self.driver).move_to_element(self.one(f"tr[data-line={line}] th")).perform()
            grip, target = (self.one(f"tr[data-line={each}] th") for each in (line, onto))
            grip = self.one(f"tr[data-line={line}] .grip")
            ActionChains(self.driver).click_and_hold(grip).move_to_element_with_offset(
                target, 0, down
            ).release().perform()

        drag("moor", "rev", 0)
        self.until(lambda: "Mooring and berth fees made part of Revenue" in self.said(), "dropped on a total")
        drag("dep", "fuel", -8)
        self.until(
            lambda: self.labels().index("Depreciation") < self.labels().index("Fuel and lubricants"), "moved"
        )
        drag("fuel", "fuel", 0)  # nowhere: nothing happens
        self.assertIn("2 changes today", self.one("nav").text)

    def test_members_that_are_absent_are_shown_and_taken_back(self) -> None:
        self.button("By route").click()
        self.until(lambda: "Moonrise cruise" in self.labels(), "a placeholder")
        self.one('[id="figure:outer:apr"]').click()
        self.until(lambda: "absent: Moonrise cruise" in self.margin(), "the list is said")
        self.button("Change").click()
        self.one("aside textarea").send_keys("\nHarvest special")
        self.button("Use this list").click()
        self.until(lambda: "Harvest special" in self.labels(), "another placeholder")
        self.assertEqual(self.figure("Harvest-special", "apr"), "n/a")
        self.clean()
        self.keys(Keys.ESCAPE, "u")
        self.until(lambda: "Harvest special" not in self.labels(), "undone")


class LongTest(DeskTest):
    def test_a_large_pack_scrolls_and_keeps_the_figure_in_hand(self) -> None:
        lines = [
            Line(id=f"l{n}", label=f"Line {n}", amounts={f"m{c}": Decimal(n * 31 + c) / 8 for c in range(15)})
            for n in range(400)
        ]
        columns = tuple(Column(id=f"m{c}", label=f"M{c}") for c in range(15))
        total = Line(id="all", label="All", kind="total", parts=tuple((line.id, 1) for line in lines))
        statement = Statement(id="big", name="Big", title="Big", columns=columns, lines=(*lines, total))
        path = Path(self.profile.name) / "big.json"
        path.write_bytes(write_pack(Pack(entity="Long Island", period="2026", statements=(statement,))))
        self.one("input[type=file]").send_keys(str(path))
        self.until(lambda: self.all('[id="figure:all:m0"] bdi'), "it opens at its first gap")
        self.assertLess(len(self.all("tr[data-line]")), 100)
        self.script("document.querySelector('main[aria-label=Page] > div').scrollTop = 0")
        self.until(lambda: self.all('[id="figure:l0:m0"] bdi'), "its first rows come")
        self.one('[id="figure:l0:m0"]').click()
        for _ in range(21):
            self.keys(Keys.PAGE_DOWN)
        self.until(lambda: self.all('[id="figure:all:m0"] bdi'), "its last row came")
        self.until(lambda: self.selected() == "figure:all:m0", "and is in hand")
        self.assertEqual(self.figure("all", "m0"), "309,225")
        self.script("document.querySelector('main[aria-label=Page] > div').scrollTop = 4800")
        self.until(lambda: self.all('[id="figure:l200:m3"] bdi'), "rows come as they are looked at")
        self.assertEqual(self.figure("l200", "m3"), "775")
        self.clean()


class WideTest(DeskTest):
    def test_a_wide_statement_draws_the_columns_in_view(self) -> None:
        columns = tuple(Column(id=f"m{n}", label=f"M{n}") for n in range(15))
        amounts = {column.id: Decimal("1234567.40") for column in columns}
        lines = tuple(Line(id=f"t{n}", label=f"Line {n}", amounts=amounts) for n in range(200))
        adds = tuple((line.id, 1) for line in lines[:3])
        lines = (Line(id="all", label="All", kind="total", parts=adds), *lines)
        wide = Statement(id="wide", name="Wide", title="Wide", columns=columns, lines=lines)
        path = Path(self.profile.name) / "wide.json"
        path.write_bytes(write_pack(Pack(entity="Long Island", period="2026", statements=(wide,))))
        self.one("input[type=file]").send_keys(str(path))
        self.until(lambda: self.all('[id="figure:t0:m0"] bdi'), "the large page opens")
        self.assertFalse(self.all('[id="figure:t0:m14"]'))
        self.one('[id="figure:t0:m0"]').click()
        self.keys(Keys.END)
        self.until(
            lambda: self.script("return document.activeElement.id") == "figure:t0:m14", "the last column"
        )
        self.assertFalse(self.all('[id="figure:t0:m0"]'))
        self.assertEqual(self.one('[id="figure:t0:m14"]').get_attribute("aria-colindex"), "16")
        heads = [head.text for head in self.all(".statement thead th")]
        self.assertEqual(heads[-1], "M14")
        self.keys(Keys.HOME)
        self.until(
            lambda: self.script("return document.activeElement.id") == "figure:t0:m0", "the first again"
        )
        self.button("Footing").click()
        self.until(lambda: self.all("#after + dl"), "a plan")
        self.keys("c")
        self.until(lambda: self.all(".was"), "what it printed before stands beside it here as well")
        self.assertTrue(all("1,234,567" in was.text for was in self.all(".was")))
        self.keys(Keys.END)
        self.until(lambda: self.all("[id$=':m14'] .was"), "and in columns that come into view")
        self.clean()


class ContentsTest(DeskTest):
    """What a pack holds, changed after the fact; each taken back by one key."""

    def contents(self, line: str, column: str) -> None:
        self.one(f"[id='figure:{line}:{column}']").click()
        label = self.one(f"[data-line='{line}'] .label").text
        self.until(lambda: f"{label}, " in self.margin(), "the margin is of that figure")
        self.script(
            "[...document.querySelectorAll('aside details')].find((each) =>"
            " each.textContent.startsWith('Correct, add')).open = true"
        )

    def write(self, label: str, text: str) -> None:
        field = self.script(
            "return [...document.querySelectorAll('label')].find((each) =>"
            " each.textContent.startsWith(arguments[0])).querySelector('input')",
            label,
        )
        field.clear()
        field.send_keys(text)

    def test_an_amount_is_corrected_a_line_added_and_a_column_taken_out(self) -> None:
        self.contents("fuel", "y26")
        self.write("The correct amount", "-90000000")
        self.write("Why", "late invoice")
        self.button("Correct it").click()
        self.until(lambda: self.figure("fuel", "y26") == "(900)", "the amount is put right")
        self.assertIn("late invoice", self.said())
        self.clean()
        self.write("Another line", "Charter hire")
        self.script("document.activeElement.form.requestSubmit()")
        self.until(lambda: self.all("[id^='figure:Charter-hire:']"), "the line is there")
        self.assertIn("a part of", self.margin() + " a part of")
        self.button("Remove this column").click()
        self.until(lambda: "made of 2025–26" in self.margin(), "what is made of it stands in the way")
        self.one("body").click()
        for _ in range(2):
            self.keys("u")
        self.until(lambda: not self.all("[id^='figure:Charter-hire:']"), "all of it is taken back")
        self.until(lambda: self.figure("fuel", "y26") == "(886)", "the amount too")

    def order(self, first: str, second: str) -> bool:
        """Whether both are in the spine, in this order."""
        return 0 <= self.one("nav").text.find(first) < self.one("nav").text.find(second)

    def test_a_statement_moves_and_goes_and_comes_back(self) -> None:
        self.contents("net", "y26")
        self.write("This statement is called", "Profit")
        self.button("Rename").click()
        self.until(lambda: "Profit" in self.one("nav").text, "its name")
        self.button("Later").click()
        self.until(lambda: self.order("Position", "Profit"), "later")
        self.one("body").click()
        self.keys("u", "u")
        self.until(lambda: self.order("Income", "Position"), "back")
        self.button("Operations").click()
        self.until(lambda: self.all("[id='figure:crossings:apr']"), "another statement")
        self.contents("crossings", "apr")
        self.button("Remove this statement").click()
        self.until(lambda: "Operations" not in self.one("nav ul").text, "it is gone, and the first is open")
        self.keys("u")
        self.until(lambda: "Operations" in self.one("nav ul").text, "and back")
        self.clean()

    def test_packs_are_copied_put_away_and_brought_back(self) -> None:
        self.button("Lanternfish Ferries").click()
        was = self.driver.current_url
        self.button("Copy this pack").click()
        self.until(lambda: self.driver.current_url.split("?")[0] != was.split("?")[0], "it is open")
        self.until(lambda: self.all(".statement td[role=gridcell]"), "its page too")
        self.button("Lanternfish Ferries").click()
        self.button("About this pack").click()
        self.until(lambda: self.all("[role=dialog]"), "what it is")
        self.clean()
        self.write("Period", "Trial year")
        self.button("Keep").click()
        self.until(lambda: "Trial year" in self.one("nav").text, "its period")
        self.button("Lanternfish Ferries").click()
        self.button("Remove this pack").click()
        self.until(lambda: "Year to 31 March 2026" in self.one("nav").text, "the other is open")
        self.button("Lanternfish Ferries").click()
        self.button("Packs put away or removed").click()
        self.until(lambda: "Trial year" in self.one("[role=dialog]").text, "it is listed")
        self.button("Restore").click()
        self.until(lambda: "Trial year" not in self.one("[role=dialog]").text, "and brought back")
