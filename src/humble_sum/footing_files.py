"""Footing what a file holds, and the answer as data."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from pydantic import ValidationError

from humble_sum.core.faults import Fault, Refused, faults_of
from humble_sum.core.footing.bare import Answered, answer, gaps_of, out_of_time, read_problem
from humble_sum.core.footing.clock import OutOfTime, until
from humble_sum.core.footing.plan import NO_LESS, NONE_FOUND, NoPlan, plan, proof_said
from humble_sum.core.footing.policy import Policy
from humble_sum.core.footing.problem import Problem, added_drift_text
from humble_sum.core.proofs import prove
from humble_sum.core.statements import Pack, Statement
from humble_sum.core.ties import prove_pack
from humble_sum.records.packs import now
from humble_sum.server.showing import footing_view


def foot_problem(parsed: object, seconds: float | None = None, words: bool = False) -> tuple[bool, str]:
    """Whether a bare problem can foot, and the answer, as JSON or in words; after `seconds` the best."""
    problem = read_problem(parsed)
    result = answer(problem, until(seconds))
    if not words:
        return result.feasible, result.model_dump_json(exclude_none=result.feasible, indent=1)
    return result.feasible, _impossible(result) if not result.feasible else _footed(problem, result)


def check_problem(parsed: object) -> list[dict[str, Any]]:
    """What does not add in a bare problem, relation by relation."""
    return [
        {"total": gap.total, "status": gap.status, "gap": gap.gap, "says": gap.says}
        for gap in gaps_of(read_problem(parsed))
    ]


def _footed(problem: Problem, result: Answered) -> str:
    early = "the search ended early" + (f"; no plan adds less than {result.bound}" if result.bound else "")
    proved = NO_LESS if result.proved else NONE_FOUND if result.solver_proved else early
    moved, printed = result.moved or [], result.printed or {}
    figures = "1 figure" if len(moved) == 1 else f"{len(moved)} figures"
    said = [f"Foots. {figures} nudged, {result.added_drift} units of drift added; {proved}."]
    natural = {entry.id: entry.natural for entry in problem.entries}
    return "\n".join([*said, *(f"  {id}: {natural[id]} → {printed[id]}" for id in moved)])


def _impossible(result: Answered) -> str:
    said = [f"Cannot foot. These cannot all add: {'; '.join(each.total for each in result.conflict or [])}."]
    if result.release:
        fewest = "" if result.solver_proved else " There may be fewer that would."
        said.append(f"  Releasing {', '.join(result.release)} would settle it.{fewest}")
    return "\n".join(said)


def read_policy(own: Policy, data: object) -> Policy:
    """A pack's own plan with what parsed JSON says over it. Raises Refused."""
    if not isinstance(data, dict):
        raise Refused("bad-plan", Fault("plan", "A plan is an object.", 'Such as {"choosing": "fewest"}.'))
    try:
        return Policy.model_validate(own.model_dump() | data)
    except ValidationError as error:
        raise Refused("bad-plan", faults_of(error)) from None


def foot_pack(
    pack: Pack, statements: Sequence[Statement], seconds: float | None = None
) -> tuple[Pack, list[dict[str, Any]]]:
    """The pack with these statements footed together, and what was found; after `seconds` the best so
    far. Raises Refused where there is none yet.

    A plan is told statement by statement; where there is none, the answer is one, for all of them.
    """
    only = [statement.id for statement in statements]
    try:
        found = plan(prove_pack(pack), now(), only, until(seconds))
    except OutOfTime:
        raise out_of_time() from None
    if isinstance(found, NoPlan):
        release = None if found.release is None else ["/".join(spot) for spot in found.release]
        impossible = {"statement": ", ".join(only), "feasible": False, "release": release}
        impossible["fewest"] = found.solver_proved
        return pack, [impossible | {"conflict": list(found.conflict)}]
    others = tuple(nudge for nudge in pack.nudges if nudge.statement not in only)
    pack = pack.model_copy(update={"nudges": (*others, *found.nudges)})
    answers = []
    for statement in statements:
        shown = footing_view(prove(pack, statement), 0)
        answers.append(
            {
                "statement": statement.id,
                "feasible": True,
                "added_drift": shown.added_drift,
                "proved": found.proved,
                "solver_proved": found.solver_proved,
                "proof": proof_said(found),
                "bound": None if found.proved or found.bound is None else added_drift_text(found.bound),
                "nudges": [nudge.model_dump(exclude={"resting", "made"}) for nudge in shown.nudges],
            }
        )
    return pack, answers
