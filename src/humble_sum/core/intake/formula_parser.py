"""Formulas of a workbook taken apart: numbers, texts, cells and ranges of any sheet, functions."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from humble_sum.core.amounts import EXACT

MOST_DEPTH = 60  # of brackets in a formula
MOST_LENGTH = 8_192  # characters of one
FIRST = r"\$?(?P<column>[A-Za-z]{1,3})\$?(?P<row>[1-9]\d{0,6})"
LAST = r"\$?(?P<last_column>[A-Za-z]{1,3})\$?(?P<last_row>[1-9]\d{0,6})"
TOKEN = re.compile(
    rf"""\s*(?:
    (?P<number>\d+(?:\.\d*)?(?:[eE][+-]?\d{{1,3}})?|\.\d+)
    |(?P<text>"(?:[^"]|"")*")
    |(?:(?:'(?P<quoted>(?:[^']|'')+)'|(?P<sheet>[^\W\d][\w.]*))!)?{FIRST}(?:\s*:\s*{LAST})?(?![\w(])
    |(?P<name>[A-Za-z][A-Za-z0-9_.]*)\s*\(
    |(?P<word>TRUE|FALSE)\b
    |(?P<mark><>|<=|>=|[-+*/^%(),;=<>&])
    )""",
    re.VERBOSE | re.IGNORECASE,
)


class Unworkable(Exception):
    """Why a formula is not worked out."""


@dataclass(frozen=True)
class Cells:
    """A cell, or the cells of a range."""

    sheet: str | None
    first: tuple[int, int]
    last: tuple[int, int]

    @property
    def alone(self) -> bool:
        return self.first == self.last

    def places(self) -> Iterator[tuple[int, int]]:
        for row in range(self.first[0], self.last[0] + 1):
            for column in range(self.first[1], self.last[1] + 1):
                yield row, column


# A number, text or truth, cells, an operation with its terms, or a function with its arguments.
Node = Decimal | str | bool | Cells | tuple[str, list[Any]]
RANKS = {"=": 0, "<>": 0, "<": 0, ">": 0, "<=": 0, ">=": 0, "&": 1, "+": 2, "-": 2, "*": 3, "/": 3, "^": 4}


class _Parser:
    """One formula taken apart, by operator precedence."""

    def __init__(self, formula: str):
        text = formula.strip().removeprefix("=")
        if len(text) > MOST_LENGTH:
            raise Unworkable("it is very long")
        self.tokens: list[re.Match[str]] = []
        at = 0
        while text[at:].strip():
            match = TOKEN.match(text, at)
            if match is None or match.end() == at:
                raise Unworkable(f"“{text[at : at + 12].strip()}” in it is not known here")
            self.tokens.append(match)
            at = match.end()
        self.at = 0

    def parsed(self) -> Node:
        node = self.expression(0, 0)
        if self.at < len(self.tokens):
            raise Unworkable("it does not read as a formula")
        return node

    def _mark(self) -> str:
        return (self.tokens[self.at]["mark"] or "") if self.at < len(self.tokens) else ""

    def expression(self, rank: int, depth: int) -> Node:
        if depth > MOST_DEPTH:
            raise Unworkable("it goes too deep")
        left = self.term(depth + 1)
        while (mark := self._mark()) and (mark == "%" or RANKS.get(mark, -1) >= rank):
            self.at += 1
            if mark == "%":
                left = ("/", [left, Decimal(100)])
            else:
                left = (mark, [left, self.expression(RANKS[mark] + 1, depth + 1)])
        return left

    def term(self, depth: int) -> Node:
        if self.at >= len(self.tokens):
            raise Unworkable("it ends too soon")
        token = self.tokens[self.at]
        self.at += 1
        if token["number"]:
            return EXACT.create_decimal(token["number"])
        if token["text"]:
            return token["text"][1:-1].replace('""', '"')
        if token["word"]:
            return token["word"].upper() == "TRUE"
        if token["name"]:
            return token["name"].upper(), self._arguments(depth)
        mark = token["mark"]
        if mark == "(":
            inside = self.expression(0, depth)
            if self._mark() != ")":
                raise Unworkable("a bracket in it is not closed")
            self.at += 1
            return inside
        if mark in ("-", "+"):
            return ("*", [Decimal(-1 if mark == "-" else 1), self.expression(5, depth)])
        if mark:
            raise Unworkable("it does not read as a formula")
        return _cells_of(token)

    def _arguments(self, depth: int) -> list[Node]:
        found: list[Node] = []
        if self._mark() == ")":
            self.at += 1
            return found
        while True:
            # An argument left out counts as nothing.
            found.append("" if self._mark() in (",", ";", ")") else self.expression(0, depth))
            mark = self._mark()
            self.at += 1
            if mark == ")":
                return found
            if mark not in (",", ";"):
                raise Unworkable("a bracket in it is not closed")


def taken_apart(formula: str) -> Node:
    """A formula as what it operates on. Raises Unworkable."""
    return _Parser(formula).parsed()


def _cells_of(token: re.Match[str]) -> Cells:
    sheet = token["quoted"] or token["sheet"]
    first = _place(token["column"], token["row"])
    last = _place(token["last_column"], token["last_row"]) if token["last_column"] else first
    top, left = min(first[0], last[0]), min(first[1], last[1])
    end = max(first[0], last[0]), max(first[1], last[1])
    return Cells(sheet.replace("''", "'") if sheet else None, (top, left), end)


def _place(letters: str, number: str) -> tuple[int, int]:
    column = 0
    for letter in letters.upper():
        column = column * 26 + ord(letter) - ord("A") + 1
    return int(number) - 1, column - 1


def cells_in(node: Node) -> Iterator[Cells]:
    """The cells and ranges that a formula asks for."""
    if isinstance(node, Cells):
        yield node
    elif isinstance(node, tuple):
        for term in node[1]:
            yield from cells_in(term)
