"""A group of packs: walked by key, footed as one and taken back as one, and what others changed is taken again."""

from __future__ import annotations

import unittest
import urllib.request

from humble_sum.exchange.pack_json import write_pack
from humble_sum.records.demo_group import PARENT, group_packs
from tests.browser.desk import DeskTest


class GroupTest(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        for pack in group_packs()[:5]:
            sent = urllib.request.Request(
                f"{self.server.address}api/packs",
                write_pack(pack),
                {"Content-Type": "application/json"},
                method="POST",
            )
            urllib.request.urlopen(sent, timeout=20).close()
        self.open()

    def open_now(self) -> str:
        return self.one("header").text

    def test_packs_are_walked_footed_and_taken_back_by_key(self) -> None:
        self.button("All 6 packs").click()
        self.until(lambda: "6 packs, 6 with something open" in self.open_now(), "all are looked at")
        self.clean()
        self.keys("n")
        first = self.one("aside h2").text
        self.keys("n")
        self.until(lambda: self.one("aside h2").text != first, "the next pack is in hand")
        self.keys("f")
        self.until(lambda: "Undo all 6" in self.one("footer").text, "all are footed")
        self.until(lambda: "2 with something open" in self.open_now(), "what is left is said")
        self.clean()
        self.button("Undo all 6").click()
        self.until(lambda: "6 with something open" in self.open_now(), "as it was")

    def test_what_another_pack_changed_is_taken_again(self) -> None:
        self.button("All 6 packs").click()
        self.until(lambda: len(self.all("main tbody tr")) == 6, "the packs")
        self.one("main input[type=search]").send_keys("group")
        self.until(lambda: len(self.all("main tbody tr")) == 1, "one is found")
        self.until(lambda: f"{PARENT}\n" in self.margin(), "it is in hand")
        self.until(lambda: "Outer Isles Line gave 137,410,898.51" in self.margin(), "what it gave is told")
        self.button("Take it as it is now").click()
        self.until(lambda: "137,410,898.51" not in self.margin(), "it follows again")
        self.clean()
        self.one("main tbody button").click()
        self.keys("o")
        self.until(lambda: "Income of the group" in self.one(".statement").text, "its page")
        self.keys("u")
        self.until(lambda: "Undone" in self.said(), "taken back")

    def test_a_figure_is_taken_from_others_on_the_page(self) -> None:
        self.script("document.getElementById('figure:fares:y26').click()")
        self.button("Take it from other packs").click()
        self.until(lambda: self.all("aside fieldset input"), "the other packs")
        self.clean()
        chosen = self.script(
            "return [...document.querySelectorAll('aside fieldset label')].find((each) =>"
            " each.textContent.startsWith('Outer Isles Line'))"
        )
        chosen.click()
        self.until(lambda: self.all("aside form select"), "their figure is asked for")
        for label in ("Their statement", "Their line", "Their column"):
            self.until(lambda label=label: self.choose_first(label), label)  # type: ignore[misc]
        self.button("Take it").click()
        self.until(lambda: "Follow them no more" in self.margin(), "it follows")
        self.assertIn("Outer Isles Line", self.margin())
        self.clean()
        self.keys("u")
        self.until(lambda: "Take it from other packs" in self.margin(), "taken back")

    def choose_first(self, label: str) -> object:
        """Choose the first option of a list, once it is there."""
        return self.script(
            "const named = [...document.querySelectorAll('aside form label')];"
            "const select = named.find((each) => each.textContent.startsWith(arguments[0]))?.querySelector('select');"
            "const option = [...(select?.options ?? [])].find((each) => each.value);"
            "if (!option) return false;"
            "const set = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set;"
            "set.call(select, option.value);"
            "select.dispatchEvent(new Event('change', { bubbles: true }));"
            "return true",
            label,
        )


if __name__ == "__main__":
    unittest.main()
