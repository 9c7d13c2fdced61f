"""Footing what a file holds, and the answer as data."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any

from pydantic import ValidationError

from humble_sum.core.errors import Fault, InputError, faults_of
from humble_sum.core.footing.certificate import certify, verify
from humble_sum.core.footing.kept_plan import verify_kept
from humble_sum.core.footing.nudge_record import NudgeRecord, nudge_records
from humble_sum.core.footing.plan import NO_LESS, NONE_FOUND, NoPlan, describe_proof, plan, problem_of
from humble_sum.core.footing.problem import Problem, added_drift_text
from humble_sum.core.footing.problem_json import (
    Solution,
    answer_to,
    cannot_foot,
    foot_in_time,
    gaps_of,
    out_of_time,
    read_problem,
    told,
)
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock, OutOfTime
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.statements.pack import Pack, Statement
from humble_sum.core.statements.policy import Policy
from humble_sum.exchange.pack_json import read_pack
from humble_sum.records.pack_rows import now


@dataclass(frozen=True)
class Solved:
    """Whether a file can foot, the answer as JSON or in words, and its certificate if one was asked for."""

    feasible: bool
    text: str
    certificate: dict[str, Any] | None = None


def foot_problem(
    parsed: object, clock: Clock = ENDLESS, words: bool = False, certified: bool = False
) -> Solved:
    """Foot a bare problem; once the clock is over the best is taken. Raises InputError, also where a
    certificate is asked for and whole numbers do not prove the plan."""
    if not words and not certified:
        result = answer_to(parsed, clock)
        return Solved(result.feasible, _json(result))
    problem = read_problem(parsed)
    footed = foot_in_time(problem, clock, certified)
    result = cannot_foot(problem, clock) if footed is None else told(footed)
    certificate = certify(problem, footed) if certified and footed is not None else None
    if not words:
        return Solved(result.feasible, _json(result), certificate)
    text = _footed(problem, result) if result.feasible else _impossible(result)
    return Solved(result.feasible, text, certificate)


def _json(result: Solution) -> str:
    return result.model_dump_json(exclude_none=result.feasible, indent=1)


def verify_plan(parsed: object, is_pack: bool, certificate: object) -> str:
    """What a certificate shows of a bare problem, or of a pack and the plan it keeps, in words. Raises
    InputError where it is of another problem, and Rejected where it does not show it."""
    if is_pack:
        found = verify_kept(prove_pack(read_pack(json.dumps(parsed).encode())), certificate)
    else:
        found = verify(read_problem(parsed), certificate)
    return (
        f"No plan is less. {found.figures} figures print their holds or a number of their window, "
        f"{found.relations} relations add as printed, and {found.steps} steps show that none is less, "
        "in whole numbers."
    )


def check_problem(parsed: object) -> list[dict[str, Any]]:
    """What does not add in a bare problem, relation by relation."""
    return [
        {"total": gap.total, "status": gap.status, "gap": gap.gap, "says": gap.says}
        for gap in gaps_of(read_problem(parsed))
    ]


def _footed(problem: Problem, result: Solution) -> str:
    early = "the search ended early" + (f"; no plan adds less than {result.bound}" if result.bound else "")
    proved = NO_LESS if result.proved else NONE_FOUND if result.solver_proved else early
    moved, printed = result.moved or [], result.printed or {}
    figures = "1 figure" if len(moved) == 1 else f"{len(moved)} figures"
    said = [f"Foots. {figures} nudged, {result.added_drift} units of drift added; {proved}."]
    own_rounding = {entry.id: entry.own_rounding for entry in problem.entries}
    return "\n".join([*said, *(f"  {id}: {own_rounding[id]} → {printed[id]}" for id in moved)])


def _impossible(result: Solution) -> str:
    said = [f"Cannot foot. These cannot all add: {'; '.join(each.total for each in result.conflict or [])}."]
    if not result.smallest:
        said.append("  Fewer of them may be enough: the search ended early.")
    if result.release:
        fewest = "" if result.solver_proved else " There may be fewer that would."
        said.append(f"  Releasing {', '.join(result.release)} would settle it.{fewest}")
    return "\n".join(said)


def read_policy(own: Policy, data: object) -> Policy:
    """A pack's own plan with what parsed JSON says over it. Raises InputError."""
    if not isinstance(data, dict):
        raise InputError("bad-plan", Fault("plan", "A plan is an object.", 'Such as {"choosing": "fewest"}.'))
    try:
        return Policy.model_validate(own.model_dump() | data)
    except ValidationError as error:
        raise InputError("bad-plan", faults_of(error)) from None


