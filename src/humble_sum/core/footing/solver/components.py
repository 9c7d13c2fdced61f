"""A footing problem taken apart: figures that no relation joins do not bear on each other."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Component:
    """Figures and equations by number, in order, that hang together."""

    figures: tuple[int, ...]
    equations: tuple[int, ...]


def components(figures: int, equations: Sequence[Sequence[int]]) -> Iterator[Component]:
    """The components of equations that name figures by number, in order of their first figure."""
    owner = list(range(figures))

    def find(figure: int) -> int:
        root = figure
        while owner[root] != root:
            root = owner[root]
        while owner[figure] != root:
            owner[figure], figure = root, owner[figure]
        return root

    for named in equations:
        first = find(named[0])
        for other in named[1:]:
            root = find(other)
            if root != first:
                first, root = min(first, root), max(first, root)
                owner[root] = first
    members: dict[int, list[int]] = {}
    for figure in range(figures):
        members.setdefault(find(figure), []).append(figure)
    joining: dict[int, list[int]] = {}
    for number, named in enumerate(equations):
        joining.setdefault(find(named[0]), []).append(number)
    for root, joined in members.items():
        yield Component(tuple(joined), tuple(joining.get(root, ())))
