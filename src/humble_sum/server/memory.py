"""What packs in hand may take of memory: one budget in bytes for all of them, given back at rest."""

from __future__ import annotations

import ctypes
import gc
from typing import Any

from cachetools import LRUCache

from humble_sum.core.documents.proofreading import Proofread, Reader
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.statements.pack import Pack

BUDGET = 90_000_000  # bytes that packs and proofs in hand may take
# Measured with tracemalloc on the demo pack, with every figure printed.
OF_PACK, OF_FIGURE, OF_PROVED_FIGURE = 50_000, 800, 2_500
OF_NUMBER, OF_MEANING = 2_000, 1_200
LEAST = 5_000  # bytes that anything else counts as
AT_REST = 8  # that stay in hand while nobody asks for anything
M_ARENA_MAX, ARENAS = -8, 2  # of glibc: each thread would have a heap of its own, which is never given back


def bytes_of(kept: Any) -> int:
    """About how many bytes a pack or a proof takes. One that is larger than the budget fills it alone."""
    if isinstance(kept, PackProof):
        figures = sum(len(proof.figures) for proof in kept.proofs.values())
        taken = OF_PACK + OF_PROVED_FIGURE * figures
    elif isinstance(kept, Pack):
        taken = OF_PACK + OF_FIGURE * sum(len(s.figured) * len(s.columns) for s in kept.statements)
    elif isinstance(kept, Proofread):
        taken = OF_PACK + OF_NUMBER * len(kept.numbers)
    elif isinstance(kept, Reader):
        taken = OF_PACK + OF_MEANING * kept.meanings.count
    else:
        taken = LEAST
    return min(taken, BUDGET * 9 // 10)


def in_hand() -> LRUCache[tuple[str | int, ...], Any]:
    """What is kept in hand of packs, the longest unused given up first."""
    return LRUCache(BUDGET, bytes_of)


def give_up(kept: LRUCache[tuple[str | int, ...], Any]) -> None:
    """Keep only what was used last, and give the memory back to the machine."""
    while len(kept) > AT_REST:
        kept.popitem()
    gc.collect()
    _c_library("malloc_trim", 0)


def share_heaps() -> None:
    """Have threads share their heaps, so that what one gives up another can use."""
    _c_library("mallopt", M_ARENA_MAX, ARENAS)


def _c_library(name: str, *arguments: int) -> None:
    """Ask the C library for something that only glibc has."""
    try:
        getattr(ctypes.CDLL(None), name)(*arguments)
    except (OSError, AttributeError, TypeError):
        return
