"""Who may change anything: the page itself and programs, and no other site."""

from typing import Any

from humble_sum.exchange.pack_json import write_pack
from humble_sum.records.demo import demo_pack
from humble_sum.server.origins import HEADERS
from tests.server.template import BYTES, JSON
from tests.server.test_server import ServerTest

OWN = "http://localhost"
ELSEWHERE: tuple[dict[str, str], ...] = (
    {"Sec-Fetch-Site": "cross-site"},
    {"Sec-Fetch-Site": "same-site"},  # another port of this machine
    {"Origin": "http://localhost:9999"},
    {"Origin": "https://example.org"},
    {"Origin": "null"},  # a sandboxed frame, or a file
    {"Origin": "http://localhost.example.org"},
    {"Origin": "http://localhost@example.org"},
    {"Origin": OWN, "Sec-Fetch-Site": "same-site"},
)


class DoorTest(ServerTest):
    def requests(self) -> list[tuple[str, str, Any, dict[str, str]]]:
        change = {"revision": 1, "change": {"kind": "foot", "statement": "income"}}
        return [
            ("POST", "/api/packs", write_pack(demo_pack()), JSON),
            ("POST", "/api/intakes?name=a.csv", b"Line,Now\nFares,1\n", BYTES),
            ("POST", "/api/intakes/streamed?name=a.csv", b"Line,Now\nFares,1\n", BYTES),
            ("POST", f"{self.pack}/changes", change, {}),
            ("POST", f"{self.pack}/undo", {"revision": 1, "statement": "income"}, {}),
            ("DELETE", self.pack, None, {}),
        ]

    def test_no_other_site_changes_anything(self) -> None:
        before = self.get("/api/packs"), self.get(self.pack)
        for method, url, body, headers in self.requests():
            for told in ELSEWHERE:
                with self.subTest(url, **told):
                    sent = {"content": body} if isinstance(body, bytes) else {"json": body}
                    answer = self.client.request(method, url, headers=headers | told, **sent)
                    self.assertEqual(answer.status_code, 403)
                    self.problem(answer.json(), "other-site")
        self.assertEqual((self.get("/api/packs"), self.get(self.pack)), before)

    def test_the_page_itself_and_programs_are_let_in(self) -> None:
        for told in (
            {},
            {"Origin": OWN},
            {"Origin": OWN, "Sec-Fetch-Site": "same-origin"},
            {"Sec-Fetch-Site": "none"},
        ):
            with self.subTest(**told):
                answer = self.client.post("/api/packs", content=write_pack(demo_pack()), headers=JSON | told)
                self.assertEqual(answer.status_code, 201)

    def test_bodies_are_of_the_one_type_that_is_taken(self) -> None:
        plain = ("text/plain", "application/x-www-form-urlencoded", "multipart/form-data; boundary=x", "")
        for url, wanted in (("/api/packs", JSON), ("/api/intakes?name=a.csv", BYTES)):
            for told in plain:
                with self.subTest(url, told=told):
                    answer = self.client.post(url, content=b"{}", headers={"Content-Type": told})
                    self.assertEqual(answer.status_code, 415)
                    said = self.problem(answer.json(), "other-content-type")
                    self.assertIn(wanted["Content-Type"], said)
        change = b'{"revision": 1, "change": {"kind": "foot", "statement": "income"}}'
        answer = self.client.post(
            f"{self.pack}/changes", content=change, headers={"Content-Type": "text/plain"}
        )
        self.problem(answer.json(), "bad-request")

    def test_every_answer_says_what_a_browser_may_do_with_it(self) -> None:
        for url in ("/", "/api/packs", "/api/nothing", f"{self.income}/files/html", "/api/openapi.json"):
            answer = self.client.get(url)
            for name, value in HEADERS.items():
                self.assertEqual(answer.headers[name], value, url)
        self.assertNotIn("unsafe-inline", HEADERS["Content-Security-Policy"].split("style-src")[0])
