"""What does not foot in a file, and how one figure came to print."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from humble_sum.cli.files import read_file, says_what_it_is
from humble_sum.cli.pack_files import figure_named, open_pack, statements_of
from humble_sum.core.places.places_report import Found, placed_on
from humble_sum.core.proof.findings import Finding, findings_of, signed_mark, unchecked_of
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.proof.trace import trace
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.exchange.exact_json import parse_json


def check(
    pack: Path,
    statement: str | None,
    edition: str | None,
    rule: str | None,
    trace_of: str | None,
    as_json: bool,
    strict: bool,
) -> bool:
    """Print what does not foot, what cannot be checked and what does not agree, or the trace of one figure;
    whether there was nothing to find. What cannot be checked counts where it is `strict`."""
    parsed = parse_json(read_file(pack), "file")
    if not says_what_it_is(parsed):
        return check_bare(parsed, as_json)
    opened = in_edition(open_pack(pack, rule), edition or OWN)
    if trace_of is not None:
        _, figure = figure_named(opened, trace_of)
        for step in trace(figure):
            rules = {origin.name for _, origin in step.clauses if origin}
            by = f" [{', '.join(sorted(rules))}]" if rules else ""
            print(f"{step.name:<16}{step.value:>24}  {step.reason}{by}")
        return True
    pack_proof = prove_pack(opened)
    findings = [
        found for each in statements_of(opened, statement) for found in findings_of(pack_proof, each.id)
    ]
    unchecked = [
        found for each in statements_of(opened, statement) for found in unchecked_of(pack_proof, each.id)
    ]
    apart = disagreements(pack_proof) if statement is None else []
    if as_json:
        _print_data([*findings, *unchecked], apart)
    else:
        _print_lines(findings, unchecked, apart)
    return not findings and not apart and not (strict and unchecked)


def _print_data(findings: Sequence[Finding], apart: Sequence[Found]) -> None:
    """What was found, as a list in JSON."""
    print(
        json.dumps(
            [
                {
                    "statement": found.statement,
                    "relation": found.relation,
                    "status": found.status,
                    "gap": found.gap,
                    "says": found.says,
                }
                for found in findings
            ]
            + [_as_data(found) for found in apart],
            ensure_ascii=False,
            indent=1,
        )
    )


def _print_lines(findings: Sequence[Finding], unchecked: Sequence[Finding], apart: Sequence[Found]) -> None:
    """What was found, a line each; or that everything foots."""
    for found in findings:
        mark = "break" if found.status == "break" else signed_mark(found.gap)
        print(f"{found.statement}  {mark:>5}  {found.says}")
    for found in unchecked:
        print(f"{found.statement}  {'?':>5}  {found.says}")
    for placed in apart:
        where = f"{placed.dashboard.id}/{placed.item.id}"
        said = f"{placed.name}: {placed.text}" if placed.text else placed.name
        print(f"{where}  {placed.agrees.off}  {said}. {placed.agrees.says}")
    if not findings:
        whole_foots = not apart and not unchecked
        print("Everything foots." if whole_foots else "Every sum that can be checked foots.")


def disagreements(pack_proof: PackProof) -> list[Found]:
    """What is placed and does not agree with the page of its edition: on every dashboard, or where the pack
    is opened in another edition than its own, on those that show it."""
    pack, shown = pack_proof.pack, {pack_proof.pack.shown: pack_proof}
    found = []
    for dashboard in pack.dashboards:
        if pack.shown not in (OWN, dashboard.edition):
            continue
        if dashboard.edition not in shown:
            shown[dashboard.edition] = prove_pack(in_edition(pack, dashboard.edition))
        placed = placed_on(dashboard, shown[dashboard.edition])
        found += [each for each in placed if each.agrees.standing != "agrees"]
    return found


def _as_data(found: Found) -> dict[str, Any]:
    return {
        "dashboard": found.dashboard.id,
        "item": found.item.id,
        "status": found.agrees.standing,
        "prints": found.text,
        "says": found.agrees.says,
    }


def check_bare(parsed: Any, as_json: bool) -> bool:
    """The same of a bare problem."""
    # The solver is read when it is first needed.
    from humble_sum.cli.foot import check_problem

    found = check_problem(parsed)
    if as_json:
        print(json.dumps(found, ensure_ascii=False, indent=1))
    else:
        for each in found:
            print(f"{'break' if each['status'] == 'break' else signed_mark(each['gap']):>5}  {each['says']}")
        if not found:
            print("Everything foots.")
    return not found
