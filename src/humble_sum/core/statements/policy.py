"""The plan sentence: who gives way in footing, which figures are chosen, and how far they may go."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from humble_sum.core.amount_field import Amount

GivesWay = Literal["alike", "lines_first", "totals_first"]
Choosing = Literal["closest", "largest", "fewest"]

GIVES_WAY: dict[GivesWay, str] = {
    "alike": "lines and totals alike",
    "lines_first": "lines before totals",
    "totals_first": "totals before lines",
}
CHOOSING: dict[Choosing, str] = {
    "closest": "the closest calls",
    "largest": "the largest figures, by least relative change",
    "fewest": "the fewest figures",
}
AT_MOST: dict[int, str] = {1: "one unit", 2: "two units"}
PUBLISHED = {True: "published columns as they were", False: "nothing else"}
ZERO = {True: "zero", False: "nothing: zero is allowed"}
SIGN = {True: "keeping every sign", False: "signs free"}


def _share(limit: Amount | None) -> Amount | None:
    if limit is not None and limit <= 0:
        raise ValueError("a limit of relative change is more than zero, such as 0.05 for five percent")
    return limit


class Policy(BaseModel):
    """How a pack is made to foot. The defaults are the plan of least added drift.

    `gives_way` says which figures move only where the others cannot settle it; `choosing` what is
    least: drift, relative change, or the number of figures moved. A figure may leave its floor and
    ceiling by `at_most` less one unit. `keep_published` leaves columns that are published as they were,
    and `note` is what is printed where a gap is left. `keep_amounts` forbids turning an amount into zero and
    `keep_signs` turning its sign; `most_change` is the largest share of a figure it may move by.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    gives_way: GivesWay = "alike"
    choosing: Choosing = "closest"
    at_most: Literal[1, 2] = 1
    keep_amounts: bool = True
    keep_signs: bool = True
    keep_published: bool = True
    note: Annotated[str, Field(min_length=1, max_length=200)] = "Figures may not add because of rounding."
    most_change: Annotated[
        Amount | None,
        AfterValidator(_share),
        Field(description='The largest share of its own rounding a figure may move by, such as "0.05".'),
    ] = None


DEFAULT = Policy()


def describe_policy(policy: Policy) -> str:
    """The plan as a sentence, as every nudge keeps it."""
    said = (
        f"Move {GIVES_WAY[policy.gives_way]}, choosing {CHOOSING[policy.choosing]}, at most "
        f"{AT_MOST[policy.at_most]} each. Keep held figures."
    )
    if policy.keep_published:
        said = said[:-1] + " and published columns."
    if policy.keep_amounts:
        said += " Never turn an amount into zero."
    if not policy.keep_signs:
        said += " A sign may turn."
    if policy.most_change is not None:
        said += f" Move no figure by more than {policy.most_change} of itself."
    return said
