"""The changes to a pack's editions."""

from __future__ import annotations

from decimal import Decimal
from typing import Any, Literal

from pydantic import Field

from humble_sum.core.changes.command import OnPack
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.ids import new_id
from humble_sum.core.printing.clause_checks import Currency
from humble_sum.core.printing.clauses import Clauses, over, read_clauses
from humble_sum.core.rules.headings import PeriodDate
from humble_sum.core.rules.rulebook import Id, Reach, Rule, Rulebook, new_rule_id
from humble_sum.core.statements.edition import OWN, Edition, Price, Quoted, Rate, Source
from humble_sum.core.statements.names import Called, FigureRef, Label
from humble_sum.core.statements.pack import Line, Pack


class AddEdition(OnPack):
    """Add an edition for other readers. What is said in it at first are these clauses, a rule of its own;
    one in another currency says so, and takes a rate for each column."""

    kind: Literal["add_edition"]
    name: Called
    currency: Currency = None
    rates: tuple[Rate, ...] = ()
    clauses: dict[str, Any] = Field(default_factory=dict)

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        id = new_id(self.name, {OWN, *(edition.id.lower() for edition in pack.editions)})
        own = Edition(id=id, name=self.name, currency=self.currency, rates=self.rates)
        said = ({"currency": self.currency} if self.currency else {}) | self.clauses
        book = pack.rulebook
        if said:
            rule = Rule(
                id=new_rule_id(book),
                name=f"{self.name} edition"[:120],
                reach=Reach(editions=(id,)),
                clauses=read_clauses(said),
            )
            book = Rulebook(rules=(*book.rules, rule))
        changed = pack.model_copy(update={"editions": (*pack.editions, own), "rulebook": book})
        return changed, f"Added the edition {self.name}"


class EditEdition(OnPack):
    """Call an edition otherwise, or change its currency, all its rates or the language of its readers.
    Rates to the currency of before go with it, and its own rules say the new one. The pack's own edition
    is `own` and can be called otherwise."""

    kind: Literal["edit_edition"]
    edition: str
    name: Called | None = None
    currency: Currency = Field(default=None, description="Left out, it stays.")
    rates: tuple[Rate, ...] | None = None
    any_language: bool | None = None

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        if self.edition == OWN:
            if self.name is None:
                what = "The pack’s own edition can only be renamed."
                raise InputError("bad-structure", Fault("edition", what, "Give it a name."))
            renamed = pack.model_copy(update={"own_edition": self.name})
            return renamed, f"{pack.own_edition} called {self.name}"
        old = _edition_of(pack, self.edition)
        named = {name for name in self.model_fields_set if name in Edition.model_fields}
        words = {
            name: getattr(self, name)
            for name in named
            if name == "currency" or getattr(self, name) is not None
        }
        if words.get("currency", old.currency) != old.currency and "rates" not in words:
            words["rates"] = ()
        new = old.model_copy(update=words)
        editions = tuple(new if each.id == old.id else each for each in pack.editions)
        if new.currency != old.currency:
            pack = pack.model_copy(update={"rulebook": _in_currency(pack.rulebook, old, new)})
        said = f"rates of {new.name}" if new.rates != old.rates else f"edition {new.name}"
        return pack.model_copy(update={"editions": editions}), f"Changed the {said}"


class SetRate(OnPack):
    """Say what a column is translated at, in every statement, in one or for one line of it; without a rate
    it has none any more. What is left out of a rate that is there stays, the way it is quoted too."""

    kind: Literal["set_rate"]
    edition: str
    column: Id
    statement: Id | None = None
    line: Id | None = None
    rate: Price | None = None
    quoted: Quoted | None = None
    source: Source | None = None
    date: PeriodDate | None = None

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        edition = _edition_of(pack, self.edition)
        where = (self.statement, self.line, self.column)
        rates = list(edition.rates)
        at = next((n for n, r in enumerate(rates) if (r.statement, r.line, r.column) == where), None)
        said = self.model_dump(exclude={"kind", "edition"}, exclude_none=True)
        if self.rate is None:
            rates = [rate for n, rate in enumerate(rates) if n != at]
        elif at is None:
            rates.append(Rate.model_validate(said))
        else:
            rates[at] = Rate.model_validate(rates[at].model_dump() | said)
        new = edition.model_copy(update={"rates": tuple(rates)})
        editions = tuple(new if each.id == new.id else each for each in pack.editions)
        return pack.model_copy(update={"editions": editions}), f"Changed the rates of {new.name}"


