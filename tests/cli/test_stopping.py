"""A search that is stopped gives the best plan it has, says so, and exits by the signal's code."""

import contextlib
import io
import json
import os
import signal
import sys
import tempfile
import threading
import unittest
from pathlib import Path
from typing import Any
from unittest.mock import patch

import typer

from humble_sum.cli.main import main
from humble_sum.cli.stopping import stoppable
from humble_sum.core.errors import Fault, InputError

# Three of its kind side by side take minutes to a proof, and a tenth of a second to a first plan.
MESH = json.loads((Path(__file__).parent.parent / "cases/hard/mesh-1003.json").read_text(encoding="utf-8"))


class StoppingTest(unittest.TestCase):
    def test_the_best_plan_so_far_is_given(self) -> None:
        for number, code in ((signal.SIGINT, 130), (signal.SIGTERM, 143)):
            with self.subTest(number):
                out, err = io.StringIO(), io.StringIO()
                timer = threading.Timer(1.5, os.kill, (os.getpid(), number))
                with (
                    tempfile.TemporaryDirectory() as folder,
                    patch.object(
                        sys, "argv", ["humble-sum", "foot", f"{folder}/mesh.json", "--seconds", "60"]
                    ),
                    contextlib.redirect_stdout(out),
                    contextlib.redirect_stderr(err),
                    self.assertRaises(SystemExit) as left,
                ):
                    Path(folder, "mesh.json").write_text(json.dumps(copies(3)), encoding="utf-8")
                    timer.start()
                    main()
                timer.join()
                self.assertEqual(left.exception.code, code)
                if "before there was any plan" in err.getvalue():  # on a machine with no time at all
                    continue
                self.assertIn("best plan found so far", err.getvalue())
                told = json.loads(out.getvalue())
                self.assertTrue(told["feasible"] and not told["proved"])
                printed = told["printed"]
                for relation in copies(3)["relations"]:
                    parts = sum(sign * printed[id] for id, sign in relation["parts"])
                    self.assertEqual(printed[relation["total"]], parts)

    def test_a_signal_ends_the_clock_once_and_the_program_after_that(self) -> None:
        usual = signal.getsignal(signal.SIGINT)
        with self.assertRaises(typer.Exit) as left, stoppable(None) as stop:
            self.assertFalse(stop.clock.over)
            os.kill(os.getpid(), signal.SIGINT)
            self.assertTrue(stop.clock.over)
            self.assertIs(signal.getsignal(signal.SIGINT), usual)
        self.assertEqual(left.exception.exit_code, 130)
        with stoppable(0.0) as stop:
            self.assertTrue(stop.clock.over)
        with self.assertRaises(InputError), stoppable(None):
            raise InputError("out-of-time", Fault("seconds", "Time is up.", "Wait."))


def copies(count: int) -> dict[str, Any]:
    """Problems side by side that have nothing to do with each other."""
    figures: dict[str, str] = {}
    relations: list[dict[str, Any]] = []
    for n in range(count):
        figures |= {f"{n}.{id}": amount for id, amount in MESH["figures"].items()}
        relations += [
            {"total": f"{n}.{each['total']}", "parts": [[f"{n}.{id}", sign] for id, sign in each["parts"]]}
            for each in MESH["relations"]
        ]
    return {"figures": figures, "relations": relations}


if __name__ == "__main__":
    unittest.main()
