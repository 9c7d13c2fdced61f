"""Footing of Arrow tables: one of figures, one of what they add to, and one of what they print.

Figures have the columns `figure` (what each is called: text or whole numbers), `amount` (decimals, whole
numbers or text, in units), and maybe `held` (whole units that it has to print, or null). Relations have a row
for each part: `total`, `part`, `sign` (1 or −1), and maybe `relation`, where a total is made in several ways.
Needs the extra `humble-sum[arrow]`.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import pairwise
from typing import Any

import numpy as np
import pyarrow as pa
import pyarrow.compute as pc
from numpy.typing import NDArray
from scipy.sparse import csr_array

from humble_sum.arrow import units_of_last_digit
from humble_sum.core.collecting import uncollected
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.footing.array_door import ArraySolution, foot_problem
from humble_sum.core.footing.arrays import MOST_DIGITS, ArrayProblem, of_arrays, read_amounts
from humble_sum.core.footing.solver.deadline import ENDLESS, Clock
from humble_sum.core.footing.solver.integers import Ints


@uncollected()
def foot_tables(
    figures: pa.Table, relations: pa.Table | None = None, clock: Clock = ENDLESS
) -> tuple[ArraySolution, pa.Table | None]:
    """The least plan, and a table of what each figure prints, in the order of the figures: `figure`,
    `printed`, `moved`; None where they cannot foot. Figures and relations of the plan are called by their
    rows, from 0; of a relation's rows the first. Among equals the first figures keep their rounding.

    Raises InputError, naming the column, where something is missing, null, or no exact amount.
    """
    names = _column("figures", figures, "figure")
    if not len(names):
        raise _bad("figures", "There is no figure.")
    if len(pc.unique(names)) < len(names):
        raise _bad("figures.figure", "A figure is there twice.", "Give each a name of its own.")
    amounts, digits = _amounts(_column("figures", figures, "amount"))
    problem, rows = _related(names, relations, amounts, digits, _held(figures))
    found = foot_problem(problem, rows, clock)
    if found.printed is None or found.moved is None:
        return found, None
    moved = np.zeros(len(names), dtype=bool)
    moved[found.moved] = True
    return found, pa.table({"figure": names, "printed": pa.array(found.printed), "moved": pa.array(moved)})


def _column(table: str, of: pa.Table, name: str, nulls: bool = False) -> pa.Array:
    """A column that has to be there, in one piece."""
    if name not in of.column_names:
        has = ", ".join(of.column_names) or "nothing"
        raise _bad(f"{table}.{name}", "There is no such column.", f"The table has {has}.")
    column = of.column(name).combine_chunks()
    if isinstance(column, pa.ChunkedArray):
        column = pa.concat_arrays(column.chunks) if column.num_chunks else pa.array([], column.type)
    if pa.types.is_dictionary(column.type):
        column = column.dictionary_decode()
    if column.null_count and not nulls:
        row = pc.index(pc.is_null(column), True).as_py()
        raise _bad(f"{table}.{name}", f"Row {row + 1} has nothing.", "Give every row a value.")
    return column


def _amounts(column: pa.Array) -> tuple[Ints, int]:
    """Amounts as whole numbers of a power of ten, and how many digits that has."""
    of = column.type
    if pa.types.is_integer(of) and not pa.types.is_uint64(of):
        return column.cast(pa.int64()).to_numpy(), 0
    if pa.types.is_decimal128(of) and 0 <= of.scale <= MOST_DIGITS:
        units = units_of_last_digit(column)
        if units is not None and not len(units[abs(units) >= 1 << 60]):
            return units, of.scale
    if pa.types.is_decimal(of) or pa.types.is_integer(of):
        return read_amounts("figures.amount", column.to_pylist())
    if pa.types.is_string(of) or pa.types.is_large_string(of):
        return read_amounts("figures.amount", column.to_pylist())
    what = f"Its values are {of}, which are no exact amounts."
    raise _bad("figures.amount", what, "Cast it to a decimal, as its owner means it.")


def _held(figures: pa.Table) -> dict[int, int]:
    """What figures have to print, by row."""
    if "held" not in figures.column_names:
        return {}
    column = _column("figures", figures, "held", nulls=True)
    if pa.types.is_null(column.type):
        return {}
    if not pa.types.is_integer(column.type):
        raise _bad("figures.held", f"Its values are {column.type}.", "Give whole numbers of units.")
    rows = np.flatnonzero(pc.is_valid(column).to_numpy(zero_copy_only=False))
    return dict(zip(rows.tolist(), column.drop_null().to_pylist(), strict=True))


def _related(
    names: pa.Array, relations: pa.Table | None, amounts: Ints, digits: int, held: dict[int, int]
) -> tuple[ArrayProblem, NDArray[np.int64]]:
    """The problem, and the first row of each relation."""
    if relations is None or not relations.num_rows:
        none = np.zeros(0, dtype=np.int64)
        return of_arrays(amounts, digits, csr_array((0, len(names)), dtype=np.int64), none, held), none
    total, part = (_numbers(names, relations, name) for name in ("total", "part"))
    signs = _column("relations", relations, "sign")
    if not pa.types.is_integer(signs.type) or not set(pc.unique(signs).to_pylist()) <= {1, -1}:
        raise _bad("relations.sign", "A sign is neither 1 nor −1.", "A part that is taken off has −1.")
    sign = signs.cast(pa.int64()).to_numpy()
    key: Any = total
    if "relation" in relations.column_names:
        key = _column("relations", relations, "relation").dictionary_encode().indices.to_numpy()
    _, first, relation = np.unique(key, return_index=True, return_inverse=True)
    if (total != total[first][relation]).any():
        row = int(np.flatnonzero(total != total[first][relation])[0])
        what = f"Row {row + 1} names another total than its relation does above."
        raise _bad("relations.total", what)
    count = len(first)
    entries = np.concatenate([np.ones(count, dtype=np.int64), -sign])
    places = (np.concatenate([np.arange(count), relation]), np.concatenate([total[first], part]))
    matrix = csr_array((entries, places), shape=(count, len(names)))
    return of_arrays(amounts, digits, matrix, total[first], held), first.astype(np.int64)


def _numbers(names: pa.Array, relations: pa.Table, column: str) -> NDArray[np.int64]:
    """The rows of the figures that a column of relations names."""
    named = _column("relations", relations, column)
    if named.type != names.type:
        try:
            named = named.cast(names.type)
        except pa.ArrowException:
            what = f"Its values are {named.type}, and figures are called by {names.type}."
            raise _bad(f"relations.{column}", what) from None
    found = pc.index_in(named, value_set=names)
    if found.null_count:
        row = pc.index(pc.is_null(found), True).as_py()
        raise _bad(f"relations.{column}", f'Row {row + 1} names "{named[row]}", which is no figure.')
    numbers: NDArray[np.int64] = found.cast(pa.int64()).to_numpy()
    return numbers


def _bad(where: str, what: str, remedy: str = "") -> InputError:
    return InputError("bad-problem", Fault(where, what, remedy))


def foot_batches(
    batches: Iterable[pa.RecordBatch | pa.Table],
    relations: pa.Table,
    key: str = "problem",
    clock: Clock = ENDLESS,
) -> Iterator[pa.Table]:
    """Many problems one after the other: figures come in batches whose column of this name says which problem
    each is of, those of one problem beside each other; relations have that column too. For each problem a
    table with the key, `figure`, `printed`, `moved`, `proved` and `says`: why nothing is printed where its
    figures cannot foot or are refused. A stream, so that only one problem is in memory.

    Raises InputError where the column is not there, or a problem comes again after another.
    """
    by_problem = _by_problem(relations, key)
    waiting: list[pa.Table] = []
    current: Any = None
    ended: set[Any] = set()
    for batch in batches:
        table = batch if isinstance(batch, pa.Table) else pa.Table.from_batches([batch])
        for problem, rows in _runs(table, key):
            if waiting and problem != current:
                yield _footed(current, waiting, by_problem, key, clock)
                ended.add(current)
                waiting = []
            if problem in ended:
                what = f"Problem {problem} comes again after another one."
                raise _bad(f"figures.{key}", what, "Sort the figures by it.")
            current = problem
            waiting.append(rows)
    if waiting:
        yield _footed(current, waiting, by_problem, key, clock)


def _runs(table: pa.Table, key: str) -> Iterator[tuple[Any, pa.Table]]:
    """The runs of rows of one problem."""
    column = _column("figures", table, key)
    if not len(column):
        return
    codes = column.dictionary_encode()
    numbers = codes.indices.to_numpy()
    starts = [0, *(np.flatnonzero(np.diff(numbers)) + 1).tolist(), len(numbers)]
    for start, end in pairwise(starts):
        yield column[start].as_py(), table.slice(start, end - start)


def _by_problem(relations: pa.Table, key: str) -> dict[Any, pa.Table]:
    """The relations of each problem."""
    column = _column("relations", relations, key)
    order = pc.sort_indices(column)
    sorted_ = relations.take(order)
    return {problem: rows.drop_columns([key]) for problem, rows in _runs(sorted_, key)}


def _footed(
    problem: Any, parts: list[pa.Table], relations: dict[Any, pa.Table], key: str, clock: Clock
) -> pa.Table:
    figures = pa.concat_tables(parts)
    count = figures.num_rows
    printed, moved = pa.nulls(count, pa.int64()), pa.array([False] * count)
    proved, says = False, ""
    try:
        found, table = foot_tables(figures.drop_columns([key]), relations.get(problem), clock)
        proved = found.proved
        if table is None:
            says = "Its figures cannot foot."
        else:
            printed, moved = table["printed"].cast(pa.int64()), table["moved"]
    except InputError as error:
        says = str(error)
    return pa.table(
        {
            key: figures[key],
            "figure": figures["figure"],
            "printed": printed,
            "moved": moved,
            "proved": pa.array([proved] * count),
            "says": pa.array([says] * count),
        }
    )
