"""One amount, one percentage and one date in many locales side by side, to choose by sight."""

from __future__ import annotations

from datetime import date
from decimal import Decimal
from typing import Annotated

from fastapi import Query, Request
from pydantic import BaseModel, Field

from humble_sum.core.amount_field import Amount
from humble_sum.core.changes.offers import RuleOffers
from humble_sum.core.changes.rulebook_use import rule_of
from humble_sum.core.locales import OFFERED
from humble_sum.core.locales.dates import date_text
from humble_sum.core.printing.clause_values import FixedDecimals
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.printing.figure import print_amount
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.rules.clause_sayings import describe_locale
from humble_sum.records.pack_rows import pack_row
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import Trial, desk_of
from humble_sum.server.schemas import Ready

router = addresses("rulebook", "/packs/{pack}")

SHARE = Decimal("0.1234")
DAY = date(2026, 3, 31)


class LocalityView(BaseModel):
    """A locale: its tag, what it is called, and what it would print under the rule."""

    tag: str
    says: str
    amount: str
    percent: str
    date: str
    change: Ready = Field(description="Has the rule print in this locale.")


@router.get("/locales")
def see_locales(
    request: Request,
    pack: str,
    rule: str,
    amount: Amount = Decimal("-277037049.75"),
    also: Annotated[str | None, Query(description="Another language tag to show first.")] = None,
    trial: Trial = None,
) -> list[LocalityView]:
    """What a rule would print in each of the locales offered, with its other clauses as they are."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        row = pack_row(session, pack)
        pack_proof = desk.seen(session, row, trial)
    found = rule_of(pack_proof.pack.rulebook, rule)
    offers = RuleOffers(pack_proof.pack.statements[0].id, found)
    clauses = ResolvedClauses.of(found.clauses.named())
    first = () if also is None else (read_clauses({"locale": also}).locale,)
    return [_view(tag, clauses, amount, offers) for tag in dict.fromkeys((*first, *OFFERED))]


def _view(tag: str, clauses: ResolvedClauses, amount: Decimal, offers: RuleOffers) -> LocalityView:
    here = clauses.at(locale=tag)
    share = here.at(form="percent", decimals=FixedDecimals(fixed=1))
    return LocalityView(
        tag=tag,
        says=describe_locale(tag),
        amount=print_amount(amount, here).full_text,
        percent=print_amount(SHARE, share).full_text,
        date=date_text(DAY, tag, clauses.digits),
        change=offers.value("locale", tag),
    )
