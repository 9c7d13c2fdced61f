"""Editions and places over HTTP: a pack's address in an edition, dashboards, agreement, pages for readers."""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET
from typing import Any

from tests.server.test_server import ServerTest


class EditionsTest(ServerTest):
    def in_edition(self, edition: str) -> str:
        return f"{self.pack}@{edition}"

    def test_a_packs_address_in_an_edition_is_that_edition_everywhere(self) -> None:
        board = self.in_edition("Board")
        view = self.get(board)
        self.assertEqual((view["edition"], view["id"]), ("Board", f"{self.pack_id}@Board"))
        proof = self.get(f"{board}/statements/income/proof")
        self.assertEqual(proof["caption"], "₹ crores")
        figure = self.get(f"{board}/statements/income/figures/net/y26")
        self.assertEqual(figure["steps"][-1]["value"], "4.1")
        self.problem(self.get(self.in_edition("none"), 404), "no-such-edition")

    def test_what_is_done_in_an_edition_is_its_own_and_undone(self) -> None:
        own = self.texts()
        board = self.in_edition("Board")
        body = {"revision": 1, "change": {"kind": "foot", "statement": "income"}}
        outcome = self.post(f"{board}/changes", body)
        self.assertEqual([s["gaps"] for s in outcome["pack"]["statements"]], [0, 0, 0, 0, 0])
        self.assertEqual(self.texts(), own)
        editions = {each["id"]: each for each in self.get(f"{self.pack}/editions")}
        self.assertEqual((editions["Board"]["gaps"], editions["own"]["gaps"] > 0), (0, True))
        undone = self.post(f"{board}/undo", {"revision": 2, "statement": "income"})
        self.assertGreater(sum(s["gaps"] for s in undone["pack"]["statements"]), 0)

    def test_trials_of_editions_stay_apart(self) -> None:
        change = {"kind": "set_clause", "statement": "income", "line": "net", "column": "y26"}
        body = {"revision": 1, "change": change | {"clause": "decimals", "value": {"fixed": 2}}}
        trial = self.post(f"{self.in_edition('Board')}/trial", body)
        cells = {line["id"]: line["figures"] for line in trial["proof"]["lines"]}
        self.assertEqual(cells["net"][0]["text"], "4.13")
        self.problem(self.get(f"{self.income}/proof?trial={trial['id']}", 404), "no-such-trial")

    def test_two_editions_beside_each_other(self) -> None:
        view = self.get(f"{self.income}/beside/Board")
        self.assertEqual([head["caption"] for head in view["heads"]], ["₹ lakhs", "₹ crores"])
        net = next(line for line in view["lines"] if line["id"] == "net")
        self.assertEqual(
            [[f["text"] for f in each] for each in net["figures"]], [["413", "300"], ["4.1", "3.0"]]
        )
        self.assertTrue(view["differences"])

    def test_a_figure_everywhere_it_is_printed(self) -> None:
        view = self.get(f"{self.in_edition('Board')}/statements/income/figures/net/y26/everywhere?place=tile")
        self.assertEqual([each["text"] for each in view["editions"]], ["413", "4.1", "459"])
        self.assertEqual({each["text"] for each in view["placed"]}, {"4.1", "₹4.14 crore", "459"})
        scale = next(
            word for word in view["sentence"] if isinstance(word, dict) and word["clause"] == "scale"
        )
        change = next(choice["change"] for choice in scale["choices"] if choice["value"] == "lakhs")
        self.assertEqual(change["place"], "tile")
        revision = self.get(self.pack)["revision"]
        self.post(f"{self.in_edition('Board')}/changes", {"revision": revision, "change": change})
        tiles = {item["id"]: item for item in self.get(f"{self.pack}/dashboards/board")["items"]}
        self.assertEqual((tiles["net"]["shows"]["text"], tiles["net"]["unit"]), ("413.3", "₹ lakhs"))
        page = self.get(f"{self.in_edition('Board')}/statements/income/proof")
        self.assertEqual(page["caption"], "₹ crores")


