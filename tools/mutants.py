"""Changes one thing at a time in the code that counts most, and sees whether the tests notice: make mutants.

A comparison is turned or moved by one, `and` becomes `or`, a sign or a number changes. Each change runs the
tests of its part in a process of its own. What no test notices is printed, unless it is listed in
`EQUIVALENT` as a change that nothing can notice. `python -m tools.mutants certificate 40` takes one part
and so many changes of it.
"""

from __future__ import annotations

import ast
import importlib.abc
import importlib.util
import multiprocessing
import random
import signal
import sys
import unittest
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from itertools import pairwise
from pathlib import Path
from typing import Any, NamedTuple

from tools.equivalent_mutants import EQUIVALENT

ROOT = Path(__file__).parent.parent
PARTS: dict[str, tuple[tuple[str, ...], tuple[str, ...]]] = {
    "printing": (
        (
            *("core.printing.figure", "core.printing.rounding", "core.printing.dressing"),
            *("core.printing.scaling", "core.printing.frame", "core.printing.batch"),
            *("core.locales.dates", "core.locales.number_words", "core.locales.plurals"),
        ),
        (
            *("core.test_rounding", "core.test_printing", "core.test_every_clause", "core.test_words"),
            *("core.test_showing", "core.test_printing_cases", "core.test_every_locale"),
        ),
    ),
    "certificate": (
        ("core.footing.certificate",),
        ("core.footing.test_forged_certificates", "core.footing.test_certificates"),
    ),
    "agreement": (
        ("core.places.agreement", "core.places.typed_figures"),
        ("core.places.test_typed", "core.places.test_agreement", "core.places.test_passages"),
    ),
    "statements": (
        ("core.statements.relations", "core.statements.grid", "core.statements.validation"),
        (
            *("core.test_shares", "core.test_relations", "core.test_soundness", "core.test_deriving"),
            *("core.test_proofs", "core.test_public", "core.test_contents", "core.test_any_change"),
        ),
    ),
    "changes": (
        ("core.changes.structure", "core.changes.derivation", "core.changes.apply", "core.changes.members"),
        (
            *("core.test_structure", "core.test_deriving", "core.test_contents", "core.test_tying"),
            *("core.places.test_editions", "core.test_any_change"),
        ),
    ),
}
MOST, SECONDS, AT_ONCE, SEED = 60, 120, 2, 20261130
COMPARED: dict[type[ast.cmpop], tuple[str, tuple[str, ...]]] = {
    ast.Lt: ("<", ("<=", ">=")),
    ast.LtE: ("<=", ("<", ">")),
    ast.Gt: (">", (">=", "<=")),
    ast.GtE: (">=", (">", "<")),
    ast.Eq: ("==", ("!=",)),
    ast.NotEq: ("!=", ("==",)),
    ast.Is: ("is", ("is not",)),
    ast.IsNot: ("is not", ("is",)),
    ast.In: ("in", ("not in",)),
    ast.NotIn: ("not in", ("in",)),
}
SUMS: dict[type[ast.operator], tuple[str, str]] = {
    ast.Add: ("+", "-"),
    ast.Sub: ("-", "+"),
    ast.Mult: ("*", "//"),
    ast.FloorDiv: ("//", "*"),
}


class Mutant(NamedTuple):
    """One change to a module: where, what stood there, and what stands there now."""

    module: str
    line: int
    start: int
    end: int
    old: str
    new: str

    def said(self, text: str) -> str:
        return f"{self.module}:{self.line}: {self.old} → {self.new} in `{text.strip()}`"


def file_of(module: str) -> Path:
    """The file of a module of ours."""
    return ROOT / "src/humble_sum" / (module.replace(".", "/") + ".py")


def mutants_of(module: str) -> list[Mutant]:
    """Every change there is to make to a module."""
    source = file_of(module).read_text(encoding="utf-8")
    lines = source.split("\n")

    def between(first: ast.expr, second: ast.expr, old: str, new: Sequence[str]) -> Iterator[Mutant]:
        if first.end_lineno == second.lineno and first.end_lineno is not None:
            text = lines[first.end_lineno - 1].encode()
            at = text.find(old.encode(), first.end_col_offset, second.col_offset)
            for each in new if at >= 0 else ():
                yield Mutant(module, first.end_lineno, at, at + len(old), old, each)

    def of(node: ast.AST) -> Iterator[Mutant]:
        match node:
            case ast.Compare(left=left, ops=ops, comparators=others):
                for op, first, second in zip(ops, [left, *others], others, strict=False):
                    yield from between(first, second, *COMPARED[type(op)])
            case ast.BoolOp(op=op, values=values):
                old, new = ("and", "or") if isinstance(op, ast.And) else ("or", "and")
                for first, second in pairwise(values):
                    yield from between(first, second, f" {old} ", (f" {new} ",))
            case ast.BinOp(left=left, op=op, right=right) if type(op) in SUMS:
                old, turned = SUMS[type(op)]
                yield from between(left, right, f" {old} ", (f" {turned} ",))
            case ast.UnaryOp(op=ast.Not(), operand=operand):
                yield Mutant(module, node.lineno, node.col_offset, operand.col_offset, "not ", "")
            case ast.Constant(value=bool() as value):
                old, new = str(value), str(not value)
                yield Mutant(module, node.lineno, node.col_offset, node.col_offset + len(old), old, new)
            case ast.Constant(value=int() as number) if node.end_col_offset is not None:
                old = lines[node.lineno - 1].encode()[node.col_offset : node.end_col_offset].decode()
                yield Mutant(module, node.lineno, node.col_offset, node.end_col_offset, old, str(number + 1))

    tree = ast.parse(source)
    left = {id(inside) for node in ast.walk(tree) for inside in _left_alone(node)}
    return [each for node in ast.walk(tree) if id(node) not in left for each in of(node)]


