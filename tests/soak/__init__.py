"""Attacks, faults and load: small and seeded in `make test`, long and bounded in `make soak`, which sets SOAK."""

import os
import random
import sys
from collections.abc import Iterable
from typing import TypeVar

Each = TypeVar("Each")

TIMES = int(os.environ.get("SOAK", "1"))  # how many times as much is done as in `make test`
SEED = int(os.environ.get("SOAK_SEED", "20260504"))


def some(items: Iterable[Each], one_in: int) -> list[Each]:
    """One in so many of them, drawn at random and kept in order; in `make soak` all."""
    every = [*items]
    if TIMES > 1:
        return every
    drawn = random.Random(SEED).sample(range(len(every)), -(-len(every) // one_in))
    return [every[place] for place in sorted(drawn)]


def told(what: str, count: int) -> None:
    """Say how much was done, where it is asked for."""
    if TIMES > 1:
        # Past what unittest holds back of tests that pass.
        sys.__stdout__.write(f"{what}: {count:,}\n")  # type: ignore[union-attr]
        sys.__stdout__.flush()  # type: ignore[union-attr]
