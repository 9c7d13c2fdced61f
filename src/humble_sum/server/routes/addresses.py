"""What every room of addresses begins with: its place under /api, its tag, and the answers of bad input."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from humble_sum.server.error_responses import Problem

SAID = {
    404: "There is no such thing.",
    409: "Not possible as things are.",
    413: "Too large.",
    415: "Sent as another type than the one named.",
    422: "Bad input.",
}


def addresses(tag: str, prefix: str = "") -> APIRouter:
    """A router whose routes are whole as they are written.

    The application takes them over as they stand: to include a router builds each of its routes anew,
    which was a third of a second of every start.
    """
    return APIRouter(prefix=f"/api{prefix}", tags=[tag], responses=problem_responses())


def problem_responses() -> dict[int | str, dict[str, Any]]:
    """Every route's error answers, for the OpenAPI file."""
    return {
        status: {
            "description": text,
            "model": Problem,
            "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
        }
        for status, text in SAID.items()
    }
