"""Figures in the browser: from files to a proof with real gaps."""

import sqlite3
from contextlib import closing
from pathlib import Path

from tests.browser.desk import DeskTest, Keys
from tests.exchange.test_books import made
from tests.exchange.test_sources import LINES, book

QUERY = "main textarea[placeholder^=SELECT]"
CSV = "Line;Now;Then\nTea;₹10,4;₹20,4\nScones;₹10,4;₹20,4\nBoth;₹20,8;₹40,8\n"


class FiguresTest(DeskTest):
    def file(self, name: str, data: bytes) -> str:
        path = Path(self.profile.name) / name
        path.write_bytes(data)
        return str(path)

    def figures(self) -> None:
        self.button("Figures").click()
        self.until(lambda: self.all("main input[type=file]"), "the screen opens")
        self.settled()

    def period(self, said: str) -> None:
        """Ask for it to be kept, which asks for the period; say it, and keep it."""
        self.one("h1").click()
        self.keys("k")
        self.until(
            lambda: "31 March" in self.script("return document.activeElement.placeholder ?? ''"), "it asks"
        )
        self.keys(said)
        self.one("h1").click()
        self.keys("k")

    def test_a_file_that_changed_is_taken_again(self) -> None:
        self.figures()
        # A browser that hands out files for longer: choosing one asks for it, and `r` reads it as it is then.
        self.script(
            """window.text = 'Line,2026\\nFares,100\\nHire,50\\nTotal,150\\n';
            const handle = {kind: 'file', name: 'close.csv',
              getFile: () => Promise.resolve(new File([window.text], 'close.csv'))};
            window.showOpenFilePicker = () => Promise.resolve([handle]);"""
        )
        self.script("document.querySelector('main input[type=file]').click()")
        self.until(lambda: "close.csv" in self.one("footer").text, "it is read")
        self.keys("r")
        self.until(lambda: "nothing is read differently" in self.one("main").text, "it is read again")
        self.script("window.text = 'Line,2026\\nFares,101\\nHire,50\\nTotal,151\\n'")
        self.keys("r")
        self.until(lambda: "2 things are read differently" in self.one("main").text, "what it has now")
        self.assertIn("Fares, 2026: 100 is now 101", self.one("main").text)
        self.clean()

        # One that is gone has to be chosen again, under the name it had.
        self.script("window.text = null; File.prototype.slice = () => { throw new Error('gone'); }")
        self.keys("r")
        self.until(lambda: "cannot be read again on its own" in self.one("main").text, "it says so")
        self.assertNotIn("read differently", self.one("main").text)

    def test_a_query_is_typed_and_asked(self) -> None:
        with closing(sqlite3.connect(":memory:")) as made_here:
            made_here.execute("CREATE TABLE ledger(line, year, amount)")
            rows = [("Tea", 2026, 5), ("Mail", 2026, 6), ("Tea", 2025, 4)]
            made_here.executemany("INSERT INTO ledger VALUES (?, ?, ?)", rows)
            data = made_here.serialize()
        self.figures()
        self.one("main input[type=file]").send_keys(self.file("ledger.sqlite", data))
        self.until(lambda: self.all(QUERY), "a query can be asked")
        self.one(QUERY).click()
        self.keys("SELECT nothing")
        self.button("Read its result").click()
        self.until(lambda: "syntax error" in self.one("main").text, "what is wrong with it")
        self.one(QUERY).clear()
        self.one(QUERY).click()
        self.keys('SELECT line, amount AS "2026" FROM ledger WHERE year = 2026')
        self.button("Read its result").click()
        self.until(lambda: "query" in self.one("footer").text, "its result is there")
        self.assertNotIn("2025", self.one("main table").text)
        self.clean()
        self.button("Read every table").click()
        self.until(lambda: "ledger" in self.one("footer").text, "and all of it again")

    def test_one_row_an_amount_is_set_out_by_period_or_asked_about(self) -> None:
        self.figures()
        periods = "Line,Year,Amount\nFares,2025,10.5\nFares,2026,11.5\nFuel,2025,-4\nFuel,2026,-5\n"
        parts = "Cost,Department,Amount\nWages,Deck,10\nWages,Engine,20\nFuel,Deck,1\nFuel,Engine,2\n"
        both = self.file("periods.csv", periods.encode()) + "\n" + self.file("parts.csv", parts.encode())
        self.one("main input[type=file]").send_keys(both)
        self.until(lambda: "parts.csv" in self.one("footer").text, "both files are read")
        self.assertIn("It has a column for each Year", self.one("main").text)
        self.clean()

        def rows() -> int:
            return len(self.all("main tbody [id^='row:']"))

        self.assertEqual(rows(), 2)
        self.pick("main [data-word=across]", "a line for each row")
        self.until(lambda: rows() == 4, "row by row")
        self.pick("main [data-word=across]", "what they seem to be")
        self.until(lambda: rows() == 2, "and back")

        self.button("parts.csv").click()
        self.until(lambda: "Is each of its rows a line?" in self.margin(), "it asks")
        self.clean()
        self.one("h1").click()
        self.keys("2")
        self.until(lambda: "It has a column for each" in self.one("main").text, "the digit answers it")
        self.assertEqual((rows(), "Is each" in self.margin()), (2, False))

    def test_files_become_a_pack_with_its_gaps(self) -> None:
        self.figures()
        self.clean()
        both = self.file("ledger.xlsx", book(LINES)) + "\n" + self.file("kiosk.csv", CSV.encode())
        self.one("main input[type=file]").send_keys(both)
        self.until(lambda: "kiosk.csv" in self.one("footer").text, "both files are read")
        self.assertIn("2 sums from formulas", self.margin())
        self.clean()
        self.button("kiosk.csv").click()
        self.until(lambda: "column B written with a decimal comma" in self.margin(), "the second table")

        # Another convention for a column, and back.
        self.button("Now").click()
        self.pick("aside [data-word=marks]", "a decimal point")
        self.until(lambda: "3 of 6 cells" in self.margin(), "the column is read again, and asks")
        self.pick("aside [data-word=marks]", "a decimal comma")
        self.until(lambda: "none of 6 cells" in self.margin(), "and as its cells show")

        # A sum refused, and taken back.
        self.one("[id='row:3']").click()
        self.until(lambda: "Tea + Scones" in self.margin(), "what it adds")
        self.pick("aside [data-word=total]", "no total")
        self.until(lambda: "sum found" not in self.margin(), "the sum is refused")
        self.until(lambda: self.one("aside [data-word=total]").text == "no total", "and the row says so")
        self.pick("aside [data-word=total]", "a total")
        self.until(lambda: "1 sum found from the figures" in self.margin(), "and found again")

        self.pick("aside [data-word='kept as']", "a pack of their own")
        field = self.one("aside label input")
        field.clear()
        field.send_keys("Island Kiosk")
        self.period("Year to 31 March 2026")
        self.until(lambda: "Island Kiosk" in self.one("nav").text, "the pack opens")
        self.button("kiosk").click()
        self.until(
            lambda: self.one("h2.font-semibold.text-\\[17px\\]").text == "kiosk", "its second statement"
        )
        self.until(lambda: self.gaps() == 2, "with real gaps")
        self.keys("f")
        self.until(lambda: self.gaps() == 0, "that foot")
        self.clean()

    def test_the_next_period_by_keys_alone(self) -> None:
        self.figures()
        self.button("close-2027.csv").send_keys(Keys.ENTER)
        self.until(lambda: "2 of 46 cells" in self.margin(), "two cells are asked of")
        self.assertIn("C9 reads 460,84 with a decimal comma", self.margin())
        self.one("body").click()
        self.keys("1")
        self.until(lambda: "1 of 46 cells" in self.margin(), "one key answers")
        self.keys("2")
        self.until(lambda: "C14 “tbc” is 0" in self.margin(), "and another is zero")
        self.button("Ask again").click()
        self.until(lambda: "1 of 46 cells" in self.margin(), "each can be asked again")
        self.one("body").click()
        self.keys("n", "1", "c")
        self.until(lambda: "as the pack keeps them" in self.margin(), "costs have another sign in the pack")
        self.assertIn("Berth and mooring fees may be Mooring and berth fees", self.one("main").text)
        self.clean()
        self.button("It is").click()
        self.until(lambda: "no new line, none gone" in self.one("main").text, "and the line is the same")
        # Nothing is lost by looking elsewhere, or by loading the page again.
        self.button("Rulebook").click()
        self.until(lambda: not self.all(".source-row"), "another screen")
        self.button("Figures").click()
        self.until(lambda: "none of 46 cells" in self.margin(), "all decisions stand")
        pack = self.script("return fetch('/api/packs').then((r) => r.json()).then((p) => p[0].id)")
        query = self.driver.current_url.split("?")[1]
        self.driver.get(self.server.address.rstrip("/") + f"/figures/{pack}/income?{query}")
        self.until(lambda: self.all(".source-row") and "none of 46 cells" in self.margin(), "still")
        self.period("Year to 31 March 2027")
        self.until(lambda: "2027" in self.one("nav").text, "the next period opens")
        self.assertEqual(self.figure("fuel", "31-March-2027"), "(940)")
        self.clean()

    def test_two_sheets_are_tied_and_rolled_forward(self) -> None:
        self.figures()
        self.one("main input[type=file]").send_keys(self.file("book.xlsx", made()))
        self.until(lambda: "Cash" in self.one("footer").text, "both sheets are read")
        self.assertIn("a count", self.one("main").text)
        self.pick("aside [data-word='kept as']", "a pack of their own")
        self.assertEqual(len(self.all("aside fieldset input:checked")), 2)
        self.period("Year to 31 March 2026")
        self.until(lambda: "2 agree" in self.one("footer").text, "the ties are on the rail")

        self.figures()
        rows = "Line,31 March 2027\nFARES,1400.20\nFreight,330.05\nIslander passes,12.40\nCosts,-910.75\n"
        self.one("main input[type=file]").send_keys(self.file("next.csv", rows.encode()))
        self.until(lambda: "Islander passes" in self.one("main").text, "the next year is read")
        self.one("body").click()
        self.keys("c")
        self.until(lambda: self.all("[aria-label=Comparison]"), "it is compared")
        said = self.one("[aria-label=Comparison]").text
        for part in ("1 new line, 3 gone", "+ new", "− gone", "left out of the next period: Cash", "149.8"):
            self.assertIn(part, said)
        self.clean()
        self.period("Year to 31 March 2027")
        self.until(lambda: "2027" in self.one("nav").text, "the next period opens")
        heads = [each.text for each in self.all(".statement thead th")]
        self.assertEqual(heads[:2], ["31 March 2027", "Year, 31 March 2026"])
        held = "figure:All-income:Year-31-March-2026"
        self.assertIn("held", self.one(f"[id='{held}']").get_attribute("class") or "")

    def test_reading_is_followed_and_stopped(self) -> None:
        self.figures()
        rows = "".join(
            f"Line {n}," + ",".join(f"{n * 7 + c}.25" for c in range(15)) + "\n" for n in range(13_000)
        )
        heads = ",".join(f"M{c}" for c in range(15))
        self.one("main input[type=file]").send_keys(self.file("long.csv", f"Line,{heads}\n{rows}".encode()))
        self.until(lambda: self.all("progress"), "its progress is shown")
        self.button("Stop").click()
        self.until(lambda: not self.all("progress"), "the reading stops")
        self.assertEqual(self.all(".source-row"), [])
        self.clean()

    def test_a_pasted_table_is_read_and_a_bad_file_refused(self) -> None:
        self.figures()
        self.one("main input[type=file]").send_keys(self.file("broken.xlsx", b"PK nothing"))
        self.until(lambda: self.all("[role=alert]"), "the broken file is refused")
        self.assertIn("broken.xlsx", self.one("[role=alert]").text)
        self.one("textarea").send_keys("Line;Now")
        self.script(
            "const box = document.querySelector('textarea');"
            "Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set.call(box, arguments[0]);"
            "box.dispatchEvent(new Event('input', {bubbles: true}))",
            "Line\tNow\nTea\t1.234,5\n",
        )
        self.button("Read it").click()
        self.until(lambda: "1,234.5" in self.one("main").text, "the pasted table is read")
        self.button("Income").click()
        self.until(lambda: self.gaps() == 15, "nothing was kept")