def _left_alone(node: ast.AST) -> Iterator[ast.AST]:
    """What only guards against mistakes of ours, which no test can make: assertions, `strict`, `frozen`."""
    if isinstance(node, ast.Assert) or (isinstance(node, ast.keyword) and node.arg in ("strict", "frozen")):
        yield from ast.walk(node)


class _Changed(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    """Has one module imported with a change in it."""

    def __init__(self, mutant: Mutant):
        self.name, self.mutant = f"humble_sum.{mutant.module}", mutant

    def find_spec(self, name: str, *_: Any) -> Any:
        if name != self.name:
            return None
        return importlib.util.spec_from_loader(name, self, origin=str(file_of(self.mutant.module)))

    def exec_module(self, module: Any) -> None:
        lines = file_of(self.mutant.module).read_text(encoding="utf-8").split("\n")
        text = lines[self.mutant.line - 1].encode()
        changed = text[: self.mutant.start] + self.mutant.new.encode() + text[self.mutant.end :]
        lines[self.mutant.line - 1] = changed.decode()
        exec(compile("\n".join(lines), str(file_of(self.mutant.module)), "exec"), module.__dict__)


def _noticed(mutant: Mutant, tests: Sequence[str]) -> None:
    """Ends with 1 where a test fails, or where it takes too long; with 0 where none notices."""
    signal.alarm(SECONDS)
    sys.meta_path.insert(0, _Changed(mutant))
    try:
        suite = unittest.defaultTestLoader.loadTestsFromNames([f"tests.{name}" for name in tests])
        with Path("/dev/null").open("w", encoding="utf-8") as nowhere:
            found = unittest.TextTestRunner(stream=nowhere, failfast=True).run(suite)
        sys.exit(0 if found.wasSuccessful() else 1)
    except Exception:
        sys.exit(1)


def survives(mutant: Mutant, tests: Sequence[str]) -> bool:
    """Whether no test notices a change."""
    processes = multiprocessing.get_context("forkserver")
    process = processes.Process(target=_noticed, args=(mutant, tests))
    process.start()
    process.join()
    return process.exitcode == 0


def main() -> None:
    """Make the changes, and print what survived; ends with 1 where that is more than one in twenty."""
    names = [name for name in sys.argv[1:] if name in PARTS] or list(PARTS)
    most = next((int(each) for each in sys.argv[1:] if each.isdigit()), MOST)
    multiprocessing.get_context("forkserver").set_forkserver_preload(["hypothesis", "pydantic", "numpy"])
    worst = 1.0
    for name in names:
        modules, tests = PARTS[name]
        every = [mutant for module in modules for mutant in mutants_of(module)]
        same = Mutant(modules[0], 1, 0, 0, "", "")
        if not survives(same, tests):
            sys.exit(f"{name}: its tests fail, or take too long, without any change")
        drawn = random.Random(SEED).sample(every, min(most, len(every)))
        with ThreadPoolExecutor(AT_ONCE) as several:
            left = list(several.map(lambda mutant, tests=tests: survives(mutant, tests), drawn))
        surviving = [mutant for mutant, alive in zip(drawn, left, strict=True) if alive]
        unlisted = []
        for mutant in sorted(surviving):
            text = file_of(mutant.module).read_text(encoding="utf-8").split("\n")[mutant.line - 1]
            reason = EQUIVALENT.get((mutant.module, text.strip(), f"{mutant.old} → {mutant.new}"))
            if reason is None:
                unlisted.append(mutant)
            print(f"  {mutant.said(text)}{f'  ({reason})' if reason else ''}")
        share = 1 - len(surviving) / len(drawn)
        worst = min(worst, 1 - len(unlisted) / len(drawn))
        print(f"{name}: {len(drawn) - len(surviving)} of {len(drawn)} noticed, {share:.0%}", flush=True)
    sys.exit(worst < 0.95)


if __name__ == "__main__":
    main()
