"""The command line: humble-sum.

Each command imports what it needs when it runs: the server's, the solver's and the workbooks' packages
take a second to load, which `show` in a pipe should not wait for.
"""

from __future__ import annotations

import json
import os
import sys
from copy import copy
from pathlib import Path
from typing import Annotated

import typer

from humble_sum import __version__
from humble_sum.cli.commands.foot_tables import foot_tables
from humble_sum.cli.commands.issue import diff, issue, verify
from humble_sum.cli.commands.many import many
from humble_sum.cli.commands.proofread import proofread
from humble_sum.cli.commands.render import render
from humble_sum.cli.commands.seal import keys, seal
from humble_sum.cli.commands.server import backup, demo, doctor, restore, serve
from humble_sum.cli.commands.styles import styles
from humble_sum.cli.commands.take import take
from humble_sum.cli.commands.tokens import tokens
from humble_sum.cli.commands.write import write
from humble_sum.cli.exit_codes import FOUND, REFUSED
from humble_sum.cli.files import json_or_file, read_file, says_what_it_is, write_file
from humble_sum.cli.options import (
    EditionOption,
    HoldOption,
    JsonOption,
    ProblemArgument,
    RuleOption,
    StatementOption,
)
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.printing.printer import Printer

app = typer.Typer(
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
    rich_markup_mode=None,
    help="Printed figures that are right, readable and add up.\n\n"
    "Exit codes: 0 all is well; 1 something was found (a gap, or no way to foot); 2 the input was refused.",
)


def _version(asked: bool) -> None:
    if asked:
        print(__version__)
        raise typer.Exit


def _a_time(seconds: float | None) -> float | None:
    # What is not a number is not in order with any, so a least value alone would let it pass.
    if seconds is not None and not seconds >= 0.001:
        raise typer.BadParameter(f"{seconds} is not a time; write seconds, 0.001 at least.")
    return seconds


@app.callback()
def start(
    version: Annotated[
        bool, typer.Option("--version", callback=_version, is_eager=True, help="Print the version.")
    ] = False,
) -> None:
    pass


for command in (demo, serve, backup, restore, doctor, render, proofread, write):
    app.command()(command)
app.command()(issue)
app.command()(verify)
app.command()(seal)
app.add_typer(keys, name="key")
app.add_typer(tokens, name="tokens")
app.add_typer(many, name="many")
app.command()(diff)
app.command()(styles)
app.command()(take)
app.command()(foot_tables)


def main() -> None:
    """Run a command. Refusals go to standard error, with exit code 2."""
    # Building every command takes longer than printing a figure does, so only the one named is built.
    asked_for = [name.replace("-", "_") for name in sys.argv[1:2]]
    named = [each for each in app.registered_commands if getattr(each.callback, "__name__", "") in asked_for]
    asked = copy(app)
    asked.registered_commands = named or app.registered_commands
    asked.registered_groups = [] if named else app.registered_groups
    try:
        asked()
    except InputError as error:
        for fault in error.faults:
            print(f"humble-sum: {fault}", file=sys.stderr)
        if error.unshown:
            print(f"humble-sum: and {error.unshown} more.", file=sys.stderr)
        sys.exit(REFUSED)
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        sys.exit(REFUSED)


# A value may begin with a minus, as options do.
@app.command(context_settings={"ignore_unknown_options": True})
def show(
    rule: Annotated[
        str, typer.Option("--rule", help='Clauses as JSON, such as {"scale": "lakhs"}, or a file of them.')
    ],
    values: Annotated[
        list[str] | None,
        typer.Argument(metavar="[VALUE]...", help="Amounts. Otherwise from standard input, one a line."),
    ] = None,
    as_json: JsonOption = False,
) -> None:
    """Print each value by a rule.

    An empty line of standard input is a missing value. With --json each line says the text, the whole
    number of units and the power of ten of one, what sort of value it is, its mark and tone, and
    whether it is wider than its rule allows.

    humble-sum show --rule '{"scale": "lakhs", "negative": "brackets"}' -277037049.75
    """
    printer = Printer(json_or_file(rule))
    given = values or (line.rstrip("\r\n") for line in sys.stdin)
    for number, text in enumerate(given, 1):
        try:
            (shown,) = printer.show([text if text.strip() else None])
        except InputError as refused:
            what = refused.faults[0].what
            raise InputError(refused.kind, Fault(f"value {number}", what)) from None
        print(json.dumps(shown.as_dict(), ensure_ascii=False) if as_json else shown.text)


@app.command()
def check(
    pack: ProblemArgument,
    statement: StatementOption = None,
    edition: EditionOption = None,
    rule: RuleOption = None,
    trace_of: Annotated[
        str | None, typer.Option("--trace", help="Trace one figure instead: STATEMENT/LINE/COLUMN.")
    ] = None,
    strict: Annotated[
        bool, typer.Option("--strict", help="Exit 1 for what cannot be checked too, as a part is missing.")
    ] = False,
    as_json: JsonOption = False,
) -> None:
    """List every sum that does not foot as printed, what cannot be checked, and every placed figure that
    does not agree with its page; exit 1 when a sum does not foot or a figure does not agree."""
    from humble_sum.cli.check import check

    if not check(pack, statement, edition, rule, trace_of, as_json, strict):
        raise typer.Exit(FOUND)


