"""Writing a statement or a dashboard of a pack file in any of its formats."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from pathlib import Path

from humble_sum.cli.files import is_there, write_file
from humble_sum.cli.pack_files import open_pack, statements_of
from humble_sum.core.changes.place_commands import dashboard_of, item_of, shown_in
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.formats import FORMATS, OF_DASHBOARDS, OF_STATEMENTS

MOST_TOLD = 8  # figures that are left untagged


def rendered(
    file: Path, to: str, statement: str | None, edition: str | None, place: str | None, rule: str | None
) -> bytes:
    """The file's bytes: of a statement, or of the dashboard or chart that `place` names. Raises
    InputError."""
    pack = open_pack(file, rule)
    if to == "xbrl":
        if statement or place:
            what = "An edition is tagged as a whole."
            raise InputError("no-such-format", Fault("--to", what, "Leave the statement and place out."))
        from humble_sum.exchange.containers.archive import write_archive

        return write_archive(inline_of(pack, edition).items())
    if place is not None:
        return _dashboard(pack, to, edition, place)
    if to not in OF_STATEMENTS:
        what = f"A statement cannot be written as {to}."
        remedy = (
            "Name a chart with --place DASHBOARD/ITEM."
            if to in OF_DASHBOARDS
            else f"Use one of {', '.join(OF_STATEMENTS)}, xbrl."
        )
        raise InputError("no-such-format", Fault("--to", what, remedy))
    shown = in_edition(pack, edition or OWN)
    return OF_STATEMENTS[to].write_statement(shown, prove(shown, statements_of(shown, statement)[0]))


def render_all(file: Path, edition: str | None, rule: str | None, folder: Path) -> Iterator[Path]:
    """Write every statement of an edition in every format into a new folder, every dashboard as a page, and
    the workbooks of all statements; each file as it is written. Raises InputError where there is something in
    the folder."""
    pack = open_pack(file, rule)
    if is_there(folder) and (not folder.is_dir() or any(folder.iterdir())):
        what = "It exists already."
        raise InputError("no-such-format", Fault(str(folder), what, "Name a new folder."))
    pack_proof = shown_in(prove_pack(pack), edition or OWN)
    folder.mkdir(parents=True, exist_ok=True)
    for proof in pack_proof.proofs.values():
        for to, output in OF_STATEMENTS.items():
            if to != "json":
                _, _, kind = to.partition("-")
                name = f"{proof.statement.id}-{kind}" if kind else proof.statement.id
                yield _kept(
                    folder / f"{name}.{output.extension}", output.write_statement(pack_proof.pack, proof)
                )
    for format in ("exact", "unit", "printed"):
        for name, (_, data) in FORMATS[format].edition_files(pack_proof, None).items():
            yield _kept(folder / name, data)
    try:
        for name, data in inline_of(pack, edition).items():
            yield _kept(folder / name, data)
    except InputError as untagged:
        print(f"humble-sum: not tagged: {untagged.faults[0]}", file=sys.stderr)
    yield _kept(
        folder / "pack.json",
        OF_STATEMENTS["json"].write_statement(pack_proof.pack, next(iter(pack_proof.proofs.values()))),
    )
    for board in pack_proof.pack.dashboards:
        if board.edition == pack_proof.pack.shown:
            page = OF_DASHBOARDS["html"].write_dashboard(board, pack_proof, None)
            yield _kept(folder / f"dashboard-{board.id}.html", page)


def inline_of(pack: Pack, edition: str | None) -> dict[str, bytes]:
    """The tagged page of an edition and its taxonomy, by name; figures that are left untagged are told on
    standard error. Raises InputError where there is no way to tag it."""
    from humble_sum.exchange.inline.facts import facts_of
    from humble_sum.exchange.inline.page import write_inline

    pack_proof = shown_in(prove_pack(pack), edition or OWN)
    untagged = facts_of(pack_proof).untagged
    for ref, why in [*untagged.items()][:MOST_TOLD]:
        print(f"humble-sum: left untagged: {describe_figure(pack_proof.pack, ref)}. {why}", file=sys.stderr)
    if len(untagged) > MOST_TOLD:
        print(f"humble-sum: and {len(untagged) - MOST_TOLD} more.", file=sys.stderr)
    return write_inline(pack_proof)


def _kept(file: Path, data: bytes) -> Path:
    write_file(file, data)
    return file


def _dashboard(pack: Pack, to: str, edition: str | None, place: str) -> bytes:

    id, _, item = place.partition("/")
    dashboard = dashboard_of(pack, id)
    if item:
        item_of(dashboard, item)
    if edition not in (None, dashboard.edition):
        what = f"{dashboard.name} is for the edition {pack.edition_name(dashboard.edition)}."
        raise InputError("bad-place", Fault("--edition", what, "Leave the edition out, or name that one."))
    if to not in OF_DASHBOARDS:
        what = f"A dashboard cannot be written as {to}."
        raise InputError("no-such-format", Fault("--to", what, f"Use one of {', '.join(OF_DASHBOARDS)}."))
    pack_proof = shown_in(prove_pack(pack), dashboard.edition)
    return OF_DASHBOARDS[to].write_dashboard(dashboard, pack_proof, item or None)
