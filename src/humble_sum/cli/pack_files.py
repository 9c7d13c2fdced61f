"""Packs as commands open them: with clauses over every rule, with holds, and their parts by name."""

from __future__ import annotations

from pathlib import Path

from humble_sum.cli.files import json_or_file, read_file
from humble_sum.core.amounts import of_units
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.printing.clauses import over, read_clauses
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.statement_proof import Proof, prove
from humble_sum.core.rules.rulebook import Reach, Rule, Rulebook
from humble_sum.core.statements.marks import Hold
from humble_sum.core.statements.pack import Pack, Statement
from humble_sum.exchange.pack_json import read_pack


def open_pack(file: Path, rule: str | None) -> Pack:
    pack = read_pack(read_file(file))
    if rule is None:
        return pack
    clauses = read_clauses(json_or_file(rule))
    # Over every rule means at every narrowness: the clauses replace each rule's own.
    rules = [each.model_copy(update={"clauses": over(each.clauses, clauses)}) for each in pack.rulebook.rules]
    rules.append(Rule(id="command-line", name="Command line", reach=Reach(), clauses=clauses))
    return pack.model_copy(update={"rulebook": Rulebook(rules=tuple(rules))})


def statements_of(pack: Pack, id: str | None) -> list[Statement]:
    if id is None:
        return list(pack.statements)
    found = pack.statement(id)
    if found is None:
        names = ", ".join(statement.id for statement in pack.statements)
        raise InputError(
            "no-such-statement", Fault(id, "There is no such statement.", f"There are: {names}.")
        )
    return [found]


def figure_named(pack: Pack, place: str) -> tuple[Proof, Figure]:
    parts = place.split("/")
    if len(parts) != 3:
        raise InputError("bad-place", Fault(place, "Name a figure as STATEMENT/LINE/COLUMN."))
    statement, line, column = parts
    proof = prove(pack, statements_of(pack, statement)[0])
    figure = proof.figures.get((line, column))
    if figure is None:
        raise InputError("no-such-figure", Fault(place, "There is no such figure."))
    return proof, figure


def with_holds(pack: Pack, places: list[str]) -> Pack:
    holds = list(pack.holds)
    for place in places:
        proof, figure = figure_named(pack, place)
        line, column = figure.cell
        holds = [h for h in holds if (h.statement, h.line, h.column) != (proof.statement.id, line, column)]
        units, exponent = figure.printed.units, figure.printed.exponent
        if units is None:
            raise InputError(
                "nothing-to-hold", Fault(place, "This figure is missing, so there is nothing to hold.")
            )
        printed = of_units(units, exponent)
        holds.append(
            Hold(statement=proof.statement.id, line=line, column=column, printed=printed, reason="--hold")
        )
    return pack.model_copy(update={"holds": tuple(holds)})
