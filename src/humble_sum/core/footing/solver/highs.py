"""HiGHS (Huangfu and Hall 2018), the open solver, as the rest of footing meets it.

Linear programs are solved where they are called and look at the clock between steps of the simplex
method. Programs in whole numbers run in a thread of their own, since HiGHS can be many seconds
between two looks at anything: whoever waits for one takes what it has found so far and goes on, and it
ends at its next look. Everything here is floating point: nothing is proved by it.
"""

from __future__ import annotations

import atexit
import threading
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

import highspy
import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array

from humble_sum.core.footing.solver.deadline import ENDLESS, Clock
from humble_sum.core.footing.solver.integers import Ints, Matrix

Floats = NDArray[np.float64]
Choice = NDArray[np.int8]
Ending = Literal["optimal", "infeasible", "stopped", "failed"]
FEASIBLE = int(highspy.SolutionStatus.kSolutionStatusFeasible)
PAUSE = 0.01  # seconds between two looks at the clock while a search runs
NEAR = 1e-6  # how near to a whole number a value is taken for one

ENDINGS: dict[Any, Ending] = {
    highspy.HighsModelStatus.kOptimal: "optimal",
    highspy.HighsModelStatus.kModelEmpty: "optimal",
    highspy.HighsModelStatus.kInfeasible: "infeasible",
    highspy.HighsModelStatus.kTimeLimit: "stopped",
    highspy.HighsModelStatus.kInterrupt: "stopped",
    highspy.HighsModelStatus.kSolutionLimit: "stopped",
    highspy.HighsModelStatus.kIterationLimit: "stopped",
}


@dataclass(frozen=True)
class Solved:
    """How a linear program ended: values by column and prices by row where it is optimal; where it is
    infeasible the ray that shows it, if HiGHS has one."""

    ending: Ending
    values: Floats
    prices: Floats
    ray: Floats | None = None


NONE = np.zeros(0)


def solve_linear(
    matrix: Matrix, right: Ints, costs: Floats, most: Floats, clock: Clock, presolve: bool = False
) -> Solved:
    """The least costs · x with `matrix` x = `right` and 0 ≤ x ≤ `most`, by the dual simplex method."""
    limits = right.astype(float)
    solver = _solver(matrix, limits, limits, costs, most)
    solver.setOptionValue("presolve", "on" if presolve else "off")
    solver.setOptionValue("solver", "simplex")
    raised: list[BaseException] = []

    def look(kind: Any, said: str, seen: Any, told: Any, given: Any) -> None:
        # An error must not pass through the solver's own frames.
        try:
            clock.tell("solving", 0, len(costs))
            over = clock.over
        except BaseException as error:
            raised.append(error)
            over = True
        if over:
            told.user_interrupt = True

    solver.watch(look)
    if (left := clock.left()) is not None:
        solver.setOptionValue("time_limit", max(left, 0.001))
    solver.run()
    if raised:
        raise raised[0]
    ending = ENDINGS.get(solver.getModelStatus(), "failed")
    if ending == "optimal":
        found = solver.getSolution()
        values, prices = np.array(found.col_value), np.array(found.row_dual)
        complete = len(values) == len(costs) and len(prices) == len(limits)
        return Solved(ending, values, prices) if complete else Solved("failed", NONE, NONE)
    return Solved(ending, NONE, NONE, _ray(solver) if ending == "infeasible" else None)


def _ray(solver: Any) -> Floats | None:
    try:
        _, has, ray = solver.getDualRay()
    except Exception:
        return None
    return np.array(ray, dtype=float) if has else None


class _Quiet(highspy.Highs):  # type: ignore[misc]
    """A solver that prints nothing: the first one would say its name as soon as call-backs are enabled."""

    def enableCallbacks(self) -> None:
        self.setOptionValue("output_flag", False)
        super().enableCallbacks()

    def watch(self, look: Callable[[Any, str, Any, Any, Any], None]) -> None:
        """Have `look` called between steps of the simplex method, without an event made for each: there are
        many thousand in a second."""
        self.setOptionValue("output_flag", False)
        self.setCallback(look, None)
        self.startCallback(highspy.cb.HighsCallbackType.kCallbackSimplexInterrupt)


def _quiet() -> Any:
    return _Quiet()


def _solver(
    matrix: Matrix, least: Floats, most_of_row: Floats, costs: Floats, most: Floats, integral: bool = False
) -> Any:
    columns = csc_array(matrix)
    count, rows = len(costs), columns.shape[0]
    kind = highspy.HighsVarType.kInteger if integral else highspy.HighsVarType.kContinuous
    solver: Any = _quiet()
    # Arrays, not a program object: filling its fields takes as long as many a solve.
    solver.passModel(
        count,
        rows,
        columns.nnz,
        int(highspy.MatrixFormat.kColwise),
        int(highspy.ObjSense.kMinimize),
        0.0,
        costs.astype(float),
        np.zeros(count),
        most,
        least,
        most_of_row,
        columns.indptr.astype(np.int32),
        columns.indices.astype(np.int32),
        columns.data.astype(float),
        np.full(count, int(kind), dtype=np.int32),
    )
    return solver


