"""The heart by itself, for other programs: printing values and footing bare problems."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.amounts import Amount
from humble_sum.core.clauses import Clauses, InForce
from humble_sum.core.footing.bare import Answered, BareProblem, answer, read_problem
from humble_sum.core.printing import print_amount

router = APIRouter(tags=["by themselves"])


class ShowRequest(BaseModel):
    """Clauses and the values to print by them; null is a missing value."""

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "rule": {"scale": "lakhs", "negative": "brackets", "locale": "en-IN"},
                    "values": ["-277037049.75", "0", None],
                }
            ]
        }
    )
    rule: Clauses
    values: Annotated[list[Amount | None], Field(max_length=100_000)]


class Shown(BaseModel):
    """A printed value: its text, the whole number of units printed, and what sort it is."""

    model_config = ConfigDict(
        json_schema_extra={"examples": [{"text": "(2,770)", "units": "-2770", "sort": "amount"}]}
    )
    text: str
    units: str | None
    sort: Literal["amount", "zero", "rounds_away", "missing"]


@router.post("/show")
def show(body: ShowRequest) -> list[Shown]:
    """Print values under a rule, without keeping anything."""
    clauses = InForce(**body.rule.named())
    printed = [print_amount(value, clauses) for value in body.values]
    return [Shown(text=p.text, units=None if p.units is None else str(p.units), sort=p.kind) for p in printed]


@router.post("/foot")
def foot(body: BareProblem) -> Answered:
    """Foot a bare problem, without keeping anything."""
    return answer(read_problem(body.model_dump()))
