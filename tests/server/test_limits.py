"""What a server holds at once: connections of which idle ones give way, and packs within a budget of bytes."""

from __future__ import annotations

import logging
import tempfile
import unittest
from pathlib import Path
from unittest.mock import Mock, patch

from fastapi.testclient import TestClient
from hypothesis import given, settings
from hypothesis import strategies as st

from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.server import memory
from humble_sum.server.app import create_app
from humble_sum.server.connections import Connections, OnceAMinute
from tests.every_change import DEMO
from tests.server.template import demo_database


class ConnectionsTest(unittest.TestCase):
    @settings(max_examples=200, deadline=None)
    @given(
        st.lists(st.sampled_from(["open", "ask", "wait", "known", "close"]), max_size=60), st.integers(1, 6)
    )
    def test_never_more_are_open_and_nobody_is_cut_off_in_an_answer(self, acts: list[str], most: int) -> None:
        held, alive, asking = Connections(most), list[Mock](), set[Mock]()
        for number, act in enumerate(acts):
            if act == "open":
                new = Mock()
                new.transport.abort.side_effect = lambda new=new: alive.remove(new)
                alive.append(new)
                held.opened(new)
            elif alive:
                one = alive[number % len(alive)]
                if act == "ask":
                    held.asks(one)
                    asking.add(one)
                elif act in ("wait", "known"):
                    held.waits(one, act == "known")
                    asking.discard(one)
                else:
                    held.closed(one)
                    alive.remove(one)
            self.assertLessEqual(len(alive), most)
            self.assertFalse(any(one.transport.abort.called for one in asking))

    def test_who_is_signed_in_goes_last(self) -> None:
        held, known, stranger, new = Connections(2), Mock(), Mock(), Mock()
        for each in (known, stranger):
            held.opened(each)
            held.waits(each, each is known)
        held.opened(new)
        self.assertTrue(stranger.transport.abort.called)
        self.assertFalse(known.transport.abort.called or new.transport.abort.called)

    def test_each_kind_of_trouble_is_told_once_a_minute(self) -> None:
        told = OnceAMinute()
        records = [logging.LogRecord("x", 30, "", 0, said, None, None) for said in ("full", "full", "slow")]
        self.assertEqual([told.filter(each) for each in records], [True, False, True])
        with patch("humble_sum.server.connections.monotonic", return_value=10**9):
            self.assertTrue(told.filter(records[0]))


class MemoryTest(unittest.TestCase):
    def test_what_is_in_hand_stays_within_the_budget_and_one_pack_always_fits(self) -> None:
        with patch.object(memory, "BUDGET", 3_000_000):
            kept = memory.in_hand()
            proof = prove_pack(DEMO)
            for number in range(12):
                kept["proof", number] = proof
                self.assertLessEqual(kept.currsize, 3_000_000)
            self.assertIn(("proof", 11), kept)
            self.assertNotIn(("proof", 0), kept)
        with patch.object(memory, "BUDGET", 1_000):
            kept = memory.in_hand()
            kept["proof", 0] = proof
            self.assertIn(("proof", 0), kept)

    def test_packs_given_up_are_read_again_and_answer_the_same(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = demo_database(Path(folder.name) / "records.sqlite")
        self.addCleanup(database.close)
        app = create_app(database, ("testserver",))
        client = TestClient(app)
        pack = client.get("/api/packs").json()[0]["id"]
        before = client.get(f"/api/packs/{pack}").json()
        desk = app.state.desk
        with (
            patch("humble_sum.server.proof_cache.monotonic", return_value=10**9),
            patch.object(memory, "AT_REST", 0),
        ):
            desk.rest()
        self.assertEqual(len(desk._kept), 0)
        self.assertEqual(client.get(f"/api/packs/{pack}?again").json(), before)
