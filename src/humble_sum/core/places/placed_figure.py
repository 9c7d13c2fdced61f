"""A placed figure: a figure of the pack, or a measure of figures, as one place prints it."""

from __future__ import annotations

import json
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from humble_sum.core.amounts import EXACT, of_units, total
from humble_sum.core.once import once
from humble_sum.core.printing.clause_values import RECORD, FixedDecimals, Word
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.printing.figure import Printed, exact_text, fitted, print_amount, unit_exponent
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.rules.rulebook import Decided, Place, decide_all
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.placed import Measure, Shows
from humble_sum.core.statements.relations import QUOTIENT

NOT_MEANINGFUL = "n.m."  # of a change on nothing or across signs, where no rule has another word
# What a measure prints as before any word of its own: the figure's currency and scale mean nothing to it.
BARE: dict[str, Any] = {"currency": None, "scale": "ones", "fitted": None, "step": None, "width": None}
BARE |= {"before": "", "after": "", "bands": (), "words": None, "negative": "minus", "zero": "figure"}
ONE_DECIMAL = FixedDecimals(fixed=1)
MEASURED: dict[Measure, dict[str, Any]] = {
    "change_percent": BARE | {"form": "percent", "decimals": ONE_DECIMAL},
    "change_points": BARE | {"form": "points", "decimals": ONE_DECIMAL},
    "share": BARE | {"form": "percent", "decimals": ONE_DECIMAL},
    "ratio": BARE | {"form": "number", "decimals": FixedDecimals(fixed=2)},
}


@dataclass(frozen=True)
class Placed:
    """What is placed, as it prints there; it is printed when that is first asked for.

    `page` is the figure on its page, None where there is none; `units` are those of the page, where it
    prints the page's own. `gone` says what it names that is not there; `no_meaning` why a measure has none
    here. `other` is the measure's amount worked out the other way, from printed figures or from exact ones.
    """

    shows: Shows
    pack_proof: PackProof
    exact: Decimal | None = None
    decided: Decided | None = None
    page: Figure | None = None
    units: int | None = None
    gone: str = ""
    no_meaning: str = ""
    other: tuple[Decimal | None, str] | None = None

    @property
    def clauses(self) -> ResolvedClauses | None:
        return self.decided.clauses if self.decided else None

    @once
    def printed(self) -> Printed | None:
        """The figure in print; None where it is gone or has no meaning."""
        if self.gone or self.no_meaning or self.decided is None:
            return None
        usual = self.page.usual_sign if self.page is not None and self.shows.measure == "figure" else "either"
        return print_amount(self.exact, self.decided.clauses, self.units, True, usual)

    @once
    def text(self) -> str:
        """All of it, with its mark and what stands beside it."""
        if self.no_meaning and self.decided is not None:
            return _without_meaning(self.decided.clauses)
        return self.printed.full_text if self.printed is not None else ""

    @once
    def differs(self) -> str:
        """What the measure would print if it were worked out the other way; empty where that is the same."""
        if self.other is None or self.decided is None:
            return ""
        amount, no_meaning = self.other
        clauses = self.decided.clauses
        otherwise = _without_meaning(clauses) if no_meaning else print_amount(amount, clauses).full_text
        return "" if otherwise == self.text else otherwise

    @once
    def name(self) -> str:
        """What is placed, by its names."""
        if self.gone:
            return "/".join(self.shows.figure)
        return name_of(self.pack_proof, self.shows)

    @property
    def exact_text(self) -> str:
        """The exact amount with all its digits, as the place writes it; of a quotient, the first of them."""
        if self.exact is None or self.clauses is None:
            return ""
        return exact_text(self.exact, self.clauses)


def _without_meaning(clauses: ResolvedClauses) -> str:
    return clauses.missing.word if isinstance(clauses.missing, Word) else NOT_MEANINGFUL


def name_of(pack_proof: PackProof, shows: Shows) -> str:
    """What is shown, by its names."""
    name = _named(pack_proof, shows.figure)
    if shows.measure == "figure":
        return name
    against = _named(pack_proof, shows.against) if shows.against else ""
    said = {
        "change": f"change of {name} from {against}",
        "change_percent": f"change of {name} from {against}, in percent",
        "change_points": f"change of {name} from {against}, in points",
        "ratio": f"{name} for each {against}",
        "share": f"share of {name} in {against}",
        "sum": f"{name} and other columns, added",
    }
    return said[shows.measure]


def _named(pack_proof: PackProof, ref: FigureRef) -> str:
    statement, line, column = ref
    grid = pack_proof.proofs[statement].grid
    return f"{grid.labels[line]}, {grid.heads[column]} in {grid.statement.name}"


