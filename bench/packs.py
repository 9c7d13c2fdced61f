"""Packs of statements that group the same lines otherwise, tied line by line."""

from __future__ import annotations

from decimal import Decimal

import numpy as np

from humble_sum.core.statements.pack import Column, Line, Pack, Statement, Tie

QUARTERS = ("q1", "q2", "q3", "q4")


def tied_pack(lines: int, statements: int, every: int = 1, seed: int = 3) -> Pack:
    """Statements by four quarters and the year; every so many lines are tied to the same in all of them."""
    made = np.random.default_rng(seed)
    leaf = made.integers(-(10**6), 10**8, (lines, 4)).tolist()
    found = []
    for number in range(statements):
        order = made.permutation(lines).tolist() if number else list(range(lines))
        found.append(_statement(number, order, leaf, made))
    ties = tuple(
        Tie(id=f"k{line}{column}", figures=tuple((f"s{n}", f"l{line}", column) for n in range(statements)))
        for line in range(0, lines, every)
        for column in (*QUARTERS, "year")
    )
    return Pack(entity="Long Island", period="2026", statements=tuple(found), ties=ties)


def _statement(number: int, order: list[int], leaf: list[list[int]], made: np.random.Generator) -> Statement:
    columns = [Column(id=quarter, label=quarter.upper()) for quarter in QUARTERS]
    columns.append(Column(id="year", label="Year", sum=QUARTERS))
    lines: list[Line] = []
    groups: list[str] = []
    rest = order
    while rest:
        size = int(made.integers(2, 7))
        members, rest = rest[:size], rest[size:]
        lines += [Line(id=f"l{n}", label=f"Line {n}", amounts=_amounts(leaf, [n])) for n in members]
        groups.append(f"t{len(groups)}")
        parts = tuple((f"l{n}", 1) for n in members)
        label = f"Group {len(groups)}"
        lines.append(
            Line(id=groups[-1], label=label, kind="subtotal", parts=parts, amounts=_amounts(leaf, members))
        )
    parts = tuple((group, 1) for group in groups)
    lines.append(Line(id="all", label="All", kind="total", parts=parts, amounts=_amounts(leaf, order)))
    name = f"View {number + 1}"
    return Statement(id=f"s{number}", name=name, title=name, columns=tuple(columns), lines=tuple(lines))


def _amounts(leaf: list[list[int]], members: list[int]) -> dict[str, Decimal | None]:
    sums = (sum(leaf[n][place] for n in members) for place in range(4))
    return {quarter: Decimal(sum) / 100_000 for quarter, sum in zip(QUARTERS, sums, strict=True)}
