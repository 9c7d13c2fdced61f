"""What is asked too much of the server at once, what never comes, and what nobody waits for any more."""

from __future__ import annotations

import asyncio
import http.client
import json
import socket
import tempfile
import threading
import unittest
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

import uvicorn
from starlette.types import Message, Receive, Scope, Send

from humble_sum.server import timeouts
from humble_sum.server.app import create_app
from humble_sum.server.lanes import Lane, Left, TooBusy
from humble_sum.server.proof_cache import Desk
from humble_sum.server.timeouts import PatientProtocol, RequestTimeouts
from tests.server.template import demo_database

LONG = 20.0  # seconds that a wait may take before the test fails


class LaneTest(unittest.TestCase):
    def test_so_many_go_on_so_many_wait_and_the_others_are_turned_away(self) -> None:
        lane = Lane("counting", at_once=2, waiting=3, longest_wait=LONG)
        inside, most, let_go = [], [], threading.Event()
        lock = threading.Lock()

        def work() -> str:
            try:
                with lane.taken():
                    with lock:
                        inside.append(1)
                        most.append(len(inside))
                    let_go.wait(LONG)
                    with lock:
                        inside.pop()
                return "done"
            except TooBusy:
                if not let_go.is_set():
                    turned.release()
                return "turned away"

        turned = threading.Semaphore(0)
        with ThreadPoolExecutor(12) as pool:
            asked = [pool.submit(work) for _ in range(12)]
            for _ in range(12 - 5):
                self.assertTrue(turned.acquire(timeout=LONG))
            let_go.set()
            answers = [each.result(LONG) for each in asked]
        self.assertEqual((answers.count("done"), answers.count("turned away")), (5, 7))
        self.assertEqual(max(most), 2)
        with lane.taken():  # and it is free again
            pass

    def test_who_goes_away_while_waiting_leaves_the_queue(self) -> None:
        lane = Lane("counting", at_once=1, waiting=1, longest_wait=LONG)
        with lane.taken():
            with self.assertRaises(Left), lane.taken(lambda: True):
                self.fail("it waited for nobody")
            with self.assertRaises(TooBusy), Lane("counting", 0, 0, 1).taken():
                self.fail("there was no room")
        with lane.taken():
            pass

    def test_a_failure_inside_gives_the_place_back(self) -> None:
        lane = Lane("counting", at_once=1, waiting=0, longest_wait=LONG)
        for _ in range(3):
            with self.assertRaises(ZeroDivisionError), lane.taken():
                raise ZeroDivisionError


class PatienceTest(unittest.TestCase):
    def ask(self, parts: list[Message | None]) -> list[Message]:
        """What is sent to a request whose body comes in these parts, the rest of it never."""
        sent: list[Message] = []

        async def app(scope: Scope, receive: Receive, send: Send) -> None:
            while (await receive()).get("more_body"):
                pass
            await send({"type": "http.response.start", "status": 200, "headers": []})
            await send({"type": "http.response.body", "body": b"read"})

        async def receive() -> Message:
            if parts and (part := parts.pop(0)) is not None:
                return part
            await asyncio.Event().wait()
            raise AssertionError

        async def send(message: Message) -> None:
            sent.append(message)

        scope = {"type": "http", "method": "POST", "path": "/", "headers": [], "query_string": b""}
        asyncio.run(RequestTimeouts(app, part=0.05, body=1.0)(scope, receive, send))
        return sent

    def test_a_body_that_stops_coming_is_given_up(self) -> None:
        part: Message = {"type": "http.request", "body": b"x", "more_body": True}
        for parts in ([], [part], [part, part]):
            with self.subTest(parts=len(parts)):
                answer = self.ask([*parts])
                self.assertEqual(answer[0]["status"], 408)
                self.assertEqual(json.loads(answer[1]["body"])["type"], "urn:humble-sum:problem:too-slow")

    def test_a_body_that_comes_is_read(self) -> None:
        part: Message = {"type": "http.request", "body": b"x", "more_body": True}
        last: Message = {"type": "http.request", "body": b"x", "more_body": False}
        self.assertEqual(self.ask([part, last])[0]["status"], 200)


@contextmanager
def running() -> Iterator[tuple[int, Desk]]:
    """A server on a free port, and its desk."""
    with tempfile.TemporaryDirectory() as folder:
        database = demo_database(Path(folder) / "records.sqlite")
        app = create_app(database)
        listener = socket.create_server(("127.0.0.1", 0))
        server = uvicorn.Server(uvicorn.Config(app, log_level="error", http=PatientProtocol))
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
        thread.start()
        try:
            yield listener.getsockname()[1], app.state.desk
        finally:
            server.should_exit = True
            thread.join(LONG)
            database.close()