class TranslateAt(OnPack):
    """Translate one figure at the rate of another column, as what a year opens with stays at the rate it
    closed at, and have a line of its total take up the translation difference."""

    kind: Literal["translate_at"]
    edition: str
    figure: FigureRef
    column: Id
    label: Label = "Translation difference"

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        edition = _edition_of(pack, self.edition)
        id, line, column = self.figure
        statement = pack.statement(id)
        row = statement.line(line) if statement else None
        rate = edition.rate_of(id, self.column)
        if statement is None or row is None or statement.column(column) is None:
            raise InputError("no-such-figure", Fault("figure", "There is no such figure."))
        if rate is None:
            what = f"{edition.name} has no rate for that column."
            raise InputError("bad-structure", Fault("column", what, "Give it one first."))
        total = next((each for each in statement.lines if any(part == line for part, _ in each.parts)), None)
        if total is None:
            what = f"{row.label} is a part of no total, so nothing has to take up a difference."
            raise InputError("bad-structure", Fault("figure", what, "Choose a part of a total."))
        own = rate.model_copy(update={"statement": id, "line": line, "column": column})
        others = tuple(r for r in edition.rates if (r.statement, r.line, r.column) != (id, line, column))
        lines = list(statement.lines)
        if not any(each.translation and any(part == each.id for part, _ in total.parts) for each in lines):
            zeros: dict[str, Decimal | None] = {
                each.id: Decimal(0) for each in statement.columns if not each.derived
            }
            made = Line(
                id=new_id(self.label, {each.id.lower() for each in lines}),
                label=self.label,
                translation=True,
                amounts=zeros,
            )
            lines.insert(lines.index(total), made)
            parts = (*total.parts, (made.id, 1))
            lines[lines.index(total)] = total.model_copy(update={"parts": parts})
        statements = tuple(
            each.model_copy(update={"lines": tuple(lines)}) if each.id == id else each
            for each in pack.statements
        )
        new = edition.model_copy(update={"rates": (*others, own)})
        editions = tuple(new if each.id == new.id else each for each in pack.editions)
        changed = pack.model_copy(update={"statements": statements, "editions": editions})
        return changed, f"{row.label} in {edition.name} at the rate of another column"


class RemoveEdition(OnPack):
    """Take an edition out, with its plan, its nudges and the rules that are for it alone."""

    kind: Literal["remove_edition"]
    edition: str

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        old = _edition_of(pack, self.edition)
        shown = [dashboard.name for dashboard in pack.dashboards if dashboard.edition == old.id]
        if shown:
            what = f"{old.name} is shown on {', '.join(shown)}."
            raise InputError("edition-in-use", Fault("edition", what, "Give these another edition first."))
        rules = []
        for rule in pack.rulebook.rules:
            others = tuple(id for id in rule.reach.editions if id != old.id)
            if rule.reach.editions and not others:
                continue
            reach = rule.reach.model_copy(update={"editions": others})
            rules.append(rule if reach == rule.reach else rule.model_copy(update={"reach": reach}))
        editions = tuple(each for each in pack.editions if each.id != old.id)
        changed = pack.model_copy(update={"editions": editions, "rulebook": Rulebook(rules=tuple(rules))})
        return changed, f"Removed the edition {old.name}"


def _in_currency(book: Rulebook, old: Edition, new: Edition) -> Rulebook:
    """The rules with those of one edition alone saying its new currency where they said its old one."""
    told = Clauses(currency=new.currency)
    return Rulebook(
        rules=tuple(
            rule.model_copy(update={"clauses": over(rule.clauses, told)})
            if rule.reach.editions == (old.id,) and rule.clauses.named().get("currency") == old.currency
            else rule
            for rule in book.rules
        )
    )


def _edition_of(pack: Pack, id: str) -> Edition:
    edition = pack.edition(id)
    if edition is None:
        raise InputError("no-such-edition", Fault("edition", f'There is no edition "{id}".'))
    return edition
