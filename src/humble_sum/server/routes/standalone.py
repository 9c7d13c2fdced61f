"""The heart by itself, for other programs: printing values and footing bare problems."""

from __future__ import annotations

import threading
from typing import Annotated, Any

from fastapi import Query, Request
from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.amount_field import Amount
from humble_sum.core.footing.problem_json import BareProblem, Solution, answer_to
from humble_sum.core.printing.clause_values import Tone
from humble_sum.core.printing.clauses import Clauses
from humble_sum.core.printing.figure import Kind
from humble_sum.core.printing.printer import show
from humble_sum.server.disconnects import clock_of, while_there
from humble_sum.server.plan_cache import PACK_SECONDS
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import desk_of

router = addresses("by themselves")


EXAMPLE: dict[str, Any] = {
    "rule": {"scale": "lakhs", "negative": "brackets", "locale": "en-IN"},
    "values": ["-277037049.75", "0", None],
}


class ShowRequest(BaseModel):
    """Clauses and the values to print by them; null is a missing value."""

    model_config = ConfigDict(json_schema_extra={"examples": [EXAMPLE]})
    rule: Clauses
    values: Annotated[list[Amount | None], Field(max_length=100_000)]


class ShownView(BaseModel):
    """A printed value.

    `units` is the whole number printed, each 10**`exponent`, as text; null where no number is.
    """

    text: str
    units: str | None
    exponent: int
    sort: Kind
    mark: str
    tone: Tone
    hang: str = Field(description="The end of the text that stands past the digits.")
    too_wide: bool


@router.post("/show")
def show_values(body: ShowRequest) -> list[ShownView]:
    """Print values under a rule, without keeping anything."""
    return [
        ShownView(**shown.as_dict() | {"units": None if shown.units is None else str(shown.units)})
        for shown in show(body.values, body.rule)
    ]


@router.post("/foot")
async def foot(
    request: Request,
    body: BareProblem,
    seconds: Annotated[
        float, Query(gt=0, le=600, description="When the best plan so far is taken.")
    ] = PACK_SECONDS,
) -> Solution:
    """Foot a bare problem, without keeping anything."""
    lane = desk_of(request).lanes.planning

    def work(gone: threading.Event) -> Solution:
        with lane.taken(gone.is_set):
            return answer_to(body.model_dump(), clock_of(gone, seconds))

    return await while_there(request, work)
