"""The changes to a rulebook: rules added, edited, ordered and switched, styles and files applied."""

from __future__ import annotations

from typing import Annotated, Any, Literal, Protocol

from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.changes import rulebook_use as rulebooks
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.printing.clauses import over, read_clauses
from humble_sum.core.rules.clause_registry import clause_name, read_typed
from humble_sum.core.rules.house_style import taken_from
from humble_sum.core.rules.rulebook import Id, Reach, Rule, Rulebook, new_rule_id, with_clauses
from humble_sum.core.rules.rulebook_file import house_style_of, rulebook_of
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.validation import check, in_place

TypedText = Annotated[
    str | None,
    Field(max_length=200, description="What was typed, in place of a value: read as the clause reads it."),
]


class _Ruling(BaseModel):
    model_config = ConfigDict(extra="forbid")
    statement: Id


class AddRule(_Ruling):
    """Add a rule at the end of the book, with some clauses or none yet."""

    kind: Literal["add_rule"]
    name: Annotated[str, Field(min_length=1, max_length=120)]
    reach: Reach = Reach()
    clauses: dict[str, Any] = {}


class EditRule(_Ruling):
    """Change what a rule is called, where it applies, or whether it is switched off."""

    kind: Literal["edit_rule"]
    rule: Id
    name: Annotated[str, Field(min_length=1, max_length=120)] | None = None
    reach: Reach | None = None
    off: bool | None = None


class SetRuleClause(_Ruling):
    """Decide one clause in one rule."""

    kind: Literal["set_rule_clause"]
    rule: Id
    clause: str
    value: Any = None
    text: TypedText = None


class MoveRule(_Ruling):
    """Put a rule right before another, or last. Among rules of one reach the later wins."""

    kind: Literal["move_rule"]
    rule: Id
    before: Id | None


class DuplicateRule(_Ruling):
    """Put a copy of a rule right after it."""

    kind: Literal["duplicate_rule"]
    rule: Id


class RemoveRule(_Ruling):
    """Take a rule out of the book."""

    kind: Literal["remove_rule"]
    rule: Id


class MergeRules(_Ruling):
    """Say several rules once, where they say the same of several statements or lines."""

    kind: Literal["merge_rules"]
    rules: Annotated[list[Id], Field(min_length=2, max_length=100)]


class UseStyle(_Ruling):
    """Start from a house style: its rule takes the place of those that apply everywhere."""

    kind: Literal["use_style"]
    style: str


class UseRulebook(_Ruling):
    """Put the rules of a rulebook file in place of the pack's own."""

    kind: Literal["use_rulebook"]
    rulebook: dict[str, Any]


class FollowStyle(_Ruling):
    """Follow a version of a house style, given as its rulebook file: its rules take the place of those of
    the version followed before, or of those that apply everywhere, and the pack's others stay."""

    kind: Literal["follow_style"]
    rulebook: dict[str, Any]


class LeaveStyle(_Ruling):
    """Follow no house style any more: the rules stay as they are, as the pack's own."""

    kind: Literal["leave_style"]


class CopyClauses(_Ruling):
    """Give one line's clauses, as they are decided for its figures, to other lines of any statement."""

    kind: Literal["copy_clauses"]
    figure: FigureRef
    lines: Annotated[list[Id], Field(min_length=1, max_length=500)]


Ruling = (
    AddRule
    | EditRule
    | SetRuleClause
    | MoveRule
    | DuplicateRule
    | RemoveRule
    | MergeRules
    | UseStyle
    | UseRulebook
    | FollowStyle
    | LeaveStyle
    | CopyClauses
)
RULING = (
    "add_rule",
    "edit_rule",
    "set_rule_clause",
    "move_rule",
    "duplicate_rule",
    "remove_rule",
    "merge_rules",
    "use_style",
    "use_rulebook",
    "follow_style",
    "leave_style",
    "copy_clauses",
)


class _Chosen(Protocol):
    clause: str
    value: Any
    text: str | None


def chosen_value(change: _Chosen) -> Any:
    """The clause's value, read from what was typed where that is what there is. Raises InputError."""
    return change.value if change.text is None else read_typed(change.clause, change.text)


def rule(pack: Pack, change: Any) -> tuple[Pack, str]:
    """The pack with its rulebook changed, and what that did. Raises InputError."""
    if isinstance(change, FollowStyle | LeaveStyle):
        changed, says = _following(pack, change)
    else:
        book, says = _ruled(pack, change)
        # Who takes all rules from elsewhere follows nothing any more.
        alone = {"follows": None} if isinstance(change, UseStyle | UseRulebook) else {}
        changed = pack.model_copy(update={"rulebook": book} | alone)
    check(changed)
    return changed, says


