"""Figures that are taken from other packs: which, by what rate and share, and what they came to then."""

from __future__ import annotations

from decimal import Decimal
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.amount_field import Amount
from humble_sum.core.amounts import EXACT, total
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.names import FigureRef, Label

MOST_SOURCES = 2_000


class Source(BaseModel):
    """A figure of another pack, which is known by whose it is and its period: its exact amount, or what it
    prints in an edition; times a `rate` where the currencies differ, and a `share` where only a part
    counts."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    entity: Label
    period: Label
    edition: Id = OWN
    figure: FigureRef
    way: Literal["amount", "as_printed"] = "amount"
    rate: Amount | None = None
    share: Amount | None = None


class TakenSource(Source):
    """A source with the amount that it had when it was taken, and the issue that it was taken from."""

    amount: Amount
    issue: int | None = None

    @property
    def value(self) -> Decimal:
        """What it gives here."""
        rated = EXACT.multiply(self.amount, self.rate) if self.rate is not None else self.amount
        return EXACT.multiply(rated, self.share) if self.share is not None else rated


class Taken(BaseModel):
    """A figure of this pack that is the sum of figures of others."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    figure: FigureRef
    sources: Annotated[tuple[TakenSource, ...], Field(min_length=1, max_length=MOST_SOURCES)]

    @property
    def value(self) -> Decimal:
        """What they came to when they were taken."""
        return total(each.value for each in self.sources)
