"""Trees of sums solved exactly, from the bottom up, without a solver.

Where every figure is a part of at most one sum and the total of at most one, the least cost of all
below a figure is a convex function of what the figure prints, known at the few numbers it may
print. For a total it is the convolution of its parts' functions (Bellman 1957; for convex ones,
taking the cheapest steps first is exact): all parts begin at their least, and of their single steps
up the cheapest are taken until the total is met.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

ORDERED = 1_000  # steps up to which the first in order is settled exactly among equals


@dataclass(frozen=True)
class Node:
    """A figure of a tree: the least it may print, and the cost of that and each number above it."""

    low: int
    costs: tuple[int, ...]


@dataclass(frozen=True)
class Sum:
    """A total and its signed parts, by number of node."""

    total: int
    parts: tuple[tuple[int, int], ...]


def bottom_up(sums: Sequence[Sum]) -> list[Sum] | None:
    """The sums, each after those of its parts; None where they are no tree."""
    made_by: dict[int, Sum] = {}
    seen: set[int] = set()
    for each in sums:
        if each.total in made_by:
            return None
        made_by[each.total] = each
        for part, _ in each.parts:
            if part in seen:
                return None
            seen.add(part)
    ordered: list[Sum] = []
    roots = [each for each in sums if each.total not in seen]
    waiting = list(roots)
    while waiting:
        each = waiting.pop()
        ordered.append(each)
        waiting += [made_by[part] for part, _ in each.parts if part in made_by]
    # What is left out goes round in a circle.
    return ordered[::-1] if len(ordered) == len(sums) else None


def least_in_tree(nodes: Sequence[Node], ordered: Sequence[Sum]) -> list[int] | None:
    """What each node prints in the least plan; None where there is none.

    `ordered` has the sums from the bottom up. Among equal steps of one sum the earlier parts keep
    what is cheapest for themselves; where more than that is to be settled, let the costs say so.
    """
    best = list(nodes)
    steps: dict[int, list[tuple[int, int, int]]] = {}
    for each in ordered:
        base, cost, taken = 0, 0, []
        for part, sign in each.parts:
            node = best[part]
            costs = node.costs if sign > 0 else node.costs[::-1]
            base += node.low if sign > 0 else -(node.low + len(node.costs) - 1)
            cost += costs[0]
            for before, after in pairwise(costs):
                step = after - before
                # Of equally dear steps up the last part's first, of equally cheap ones the first's.
                taken.append((step, -part if step > 0 else part, part))
        taken.sort()
        steps[each.total] = taken
        sums = [cost]
        for step, _, _ in taken:
            sums.append(sums[-1] + step)
        own = nodes[each.total]
        within = [
            (low, own.costs[low - own.low] + sums[low - base])
            for low in range(max(own.low, base), min(own.low + len(own.costs), base + len(sums)))
        ]
        if not within:
            return None
        best[each.total] = Node(within[0][0], tuple(cost for _, cost in within))
    return _read_back(best, ordered, steps)


def _read_back(
    best: Sequence[Node], ordered: Sequence[Sum], steps: dict[int, list[tuple[int, int, int]]]
) -> list[int]:
    """What each node prints, from the roots down."""
    printed = [node.low + min(range(len(node.costs)), key=node.costs.__getitem__) for node in best]
    for each in reversed(ordered):
        start = sum(
            sign * (best[part].low if sign > 0 else best[part].low + len(best[part].costs) - 1)
            for part, sign in each.parts
        )
        ups = dict.fromkeys((part for part, _ in each.parts), 0)
        for _, _, part in steps[each.total][: printed[each.total] - start]:
            ups[part] += 1
        for part, sign in each.parts:
            node = best[part]
            printed[part] = node.low + ups[part] if sign > 0 else node.low + len(node.costs) - 1 - ups[part]
    return printed
