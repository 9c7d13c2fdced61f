"""The changes to a rulebook: rules added, edited, ordered and switched, styles and files applied."""

from __future__ import annotations

from typing import Annotated, Any, Literal, Protocol

from pydantic import Field

from humble_sum.core.changes import rulebook_use as rulebooks
from humble_sum.core.changes.command import OnPack, OnStatement
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.printing.clauses import over, read_clauses
from humble_sum.core.rules.clause_registry import clause_name, read_typed
from humble_sum.core.rules.house_style import taken_from
from humble_sum.core.rules.rulebook import Id, Reach, Rule, Rulebook, new_rule_id, with_clauses
from humble_sum.core.rules.rulebook_file import house_style_of, rulebook_of
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.validation import in_place

TypedText = Annotated[
    str | None,
    Field(max_length=200, description="What was typed, in place of a value: read as the clause reads it."),
]


class RuleCommand(OnPack, OnStatement):
    """A command that changes the pack's rules."""

    can_be_tried = True

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        """The pack with its rulebook changed, and what that did. Raises InputError."""
        book, says = self.ruled(pack.rulebook)
        return pack.model_copy(update={"rulebook": book}), says

    def ruled(self, book: Rulebook) -> tuple[Rulebook, str]:
        """The rulebook changed, and what that did. Raises InputError."""
        raise NotImplementedError


class AddRule(RuleCommand):
    """Add a rule at the end of the book, with some clauses or none yet."""

    kind: Literal["add_rule"]
    name: Annotated[str, Field(min_length=1, max_length=120)]
    reach: Reach = Reach()
    clauses: dict[str, Any] = Field(default_factory=dict)

    def ruled(self, book: Rulebook) -> tuple[Rulebook, str]:
        clauses = read_clauses(self.clauses)
        made = Rule(id=new_rule_id(book), name=self.name, reach=self.reach, clauses=clauses)
        return rulebooks.with_rule(book, made), f"Added the rule {self.name}"


class EditRule(RuleCommand):
    """Change what a rule is called, where it applies, or whether it is switched off."""

    kind: Literal["edit_rule"]
    rule: Id
    name: Annotated[str, Field(min_length=1, max_length=120)] | None = None
    reach: Reach | None = None
    off: bool | None = None

    def ruled(self, book: Rulebook) -> tuple[Rulebook, str]:
        old = rulebooks.rule_of(book, self.rule)
        words = {
            name: value for name in ("name", "reach", "off") if (value := getattr(self, name)) is not None
        }
        says = f"{old.name} "
        if self.off is not None:
            says += "switched off" if self.off else "switched on"
        else:
            says += f"called {self.name}" if self.name else "given another reach"
        return rulebooks.with_rule(book, old.model_copy(update=words)), says


class SetRuleClause(RuleCommand):
    """Decide one clause in one rule."""

    kind: Literal["set_rule_clause"]
    rule: Id
    clause: str
    value: Any = None
    text: TypedText = None

    def ruled(self, book: Rulebook) -> tuple[Rulebook, str]:
        old = rulebooks.rule_of(book, self.rule)
        clauses = read_clauses(old.clauses.spelled() | {self.clause: chosen_value(self)})
        new = old.model_copy(update={"clauses": clauses})
        return rulebooks.with_rule(book, new), f"{old.name}: {clause_name(self.clause)} changed"


class MoveRule(RuleCommand):
    """Put a rule right before another, or last. Among rules of one reach the later wins."""

    kind: Literal["move_rule"]
    rule: Id
    before: Id | None

    def ruled(self, book: Rulebook) -> tuple[Rulebook, str]:
        name = rulebooks.rule_of(book, self.rule).name
        return rulebooks.moved(book, self.rule, self.before), f"{name} moved"


class DuplicateRule(RuleCommand):
    """Put a copy of a rule right after it."""

    kind: Literal["duplicate_rule"]
    rule: Id

    def ruled(self, book: Rulebook) -> tuple[Rulebook, str]:
        return rulebooks.duplicated(book, self.rule), "Rule duplicated"


class RemoveRule(RuleCommand):
    """Take a rule out of the book."""

    kind: Literal["remove_rule"]
    rule: Id

    def ruled(self, book: Rulebook) -> tuple[Rulebook, str]:
        name = rulebooks.rule_of(book, self.rule).name
        return rulebooks.without_rule(book, self.rule), f"{name} removed"


class MergeRules(RuleCommand):
    """Say several rules once, where they say the same of several statements or lines."""

    kind: Literal["merge_rules"]
    rules: Annotated[list[Id], Field(min_length=2, max_length=100)]

    def ruled(self, book: Rulebook) -> tuple[Rulebook, str]:
        return rulebooks.merged(book, self.rules), f"{len(self.rules)} rules said once"


