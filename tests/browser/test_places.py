"""Editions and places, as the analyst makes them and their readers get them."""

from __future__ import annotations

import re

from selenium.webdriver.common.action_chains import ActionChains

from tests.browser.desk import DeskTest, Keys, resize


class PlacesTest(DeskTest):
    def spine(self, name: str) -> None:
        self.script(
            "[...document.querySelectorAll('nav button')]"
            ".find((each) => each.textContent.startsWith(arguments[0])).click()",
            name,
        )

    def places(self, dashboard: str = "Dashboard") -> None:
        self.spine("Places")
        self.until(
            lambda: self.all("[role=group][aria-label=Dashboards] button"), "the dashboards are listed"
        )
        self.script(
            "[...document.querySelectorAll('[aria-label=Dashboards] button')]"
            ".find((each) => each.textContent.startsWith(arguments[0])).click()",
            dashboard,
        )
        self.until(lambda: self.all(f"[role=list][aria-label='{dashboard}'] .item"), "it opens")
        self.settled()

    def tile(self, id: str) -> str:
        return self.one(f"[id='item:{id}']").text

    def test_what_disagrees_is_found_and_follows_by_keys_alone(self) -> None:
        self.places()
        self.until(lambda: "53 placed figures, 52 agree" in self.one("footer").text, "they are counted")
        self.one("body").click()
        self.keys("n")
        self.until(lambda: "off by 0.01" in self.margin(), "why it disagrees")
        self.assertIn("4.13275001 does not round to ₹4.14 crore", self.margin())
        self.assertEqual(self.script("return document.activeElement.id"), "item:note")
        self.keys("l")
        self.until(lambda: "all of them agree" in self.one("footer").text, "it follows")
        self.assertIn("₹4.1\u202fcrore is carried", self.tile("note"))
        self.keys("u")
        self.until(lambda: "52 agree" in self.one("footer").text, "undone")
        self.clean()

    def test_a_figure_is_placed_worded_moved_and_taken_off_by_keys(self) -> None:
        self.places("For the parent")
        self.one("body").click()
        self.keys("a")
        self.until(lambda: self.all("[cmdk-input]"), "it asks which")
        self.one("[cmdk-input]").send_keys("term loans 2026")
        self.until(lambda: self.one("[cmdk-list]").text.startswith("Term loans"), "it is found")
        self.keys(Keys.ENTER)
        self.until(lambda: self.all("[id='item:loans']"), "it is placed")
        self.until(lambda: "2,220" in self.tile("loans"), "in the edition's unit")
        self.until(lambda: self.script("return document.activeElement.id") == "item:loans", "and in hand")
        self.keys("]")
        self.until(lambda: "span 5" in str(self.one("[id='item:loans']").get_attribute("style")), "wider")
        before = [each.get_attribute("id") for each in self.all(".item")]
        self.keys("<")
        self.until(
            lambda: (
                [each.get_attribute("id") for each in self.all(".item")].index("item:loans")
                == before.index("item:loans") - 1
            ),
            "earlier",
        )
        self.pick("aside [data-word=comparison]", "its change in percent")
        self.until(lambda: "0.8%" in self.tile("loans"), "beside it stands its change")
        self.one("[id='item:loans']").click()
        self.keys("x")
        self.until(lambda: not self.all("[id='item:loans']"), "taken off")
        self.clean()

    def test_an_item_is_dragged_to_another_place(self) -> None:
        self.places()
        self.script(
            "const data = new DataTransfer();"
            "const fire = (node, type) => node.dispatchEvent(new DragEvent(type,"
            " {bubbles: true, cancelable: true, dataTransfer: data}));"
            "fire(document.querySelector('[id=\"item:net\"] .grip'), 'dragstart');"
            "const to = document.querySelector('[id=\"item:rev\"]');"
            "fire(to, 'dragover'); fire(to, 'drop');"
        )
        self.until(lambda: self.all(".item")[0].get_attribute("id") == "item:net", "it stands first")
        self.assertIn("moved", self.said())

    def test_a_passage_is_written_and_a_figure_is_placed_by_an_at(self) -> None:
        self.places()
        self.one("[id='item:note']").click()
        self.keys("w")
        self.until(lambda: self.all(".passage-editor:focus"), "the editor opens and is written in")
        self.keys(Keys.END)
        ActionChains(self.driver).key_down(Keys.CONTROL).send_keys(Keys.END).key_up(Keys.CONTROL).perform()
        ActionChains(self.driver).send_keys(" Berths took @mooring 2025").perform()
        self.until(lambda: self.all("[role=listbox] [role=option]"), "figures are offered")
        self.keys(Keys.ENTER)
        self.until(lambda: not self.all("[role=listbox]"), "one is placed")
        ActionChains(self.driver).key_down(Keys.CONTROL).send_keys(Keys.ENTER).key_up(Keys.CONTROL).perform()
        self.until(lambda: not self.all(".passage-editor"), "the text is kept")
        self.until(
            lambda: "Berths took ₹0.9\u202fcrore" in self.tile("note"), "and the figure prints by its rule"
        )
        self.clean()

    def test_a_passage_is_repeated_over_the_routes_and_a_figure_placed_in_each(self) -> None:
        self.places("Operations")
        self.one("[id='item:letters']").click()
        self.until(lambda: self.all("aside [data-word=repeated]"), "how often it stands")
        self.pick("aside [data-word=repeated]", "once for each part of Passenger fares")
        self.until(lambda: "Winter relief took" in self.tile("letters"), "each route has its line")
        self.pick("aside [data-word='left out']", "without Outer Isles")
        self.until(lambda: "Outer Isles took" not in self.tile("letters"), "but one")
        self.one("[id='item:letters']").click()
        self.keys("w")
        self.until(lambda: self.all(".passage-editor:focus"), "the text is open")
        ActionChains(self.driver).send_keys(" In March @Lantern Sound Mar").perform()
        self.until(
            lambda: self.one("[role=listbox]").text.startswith("Lantern Sound, Mar"), "a route is found"
        )
        ActionChains(self.driver).send_keys(Keys.ENTER).key_down(Keys.CONTROL).send_keys(Keys.ENTER).key_up(
            Keys.CONTROL
        ).perform()
        self.until(lambda: self.tile("letters").count("In March") == 6, "it stands in each")
        said = {text.split("In March")[1] for text in self.tile("letters").splitlines() if "In March" in text}
        self.assertEqual(len(said), 6, "with the figure of each")
        self.clean()

    def test_points_of_a_chart_say_what_they_print_by_keys(self) -> None:
        self.places("Operations")
        self.script("document.querySelector('[id=\"item:crossings-month\"] .chart').focus()")
        self.keys(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT)
        point = "[id='item:crossings-month'] [role=status]"
        self.until(lambda: "Crossings, May" in self.one(point).text, "the second point")
        self.assertIn("1,496", self.one(point).text)
        self.script("document.querySelector('[id=\"item:crossings-month\"] summary').click()")
        self.until(lambda: "n/a" in self.one("[id='item:crossings-month'] table").text, "a month is missing")
        self.clean()

    def test_a_rule_for_tiles_changes_tiles_and_no_page(self) -> None:
        self.places()
        self.one("[id='item:net']").click()
        self.until(lambda: "Rule in force on tiles" in self.margin(), "the rule")
        self.pick("section[aria-label='Rule in force on tiles'] [data-word=decimals]", "two decimals")
        self.until(lambda: "4.13" in self.tile("net"), "the tile has two decimals")
        self.spine("Income")
        self.until(lambda: self.all("[id='figure:net:y26']"), "the page")
        self.assertEqual(self.figure("net", "y26"), "4.1")

    def test_footing_says_what_of_the_places_does_not_agree(self) -> None:
        self.spine("Footing")
        self.until(lambda: "4 placed figures do not agree" in self.margin(), "it is said")
        self.button("Directors’ note, Dashboard: off by 0.01").click()
        self.until(lambda: "/places/" in self.driver.current_url, "and gone to")
        self.until(lambda: "does not round to ₹4.14 crore" in self.margin(), "with why")

    def test_a_dashboard_is_added_named_and_taken_out(self) -> None:
        self.places()
        self.button("Add a dashboard").click()
        self.until(lambda: self.all("[role=dialog] input"), "it asks")
        self.one("[role=dialog] input:not([type=radio])").send_keys("Audit committee", Keys.ENTER)
        self.until(lambda: "Audit committee" in self.one("[aria-label=Dashboards]").text, "it is there")
        self.button("Audit committee").click()
        self.until(lambda: "Nothing is placed here yet" in self.one("main").text, "and teaches what to do")
        self.button("Change this one").click()
        self.until(lambda: self.all("[role=dialog]"), "it opens")
        self.button("Remove it").click()
        self.until(lambda: "Audit committee" not in self.one("[aria-label=Dashboards]").text, "it is gone")


