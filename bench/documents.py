"""Documents with planted faults in five languages: how many are found, and how many of what is called
wrong is so. Styles for setting weights and for measuring are apart."""

from __future__ import annotations

import argparse
import json
import random
import re
import tomllib
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from decimal import Decimal
from itertools import pairwise
from pathlib import Path
from time import perf_counter

from pydantic import TypeAdapter

from bench.rows import Row
from humble_sum.core.documents.document import Block, Document, Paragraph, Table
from humble_sum.core.documents.judgement import at_unit
from humble_sum.core.documents.proofreading import Judgment, Reader
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Line, Pack
from humble_sum.exchange.pack_json import read_pack

Placed = tuple[int, FigureRef, str, str]  # where a number is, its figure, its measure, and its fault
COLUMNS = ("now", "was")
YEARS = {"now": "2025", "was": "2024"}


@dataclass(frozen=True)
class Language:
    """Labels, sentences and marks of a language."""

    code: str
    decimal: str
    group: str
    currency: str
    scale: str
    incomes: tuple[str, ...]
    costs: tuple[str, ...]
    totals: tuple[str, str, str]
    titles: tuple[str, str]
    setting: tuple[str, ...]
    measuring: tuple[str, ...]
    noise: tuple[str, ...]
    rose: tuple[str, str]
    unit: str
    moved: tuple[str, str]


def _languages() -> dict[str, Language]:
    told = tomllib.loads(Path(__file__).with_suffix(".toml").read_text(encoding="utf-8"))
    return {code: TypeAdapter(Language).validate_python(each) for code, each in told.items()}


LANGUAGES = _languages()
FAULTS = ("digit", "exchanged", "last", "column", "scale", "direction")


@dataclass
class Truth:
    """What a number of a document is: its text, where it is, the figure, and whether it was spoilt."""

    block: int
    start: int
    row: int
    column: int
    figure: FigureRef | None
    measure: str
    spoilt: str


@dataclass
class Made:
    """A document with what is true of its numbers."""

    document: Document
    truths: list[Truth] = field(default_factory=list)


def pack_of(language: Language, pick: random.Random) -> Pack:
    """A made-up pack of one statement with two years, in a language."""
    incomes = pick.sample(language.incomes, pick.randint(3, len(language.incomes)))
    costs = pick.sample(language.costs, pick.randint(4, len(language.costs)))
    lines: list[dict[str, object]] = []
    for n, label in enumerate(incomes):
        lines.append({"id": f"i{n}", "label": label, "kind": "line", "amounts": _amounts(pick)})
    lines.append(
        {
            "id": "income",
            "label": language.totals[0],
            "kind": "subtotal",
            "parts": [[f"i{n}", 1] for n in range(len(incomes))],
        }
    )
    for n, label in enumerate(costs):
        lines.append({"id": f"c{n}", "label": label, "kind": "line", "amounts": _amounts(pick, -1)})
    lines.append(
        {
            "id": "costs",
            "label": language.totals[1],
            "kind": "subtotal",
            "parts": [[f"c{n}", 1] for n in range(len(costs))],
        }
    )
    lines.append(
        {"id": "profit", "label": language.totals[2], "kind": "total", "parts": [["income", 1], ["costs", 1]]}
    )
    statement = {
        "id": "s",
        "name": language.titles[0],
        "title": language.titles[0],
        "columns": [{"id": each, "label": YEARS[each]} for each in COLUMNS],
        "lines": lines,
    }
    clauses = {
        "scale": "thousands",
        "decimals": {"fixed": 0},
        "currency": {"en": "GBP"}.get(language.code, "EUR"),
    }
    data = {
        "kind": "humble-sum/pack",
        "version": 1,
        "entity": "Lanternfish",
        "period": "2025",
        "currency": clauses["currency"],
        "statements": [statement],
        "rulebook": {"rules": [{"id": "house", "name": "House", "clauses": clauses}]},
    }
    return read_pack(json.dumps(data).encode())


def _amounts(pick: random.Random, sign: int = 1) -> dict[str, str]:
    now = pick.randint(1_200_000, 98_000_000)
    was = int(now * pick.uniform(0.7, 1.35))
    return {
        "now": f"{sign * now}.{pick.randint(0, 99):02d}",
        "was": f"{sign * was}.{pick.randint(0, 99):02d}",
    }


def written(language: Language, amount: Decimal, decimals: int) -> str:
    """A size as the language writes it."""
    text = f"{at_unit(amount.copy_abs(), -decimals):,.{decimals}f}"
    return text.replace(",", "\0").replace(".", language.decimal).replace("\0", language.group)


def money(language: Language, amount: Decimal) -> str:
    """An amount in running text, in millions with two decimals."""
    size = written(language, amount / 1_000_000, 2)
    if language.code == "en":
        return f"£{size} million"
    if language.code == "fr":
        return f"{size} millions d'euros"
    return f"{size} {language.scale} €"