class DashboardsTest(ServerTest):
    def place(self, status: int = 200, **change: Any) -> Any:
        revision = self.get(self.pack)["revision"]
        return self.post(f"{self.pack}/changes", {"revision": revision, "change": change}, status)

    def items(self, dashboard: str = "board") -> dict[str, Any]:
        return {item["id"]: item for item in self.get(f"{self.pack}/dashboards/{dashboard}")["items"]}

    def test_the_disagreement_is_found_and_settled_by_the_command_that_comes_with_it(self) -> None:
        found = self.get(f"{self.pack}/agreement")
        self.assertEqual((found[0]["item"], found[0]["agrees"]["off"]), ("note", "off by 0.01"))
        for left in range(len(found) - 1, -1, -1):
            self.place(**self.get(f"{self.pack}/agreement")[0]["agrees"]["ways"][0]["change"])
            self.assertEqual(len(self.get(f"{self.pack}/agreement")), left)
        pieces = self.items()["note"]["blocks"][0]["pieces"]
        self.assertIn("₹4.1\u202fcrore", [piece["text"] for piece in pieces])
        self.step("undo")
        self.assertEqual(len(self.get(f"{self.pack}/agreement")), 1)
        self.assertEqual(self.items("parent")["costs"]["agrees"]["off"], "not 100")

    def test_every_way_out_of_a_nudge_settles_it(self) -> None:
        self.change(kind="foot")
        findings = [each for each in self.get(f"{self.pack}/agreement") if each["item"] == "freight"]
        (finding,) = findings
        labels = [way["label"] for way in finding["agrees"]["ways"]]
        self.assertEqual(
            labels, ["Print it at the page’s unit", "Release the page’s nudge", "Accept it, with a reason"]
        )
        for way in finding["agrees"]["ways"]:
            change = way["change"]
            if change["kind"] == "accept_nudge":
                change = change | {"reason": "the board reads decimals"}
            self.place(**change)
            left = [each["item"] for each in self.get(f"{self.pack}/agreement")]
            self.assertNotIn("freight", left, way["label"])
            self.step("undo")

    def test_a_nudge_on_the_page_is_followed_at_its_unit(self) -> None:
        board = f"{self.pack}@Board"
        self.post(f"{board}/changes", {"revision": 1, "change": {"kind": "foot", "statement": "income"}})
        proof = self.get(f"{board}/statements/income/proof")
        texts = {(line["id"], f["column"]): f["text"] for line in proof["lines"] for f in line["figures"]}
        for id, line in (("rev", "rev"), ("op", "op"), ("net", "net")):
            self.assertEqual(self.items()[id]["shows"]["text"], texts[line, "y26"])
        bridge = self.items()["bridge"]["series"][0]["points"]
        self.assertEqual((bridge[0]["text"], bridge[-1]["text"]), (texts["net", "y25"], texts["net", "y26"]))

    def test_items_are_placed_moved_sized_worded_and_taken_off(self) -> None:
        shows = {"figure": ["position", "bank", "y26"]}
        tile = {"kind": "tile", "id": "bank", "label": "Cash", "shows": shows}
        self.place(kind="place_item", dashboard="board", item=tile, before="op")
        order = list(self.items())
        self.assertEqual(order[:3], ["rev", "bank", "op"])
        self.assertEqual(self.items()["bank"]["shows"]["text"], "5.3")
        self.place(**self.items()["bank"]["commands"]["later"])
        self.assertEqual(list(self.items())[:3], ["rev", "op", "bank"])
        self.place(**self.items()["bank"]["commands"]["wider"])
        self.assertEqual(self.items()["bank"]["width"], 5)
        said = self.get(f"{self.pack}/dashboards/board/items/bank/words")
        words = {w["clause"]: w for w in said if isinstance(w, dict)}
        compared = next(c for c in words["comparison"]["choices"] if c["value"] == "change_percent")
        self.place(**compared["change"])
        self.assertEqual(self.items()["bank"]["compare"]["text"], "26.8%")
        self.place(**self.items()["bank"]["commands"]["remove"])
        self.assertNotIn("bank", self.items())

    def test_bad_places_are_refused_and_nothing_is_kept(self) -> None:
        tile = {"kind": "tile", "id": "t", "label": "T", "shows": {"figure": ["income", "net", "y26"]}}
        many = {"kind": "passage", "id": "p", "label": "P", "text": "x" * 1_000_000}
        cases: list[tuple[int, str, dict[str, Any]]] = [
            (404, "no-such-dashboard", {"kind": "place_item", "dashboard": "none", "item": tile}),
            (422, "bad-request", {"kind": "place_item", "dashboard": "board", "item": tile | {"width": 99}}),
            (422, "bad-request", {"kind": "place_item", "dashboard": "board", "item": many}),
            (
                404,
                "no-such-item",
                {"kind": "move_item", "dashboard": "board", "item": "none", "before": None},
            ),
            (
                422,
                "bad-structure",
                {"kind": "write_passage", "dashboard": "board", "item": "rev", "text": ""},
            ),
            (422, "bad-pack", {"kind": "add_dashboard", "name": "X", "edition": "none"}),
            (409, "edition-in-use", {"kind": "remove_edition", "edition": "Board"}),
            (404, "no-such-edition", {"kind": "edit_edition", "edition": "none", "name": "X"}),
        ]
        for status, kind, change in cases:
            self.problem(self.place(status, **change), kind)
        self.assertEqual(self.get(self.pack)["revision"], 1)

    def test_a_dashboard_takes_so_many_items_and_no_more(self) -> None:
        shows = {"figure": ["income", "net", "y26"]}
        items = [{"kind": "tile", "id": f"t{n}", "label": "T", "shows": shows} for n in range(201)]
        data = self.client.get(f"{self.income}/files/json").json()
        data["dashboards"] = [{"id": "d", "name": "D", "items": items[:200]}]
        pack = self.post("/api/packs", data, 201)["id"]
        self.assertEqual(self.get(f"/api/packs/{pack}/dashboards/d")["placed"], 200)
        change = {"kind": "place_item", "dashboard": "d", "item": items[200]}
        said = self.post(f"/api/packs/{pack}/changes", {"revision": 1, "change": change}, 422)
        self.assertIn("at most 200 items", self.problem(said, "bad-structure"))

    def test_html_in_labels_and_passages_is_text_wherever_it_is_shown(self) -> None:
        evil = '<img src=x onerror="alert(1)">'
        self.place(kind="write_passage", dashboard="board", item="note", text=f"{evil} & {{income:net:y26}}")
        chart = self.items()["fares"]["item"] | {"label": evil}
        self.place(kind="place_item", dashboard="board", item=chart)
        line: dict[str, Any] = {"kind": "set_line", "statement": "routes", "line": "outer", "label": evil}
        self.change(**line)
        page = self.client.get(f"/read/{self.pack_id}/Board").text
        self.assertNotIn("<img", page)
        self.assertIn("&lt;img src=x", page)
        svg = self.items()["bridge"]["svg"]
        ET.fromstring(svg)  # it is well-formed

    def test_readers_are_told_a_dashboard_from_a_statement_of_its_name(self) -> None:
        own = self.client.get(f"/read/{self.pack_id}/own").text
        names = re.findall(r"<li><a [^>]*>([^<]*)</a></li>", own)
        self.assertIn("Operations (dashboard)", names)
        self.assertEqual(len(names), len({*names}), "no two pages are called alike")

    def test_charts_are_drawings_whose_text_is_text_and_whose_points_have_ids(self) -> None:
        chart = self.items()["bridge"]
        drawing = ET.fromstring(chart["svg"])
        texts = {
            "".join(each.itertext()).strip() for each in drawing.iter("{http://www.w3.org/2000/svg}text")
        }
        self.assertLessEqual({"2.0", "(0.2)", "4.1", "Tax"}, texts)
        ids = [each.get("id") for each in drawing.iter() if each.get("id")]
        self.assertEqual(len(ids), len(set(ids)))
        self.assertLessEqual({point["id"] for point in chart["series"][0]["points"]}, set(ids))

    def test_every_format_is_written(self) -> None:
        for format, begins in (
            ("html", b"<!doctype html>"),
            ("md", b"## Dashboard"),
            ("txt", b"Dashboard"),
            ("csv", b"\xef\xbb\xbfLanternfish"),
            ("xlsx", b"PK"),
        ):
            answer = self.client.get(f"{self.pack}/dashboards/board/files/{format}")
            self.assertEqual(answer.status_code, 200, format)
            self.assertTrue(answer.content.startswith(begins), format)
        for format, begins in (("svg", b"<svg"), ("png", b"\x89PNG")):
            url = f"{self.pack}/dashboards/board/files/{format}"
            self.problem(self.get(url, 404), "no-such-item")
            self.assertTrue(self.client.get(f"{url}?item=bridge").content.startswith(begins))
        self.problem(self.get(f"{self.pack}/dashboards/board/files/doc", 404), "no-such-format")


