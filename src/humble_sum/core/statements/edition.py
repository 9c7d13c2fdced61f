"""Editions: the same figures for other readers, with a plan and nudges of their own."""

from __future__ import annotations

from decimal import ROUND_UP, Context, Decimal
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from humble_sum.core.amount_field import Amount
from humble_sum.core.printing.clause_checks import Currency
from humble_sum.core.rules.headings import PeriodDate
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.marks import Hold, Nudge
from humble_sum.core.statements.names import Label
from humble_sum.core.statements.policy import Policy

OWN = "own"  # the id of the pack's own edition, which has no rates and whose plan is the pack's
# One over a rate need not end. It is kept to so many digits, away from zero so that an amount at a half
# stays one, and every amount is multiplied by the same: what added before still adds to the last digit.
INVERSE = Context(prec=34, rounding=ROUND_UP, traps=[])


def _more_than_zero(rate: Decimal) -> Decimal:
    if rate <= 0:
        raise ValueError("a rate is more than zero; write what one of the currency costs, such as 90.10")
    return rate


Price = Annotated[Amount, AfterValidator(_more_than_zero)]
Quoted = Literal["pack_for_one", "edition_for_one"]
Source = Annotated[str, Field(max_length=200, description="Where it is from.")]


class Rate(BaseModel):
    """What one column is translated at, in every statement or in one; or one line of it, such as what a
    year opens with, which stays at the rate it closed at the year before.

    `rate` is the price of one of the edition's currency in the pack's, 90.10 rupees for a euro; quoted
    `edition_for_one` it is the other way round.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    column: Id
    statement: Id | None = None
    line: Id | None = Field(default=None, description="This line of the statement alone.")
    rate: Price
    quoted: Quoted = "pack_for_one"
    source: Source = ""
    date: PeriodDate | None = Field(default=None, description="The day it was taken.")

    @property
    def factor(self) -> Decimal:
        """What amounts are multiplied by."""
        return self.rate if self.quoted == "edition_for_one" else INVERSE.divide(Decimal(1), self.rate)


class Edition(BaseModel):
    """The pack's figures for other readers.

    What is said otherwise in it are rules that reach this edition. It is footed on its own: plans, holds
    and nudges are its own. Where it is in another currency, money is translated at its rates.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    id: Id
    name: Label
    currency: Currency = Field(default=None, description="What it is translated to; null for no translation.")
    rates: tuple[Rate, ...] = Field(default=(), max_length=2_000)
    any_language: bool = Field(
        default=False, description="Whether readers see its figures as their own language writes them."
    )
    policy: Policy | None = Field(default=None, description="Its plan, in place of the pack's.")
    apart: dict[Id, Policy] = Field(default_factory=dict, description="Plans of single statements.")
    holds: tuple[Hold, ...] = ()
    nudges: tuple[Nudge, ...] = ()

    def rate_of(self, statement: str, column: str, line: str | None = None) -> Rate | None:
        """The rate of a column: that of the line where it has one, or that for its statement, or the one
        for all."""
        named = [rate for rate in self.rates if rate.column == column and rate.line in (None, line)]
        of_line = [rate for rate in named if rate.line is not None and rate.statement == statement]
        own = [rate for rate in named if rate.line is None and rate.statement == statement]
        general = [rate for rate in named if rate.line is None and rate.statement is None]
        return next(iter([*of_line, *own, *general]), None)