@dataclass(frozen=True)
class FootedPack:
    """The pack as it is footed, what was found, and the certificate if one was asked for."""

    pack: Pack
    answers: list[dict[str, Any]]
    certificate: dict[str, Any] | None = None


def foot_pack(
    pack: Pack, statements: Sequence[Statement], clock: Clock = ENDLESS, certified: bool = False
) -> FootedPack:
    """The pack with these statements footed together, and what was found; once the clock is over the best
    so far. Raises InputError where there is none yet, and where nothing certifies it though that is asked.

    A plan is told statement by statement; where there is none, the answer is one, for all of them.
    """
    only = [statement.id for statement in statements]
    try:
        found = plan(prove_pack(pack), now(), only, clock)
    except OutOfTime:
        raise out_of_time() from None
    if isinstance(found, NoPlan):
        release = None if found.release is None else ["/".join(ref) for ref in found.release]
        impossible = {"statement": ", ".join(only), "feasible": False, "release": release}
        impossible |= {"fewest": found.solver_proved, "smallest": found.smallest}
        return FootedPack(pack, [impossible | {"conflict": list(found.conflict)}])
    others = tuple(nudge for nudge in pack.nudges if nudge.statement not in only)
    pack = pack.model_copy(update={"nudges": (*others, *found.nudges)})
    answers = []
    for statement in statements:
        records, added = nudge_records(prove(pack, statement))
        answers.append(
            {
                "statement": statement.id,
                "feasible": True,
                "added_drift": added,
                "proved": found.proved,
                "solver_proved": found.solver_proved,
                "proof": describe_proof(found),
                "bound": None if found.proved or found.bound is None else added_drift_text(found.bound),
                "nudges": [_told(each) for each in records],
            }
        )
    return FootedPack(pack, answers, _certificate(pack, clock) if certified else None)


def _told(record: NudgeRecord) -> dict[str, Any]:
    """A nudge as a plan tells it, which has no time yet."""
    return {name: value for name, value in asdict(record).items() if name not in ("resting", "made")}


def _certificate(pack: Pack, clock: Clock) -> dict[str, Any]:
    """The certificate of a pack's plan as it keeps it: the statements all together, near that plan."""
    pack_proof = prove_pack(pack)
    problem = problem_of(pack_proof, list(pack_proof.proofs.values())).problem
    footed = foot_in_time(problem, clock, certify=True)
    assert footed is not None
    return certify(problem, footed)


def tell(answers: list[dict[str, Any]], as_json: bool) -> None:
    """Print what footing found, statement by statement."""
    if as_json:
        print(json.dumps(answers, ensure_ascii=False, indent=1))
        return
    for each in answers:
        if not each["feasible"]:
            print(f"{each['statement']}: cannot foot. These cannot all add: {'; '.join(each['conflict'])}.")
            if each["release"]:
                fewest = "" if each["fewest"] else " There may be fewer that would."
                print(f"  Releasing {', '.join(each['release'])} would settle it.{fewest}")
            continue
        count = len(each["nudges"])
        moved = "1 figure" if count == 1 else f"{count} figures"
        print(
            f"{each['statement']}: foots. {moved} nudged, {each['added_drift']} units of drift "
            f"added; {each['proof']}."
        )
        for nudge in each["nudges"]:
            print(f"  {nudge['label']}: {nudge['natural']} → {nudge['printed']}. {nudge['reason']}")
