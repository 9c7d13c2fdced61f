"""Figures in the browser: from files to a proof with real gaps."""

from pathlib import Path

from tests.browser.desk import DeskTest, Keys
from tests.exchange.test_books import made
from tests.exchange.test_sources import LINES, book

CSV = "Line;Now;Then\nTea;₹10,4;₹20,4\nScones;₹10,4;₹20,4\nBoth;₹20,8;₹40,8\n"


class FiguresTest(DeskTest):
    def file(self, name: str, data: bytes) -> str:
        path = Path(self.profile.name) / name
        path.write_bytes(data)
        return str(path)

    def test_files_become_a_pack_with_its_gaps(self) -> None:
        self.button("Figures").click()
        self.until(lambda: self.all("input[type=file]"), "the screen opens")
        self.clean()
        both = self.file("ledger.xlsx", book(LINES)) + "\n" + self.file("kiosk.csv", CSV.encode())
        self.one("input[type=file]").send_keys(both)
        self.until(lambda: "kiosk.csv" in self.one("main").text, "both files are read")
        said = self.one("main").text
        self.assertIn("= All income − Fuel (the workbook's own formula)", said)
        self.assertIn("= Tea + Scones (2 lines add to it exactly in 2 columns)", said)
        self.assertIn("3 of 3 cells agree, such as ₹10,4", said)
        self.clean()

        # Another convention for a column, and back.
        self.one("[data-word=convention]").click()
        self.button("decimal point").click()
        self.until(lambda: "cells need a look" in self.one("main").text, "the column is read again")
        self.one("[data-word=convention]").click()
        self.button("as the cells show").click()
        self.until(lambda: "cells need a look" not in self.one("main").text, "and as its cells show")

        # A sum refused, and taken back as found.
        self.button("Not a sum").click()
        self.until(lambda: "you said this is no sum" in self.one("main").text, "the sum is refused")
        self.button("As found").click()
        self.until(lambda: "you said this is no sum" not in self.one("main").text, "and found again")

        fields = self.all("aside label input")
        fields[0].send_keys("Island Kiosk")
        fields[1].send_keys("Year to 31 March 2026", Keys.ENTER)
        self.until(lambda: "Island Kiosk" in self.one("nav").text, "the pack opens")
        self.button("kiosk").click()
        self.until(
            lambda: self.one("h2.font-semibold.text-\\[17px\\]").text == "kiosk", "its second statement"
        )
        self.until(lambda: self.gaps() == 2, "with real gaps")
        self.keys("f")
        self.until(lambda: self.gaps() == 0, "that foot")
        self.clean()

    def test_two_sheets_are_tied_and_rolled_forward(self) -> None:
        self.button("Figures").click()
        self.until(lambda: self.all("input[type=file]"), "the screen opens")
        self.one("input[type=file]").send_keys(self.file("book.xlsx", made()))
        self.until(lambda: "Closing cash" in self.one("main").text, "both sheets are read")
        self.assertIn("a count, which no total counts", self.one("main").text)
        self.assertEqual(len(self.all("aside fieldset:last-of-type input:checked")), 2)
        fields = self.all("aside label input:not([type=checkbox])")
        fields[0].send_keys("Lanternfish Ferries")
        fields[1].send_keys("Year to 31 March 2026", Keys.ENTER)
        self.until(lambda: "2 agree" in self.one("footer").text, "the ties are on the rail")

        self.button("Figures").click()
        self.until(lambda: self.all("input[type=file]"), "the screen opens again")
        rows = "Line,31 March 2027\nFARES,1400.20\nFreight,330.05\nIslander passes,12.40\nCosts,-910.75\n"
        self.one("input[type=file]").send_keys(self.file("next.csv", rows.encode()))
        self.until(lambda: "Islander passes" in self.one("main").text, "the next year is read")
        self.button("Compare").click()
        self.until(lambda: self.all("[aria-label=Comparison]"), "it is compared")
        said = self.one("[aria-label=Comparison]").text
        for part in ("1 new line, 3 gone", "+ new", "− gone", "left out of the next period: Cash", "149.8"):
            self.assertIn(part, said)
        self.clean()
        self.one("aside form:last-of-type input").send_keys("Year to 31 March 2027", Keys.ENTER)
        self.until(lambda: "2027" in self.one("nav").text, "the next period opens")
        heads = [each.text for each in self.all(".statement thead th")]
        self.assertEqual(heads[:2], ["31 March 2027", "Year, 31 March 2026"])
        held = "figure:All-income:Year-31-March-2026"
        self.assertIn("held", self.one(f"[id='{held}']").get_attribute("class") or "")

    def test_reading_is_followed_and_stopped(self) -> None:
        self.button("Figures").click()
        self.until(lambda: self.all("input[type=file]"), "the screen opens")
        rows = "".join(
            f"Line {n}," + ",".join(f"{n * 7 + c}.25" for c in range(15)) + "\n" for n in range(13_000)
        )
        heads = ",".join(f"M{c}" for c in range(15))
        self.one("input[type=file]").send_keys(self.file("long.csv", f"Line,{heads}\n{rows}".encode()))
        self.until(lambda: self.all("progress"), "its progress is shown")
        self.button("Stop").click()
        self.until(lambda: not self.all("progress"), "the reading stops")
        self.assertEqual(self.all("section[aria-label^='long.csv']"), [])
        self.clean()

    def test_a_pasted_table_is_read_and_a_bad_file_refused(self) -> None:
        self.button("Figures").click()
        self.until(lambda: self.all("textarea"), "the screen opens")
        self.one("input[type=file]").send_keys(self.file("broken.xlsx", b"PK nothing"))
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
        self.button("Back to the page").click()
        self.until(lambda: self.gaps() == 15, "nothing was kept")
