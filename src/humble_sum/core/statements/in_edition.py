"""A pack as the readers of one edition get it: a pack like any other, which can be printed and footed.

What is changed in it goes back to the pack it was made from: nudges, holds and plans to the edition,
rules to the rulebook.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from decimal import Decimal

from pydantic import Field

from humble_sum.core.amounts import EXACT
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.printing.clauses import Clauses, over
from humble_sum.core.rules.rulebook import Rule, Rulebook, decide_all
from humble_sum.core.statements.edition import OWN, Edition
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Line, Pack, Statement

UNTRANSLATED = ("count", "percent")  # kinds whose amounts are no money


class EditionPack(Pack):
    """A pack in one of its editions: amounts translated, with the edition's plan, holds and nudges.

    `base` is the pack it was made from.
    """

    base: Pack = Field(exclude=True)
    edition_id: str = Field(exclude=True)

    @property
    def shown(self) -> str:
        return self.edition_id

    @property
    def translates(self) -> bool:
        edition = self.base.edition(self.edition_id)
        return edition is not None and edition.currency is not None


def in_edition(pack: Pack, id: str) -> Pack:
    """The pack in one of its editions; the pack itself where that is its own.

    Raises InputError where there is no such edition.
    """
    base = base_of(pack)
    if id == OWN:
        return base
    edition = base.edition(id)
    if edition is None:
        what = f'There is no edition "{id}".'
        raise InputError(
            "no-such-edition", Fault("edition", what, f"There are: {', '.join(editions_of(base))}.")
        )
    statements = tuple(_statement(base, each, edition) for each in base.statements)
    shown = {name: getattr(base, name) for name in Pack.model_fields}
    shown |= {
        "currency": edition.currency or base.currency,
        "statements": statements,
        "holds": edition.holds,
        "nudges": edition.nudges,
        "policy": edition.policy or base.policy,
    }
    return EditionPack.model_construct(**shown, base=base, edition_id=id)


def editions_of(pack: Pack) -> tuple[str, ...]:
    """The ids of a pack's editions, its own first."""
    return (OWN, *(edition.id for edition in pack.editions))


def base_of(pack: Pack) -> Pack:
    """The pack that a pack in an edition was made from; any other pack itself."""
    return pack.base if isinstance(pack, EditionPack) else pack


def in_language(pack: Pack, tag: str) -> Pack:
    """The pack with every figure as a locale writes it, whatever its rules say of that."""
    told = Clauses(locale=tag)
    rules = [
        rule.model_copy(update={"clauses": over(rule.clauses, told)})
        if "locale" in rule.clauses.named()
        else rule
        for rule in pack.rulebook.rules
    ]
    rules.append(Rule(id="readers-language", name="The reader’s language", clauses=told))
    return pack.model_copy(update={"rulebook": Rulebook(rules=tuple(rules))})


def put_back(pack: Pack) -> Pack:
    """The pack that has what was changed in one of its editions: plan, holds, nudges and rules."""
    if not isinstance(pack, EditionPack):
        return pack
    was = pack.base.edition(pack.edition_id)
    assert was is not None
    plans = {each.id: each.policy for each in pack.statements if each.policy is not None}
    changed = {
        "policy": None if pack.policy == pack.base.policy and was.policy is None else pack.policy,
        "apart": plans,
        "holds": pack.holds,
        "nudges": pack.nudges,
    }
    edition = was.model_copy(update=changed)
    editions = tuple(edition if each.id == was.id else each for each in pack.base.editions)
    return pack.base.model_copy(update={"editions": editions, "rulebook": pack.rulebook})


def _statement(pack: Pack, statement: Statement, edition: Edition) -> Statement:
    policy = edition.apart.get(statement.id)
    factors = factors_of(statement, edition) if edition.currency else {}
    if not factors:
        return statement if statement.policy == policy else statement.model_copy(update={"policy": policy})
    ids = [column.id for column in statement.columns]
    money = _money(pack, statement, edition.id)
    own = own_factors(statement, edition)
    translated = tuple(
        line
        if line.id not in money
        else _line(line, ids, money[line.id], factors | own.get(line.id, {}))
        if in_pack_currency(pack, line)
        else _by_own_rates(line, ids, money[line.id], own.get(line.id, {}))
        for line in statement.lines
    )
    if own:
        translated = tuple(_balanced(line, statement, factors, own) for line in translated)
    return statement.model_copy(update={"policy": policy, "lines": translated})