class EditionsTest(DeskTest):
    def test_two_editions_stand_beside_each_other_and_the_other_is_footed(self) -> None:
        self.keys("e")
        self.until(lambda: self.all(".paper.beside"), "they stand beside each other")
        self.until(lambda: "Statutory beside Board" in self.said(), "which they are")
        self.assertIn("prints “not yet known” in Board", self.margin())
        self.keys("d")
        self.assertIn(
            "not yet known",
            self.script("return document.activeElement.textContent + document.body.innerText"),
        )
        self.clean()
        self.keys("f")
        self.until(
            lambda: "/footing/" in self.driver.current_url and "%40Board" in self.driver.current_url,
            "its plan",
        )
        self.until(lambda: self.script("return document.body.innerText").count("32 ") > 0, "32 would move")
        self.button("Keep these nudges").click()
        self.until(
            lambda: any(
                re.fullmatch("Board.*foots", each.text, re.DOTALL)
                for each in self.all("ul[aria-label=Editions] li")
            ),
            "Board foots",
        )

    def test_an_edition_is_added_said_and_translated(self) -> None:
        self.button("+ Another edition").click()
        self.until(lambda: self.all("[role=dialog] input"), "it asks")
        name, currency = self.all("[role=dialog] input")
        name.send_keys("Lender")
        currency.send_keys("usd", Keys.ENTER)
        self.until(lambda: "Only in Lender" in self.margin(), "it stands beside the pack's own")
        self.until(lambda: "no rate for 2025–26, 2024–25" in self.margin(), "what it lacks is said")
        rate = self.one("[aria-label='Rates of Lender'] input[aria-label='Rate for 2025–26']")
        rate.send_keys("83.50", Keys.TAB)
        self.until(lambda: "Changed the rates of Lender" in self.said(), "the rate is kept")
        rate = self.one("[aria-label='Rates of Lender'] input[aria-label='Rate for 2024–25']")
        rate.send_keys("0", Keys.TAB)
        self.until(lambda: "a rate is more than zero" in self.margin(), "a bad one is refused beside it")

    def test_readers_get_a_page_that_works_on_a_phone_and_breaks_no_rule(self) -> None:
        pack = self.script("return fetch('/api/packs').then((r) => r.json()).then((p) => p[0].id)")
        for path in ("Board", "own/statements/routes", "Parent"):
            for width, height in ((1280, 800), (390, 844)):
                resize(self.driver, width, height)
                self.driver.get(f"{self.server.address}read/{pack}/{path}")
                self.until(lambda: self.all("main"), "the page")
                wide = self.script("return document.documentElement.scrollWidth - window.innerWidth")
                self.assertLessEqual(wide, 0, f"{path} at {width}")
                self.clean()
        self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
        self.addCleanup(self.driver.execute_cdp_cmd, "Emulation.setEmulatedMedia", {"media": ""})
        self.assertFalse(self.one("nav").is_displayed())
