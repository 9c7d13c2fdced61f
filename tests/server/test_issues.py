"""Issues over HTTP: numbered, frozen, never half, and withdrawn at most."""

from __future__ import annotations

import json
import unittest
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest import mock

from humble_sum.exchange.containers.verification import verify
from humble_sum.exchange.formats import OF_ISSUES
from humble_sum.exchange.imprint import digest_of
from humble_sum.exchange.sources.progress import Stopped
from humble_sum.records.issue_rows import keep_issue
from humble_sum.server.routes import issues as routes
from tests.server.test_server import ServerTest

REASONS = {"whole": "The claim is not known.", "places": "As last year.", "sums": "Left so."}


class IssuesTest(ServerTest):
    def wanted(self, **more: Any) -> dict[str, Any]:
        page = self.get(f"{self.pack}/issue")
        said = {"revision": page["revision"], "number": page["number"], "prepared_by": "Asha"}
        return said | {"recipients": "the auditors", "files": ["html"], "reasons": REASONS} | more

    def issue(self, **more: Any) -> Any:
        return self.client.post(f"{self.pack}/issues", json=self.wanted(**more))

    def test_an_issue_is_frozen_while_the_desk_goes_on(self) -> None:
        self.assertEqual(self.issue().status_code, 201)
        first = self.client.get(f"{self.pack}/issues/1/container").content
        told = self.get(f"{self.pack}/issues/1")
        self.change(kind="foot")
        page = self.get(f"{self.pack}/issue")
        self.assertEqual((page["number"], page["issued"]), (2, [told]))
        self.assertEqual((page["since"]["changed"], page["since"]["same"]), (46, 441 - 46))
        self.assertEqual({each["cause"] for each in page["since"]["differences"]}, {"nudge"})
        self.assertEqual(self.issue(state="final").json()["number"], 2)
        self.assertEqual(self.client.get(f"{self.pack}/issues/1/container").content, first)
        between = self.get(f"{self.pack}/issues/1/differences?other=2")
        self.assertEqual((between["changed"], between["rules_changed"]), (46, False))
        container = self.client.get(f"{self.pack}/issues/2/container").content
        self.assertEqual(self.get(f"{self.pack}/issues/2")["digest"], digest_of(container))
        html = self.client.get(f"{self.pack}/issues/1/files/edition.html")
        self.assertIn("text/html", html.headers["content-type"])
        self.assertNotIn("script", html.text)
        self.assertEqual(verify(self.client.get(f"{self.pack}/issues/2/container").content).faults, [])

    def test_its_files_are_told_as_they_are_made(self) -> None:
        answer = self.client.post(
            f"{self.pack}/issues/streamed", json=self.wanted(files=["html", "csv", "record"])
        )
        *told, last = [json.loads(line) for line in answer.text.splitlines()]
        self.assertEqual(last["issued"], self.get(f"{self.pack}/issues/1"))
        says = [each["says"] for each in told]
        for choice in ("html", "csv", "record"):
            self.assertIn(OF_ISSUES[choice].label, says)
        self.assertTrue(all(each["done"] <= each["total"] for each in told))
        refused = self.client.post(f"{self.pack}/issues/streamed", json=self.wanted(reasons={}))
        (line,) = [json.loads(each) for each in refused.text.splitlines()]
        self.problem(line["problem"], "open-checks")

    def test_one_that_is_stopped_keeps_nothing(self) -> None:
        desk: Any = self.client.app.state.desk  # type: ignore[attr-defined]
        body = routes.IssueRequest.model_validate(self.wanted(files=["html", "csv"]))

        def stop(done: int, whole: int, what: str) -> None:
            if what == OF_ISSUES["csv"].label:
                raise Stopped

        with self.assertRaises(Stopped):
            routes._issued(desk, self.pack.rpartition("/")[2], body, stop, False)
        self.assertEqual(self.get(f"{self.pack}/issue")["issued"], [])
        self.assertEqual(self.issue().json()["number"], 1)

    def test_editions_are_numbered_by_themselves(self) -> None:
        self.assertEqual(self.issue().json()["number"], 1)
        other = self.get(f"{self.pack}@Board/issue")
        self.assertEqual((other["edition_name"], other["number"], other["issued"]), ("Board", 1, []))

    def test_what_lacks_something_is_refused_and_nothing_is_kept(self) -> None:
        for more, kind in (
            ({"recipients": " "}, "bad-issue"),
            ({"prepared_by": ""}, "bad-issue"),
            ({"reasons": {}}, "open-checks"),
            ({"files": ["tar"]}, "no-such-format"),
            ({"number": 7}, "issue-taken"),
            ({"revision": 99}, "stale-revision"),
            ({"state": "secret"}, "bad-request"),
        ):
            with self.subTest(kind=kind, more=more):
                self.problem(self.issue(**more).json(), kind)
        self.assertEqual(self.get(f"{self.pack}/issue")["issued"], [])

    def test_two_that_issue_at_once_get_one_number_each_or_a_refusal(self) -> None:
        body = self.wanted()
        with ThreadPoolExecutor(4) as pool:
            asked = [pool.submit(self.client.post, f"{self.pack}/issues", json=body) for _ in range(4)]
            statuses = sorted(each.result().status_code for each in asked)
        self.assertEqual(statuses, [201, 409, 409, 409])
        self.assertEqual([each["number"] for each in self.get(f"{self.pack}/issue")["issued"]], [1])

    def test_a_fault_in_the_middle_keeps_no_half(self) -> None:
        def fails(*kept: Any) -> None:
            keep_issue(*kept)
            raise OSError("No space left on device")

        with mock.patch.object(routes, "keep_issue", fails), self.assertRaises(OSError):
            self.issue()
        self.assertEqual(self.get(f"{self.pack}/issue")["issued"], [])
        self.assertEqual(self.issue().status_code, 201)

    def test_a_withdrawn_issue_says_so_and_stays(self) -> None:
        self.issue()
        self.issue()
        at = f"{self.pack}/issues/1/withdraw"
        self.problem(self.client.post(at, json={"why": " "}).json(), "bad-issue")
        self.problem(self.client.post(at, json={"why": "x", "replaced": 9}).json(), "no-such-issue")
        told = self.client.post(at, json={"why": "Tax was wrong.", "replaced": 2}).json()
        self.assertEqual((told["withdrawn"], told["replaced"]), ("Tax was wrong.", 2))
        self.problem(self.client.post(at, json={"why": "again"}).json(), "no-such-issue")
        self.assertEqual(self.client.get(f"{self.pack}/issues/1/container").status_code, 200)
        self.assertEqual(self.get(f"{self.pack}/issue")["since"]["number"], 2)

    def test_a_pack_whose_issues_stand_is_not_deleted(self) -> None:
        self.issue()
        self.client.put(f"{self.pack}/standing", json={"standing": "taken_out"})
        self.problem(self.client.delete(self.pack).json(), "in-use")
        self.client.post(f"{self.pack}/issues/1/withdraw", json={"why": "Never meant."})
        self.assertEqual(self.client.delete(self.pack).status_code, 200)

    def test_what_was_not_issued_is_not_there(self) -> None:
        self.issue()
        for path in ("issues/2", "issues/1/files/x.pdf", "issues/1/files/..%2Fx", "issues/0/container"):
            self.assertIn(self.client.get(f"{self.pack}/{path}").status_code, (404, 422), path)

    def test_a_number_that_no_database_holds_is_no_issue(self) -> None:
        self.issue()
        for number in (2**63 - 1, 2**63, 10**30, -(2**63) - 1):
            for path in ("", "/container", "/files/edition.html", "/differences"):
                answer = self.client.get(f"{self.pack}/issues/{number}{path}")
                self.problem(answer.json(), "no-such-issue")
            other = self.client.get(f"{self.pack}/issues/1/differences?other={number}")
            self.problem(other.json(), "no-such-issue")
            for at, body in ((number, {"why": "x"}), (1, {"why": "x", "replaced": number})):
                answer = self.client.post(f"{self.pack}/issues/{at}/withdraw", json=body)
                self.problem(answer.json(), "no-such-issue")


if __name__ == "__main__":
    unittest.main()