class UseStyle(RuleCommand):
    """Start from a house style: its rule takes the place of those that apply everywhere."""

    kind: Literal["use_style"]
    style: str

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        styled = rulebooks.styled(pack.rulebook, self.style, pack.currency)
        says = f"House style: {rulebooks.STYLES[self.style][0]}"
        return pack.model_copy(update={"rulebook": styled, "follows": None}), says


class UseRulebook(RuleCommand):
    """Put the rules of a rulebook file in place of the pack's own."""

    kind: Literal["use_rulebook"]
    rulebook: dict[str, Any]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        rules, left_out = _with_a_place(pack, rulebook_of(self.rulebook))
        changed = {"rulebook": Rulebook(rules=rules), "follows": None}
        return pack.model_copy(update=changed), f"Rulebook taken from a file{left_out}"


class FollowStyle(RuleCommand):
    """Follow a version of a house style, given as its rulebook file: its rules take the place of those of
    the version followed before, or of those that apply everywhere, and the pack's others stay."""

    kind: Literal["follow_style"]
    rulebook: dict[str, Any]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        style, book = house_style_of(self.rulebook)
        rules, left_out = _with_a_place(pack, book)
        own = tuple(_in_currency(rule, pack.currency) for rule in rules)
        if own != rules:
            left_out += f"; the amounts are in {pack.currency}, and say so"
        taken, followed = taken_from(pack.rulebook, own, style, pack.follows)
        changed = pack.model_copy(update={"rulebook": taken, "follows": followed})
        return changed, f"Follows {style.said}{left_out}"


class LeaveStyle(RuleCommand):
    """Follow no house style any more: the rules stay as they are, as the pack's own."""

    kind: Literal["leave_style"]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        if pack.follows is None:
            what = "This pack follows no house style."
            raise InputError("no-such-style", Fault("kind", what, "There is nothing to leave."))
        return pack.model_copy(update={"follows": None}), f"No longer follows {pack.follows.said}"


class CopyClauses(RuleCommand):
    """Give one line's clauses, as they are decided for its figures, to other lines of any statement."""

    kind: Literal["copy_clauses"]
    figure: FigureRef
    lines: Annotated[list[Id], Field(min_length=1, max_length=500)]

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        """Rules for lines with the clauses that the given line has of its own."""
        statement, line, _ = self.figure
        own = [rule for rule in pack.rulebook.rules if line in rule.reach.rows and not rule.off]
        own = [rule for rule in own if rule.reach.in_statement(statement)]
        if not own:
            what = "This line has no clauses of its own to copy."
            raise InputError(
                "nothing-to-copy", Fault("figure", what, "Change a word of it on the line first.")
            )
        clauses = over(*(each.clauses for each in own))
        book = pack.rulebook
        owner = pack.statement(self.statement)
        for id in self.lines:
            target = owner.line(id) if owner else None
            if target is None:
                raise InputError("no-such-line", Fault("lines", f'There is no line "{id}".'))
            reach = Reach(statement=self.statement, line=id)
            book = with_clauses(book, reach, f"Line {target.label}"[:120], clauses)
        count = len(self.lines)
        return pack.model_copy(
            update={"rulebook": book}
        ), f"Clauses given to {'1 line' if count == 1 else f'{count} lines'}"


class _Chosen(Protocol):
    clause: str
    value: Any
    text: str | None


def chosen_value(change: _Chosen) -> Any:
    """The clause's value, read from what was typed where that is what there is. Raises InputError."""
    return change.value if change.text is None else read_typed(change.clause, change.text)


def _in_currency(rule: Rule, currency: str | None) -> Rule:
    """The rule with the pack's own currency: what others print is no reason to call euros rupees. Editions,
    whose amounts are translated, have theirs."""
    said = rule.clauses.named().get("currency")
    if currency is None or said in (None, currency) or rule.reach.editions:
        return rule
    clauses = read_clauses(rule.clauses.spelled() | {"currency": currency})
    return rule.model_copy(update={"clauses": clauses})


def _with_a_place(pack: Pack, book: Rulebook) -> tuple[tuple[Rule, ...], str]:
    """The rules that have a place in this pack, and words for those that have none."""
    rules = tuple(rule for each in book.rules if (rule := in_place(pack, each)))
    kept = {rule.id for rule in rules}
    left_out = [rule.name for rule in book.rules if rule.id not in kept]
    named = ", ".join(left_out)
    return rules, f"; left out, as their lines or columns are not here: {named}" if left_out else ""
