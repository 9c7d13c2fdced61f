"""What reviewers put to a pack: points with their answers, and signatures under what was printed."""

from __future__ import annotations

import json
from typing import Annotated, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.names import Reason, cleaned

Words = Annotated[str, Field(min_length=1, max_length=2_000), BeforeValidator(cleaned)]
Name = Annotated[str, Field(max_length=80), BeforeValidator(cleaned)]
Time = Annotated[str, Field(max_length=40)]
PointStanding = Literal["open", "answered", "settled"]
Role = Literal["prepared", "reviewed"]
MOST_ANSWERS = 200


class Subject(BaseModel):
    """What a point is on: a figure, a line, a statement, an item of a dashboard, a dashboard, or the pack."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    statement: Id | None = None
    line: Id | None = None
    column: Id | None = None
    dashboard: Id | None = None
    item: Id | None = None

    @model_validator(mode="after")
    def _named_from_above(self) -> Subject:
        if (self.line and not self.statement) or (self.column and not self.line):
            raise ValueError("a line is named with its statement, and a figure with its line and column")
        if self.item and not self.dashboard:
            raise ValueError("an item is named with its dashboard")
        if self.statement and self.dashboard:
            raise ValueError("a point is on a statement or on a dashboard")
        return self


class Answer(BaseModel):
    """What was said to a point. `change` is the number in history of a change made for it, `did` what that
    change did."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    words: Annotated[str, Field(max_length=2_000), BeforeValidator(cleaned)] = ""
    change: Annotated[int, Field(ge=1)] | None = None
    did: Reason = ""
    author: Name = ""
    made: Time = ""


class Point(BaseModel):
    """A reviewer's words on something of a pack, seen in one of its editions, with what was answered."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    on: Subject
    edition: Id = OWN
    words: Words
    author: Name = ""
    made: Time = ""
    answers: Annotated[tuple[Answer, ...], Field(max_length=MOST_ANSWERS)] = ()
    standing: PointStanding = "open"


class PrintedState(BaseModel):
    """What a statement or dashboard printed: by line (or item) the texts of its columns (or figures), in
    order, and a digest of its words."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    columns: tuple[Id, ...] = ()
    lines: dict[Id, tuple[str, ...]]
    words: str


class Signature(BaseModel):
    """A name under a statement or a dashboard of one edition, with what it printed then.

    `lifted` is when it first printed otherwise, empty while it prints the same. `brought` says that the
    signature came with a file, so that this desk cannot tell who gave it.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    role: Role
    statement: Id | None = None
    dashboard: Id | None = None
    edition: Id = OWN
    printed: PrintedState
    author: Name = ""
    made: Time = ""
    lifted: Time = ""
    brought: bool = False

    @model_validator(mode="after")
    def _under_one(self) -> Signature:
        if (self.statement is None) == (self.dashboard is None):
            raise ValueError("a signature is under one statement or one dashboard")
        return self

    @property
    def under(self) -> tuple[str | None, str | None, str]:
        """What it is under."""
        return self.statement, self.dashboard, self.edition

    @property
    def own_key(self) -> str:
        """What no other signature of a pack has: its role, what it is under, and whose it is."""
        return json.dumps([self.role, *self.under, self.author, self.brought])
