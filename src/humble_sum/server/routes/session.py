"""Signing in with a token, out again, and who one is."""

from __future__ import annotations

from typing import Annotated

from fastapi import Request, Response
from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.errors import Fault, InputError
from humble_sum.server.authentication import PERSON, ROLE, Guard, Role, address_of, cookie_of
from humble_sum.server.problem_registry import NO_TOKEN
from humble_sum.server.routes.addresses import addresses

router = addresses("session")


class SessionView(BaseModel):
    """Who asks: their name, where the token is somebody's, and what they may do. `signed_in` is false on the
    machine itself, where everybody edits."""

    model_config = ConfigDict(
        json_schema_extra={"examples": [{"name": "Asha Rao", "role": "edit", "signed_in": True}]}
    )
    name: str
    role: Role
    signed_in: bool


class SignIn(BaseModel):
    """A token, as a link has it behind its #."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [{"token": "kP3…"}]})
    token: Annotated[str, Field(min_length=1, max_length=200)]


@router.get("/session")
def session(request: Request) -> SessionView:
    """Who one is to the server."""
    role = getattr(request.state, ROLE, None)
    return SessionView(
        name=getattr(request.state, PERSON, ""), role=role or "edit", signed_in=role is not None
    )


@router.post("/session")
async def sign_in(request: Request, response: Response, body: SignIn) -> SessionView:
    """Sign in with a token: it is kept in a cookie of this server alone, which no script reads."""
    guard: Guard | None = request.app.state.guard
    if guard is None:
        return SessionView(name="", role="edit", signed_in=False)
    person = await guard.person_of(body.token.strip(), address_of(request.scope))
    if person is None:
        what = "This link opens nothing here: it may be over, or taken back."
        raise InputError(NO_TOKEN, Fault("token", what, "Ask whoever runs it for another."))
    response.set_cookie(
        cookie_of(request.scope), body.token.strip(), httponly=True, samesite="strict", path="/"
    )
    return SessionView(name=person.name, role=person.role, signed_in=True)


@router.delete("/session")
def sign_out(request: Request, response: Response) -> SessionView:
    """Sign out: the cookie is taken back. The token itself goes on, until it is over or revoked."""
    response.delete_cookie(cookie_of(request.scope), path="/", httponly=True, samesite="strict")
    return SessionView(name="", role="read", signed_in=False)
