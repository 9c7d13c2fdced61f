"""Checking an issue with nothing but its container: digests, prints, sums, nudges, certificate, and every
file read back and compared with the figures."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from html.parser import HTMLParser

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.footing.certificate import Rejected
from humble_sum.core.footing.kept_plan import verify_kept
from humble_sum.core.intake.table import cell_place
from humble_sum.core.issue.issued import Issue
from humble_sum.core.proof.findings import findings_of
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.exchange.container import (
    CERTIFICATE,
    FIGURES,
    HEAD,
    PACK,
    figure_rows,
    read_container,
)
from humble_sum.exchange.delimited import write_csv
from humble_sum.exchange.edition_workbook import MODES, Mode, figure_places, value_in
from humble_sum.exchange.html import on_paper
from humble_sum.exchange.inline.page import PAGE, SCHEMA, write_inline
from humble_sum.exchange.inline.reading import differences
from humble_sum.exchange.nudges_csv import write_nudges
from humble_sum.exchange.pack_json import read_pack
from humble_sum.exchange.pdf_reading import not_there, said_on_paper
from humble_sum.exchange.record_page import write_record_page
from humble_sum.exchange.sources.progress import Progress, unheard
from humble_sum.exchange.sources.sheets import read_sheets

MOST_SAID = 20  # of one file


@dataclass(frozen=True)
class Verified:
    """What an issue was found to be: in words what holds, and what does not."""

    issue: Issue
    holds: tuple[str, ...]
    faults: tuple[Fault, ...]


def verify(data: bytes, progress: Progress = unheard) -> Verified:
    """Check a container, telling `progress` of each check. Raises InputError where it is not whole: then
    nothing of it can be trusted."""
    issue, files = read_container(data)
    if PACK not in files:
        raise InputError("bad-container", Fault(PACK, "It was not issued, so nothing can be printed again."))
    whole = prove_pack(in_edition(read_pack(files[PACK]), issue.edition))
    holds = [f"{len(files)} files are as they were issued"]
    faults: list[Fault] = []
    checks = _checks(whole, files)
    for number, (name, check) in enumerate(checks.items()):
        progress(number, len(checks), f"Whether {name}")
        found = list(check())
        faults += found[:MOST_SAID]
        if len(found) > MOST_SAID:
            faults.append(Fault(name, f"and {len(found) - MOST_SAID} more."))
        if not found:
            holds.append(name)
    return Verified(issue, tuple(holds), tuple(faults))


def _checks(whole: PackProof, files: dict[str, bytes]) -> dict[str, Callable[[], Iterator[Fault]]]:
    """What is checked, by what holds where nothing is found."""
    figures = sum(len(proof.figures) for proof in whole.proofs.values())
    sums = sum(len(proof.checks) for proof in whole.proofs.values()) + len(whole.ties)
    checks: dict[str, Callable[[], Iterator[Fault]]] = {
        f"{figures:,} figures print again as issued": lambda: _figures(whole, files),
        f"{sums:,} sums and ties foot, or their gap is left with a note": lambda: _sums(whole),
        f"{len(whole.pack.nudges):,} nudges are on record with their reasons": lambda: _nudges(whole, files),
    }
    if CERTIFICATE in files:
        checks["no plan is less, in whole numbers"] = lambda: _certificate(whole, files[CERTIFICATE])
    if "edition.html" in files:
        checks["the web page says the same"] = lambda: _page(whole, files["edition.html"])
    if "edition.pdf" in files:
        checks["the PDF says the same"] = lambda: _paper(whole, files["edition.pdf"])
    if PAGE in files:
        checks["the tagged page states the same"] = lambda: _tagged(whole, files)
    for mode in MODES:
        if (name := f"workbook-{mode}.xlsx") in files:
            checks[f"the workbook ({MODES[mode]}) says the same"] = lambda name=name, mode=mode: _workbook(  # type: ignore[misc]
                whole, name, mode, files[name]
            )
    if any(name.startswith("statement-") for name in files):
        checks["the figures as printed say the same"] = lambda: _printed(whole, files)
    return checks


def _figures(whole: PackProof, files: dict[str, bytes]) -> Iterator[Fault]:
    table = _csv(files.get(FIGURES, b""))
    if not table or tuple(table[0]) != HEAD:
        yield Fault(FIGURES, "It has not the columns of such a file.")
        return
    again = {tuple(row[:3]): row for row in figure_rows(whole)}
    issued = {tuple(row[:3]): row for row in table[1:]}
    for spot in again.keys() | issued.keys():
        was, now = issued.get(spot), again.get(spot)
        if was != now:
            name = ", ".join(spot)
            yield Fault(FIGURES, f"{name} was issued as {_said(was)} and prints {_said(now)}.")


def _said(row: list[str] | None) -> str:
    return "nothing" if row is None else f"{row[4] or 'a blank'} ({row[3] or 'missing'})"


def _sums(whole: PackProof) -> Iterator[Fault]:
    for id in whole.proofs:
        for found in findings_of(whole, id):
            yield Fault(f"{id}, {found.relation}", found.says)


def _nudges(whole: PackProof, files: dict[str, bytes]) -> Iterator[Fault]:
    for nudge in whole.pack.nudges:
        if not nudge.reason.strip():
            yield Fault(f"{nudge.statement}, {nudge.line}, {nudge.column}", "It is nudged without a reason.")
    for name, write in (("record.csv", write_nudges), ("record.html", write_record_page)):
        if name in files and files[name] != write(whole):
            yield Fault(name, "It does not say what the pack says of its nudges.")


def _certificate(whole: PackProof, data: bytes) -> Iterator[Fault]:
    try:
        verify_kept(whole, json.loads(data))
    except (Rejected, InputError, ValueError, RecursionError) as error:
        yield Fault(CERTIFICATE, f"It does not show that no plan is less: {error}")


class _Cells(HTMLParser):
    """The figures of a page: the exact amount of each data element, and what is printed in it."""

    def __init__(self) -> None:
        super().__init__()
        self.found: list[tuple[str, str]] = []
        self._exact: str | None = None
        self._text: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag == "data":
            self._exact, self._text = dict(attrs).get("value") or "", []

    def handle_data(self, data: str) -> None:
        if self._exact is not None:
            self._text.append(data)

    def handle_endtag(self, tag: str) -> None:
        if tag == "data" and self._exact is not None:
            self.found.append((self._exact, "".join(self._text)))
            self._exact = None


def _page(whole: PackProof, data: bytes) -> Iterator[Fault]:
    cells = _Cells()
    cells.feed(data.decode("utf-8", "replace"))
    wanted = {tuple(row[:3]): (row[3], row[4]) for row in figure_rows(whole)}
    shown = [spot for spot in figure_places(whole) if spot in wanted]
    if len(shown) != len(cells.found):
        yield Fault("edition.html", f"It has {len(cells.found)} figures, and the pack {len(shown)}.")
        return
    for spot, said in zip(shown, cells.found, strict=True):
        if said != wanted[spot]:
            yield Fault(
                "edition.html", f"{', '.join(spot)} is {said[1]} there, and prints {wanted[spot][1]}."
            )


def _paper(whole: PackProof, data: bytes) -> Iterator[Fault]:
    name = "edition.pdf"
    try:
        said = said_on_paper(data)
    except InputError as error:
        yield Fault(name, f"It cannot be read: {error}")
        return
    figures = ((f"{id}, {', '.join(figure.cell)}", figure.printed.whole) for id, figure in on_paper(whole))
    for spot, text in not_there(said, figures):
        yield Fault(name, f"{spot} prints {text}, which does not stand there.")


def _tagged(whole: PackProof, files: dict[str, bytes]) -> Iterator[Fault]:
    try:
        for spot, what in differences(whole, files[PAGE]):
            yield Fault(PAGE, f"{spot}: {what}.")
        if files.get(SCHEMA) != write_inline(whole)[SCHEMA]:
            yield Fault(SCHEMA, "It is not the taxonomy of this pack.")
    except InputError as error:
        yield Fault(PAGE, f"It cannot be read: {error}")


def _workbook(whole: PackProof, name: str, mode: Mode, data: bytes) -> Iterator[Fault]:
    value = value_in(mode)
    try:
        read = read_sheets(name, data)
    except InputError as error:
        yield Fault(name, f"It cannot be read: {error}")
        return
    tables = {table.name: table.rows for table in read}
    # The reader works formulas out and names those whose saved values are others.
    yield from (Fault(name, note.what) for table in read for note in table.notes if "formula" in note.what)
    for spot, (sheet, cell) in figure_places(whole).items():
        figure = whole.proofs[spot[0]].figures[spot[1:]]
        amount = value(figure)
        row, column = cell_place(cell) or (0, 0)
        rows = tables.get(sheet, ())
        found = rows[row][column].value if row < len(rows) and column < len(rows[row]) else None
        if not _same(found, amount, figure.printed.whole):
            yield Fault(name, f"{sheet}!{cell} holds {found}, and {', '.join(spot)} is {amount}.")


def _same(found: object, amount: Decimal | None, text: str) -> bool:
    """Whether a cell holds an amount, digit for digit, or what is printed where there is none."""
    if amount is None:
        return (found or "") == text
    if isinstance(found, str):
        return found == format(amount, "f")
    return isinstance(found, Decimal) and found == amount


def _printed(whole: PackProof, files: dict[str, bytes]) -> Iterator[Fault]:
    for number, proof in enumerate(whole.proofs.values(), 1):
        name = f"statement-{number}.csv"
        if name in files and _csv(files[name]) != _csv(write_csv(whole.pack, proof)):
            yield Fault(name, f"It does not print {proof.statement.name} as the pack does.")


def _csv(data: bytes) -> list[list[str]]:
    return list(csv.reader(io.StringIO(data.decode("utf-8-sig", "replace"), newline="")))