def spoilt(pick: random.Random, text: str, kind: str) -> str:
    """A text with a fault in its digits."""
    places = [n for n, c in enumerate(text) if c.isdigit()]
    if kind == "digit":
        at = pick.choice(places[:-1] or places)
        return text[:at] + pick.choice([d for d in "123456789" if d != text[at]]) + text[at + 1 :]
    if kind == "last":
        at = places[-1]
        return text[:at] + str((int(text[at]) + pick.choice((1, 9))) % 10) + text[at + 1 :]
    pairs = [(a, b) for a, b in pairwise(places) if b == a + 1 and text[a] != text[b] and text[b] != "0"]
    if not pairs:
        return spoilt(pick, text, "digit")
    a, b = pick.choice(pairs)
    return text[:a] + text[b] + text[a] + text[b + 1 :]


def document_of(
    language: Language, pack_proof: PackProof, pick: random.Random, measuring: bool, faults: float
) -> Made:
    """A document that tells a pack, some of its numbers spoilt."""
    made = Made(Document("made.docx", "docx", ()))
    blocks: list[Block] = []
    proof = pack_proof.proofs["s"]
    paragraphs = 0
    lines = proof.statement.figured
    for tables in range(pick.randint(2, 4)):
        blocks.append(Paragraph(paragraphs, pick.choice(language.titles), heading=True))
        paragraphs += 1
        for _ in range(pick.randint(3, 6)):
            line = pick.choice(lines)
            template = pick.choice(language.measuring if measuring else language.setting)
            text, truths = _sentence(language, template, proof, line, pick, faults)
            if pick.random() < 0.5:
                lead = _noise(language, pick)
                text = f"{lead} {text}"
                truths = [(at + len(lead) + 1, figure, measure, kind) for at, figure, measure, kind in truths]
            if pick.random() < 0.4:
                text = f"{text} {_noise(language, pick)}"
            for at, figure, measure, kind in truths:
                made.truths.append(Truth(len(blocks), at, -1, -1, figure, measure, kind))
            blocks.append(Paragraph(paragraphs, text))
            paragraphs += 1
        table, cells = _table(language, proof, pick, faults)
        blocks.append(Paragraph(paragraphs, language.unit if pick.random() < 0.6 else f"({language.unit})"))
        paragraphs += 1
        for row, column, figure, kind in cells:
            made.truths.append(Truth(len(blocks), 0, row, column, figure, "figure", kind))
        blocks.append(Table(tables, table))
    made.document = Document("made.docx", "docx", tuple(blocks))
    return made


def _noise(language: Language, pick: random.Random) -> str:
    return pick.choice(language.noise).format(
        n=pick.randint(101, 990),
        k=pick.randint(2, 28),
        p=written(language, Decimal(pick.randint(11, 89)) / 10, 1),
        now_year="2025",
    )


def _sentence(
    language: Language, template: str, proof: Proof, line: Line, pick: random.Random, faults: float
) -> tuple[str, list[Placed]]:
    """A sentence about a line, with what is true of its numbers."""
    exact = {c: proof.figures[line.id, c].exact or Decimal(0) for c in COLUMNS}
    label = line.label
    change = exact["now"].copy_abs() - exact["was"].copy_abs()
    values = {
        "now": (money(language, exact["now"]), ("s", line.id, "now"), "figure"),
        "was": (money(language, exact["was"]), ("s", line.id, "was"), "figure"),
        "percent": (
            written(language, change / exact["was"].copy_abs() * 100, 1),
            ("s", line.id, "now"),
            "change_percent",
        ),
    }
    up = change > 0
    words = {
        "label": label,
        "low": label[0].lower() + label[1:] if language.code not in ("de",) else label,
        "now_year": "2025",
        "was_year": "2024",
    }
    kind = pick.choice(FAULTS) if pick.random() < faults else ""
    target = pick.choice([name for name in values if f"{{{name}}}" in template])
    if kind == "direction":
        if "{rose}" in template and "{percent}" in template:
            target = "percent"
            up = not up
        else:
            kind = "digit"
    words["rose"], words["moved"] = language.rose[0 if up else 1], language.moved[0 if up else 1]
    text, at = "", 0
    truths: list[Placed] = []
    for found in re.finditer(r"\{(\w+)\}", template):
        text += template[at : found.start()]
        name = found[1]
        if name in values:
            said, figure, measure = values[name]
            was = said
            own = kind if name == target else ""
            if own in ("digit", "exchanged", "last"):
                said = spoilt(pick, said, own)
            elif own == "column":
                other = "was" if name == "now" else "now"
                said = values[other][0] if name != "percent" else spoilt(pick, said, "digit")
            elif own == "scale":
                said = (
                    said.replace(language.decimal, "", 1)
                    if language.decimal in said and name != "percent"
                    else spoilt(pick, said, "digit")
                )
            if said == was and own != "direction":
                own = ""
            truths.append((len(text), figure, measure, own))
            text += said
        else:
            text += words[name]
        at = found.end()
    text += template[at:]
    return text[0].upper() + text[1:], truths