def own_factors(statement: Statement, edition: Edition) -> dict[str, dict[str, Decimal]]:
    """What the amounts of lines that have rates of their own are multiplied by, by line and column."""
    found: dict[str, dict[str, Decimal]] = {}
    for rate in edition.rates:
        if rate.line is not None and rate.statement == statement.id:
            found.setdefault(rate.line, {})[rate.column] = rate.factor
    return found


def _balanced(
    line: Line,
    statement: Statement,
    factors: Mapping[str, Decimal],
    own: Mapping[str, Mapping[str, Decimal]],
) -> Line:
    """A translation line with what the other parts of its total miss, as they have rates of their own."""
    if not line.translation:
        return line
    total = next((each for each in statement.lines if any(id == line.id for id, _ in each.parts)), None)
    if total is None:
        return line
    signs = dict(total.parts)
    amounts = dict(line.amounts)
    for column in factors:
        missed = Decimal(0)
        for id, sign in total.parts:
            part = statement.line(id)
            amount = part.amounts.get(column) if part is not None else None
            if amount is None or column not in own.get(id, {}):
                continue
            apart = EXACT.subtract(factors[column], own[id][column])
            missed = EXACT.add(missed, EXACT.multiply(amount if sign > 0 else -amount, apart))
        if column in amounts:
            amounts[column] = missed if signs[line.id] > 0 else -missed
    return line.model_copy(update={"amounts": amounts})


def in_pack_currency(pack: Pack, line: Line) -> bool:
    """Whether a line's amounts are in the currency of its pack, and so translated at the rates of columns."""
    return line.currency in (None, pack.currency)


def _by_own_rates(line: Line, ids: Sequence[str], money: Sequence[bool], own: Mapping[str, Decimal]) -> Line:
    """A line in a currency of its own, translated where it has a rate for every amount; else as it is."""
    is_money = dict(zip(ids, money, strict=True))
    if any(amount and is_money.get(id) and id not in own for id, amount in line.amounts.items()):
        return line
    return _line(line, ids, money, own).model_copy(update={"currency": None})


def _money(pack: Pack, statement: Statement, edition: str) -> dict[str, list[bool]]:
    """Which figures of each line an edition prints as amounts of money, by column; of counts and percentages
    none."""
    ids = [column.id for column in statement.columns]
    lines = [(line.id, line.kind) for line in statement.figured]
    decided = decide_all(pack.rulebook, statement.id, lines, ids, edition=edition)
    found: dict[str, list[bool]] = {}
    for place, line in enumerate(statement.figured):
        row = decided[place * len(ids) : (place + 1) * len(ids)]
        counted = line.kind in UNTRANSLATED
        found[line.id] = [not counted and each.clauses.form == "amount" for each in row]
    return found


def factors_of(statement: Statement, edition: Edition) -> dict[str, Decimal]:
    """What the amounts of each column are multiplied by, where the edition has a rate for it; a column
    that adds others, and states amounts of its own, goes by the first of them that has one."""
    found = {}
    for column in statement.columns:
        rates = [edition.rate_of(statement.id, id) for id in (column.id, *(id for id, _ in column.terms))]
        first = next((rate for rate in rates if rate is not None), None)
        if first is not None:
            found[column.id] = first.factor
    return found


def rates_differ(pack: Pack, figures: Iterable[FigureRef]) -> bool:
    """Whether figures stand in columns that an edition translates at rates of their own."""
    edition = pack.base.edition(pack.edition_id) if isinstance(pack, EditionPack) else None
    if edition is None or not edition.currency:
        return False
    rates = [edition.rate_of(statement, column, line) for statement, line, column in figures]
    return len({rate.factor if rate else None for rate in rates}) > 1


def untranslated(pack: Pack, edition: Edition) -> list[tuple[str, str]]:
    """Columns by statement that have amounts of money and no rate, in an edition in another currency."""
    found: list[tuple[str, str]] = []
    if not edition.currency:
        return found
    for statement in pack.statements:
        money = _money(pack, statement, edition.id)
        for place, column in enumerate(statement.columns):
            if column.derived or edition.rate_of(statement.id, column.id) is not None:
                continue
            if any(
                line.amounts.get(column.id) and money[line.id][place] and in_pack_currency(pack, line)
                for line in statement.figured
            ):
                found.append((statement.id, column.id))
    return found


def _line(line: Line, ids: Sequence[str], money: Sequence[bool], factors: Mapping[str, Decimal]) -> Line:
    if not line.amounts:
        return line
    is_money = dict(zip(ids, money, strict=True))
    amounts = {
        id: EXACT.multiply(amount, factors[id]) if amount and is_money.get(id) and id in factors else amount
        for id, amount in line.amounts.items()
    }
    return line.model_copy(update={"amounts": amounts})
