"""What a statement or a dashboard prints, kept so that later print can be compared with it."""

from __future__ import annotations

from collections.abc import Iterable
from hashlib import sha256

from humble_sum.core.places.passages import SmallTable, printed_passage
from humble_sum.core.places.places_report import placed_in, placers
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.placed import Dashboard, Passage
from humble_sum.core.statements.review_marks import PrintedState


def printed_statement(pack: Pack, proof: Proof) -> PrintedState:
    """What the page of a statement prints: its figures, and its title, heads, labels and unit in a digest."""
    statement = proof.statement
    lines: dict[str, list[str]] = {}
    for (line, _), figure in proof.figures.items():
        lines.setdefault(line, []).append(figure.printed.full_text)
    words = [pack.entity, pack.period, statement.title, proof.caption, *proof.exceptions]
    words += proof.heads
    words += [f"{line.id} {line.label} {line.kind} {line.steps}" for line in statement.lines]
    return PrintedState(
        columns=tuple(column.id for column in statement.columns),
        lines={line: tuple(texts) for line, texts in lines.items()},
        words=_digest(words),
    )


def printed_dashboard(pack_proof: PackProof, dashboard: Dashboard) -> PrintedState:
    """What a dashboard prints: the figures of each item, and all other words in a digest."""
    by_place = placers(pack_proof)
    words, lines = [dashboard.name], {}
    for item in dashboard.items:
        found = placed_in(dashboard, item, pack_proof, by_place)
        lines[item.id] = tuple(f"{each.name}: {each.text}" for each in found)
        words.append(f"{item.id} {item.kind} {item.label}")
        if isinstance(item, Passage):
            for block in printed_passage(item, pack_proof, by_place["passage"]):
                words += _table(block) if isinstance(block, SmallTable) else [piece.text for piece in block]
    return PrintedState(lines=lines, words=_digest(words))


def _table(table: SmallTable) -> list[str]:
    """All that a small table of a passage prints."""
    rows = [text for label, printed in table.rows for text in (label, *(each.full_text for each in printed))]
    return [*table.heads, *rows, table.caption]


def _digest(words: Iterable[str]) -> str:
    return sha256("\n".join(words).encode("utf-8", "surrogatepass")).hexdigest()[:24]
