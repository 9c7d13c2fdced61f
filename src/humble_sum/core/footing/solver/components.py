"""A footing problem taken apart: figures that no relation joins do not bear on each other."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import chain

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components


@dataclass(frozen=True)
class Component:
    """Figures and equations by number, in order, that hang together."""

    figures: tuple[int, ...]
    equations: tuple[int, ...]


def components(figures: int, equations: Sequence[Sequence[int]]) -> Iterator[Component]:
    """The components of equations that name figures by number, in order of their first figure."""
    if not figures:
        return
    lengths = [len(named) for named in equations]
    first = np.repeat([named[0] for named in equations], lengths) if equations else np.zeros(0, dtype=int)
    other = np.fromiter(chain.from_iterable(equations), dtype=int, count=sum(lengths))
    joined = coo_array((np.ones(len(other), dtype=np.int8), (first, other)), shape=(figures, figures))
    _, kinds = connected_components(joined.tocsr(), directed=False)
    members: dict[int, list[int]] = {}
    for figure, kind in enumerate(kinds.tolist()):
        members.setdefault(kind, []).append(figure)
    joining: dict[int, list[int]] = {}
    for number, named in enumerate(equations):
        joining.setdefault(int(kinds[named[0]]), []).append(number)
    for kind, own in members.items():
        yield Component(tuple(own), tuple(joining.get(kind, ())))
