"""Bands: marks and tones for amounts within some bounds."""

from __future__ import annotations

from decimal import Decimal
from typing import Annotated, Any

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    SerializerFunctionWrapHandler,
    model_serializer,
    model_validator,
)

from humble_sum.core.amount_field import Amount
from humble_sum.core.printing.clause_values import Tone, printable


class Condition(BaseModel):
    """When a band applies, told from the exact amount: below, above, or from and to, both included."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True, populate_by_name=True)
    below: Amount | None = None
    above: Amount | None = None
    from_: Amount | None = Field(default=None, alias="from")
    to: Amount | None = None

    @model_serializer(mode="wrap")
    def only_what_is_said(self, write: SerializerFunctionWrapHandler) -> dict[str, Any]:
        return {name: value for name, value in write(self).items() if value is not None}

    @model_validator(mode="after")
    def says_something(self) -> Condition:
        if not self.model_fields_set:
            raise ValueError("a band needs below, above, from or to")
        return self

    def holds(self, amount: Decimal) -> bool:
        return (
            (self.below is None or amount < self.below)
            and (self.above is None or amount > self.above)
            and (self.from_ is None or amount >= self.from_)
            and (self.to is None or amount <= self.to)
        )


class Band(BaseModel):
    """A mark and a tone for amounts within some bounds."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
    when: Condition
    mark: Annotated[str, Field(max_length=8), AfterValidator(lambda text: text and printable(text))] = ""
    tone: Tone = "plain"

    @model_validator(mode="after")
    def seen_without_colour(self) -> Band:
        if self.tone == "rust" and not self.mark:
            raise ValueError("a tone alone says nothing to a reader without colour; add a mark")
        return self
