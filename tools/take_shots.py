"""Take the pictures of docs/screenshots from the demo pack: make shots."""

from __future__ import annotations

import urllib.request

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys
from tests.browser.desk import ROOT, DeskTest, resize

from humble_sum.exchange.pack_json import write_pack
from humble_sum.records.demo_group import PARENT, group_packs

SHOTS = ROOT / "docs/screenshots"


class Shots(DeskTest):
    """Each method sets a scene and takes one picture."""

    def runTest(self) -> None:
        self.take("proof")

        self.one('[id="figure:costs:y26"]').click()
        self.until(lambda: self.all("[data-word=negative]"), "the sentence")
        self.one("[data-word=negative]").click()
        self.until(lambda: self.all("[role=menu]"), "the word opens")
        self.take("sentence")
        self.keys(Keys.ESCAPE)

        self.one('[id="figure:net:y26"]').click()
        self.keys("h")
        self.until(lambda: self.all("[aria-label=Trace] input"), "held")
        self.one("[aria-label=Trace] input").send_keys("agreed with the auditors", Keys.ENTER)
        self.until(lambda: "agreed" in self.one("aside dl").text, "reason")
        self.one('[id="figure:dues:y26"]').click()
        self.keys("f")
        self.until(lambda: "12 figures nudged" in self.margin(), "footed")
        self.script("document.querySelector('#nudges').scrollIntoView()")
        self.take("footed")
        self.keys("1")
        self.until(lambda: not self.all(".drifting"), "print lens")
        self.keys("2")
        self.until(lambda: "37,049.75" in self.one(".statement").text, "exact lens")
        self.keys("3", "u")
        self.until(lambda: self.gaps() == 15, "undone")

        for line in ("pbt", "tax"):
            self.one(f'[id="figure:{line}:y26"]').click()
            self.keys("h")
            self.until(lambda line=line: self.all(f'[id="figure:{line}:y26"].held'), "held")  # type: ignore[misc]
        self.keys("f")
        self.until(lambda: self.all("[role=alert]"), "it cannot foot")

        self.one("nav button.underline").click()
        self.until(lambda: len(self.all("main tbody tr")) > 3, "what was done")
        self.take("history")
        self.button("Income").click()
        self.until(lambda: self.all('[id="figure:tax:y26"]'), "the page")

        self.button("Footing").click()
        self.until(lambda: "No plan can keep every hold" in self.margin(), "the ways out")
        self.take("impossible")
        self.keys("t")
        self.until(lambda: self.all('[id="figure:keep:y26"] bdi'), "back on the page")

        self.one('[id="figure:keep:y26"]').click()
        ActionChains(self.driver).key_down(Keys.SHIFT).send_keys(Keys.ARROW_DOWN).key_up(Keys.SHIFT).perform()
        self.keys("g")
        self.until(lambda: "2 lines under" in self.margin(), "naming a subtotal")
        self.keys("Running the fleet", Keys.ENTER)
        self.until(lambda: "Running the fleet" in self.one(".statement").text, "the subtotal")
        self.script("document.querySelector('#structure').scrollIntoView()")
        self.take("structure")
        self.keys("u", "u", "u", "u")
        self.until(lambda: self.gaps() == 15, "undone")

        self.button("Footing").click()
        self.until(lambda: self.all("[aria-labelledby=moves] tbody tr"), "the plan")
        self.take("footing")
        self.keys("c")
        self.until(lambda: self.all(".was"), "before beside after")
        self.until(lambda: "figures change" in self.margin(), "what changes")
        self.keys("d")
        self.until(lambda: not self.all(".was"), "as it was")
        self.one('[id="figure:tot:y26"]').click()
        self.keys("=")
        self.until(lambda: self.all("[cmdk-input]"), "asked for a figure")
        self.one("[cmdk-input]").send_keys(Keys.ESCAPE)
        self.until(lambda: self.all('[id="figure:salv:y26"] bdi'), "back on the page")
        self.one('[id="figure:salv:y26"]').click()
        self.keys("4")
        self.until(lambda: self.all(".origin"), "the Origin lens")
        self.until(lambda: "Salvage" in self.one("#decisions + dl").text, "what decided")
        self.script("document.querySelector('#decisions').scrollIntoView()")
        self.take("origin")
        self.keys("3")
        self.button("Rulebook").click()
        self.until(lambda: self.all("main li [data-word]"), "the rules are there")
        self.keys("l")
        self.until(lambda: self.all("[role=dialog] tbody tr"), "locales side by side")
        self.script("document.querySelector('[role=dialog]').scrollTop = 240")
        self.take("locales")
        self.button("Marathi, India").click()
        self.until(lambda: "figures change" in self.margin(), "on trial")
        self.take("rulebook")
        self.keys("d", "t")
        self.until(lambda: self.all('[id="figure:costs:y26"] bdi'), "back on the page")

        self.keys("e")
        self.until(lambda: self.all(".paper.beside td.differs"), "two editions")
        self.take("editions")
        self.keys("e")
        self.until(lambda: self.all('[id="figure:costs:y26"] bdi'), "back on the page")
        self.button("Places").click()
        self.until(lambda: self.all("[aria-label=Dashboards] button"), "the dashboards")
        self.one("[aria-label=Dashboards] button").click()
        self.until(lambda: self.all(".dashboard .item"), "the dashboard")
        self.keys("n")
        self.until(lambda: "Rule in force on passages" in self.margin(), "what disagrees")
        self.script("document.querySelector('main').scrollTop = 0")
        self.take("places")
        pack = self.driver.current_url.split("/")[4].split("%40")[0]
        back = self.driver.current_url
        self.driver.get(f"{self.server.address}read/{pack}/Board")
        self.until(lambda: self.all(".board .item"), "what readers get")
        self.take("reader")
        self.driver.get(back)
        self.until(lambda: self.all("nav button"), "the desk again")

        resize(self.driver, 1920, 1000)
        self.button("By route").click()
        self.until(lambda: "Moonrise cruise" in self.one(".statement").text, "the two-way table")
        self.until(lambda: self.all('[id="figure:outer:apr"] bdi'), "its figures")
        self.until(lambda: self.all("#decisions"), "the whole margin")
        self.take("routes")

        resize(self.driver, 1280, 800)
        self.button("Figures").click()
        self.until(lambda: self.all("main input[type=file]"), "the Figures screen")
        self.button("close-2027.csv").click()
        self.until(lambda: "2 of 46 cells" in self.margin(), "the demo's own file is read")
        self.take("figures")
        self.one("body").click()
        self.keys("1", "c")
        self.until(lambda: self.all("[aria-label=Comparison]"), "compared with the last year")
        self.take("compare")

        self.button("Income").click()
        self.until(lambda: self.all(".statement td[role=gridcell]"), "the page again")
        self.button("Issue").click()
        self.until(lambda: self.all("[aria-label=Checks] li"), "the checks stand")
        self.one("[aria-label='Goes to']").send_keys("the auditors")
        self.one("[aria-label='Prepared by']").send_keys("Asha")
        for field in self.all("[aria-label=Checks] input"):
            field.send_keys("Known, and said in the note")
        self.script("document.activeElement.blur()")
        self.keys("i")
        self.until(lambda: "to the auditors" in self.margin(), "it went out")
        self.script("document.querySelector('main').scrollTop = 0")
        self.take("issue")
        self.report()
        self.group()

    def group(self) -> None:
        """The packs of a group, the parent in hand with what others changed since it was taken."""
        for pack in group_packs():
            sent = urllib.request.Request(
                f"{self.server.address}api/packs",
                write_pack(pack),
                {"Content-Type": "application/json"},
                method="POST",
            )
            urllib.request.urlopen(sent, timeout=20).close()
        self.driver.refresh()
        self.button("All 13 packs").click()
        self.until(lambda: "13 packs, 13 with something open" in self.one("header").text, "all are looked at")
        self.button(PARENT).click()
        self.until(lambda: "differ there now" in self.margin(), "what is taken")
        self.take("group")

    def report(self) -> None:
        """A report made elsewhere, proofread, with a number in hand that disagrees."""
        self.driver.get(f"{self.server.address.rstrip('/')}/documents/{self.pack()}")
        self.until(lambda: self.all("main input[type=file]"), "the screen of documents")
        self.button("Annual report.docx").click()
        self.until(lambda: self.all("article button"), "the report is read")
        self.keys("n")
        self.take("documents")

    def take(self, name: str) -> None:
        self.until(lambda: self.script("return document.fonts.status") == "loaded", "fonts")
        self.until(lambda: "Opening…" not in self.one("body").text, "the margin is there")
        self.driver.save_screenshot(str(SHOTS / f"{name}.png"))


def main() -> None:
    SHOTS.mkdir(parents=True, exist_ok=True)
    Shots.setUpClass()
    try:
        result = Shots("runTest").run()
        if result is None or not result.wasSuccessful():
            raise SystemExit(
                "\n".join(text for _, text in (result.errors + result.failures if result else []))
            )
    finally:
        Shots.doClassCleanups()
    print(f"{len(list(SHOTS.glob('*.png')))} pictures in {SHOTS.relative_to(ROOT)}")


if __name__ == "__main__":
    main()