RUNNING: set[Search] = set()


@atexit.register
def _see_them_end() -> None:
    """Wait for searches that were left: an interpreter must not go away below a thread of the solver."""
    for search in list(RUNNING):
        search.stop()
    for search in list(RUNNING):
        search.wait(ENDLESS)


class Search:
    """A program in whole numbers that HiGHS searches by branch and cut, in a thread of its own.

    minimise costs · d subject to low ≤ `matrix` d ≤ high and 0 ≤ d ≤ `most`, d whole. Costs are whole numbers
    that a double holds; a search ends once nothing can be a whole unit of cost less. One that is
    `helped` is offered good choices and looks for none itself.
    """

    def __init__(
        self,
        matrix: Matrix,
        low: Floats,
        high: Floats,
        costs: Floats,
        start: NDArray[Any] | None = None,
        seconds: float | None = None,
        most: Floats | None = None,
        near_enough: float = 0.0,
        helped: bool = False,
    ):
        most = np.ones(len(costs)) if most is None else most
        self._solver = _solver(matrix, low, high, costs, most, integral=True)
        self._solver.setOptionValue("mip_rel_gap", near_enough)
        self._solver.setOptionValue("mip_abs_gap", 1 - NEAR)
        if helped:
            # Choices come from elsewhere, and what a restart would simplify is found sooner without one.
            self._solver.setOptionValue("mip_heuristic_effort", 0.0)
            self._solver.setOptionValue("mip_allow_restart", False)
        if seconds is not None:
            self._solver.setOptionValue("time_limit", max(seconds, 0.001))
        if start is not None:
            solution = highspy.HighsSolution()
            solution.col_value = start.astype(float)
            self._solver.setSolution(solution)
        self._offered: Floats | None = None
        self._stop = threading.Event()
        self._done = threading.Event()
        self._found: Floats | None = None
        self.bound = -np.inf  # what HiGHS takes for a lower bound on costs · d
        self.ending: Ending = "stopped"
        self._solver.cbMipInterrupt.subscribe(self._look)
        self._solver.cbMipUserSolution.subscribe(self._take_offer)
        self._solver.cbMipImprovingSolution.subscribe(self._take_found)
        RUNNING.add(self)
        threading.Thread(target=self._run, daemon=True).start()

    def _run(self) -> None:
        try:
            self._solver.run()
            ending = ENDINGS.get(self._solver.getModelStatus(), "failed")
            if not self._stop.is_set():
                info = self._solver.getInfo()
                if ending in ("optimal", "stopped") and info.primal_solution_status == FEASIBLE:
                    self._found = np.array(self._solver.getSolution().col_value)
                self.bound = max(self.bound, float(info.mip_dual_bound))
                self.ending = ending
        except Exception:
            self.ending = "failed"
        finally:
            self._done.set()
            RUNNING.discard(self)

    def _look(self, event: Any) -> None:
        self.bound = max(self.bound, float(event.data_out.mip_dual_bound))
        if self._stop.is_set():
            event.interrupt()

    def _take_found(self, event: Any) -> None:
        self._found = np.array(event.data_out.mip_solution)

    def _take_offer(self, event: Any) -> None:
        if self._offered is not None:
            event.data_in.setSolution(self._offered)
            event.data_in.user_has_solution = True
            self._offered = None

    def offer(self, choice: NDArray[Any]) -> None:
        """A choice that is better than what it has found."""
        self._offered = choice.astype(float)

    @property
    def found(self) -> NDArray[np.int64] | None:
        """The best whole values so far; to be checked by whoever takes them."""
        values = self._found
        if values is None or np.abs(values - np.rint(values)).max(initial=0.0) > NEAR:
            return None
        return np.rint(values).astype(np.int64)

    @property
    def done(self) -> bool:
        return self._done.is_set()

    @property
    def closed(self) -> bool:
        """Whether HiGHS found that nothing is less than what it found."""
        return self.done and self.ending == "optimal"

    @property
    def empty(self) -> bool:
        """Whether HiGHS found that there is no choice at all."""
        return self.done and self.ending == "infeasible"

    @property
    def settled(self) -> bool:
        """Whether it has come to an end of its own."""
        return self.closed or self.empty

    def wait(self, clock: Clock, seconds: float | None = None) -> bool:
        """Whether it has ended, at the latest when the clock is over or so many seconds have passed."""
        waited = 0.0
        while not self._done.wait(PAUSE):
            waited += PAUSE
            clock.tell("searching", int(waited), 0)
            if clock.over or (seconds is not None and waited >= seconds):
                return self._done.is_set()
        return True

    @property
    def seconds(self) -> float:
        """How long HiGHS has been at it."""
        return float(self._solver.getRunTime())

    def stop(self) -> None:
        """Let it end at its next look; what it has found stays."""
        self._stop.set()