def _table(
    language: Language, proof: Proof, pick: random.Random, faults: float
) -> tuple[tuple[tuple[str, ...], ...], list[tuple[int, int, FigureRef, str]]]:
    """A table of the lines of a statement, with what is true of its cells."""
    order = list(COLUMNS) if pick.random() < 0.7 else list(reversed(COLUMNS))
    rows: list[tuple[str, ...]] = [("", *(YEARS[c] for c in order))]
    truths: list[tuple[int, int, FigureRef, str]] = []
    chosen = [line for line in proof.statement.figured if pick.random() < 0.85]
    for line in chosen:
        cells = []
        for n, c in enumerate(order):
            figure = proof.figures[line.id, c]
            exact = figure.exact or Decimal(0)
            text = written(language, exact / 1_000_000, 1)
            kind = pick.choice(("digit", "exchanged", "last")) if pick.random() < faults / 2 else ""
            said = spoilt(pick, text, kind) if kind else text
            truths.append((len(rows), n + 1, ("s", line.id, c), kind if said != text else ""))
            cells.append(f"({said})" if exact < 0 and pick.random() < 0.5 else said)
        rows.append((line.label, *cells))
    return tuple(rows), truths


def scores(reader: Reader, made: Made) -> Counter[str]:
    """How a document was read: planted faults found, what was called wrong rightly, figures matched, in
    doubt."""
    read = reader.proofread(made.document)
    where: dict[tuple[int, ...], Judgment] = {}
    paragraphs = {b.number: n for n, b in enumerate(made.document.blocks) if isinstance(b, Paragraph)}
    tables = {b.number: n for n, b in enumerate(made.document.blocks) if isinstance(b, Table)}
    for each in read.numbers:
        place = each.place
        if place.paragraph is not None:
            where[paragraphs[place.paragraph], each.number.digits[0]] = each
        else:
            where[tables[place.table or 0], place.row or 0, place.column or 0] = each
    count: Counter[str] = Counter()
    true_faults = set()
    for truth in made.truths:
        key = _key(made, truth)
        found = where.get(key)
        count["figures"] += 1
        word = found.judged.judgement if found else "unread"
        right = found is not None and found.figure == truth.figure and found.measure == truth.measure
        if truth.spoilt:
            count["planted"] += 1
            true_faults.add(key)
            count["found"] += word == "disagrees"
            count[f"missed {truth.spoilt}"] += word != "disagrees"
        count["matched"] += right
        count["doubt"] += word == "doubt"
    for key, each in where.items():
        count["numbers"] += 1
        if each.judged.judgement == "disagrees":
            count["called"] += 1
            count["rightly"] += key in true_faults
    return count


def _key(made: Made, truth: Truth) -> tuple[int, ...]:
    if truth.row >= 0:
        return truth.block, truth.row, truth.column
    block = made.document.blocks[truth.block]
    assert isinstance(block, Paragraph)
    at = next(n for n in range(truth.start, len(block.text)) if block.text[n].isdigit())
    return truth.block, at


def measured(count: int, seed: int, measuring: bool, faults: float = 0.15) -> Counter[str]:
    """Scores of so many documents."""
    pick = random.Random(seed)
    total: Counter[str] = Counter()
    for number in range(count):
        language = LANGUAGES[sorted(LANGUAGES)[number % len(LANGUAGES)]]
        pack_proof = prove_pack(pack_of(language, pick))
        found = scores(Reader(pack_proof), document_of(language, pack_proof, pick, measuring, faults))
        total += found
        total += Counter(
            {
                f"{language.code} {name}": n
                for name, n in found.items()
                if name in ("planted", "found", "called", "rightly", "figures", "matched")
            }
        )
    return total


def report(total: Counter[str]) -> Iterator[str]:
    """The measures in lines."""

    def share(one: str, of: str) -> str:
        return f"{100 * total[one] / max(1, total[of]):.1f} % ({total[one]:,} of {total[of]:,})"

    yield f"planted faults found: {share('found', 'planted')}"
    yield f"called wrong and wrong: {share('rightly', 'called')}"
    yield f"figures matched: {share('matched', 'figures')}"
    yield f"in doubt: {share('doubt', 'figures')}"
    for code in LANGUAGES:
        found, rightly = share(f"{code} found", f"{code} planted"), share(f"{code} rightly", f"{code} called")
        yield f"  {code}: found {found}, rightly {rightly}"
    yield "  missed: " + ", ".join(
        f"{name.removeprefix('missed ')} {n}"
        for name, n in sorted(total.items())
        if name.startswith("missed") and n
    )


def rows(tiny: bool = False) -> Iterator[Row]:
    """What is found of planted faults, on styles that no weight was set on."""
    count = 5 if tiny else 200
    begun = perf_counter()
    total = measured(count, 2_026, True)
    took = perf_counter() - begun
    for line in report(total):
        what, _, said = line.strip().partition(": ")
        yield Row(what, said)
    yield Row(f"{count} documents, {total['numbers']:,} numbers", f"{took:.1f} s")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--documents", type=int, default=100)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--setting", action="store_true", help="the styles that weights are set on")
    asked = parser.parse_args()
    begun = perf_counter()
    total = measured(asked.documents, asked.seed, not asked.setting)
    print("\n".join(report(total)))
    print(f"{asked.documents} documents, {total['numbers']:,} numbers in {perf_counter() - begun:.1f} s")


if __name__ == "__main__":
    main()
