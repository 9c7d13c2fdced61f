"""Footing by itself: figures and what they add to, printed in whole units so that every sum adds."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from decimal import Decimal
from typing import TYPE_CHECKING, Any, overload

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from humble_sum.core.footing.array_door import ArraySolution
    from humble_sum.core.footing.problem_json import Solution

Named = Iterable[tuple[str, Sequence[tuple[str, int]]]]


@overload
def foot(
    figures: Mapping[str, Decimal | str | int],
    relations: Named = (),
    holds: Mapping[str, int] | None = None,
    seconds: float | None = None,
) -> Solution: ...
@overload
def foot(
    figures: Sequence[Decimal | int] | NDArray[Any],
    relations: Any,
    holds: Mapping[int, int] | None = None,
    seconds: float | None = None,
    power: int = 0,
) -> ArraySolution: ...
def foot(
    figures: Any, relations: Any = (), holds: Any = None, seconds: float | None = None, power: int = 0
) -> Solution | ArraySolution:
    """The least plan for figures in units, or why there is none.

    `figures` are exact amounts by id, in units; `relations` are totals with their parts, each with
    a sign of 1 or −1; `holds` are whole units that figures have to print. Each figure prints its
    floor or its ceiling, whole ones themselves and held ones their holds, so that every relation
    adds. Of all such plans the one with the least Σ(|printed − exact| − |own rounding − exact|) is
    taken; among equals the first ids keep their rounding. `proved` says that no plan is less, as a
    dual bound in whole numbers shows, and `solver_proved` that the solver found none less. After
    `seconds` the best plan so far is given with its bound.

    Figures may also be an array: of whole numbers of 10**−`power` units, or of Decimals in units.
    Then `relations` are a matrix of scipy.sparse, relations × figures, in which a total has 1 and its
    parts less their signs, `holds` are by number, and the answer is an `ArraySolution` of arrays.

    Raises InputError where the figures cannot be read, and where the time is up with no plan found.

    >>> found = foot({"fares": "10.4", "freight": "10.4", "all": "20.8"},
    ...              [("all", [("fares", 1), ("freight", 1)])])
    >>> found.printed, found.moved, found.added_drift, found.proved
    ({'all': 21, 'fares': 10, 'freight': 11}, ['freight'], '0.2', True)

    Sources: Bacharach, Matrix rounding problems (1966); Cox and Ernst, Controlled rounding (1982);
    Land and Doig, An automatic method of solving discrete programming problems (1960).
    """
    # The solver is read when it is first needed: programs that only print start without it.
    from humble_sum.core.footing.array_door import foot_matrix
    from humble_sum.core.footing.problem_json import answer_named
    from humble_sum.core.footing.solver.deadline import until

    if isinstance(figures, Mapping):
        return answer_named(figures, relations, holds or {}, until(seconds))
    return foot_matrix(figures, relations, holds or {}, power, until(seconds))