class Placer:
    """Prints what is placed in one sort of place, for the readers of one edition."""

    def __init__(self, pack_proof: PackProof, place: Place):
        self.pack_proof = pack_proof
        self.place = place
        self._decided: dict[str, list[Decided]] = {}
        self._own: dict[tuple[int, str], Decided] = {}

    def decided(
        self, ref: FigureRef, own: dict[str, Any] | None = None, measure: Measure = "figure"
    ) -> Decided:
        """What decides a figure here, with what a measure of it prints as, and clauses of its own."""
        statement, line, column = ref
        proof = self.pack_proof.proofs[statement]
        if statement not in self._decided:
            lines = [(each.id, each.kind) for each in proof.statement.figured]
            columns = [each.id for each in proof.statement.columns]
            pack = self.pack_proof.pack
            self._decided[statement] = decide_all(
                pack.rulebook, statement, lines, columns, self.place, pack.shown
            )
        found = self._decided[statement][proof.grid.number[line, column]]
        of_record = found.clauses.currency == RECORD
        if not own and measure not in MEASURED and not of_record:
            return found
        key = (id(found), f"{measure}{line if of_record else ''}{json.dumps(own or {}, sort_keys=True)}")
        if key not in self._own:
            named = read_clauses(own).named() if own else {}
            clauses = found.clauses.at(**(MEASURED.get(measure, {}) | named))
            if clauses.currency == RECORD:
                row = proof.statement.line(line)
                clauses = clauses.at(
                    currency=(row.currency if row else None) or self.pack_proof.pack.currency
                )
            self._own[key] = Decided(clauses, found.origins)
        return self._own[key]

    def shown(self, shows: Shows) -> Placed:
        """What is placed, printed. What it names need not be there."""
        refs = [shows.figure, *([shows.against] if shows.against else [])]
        refs += [(*shows.figure[:2], column) for column in shows.columns]
        for ref in refs:
            if gone := self._gone(ref):
                return Placed(shows, self.pack_proof, gone=gone)
        page = self._figure(shows.figure)
        decided = self.decided(shows.figure, shows.clauses, shows.measure)
        if shows.measure == "figure":
            return self._as_page(shows, page, decided)
        if (shows.measure != "sum" and shows.against is None) or (
            shows.measure == "sum" and not shows.columns
        ):
            needs = "columns to add" if shows.measure == "sum" else "a figure to be taken against"
            return Placed(shows, self.pack_proof, None, decided, page, gone=f"This measure needs {needs}.")
        ways = [self._measured(shows, False), self._measured(shows, True)]
        (amount, no_meaning), other = ways[shows.printed], ways[not shows.printed]
        return Placed(shows, self.pack_proof, amount, decided, page, no_meaning=no_meaning, other=other)

    def _gone(self, ref: FigureRef) -> str:
        statement, line, column = ref
        proof = self.pack_proof.proofs.get(statement)
        if proof is None:
            return f'There is no statement "{statement}" any more.'
        if (line, column) in proof.figures:
            return ""
        if proof.statement.line(line) is None:
            return f'{proof.statement.name} has no line "{line}" any more.'
        if proof.statement.column(column) is None:
            return f'{proof.statement.name} has no column "{column}" any more.'
        return f'"{line}" is a heading and has no figure.'

    def _figure(self, ref: FigureRef) -> Figure:
        return self.pack_proof.proofs[ref[0]].figures[ref[1], ref[2]]

    def _as_page(self, shows: Shows, page: Figure, decided: Decided) -> Placed:
        """A figure itself. At the page's unit it prints the page's own number of units."""
        clauses = decided.clauses
        if page.exact is not None and clauses.scale == "fit":
            # The word of a scale that fits stands beside the figure: it is fitted to this amount.
            decided = Decided(fitted(page.exact, clauses), decided.origins)
        moved = page.units if page.moved and same_unit(page, decided.clauses) else None
        return Placed(shows, self.pack_proof, page.exact, decided, page, moved)

    def _measured(self, shows: Shows, from_printed: bool) -> tuple[Decimal | None, str]:
        """The amount of a measure, None where it is missing, or has no meaning and why."""

        def amount(ref: FigureRef) -> Decimal | None:
            figure = self._figure(ref)
            if from_printed and figure.units is not None:
                return of_units(figure.units, figure.exponent)
            return figure.exact

        if shows.measure == "sum":
            parts = [amount((*shows.figure[:2], column)) for column in shows.columns]
            there = [part for part in parts if part is not None]
            return (total(there) if there else None), ""
        assert shows.against is not None
        one, other = amount(shows.figure), amount(shows.against)
        if one is None or other is None:
            return None, ""
        if shows.measure in ("change", "change_points"):
            return EXACT.subtract(one, other), ""
        if not other:
            return None, {
                "share": "a share of a whole that is zero",
                "ratio": "nothing to divide by",
            }.get(shows.measure, "a change from zero")
        if shows.measure == "change_percent":
            if (one < 0) != (other < 0) and one:
                return None, "a change across signs"
            if other < 0 and self._figure(shows.figure).usual_sign == "positive":
                return None, "a change of something that should not be negative"
            # By size: costs of −277 after −273 grew.
            return QUOTIENT.divide(EXACT.subtract(one, other), other), ""
        return QUOTIENT.divide(one, other), ""


def same_unit(page: Figure, clauses: ResolvedClauses) -> bool:
    """Whether these clauses print a figure in the page's unit, rounded by the same steps."""
    return (
        page.units is not None
        and page.exact is not None
        and unit_of(page.exact, clauses) == page.exponent
        and clauses.multiple == page.clauses.multiple
    )


def unit_of(amount: Decimal, clauses: ResolvedClauses) -> int:
    """The exponent of the unit in which clauses print an amount."""
    return unit_exponent(amount, fitted(amount, clauses))