def hard_problem() -> bytes:
    """Three ways of adding the same figures, which do not foot quickly."""
    size = 12
    every = [(a, b, c) for a in range(size) for b in range(size) for c in range(size)]
    figures = {
        f"{a}.{b}.{c}": (a * 7919 + b * 104729 + c * 1299709 + a * b * c * 31) % 9973 for a, b, c in every
    }
    relations = []
    for way in range(3):
        groups: dict[tuple[int, ...], list[str]] = {}
        for ref in every:
            groups.setdefault(ref[:way] + ref[way + 1 :], []).append(".".join(map(str, ref)))
        for group, parts in groups.items():
            total = f"t{way}:{group}"
            figures[total] = sum(figures[part] for part in parts)
            relations.append({"total": total, "parts": [[part, 1] for part in parts]})
    amounts = {id: f"{amount // 1000}.{amount % 1000:03d}" for id, amount in figures.items()}
    return json.dumps({"figures": amounts, "relations": relations}).encode()


class ServerUnderLoadTest(unittest.TestCase):
    def test_hard_footings_at_once_are_turned_away_and_pages_still_come(self) -> None:
        with running() as (port, desk):
            lane = desk.lanes.planning
            lane.longest_wait = LONG
            held = threading.Event()
            holding = [threading.Thread(target=self.hold, args=(lane, held)) for _ in range(lane.at_once)]
            for each in holding:
                each.start()
            with ThreadPoolExecutor(30) as pool:
                asked = [pool.submit(self.foot, port) for _ in range(30)]
                wait_for(lambda: sum(each.done() for each in asked) == 30 - lane.waiting)
                done = [each for each in asked if each.done()]
                page = http.client.HTTPConnection("127.0.0.1", port, timeout=LONG)
                page.request("GET", "/api/packs")
                self.assertEqual(page.getresponse().status, 200)
                page.close()
                held.set()
                statuses = sorted(each.result(LONG)[0] for each in asked)
            self.assertEqual(statuses, [200] * lane.waiting + [503] * (30 - lane.waiting))
            self.assertTrue(all(int(each.result()[1]) > 0 for each in done))

    def hold(self, lane: Lane, until: threading.Event) -> None:
        with lane.taken():
            until.wait(LONG)

    def foot(self, port: int) -> tuple[int, str]:
        body = json.dumps({"figures": {"a": "1.4", "t": "1.4"}})
        return post(port, "/api/foot", body.encode())

    def test_a_search_ends_when_whoever_asked_goes_away(self) -> None:
        with running() as (port, desk):
            gone = socket.create_connection(("127.0.0.1", port))
            body = hard_problem()
            head = (
                f"POST /api/foot?seconds=600 HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: {len(body)}\r\n"
            )
            gone.sendall(f"{head}Content-Type: application/json\r\n\r\n".encode() + body)
            wait_for(lambda: desk.lanes.planning.going == 1)
            gone.close()
            wait_for(lambda: desk.lanes.planning.going == 0)

    def test_a_head_that_is_half_sent_is_hung_up_on(self) -> None:
        before, timeouts.HEAD_SECONDS = timeouts.HEAD_SECONDS, 0.3
        self.addCleanup(setattr, timeouts, "HEAD_SECONDS", before)
        with running() as (port, _):
            for said in (
                b"",
                b"GET / HTTP/1.1\r\nHost:",
                b"GET /api/packs HTTP/1.1\r\nHost: localhost\r\n\r\nGET /",
            ):
                with self.subTest(said=said), socket.create_connection(("127.0.0.1", port)) as half:
                    half.settimeout(LONG)
                    half.sendall(said)
                    while half.recv(65_536):
                        pass  # what was asked for whole is answered; then it is closed


def post(port: int, path: str, body: bytes) -> tuple[int, str]:
    """The status of an answer, and when to come again."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=2 * LONG)
    try:
        connection.request("POST", path, body, {"Content-Type": "application/json"})
        answer = connection.getresponse()
        answer.read()
        return answer.status, answer.getheader("Retry-After", "")
    finally:
        connection.close()


def wait_for(holds: Callable[[], bool]) -> None:
    """Wait until something holds. Raises AssertionError where it never does."""
    tick = threading.Event()
    for _ in range(int(LONG / 0.05)):
        if holds():
            return
        tick.wait(0.05)
    raise AssertionError("it never held")


if __name__ == "__main__":
    unittest.main()
