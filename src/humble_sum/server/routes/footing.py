"""Footing the pack over HTTP: planned without being kept, followed and stopped, and asked why."""

from __future__ import annotations

import threading
from decimal import Decimal
from typing import Annotated, Any

from fastapi import Request, Response
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.amounts import scaled
from humble_sum.core.changes.footing_commands import by_plan
from humble_sum.core.footing.counterfactual import instead
from humble_sum.core.footing.plan import NoPlan
from humble_sum.core.footing.problem import three_figures, told_apart
from humble_sum.core.footing.solver.deadline import Clock, OutOfTime, until
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import figure_of, proof_of
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.policy import Policy
from humble_sum.exchange.sources.progress import Progress
from humble_sum.records.pack_rows import pack_row
from humble_sum.server.disconnects import clock_of, while_there
from humble_sum.server.ndjson import streamed
from humble_sum.server.plan_cache import PACK_SECONDS
from humble_sum.server.presenters.footing_models import FootingPageView
from humble_sum.server.presenters.footing_page import footing_page
from humble_sum.server.proof_cache import Desk
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import answered, desk_of

router = addresses("footing", "/packs/{pack}/footing")


class PolicyRequest(BaseModel):
    """A policy to plan by without keeping it, left out the pack's own; `apart` those of single
    statements, null for none of its own. After `seconds` the best plan so far is given."""

    model_config = ConfigDict(
        extra="forbid", json_schema_extra={"examples": [{"policy": {"gives_way": "lines_first"}}]}
    )
    policy: Policy | None = None
    apart: dict[Id, Policy | None] = Field(default_factory=dict)
    seconds: Annotated[float | None, Field(gt=0, le=600, description="Twenty by default.")] = None
    search: Annotated[
        str | None,
        Field(max_length=64, description="A name for the search, by which its best plan can be asked for."),
    ] = None


@router.post("", response_model=FootingPageView)
async def plan_footing(request: Request, pack: str, body: PolicyRequest) -> Response:
    """The plan by a policy, and what it would do. Nothing is kept."""
    desk = desk_of(request)

    def work(gone: threading.Event) -> Response:
        clock = clock_of(gone, body.seconds or PACK_SECONDS)
        with desk.database.reading() as session:
            row = pack_row(session, pack)
            pack_proof, revision = desk.proved(session, row), row.revision
        planned = by_plan(pack_proof, body.policy, body.apart)
        return answered(footing_page(pack_proof, planned, revision, desk.plans, clock))

    return await while_there(request, work)


PROGRESS: dict[int | str, dict[str, Any]] = {
    200: {
        "description": "Lines of JSON.",
        "content": {
            "application/x-ndjson": {
                "schema": {"type": "string"},
                "example": '{"done": 40, "total": 20000, "says": "searching"}\n{"footing": {}}\n',
            }
        },
    }
}


@router.post("/streamed", response_class=StreamingResponse, responses=PROGRESS)
def plan_streamed(request: Request, pack: str, body: PolicyRequest) -> StreamingResponse:
    """The same with its progress: a line of JSON for each step, with the drift that the best plan so far adds
    and what none adds less than, the last of them the plan or the problem. Closing the connection ends
    the search; ending it by name lets it answer with the best plan so far."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        pack_proof, revision = desk.proved(session, row), row.revision
    desk.lanes.planning.refuse_if_full()
    planned = by_plan(pack_proof, body.policy, body.apart)
    left = until(body.seconds or PACK_SECONDS).left

    def work(progress: Progress) -> FootingPageView:
        with desk.searches.going(body.search) as wanted:
            best: list[str] = []

            def found(drift: int | None, bound: int) -> None:
                best[:] = () if drift is None else told_apart(_millionths(drift), _millionths(bound))

            def tell(doing: str, done: int, of: int) -> None:
                said = f"{doing}: the best plan so far adds {best[0]} units of drift" if best else doing
                progress(bool(best), 1, f"{said}, none adds less than {best[1]}" if best else said)

            clock = Clock(lambda: 0.0 if wanted.is_set() else left(), tell, found)
            return footing_page(pack_proof, planned, revision, desk.plans, clock)

    return streamed(request, work, "footing")


def _millionths(drift: int) -> Decimal:
    return scaled(Decimal(drift), -6)


class SearchView(BaseModel):
    """A search that was asked to end."""

    search: str


@router.post("/searches/{search}/end")
def end_search(request: Request, pack: str, search: str) -> SearchView:
    """Let a search that goes on end with the best plan it has."""
    desk_of(request).searches.end(search)
    return SearchView(search=search)


class WhyRequest(PolicyRequest):
    """A figure that the plan by a policy would move: its statement, line and column."""

    figure: FigureRef


class WhyView(BaseModel):
    """What would happen if the figure were left alone, in words."""

    says: str


@router.post("/why")
async def why_this(request: Request, pack: str, body: WhyRequest) -> WhyView:
    """Why a figure moves and not another: the least plan that leaves it alone, and what that costs."""
    desk = desk_of(request)
    return await while_there(request, lambda gone: _why(desk, pack, body, gone))


def _why(desk: Desk, pack: str, body: WhyRequest, gone: threading.Event) -> WhyView:
    with desk.database.reading() as session:
        pack_proof = desk.proved(session, pack_row(session, pack))
    statement, line, column = body.figure
    figure_of(proof_of(pack_proof, statement), line, column)
    planned = by_plan(pack_proof, body.policy, body.apart)
    clock = clock_of(gone, body.seconds or PACK_SECONDS)
    try:
        found = desk.plans.search(planned, clock)
        if isinstance(found, NoPlan):
            return WhyView(says="No plan keeps every hold.")
        with desk.lanes.planning.taken(gone.is_set):
            other = instead(planned, found, body.figure, clock)
    except OutOfTime:
        return WhyView(says="The time ran out before a plan was found that leaves it alone.")
    if other is None:
        return WhyView(says="No plan leaves it alone: the sums it is in cannot add otherwise.")
    moved = [f"{describe_figure(pack_proof.pack, (n.statement, n.line, n.column))}" for n in other.moved]
    cost = "as much drift" if not other.more else f"{three_figures(other.more)} units more drift"
    if other.more < 0:
        cost = f"{three_figures(other.more.copy_negate())} units less drift"
    spared = "this one" if other.spared == 1 else f"{other.spared} of the plan's"
    for_it = f"moves {', '.join(moved)} in place of {spared}" if moved else f"does without {spared}"
    return WhyView(says=f"The least plan that leaves it alone adds {cost}: it {for_it}.")