@app.command()
def foot(
    file: ProblemArgument,
    statement: StatementOption = None,
    rule: RuleOption = None,
    hold: HoldOption = None,
    by: Annotated[
        str | None,
        typer.Option(
            "--plan",
            help='How a pack is made to foot, over its own plan: JSON such as {"gives_way": "lines_first", '
            '"choosing": "fewest"}, or a file of it.',
        ),
    ] = None,
    out: Annotated[Path | None, typer.Option(help="Write the footed pack to this file.")] = None,
    seconds: Annotated[
        float | None,
        typer.Option(
            callback=_a_time, help="Take the best plan found by then, with its bound if it is not proved."
        ),
    ] = None,
    words: Annotated[bool, typer.Option("--words", help="Answer a bare problem in words.")] = False,
    certificate: Annotated[
        Path | None,
        typer.Option(
            help="Write what proves that no plan is less to this file, for verify-plan or anybody to check."
        ),
    ] = None,
    as_json: JsonOption = False,
) -> None:
    """Foot a pack or a bare problem with the least drift, or by --plan; exit 1 when it cannot foot.

    A bare problem is answered in JSON, or in --words. A pack's nudges are listed, each with its reason.
    `proved` says that no plan is less, in whole numbers; `solver_proved` that the solver found none less.
    Ctrl-C ends the search with the best plan so far, and exit code 130.
    """
    from humble_sum.cli.foot import foot_pack, foot_problem, read_policy, tell
    from humble_sum.cli.pack_files import open_pack, statements_of, with_holds
    from humble_sum.cli.stopping import say_stopped, stoppable
    from humble_sum.exchange.exact_json import parse_json
    from humble_sum.exchange.pack_json import write_pack

    parsed = parse_json(read_file(file), "file")
    if not says_what_it_is(parsed):
        with stoppable(seconds) as stop:
            solution = foot_problem(parsed, stop.clock, words, certificate is not None)
            feasible = solution.feasible
            print(solution.text)
            if certificate is not None and solution.certificate is not None:
                write_file(certificate, json.dumps(solution.certificate, ensure_ascii=False).encode())
            say_stopped(stop)
    else:
        opened = with_holds(open_pack(file, rule), hold or [])
        if by is not None:
            opened = opened.model_copy(update={"policy": read_policy(opened.policy, json_or_file(by))})
        with stoppable(seconds) as stop:
            footed = foot_pack(opened, statements_of(opened, statement), stop.clock, certificate is not None)
            opened, answers = footed.pack, footed.answers
            feasible = all(each["feasible"] for each in answers)
            tell(answers, as_json)
            if certificate is not None and footed.certificate is not None:
                write_file(certificate, json.dumps(footed.certificate, ensure_ascii=False).encode())
            if out is not None and feasible:
                write_file(out, write_pack(opened))
            say_stopped(stop)
    if not feasible:
        raise typer.Exit(FOUND)


@app.command("verify-plan")
def verify_plan(
    file: ProblemArgument,
    certificate: Annotated[Path, typer.Argument(help="What foot --certificate wrote.")],
) -> None:
    """Check a certificate in whole numbers: that no plan is less than its own; exit 1 if it does not show it.

    A pack is checked with the holds and policies it has, and its certificate is of it as it stands.
    """
    from humble_sum.cli.foot import verify_plan
    from humble_sum.core.footing.certificate import Rejected
    from humble_sum.exchange.exact_json import parse_json

    parsed = parse_json(read_file(file), "file")
    try:
        print(verify_plan(parsed, says_what_it_is(parsed), parse_json(read_file(certificate), "certificate")))
    except Rejected as rejected:
        print(f"Not shown: {rejected}")
        raise typer.Exit(FOUND) from None


@app.command()
def change(
    file: Annotated[
        Path | None, typer.Argument(metavar="PACK", help="A pack file; - for standard input.")
    ] = None,
    changes: Annotated[
        list[str] | None,
        typer.Argument(
            metavar="CHANGE...",
            help='JSON such as {"kind": "hold", "statement": "income", "line": "tax", "column": "y26"}, '
            "a list of them, or a file of either.",
        ),
    ] = None,
    out: Annotated[Path | None, typer.Option(help="Write the changed pack to this file.")] = None,
    author: Annotated[str, typer.Option(help="Who makes the change, as holds and nudges keep it.")] = "",
    edition: EditionOption = None,
    every: Annotated[bool, typer.Option("--list", help="List every kind of change with its fields.")] = False,
) -> None:
    """Change a pack as on the screen: hold, foot, edit rules, move lines; say what each did.

    All changes are made, or none. Nothing is written without --out.
    """
    from humble_sum.cli.change import changed, listed
    from humble_sum.cli.pack_files import open_pack
    from humble_sum.exchange.pack_json import write_pack

    if every:
        print(listed())
        return
    if file is None or not changes:
        raise typer.BadParameter("name a pack file and at least one change, or --list")
    pack, said = changed(open_pack(file, None), [json_or_file(each) for each in changes], author, edition)
    print("\n".join(said))
    if out is not None:
        write_file(out, write_pack(pack))
