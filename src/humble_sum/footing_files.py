"""Footing what a file holds, and the answer as data."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from humble_sum.core.findings import relation_said
from humble_sum.core.footing.bare import answer, read_problem
from humble_sum.core.footing.plan import NoPlan, plan
from humble_sum.core.footing.problem import added_drift_text
from humble_sum.core.proofs import Proof, prove
from humble_sum.core.statements import Pack, Statement
from humble_sum.records.packs import now
from humble_sum.server.showing import footing_view


def foot_problem(parsed: object) -> tuple[bool, str]:
    """Whether a bare problem can foot, and the answer as JSON."""
    result = answer(read_problem(parsed))
    return result.feasible, result.model_dump_json(exclude_none=result.feasible, indent=1)


def foot_pack(pack: Pack, statements: Sequence[Statement]) -> tuple[Pack, list[dict[str, Any]]]:
    """The pack with the statements footed, and what was found of each."""
    answers = []
    for statement in statements:
        proof = prove(pack, statement)
        found = plan(proof, made=now())
        if isinstance(found, NoPlan):
            answers.append(_impossible(proof, found))
            continue
        others = tuple(nudge for nudge in pack.nudges if nudge.statement != statement.id)
        pack = pack.model_copy(update={"nudges": (*others, *found.nudges)})
        nudges = footing_view(pack, prove(pack, statement), 0).nudges
        answers.append(
            {
                "statement": statement.id,
                "feasible": True,
                "added_drift": added_drift_text(found.added_drift),
                "proved": found.proved,
                "nudges": [nudge.model_dump(exclude={"resting", "made"}) for nudge in nudges],
            }
        )
    return pack, answers


def _impossible(proof: Proof, found: NoPlan) -> dict[str, Any]:
    places = (
        None if found.release is None else ["/".join((proof.statement.id, *cell)) for cell in found.release]
    )
    return {
        "statement": proof.statement.id,
        "feasible": False,
        "release": places,
        "conflict": [relation_said(proof, relation) for relation in found.conflict],
    }