class ReadersTest(ServerTest):
    def read(self, path: str, status: int = 200, accepted: str = "") -> str:
        headers = {"Accept-Language": accepted} if accepted else {}
        answer = self.client.get(f"/read/{self.pack_id}/{path}", headers=headers)
        self.assertEqual(answer.status_code, status, answer.text[:200])
        return str(answer.text)

    def test_an_edition_has_pages_without_scripts_or_anything_of_the_desk(self) -> None:
        for path in ("Board", "Board/statements/income", "own/dashboards/operations", "Parent", "own"):
            page = self.read(path)
            for word in ("<script", "nudge", "drift", "gap", "agrees", "<button", "<input"):
                self.assertNotIn(
                    word, page.lower().replace("column-gap", "").replace("row-gap", "").replace(" gap:", "")
                )
        board = self.read("Board")
        for text in ("Board edition", "33.4", "₹ crores", "As a table", "▲\u00a06.4%"):
            self.assertIn(text, board)

    def test_what_is_not_there_is_a_problem(self) -> None:
        self.read("none", 404)
        self.read("Board/statements/none", 404)
        self.read("Board/dashboards/none", 404)

    def test_the_readers_own_language_only_where_the_edition_says_so(self) -> None:
        self.assertIn("3.705", self.read("Parent?lang=de"))
        self.assertIn("3.705", self.read("Parent", accepted="xx, de-DE;q=0.8, en;q=0.5"))
        self.assertIn("३,७०५", self.read("Parent?lang=mr"))
        self.assertIn("3,705", self.read("Parent?lang=not-a-language-at-all"))
        self.assertIn("33.4", self.read("Board?lang=de"))

    def test_an_edition_prints_wide_statements_in_a_box_that_scrolls(self) -> None:
        self.assertIn('class="wide" tabindex="0"', self.read("own/statements/routes"))
