"""Holds and nudges: what is said of single figures for footing."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.amount_field import Amount
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.names import Reason


class Hold(BaseModel):
    """A figure that may not be nudged.

    `printed` is the amount it has to print, exact; null holds it at its own rounding. At
    another unit a held amount prints rounded to that unit.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    statement: Id
    line: Id
    column: Id
    printed: Amount | None = None
    reason: Reason = ""
    author: Annotated[str, Field(max_length=80)] = ""
    made: Annotated[str, Field(max_length=40)] = ""


class Nudge(BaseModel):
    """A figure that prints the neighbouring step, made at the unit 10**`exponent`.

    At another unit it rests: it says nothing about a step it was not chosen for.
    """

    # Files keep the names they have had since the first version.
    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True, serialize_by_alias=True)
    statement: Id
    line: Id
    column: Id
    units: int
    exponent: int
    own_rounding: int = Field(alias="natural")
    reason: Reason = ""
    plan: Reason = ""
    made: Annotated[str, Field(max_length=40)] = ""
    author: Annotated[str, Field(max_length=80)] = ""