def _ruled(pack: Pack, change: Any) -> tuple[Rulebook, str]:
    book = pack.rulebook
    match change:
        case AddRule():
            clauses = read_clauses(change.clauses)
            made = Rule(id=new_rule_id(book), name=change.name, reach=change.reach, clauses=clauses)
            return rulebooks.with_rule(book, made), f"Added the rule {change.name}"
        case EditRule():
            return _edited(book, change)
        case SetRuleClause():
            old = rulebooks.rule_of(book, change.rule)
            clauses = read_clauses(old.clauses.spelled() | {change.clause: chosen_value(change)})
            new = old.model_copy(update={"clauses": clauses})
            return rulebooks.with_rule(book, new), f"{old.name}: {clause_name(change.clause)} changed"
        case MoveRule():
            name = rulebooks.rule_of(book, change.rule).name
            return rulebooks.moved(book, change.rule, change.before), f"{name} moved"
        case DuplicateRule():
            return rulebooks.duplicated(book, change.rule), "Rule duplicated"
        case RemoveRule():
            name = rulebooks.rule_of(book, change.rule).name
            return rulebooks.without_rule(book, change.rule), f"{name} taken out"
        case MergeRules():
            merged = rulebooks.merged(book, change.rules)
            return merged, f"{len(change.rules)} rules said once"
        case UseStyle():
            styled = rulebooks.styled(book, change.style, pack.currency)
            return styled, f"House style: {rulebooks.STYLES[change.style][0]}"
        case UseRulebook():
            return _from_file(pack, rulebook_of(change.rulebook))
        case _:
            return _copied(pack, change)


def _following(pack: Pack, change: FollowStyle | LeaveStyle) -> tuple[Pack, str]:
    before = pack.follows
    if isinstance(change, LeaveStyle):
        if before is None:
            what = "This pack follows no house style."
            raise InputError("no-such-style", Fault("kind", what, "There is nothing to leave."))
        return pack.model_copy(update={"follows": None}), f"No longer follows {before.said}"
    style, book = house_style_of(change.rulebook)
    rules, left_out = _with_a_place(pack, book)
    own = tuple(_in_currency(rule, pack.currency) for rule in rules)
    if own != rules:
        left_out += f"; the amounts are in {pack.currency}, and say so"
    taken, followed = taken_from(pack.rulebook, own, style, before)
    changed = pack.model_copy(update={"rulebook": taken, "follows": followed})
    return changed, f"Follows {style.said}{left_out}"


def _in_currency(rule: Rule, currency: str | None) -> Rule:
    """The rule with the pack's own currency: what others print is no reason to call euros rupees. Editions,
    whose amounts are translated, have theirs."""
    said = rule.clauses.named().get("currency")
    if currency is None or said in (None, currency) or rule.reach.editions:
        return rule
    clauses = read_clauses(rule.clauses.spelled() | {"currency": currency})
    return rule.model_copy(update={"clauses": clauses})


def _from_file(pack: Pack, book: Rulebook) -> tuple[Rulebook, str]:
    rules, left_out = _with_a_place(pack, book)
    return Rulebook(rules=rules), f"Rulebook taken from a file{left_out}"


def _with_a_place(pack: Pack, book: Rulebook) -> tuple[tuple[Rule, ...], str]:
    """The rules that have a place in this pack, and words for those that have none."""
    rules = tuple(rule for each in book.rules if (rule := in_place(pack, each)))
    kept = {rule.id for rule in rules}
    left_out = [rule.name for rule in book.rules if rule.id not in kept]
    named = ", ".join(left_out)
    return rules, f"; left out, as their lines or columns are not here: {named}" if left_out else ""


def _edited(book: Rulebook, change: EditRule) -> tuple[Rulebook, str]:
    old = rulebooks.rule_of(book, change.rule)
    words = {name: value for name in ("name", "reach", "off") if (value := getattr(change, name)) is not None}
    says = f"{old.name} "
    if change.off is not None:
        says += "switched off" if change.off else "switched on"
    else:
        says += f"called {change.name}" if change.name else "given another reach"
    return rulebooks.with_rule(book, old.model_copy(update=words)), says


def _copied(pack: Pack, change: CopyClauses) -> tuple[Rulebook, str]:
    """Rules for lines with the clauses that the given line has of its own."""
    statement, line, _ = change.figure
    own = [rule for rule in pack.rulebook.rules if line in rule.reach.rows and not rule.off]
    own = [rule for rule in own if rule.reach.in_statement(statement)]
    if not own:
        what = "This line has no clauses of its own to copy."
        raise InputError("nothing-to-copy", Fault("figure", what, "Change a word of it on the line first."))
    clauses = over(*(each.clauses for each in own))
    book = pack.rulebook
    owner = pack.statement(change.statement)
    for id in change.lines:
        target = owner.line(id) if owner else None
        if target is None:
            raise InputError("no-such-line", Fault("lines", f'There is no line "{id}".'))
        reach = Reach(statement=change.statement, line=id)
        book = with_clauses(book, reach, f"Line {target.label}"[:120], clauses)
    count = len(change.lines)
    return book, f"Clauses given to {'1 line' if count == 1 else f'{count} lines'}"
