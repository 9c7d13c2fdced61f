"""No search for garbage while many objects are made of which none is."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def uncollected() -> Iterator[None]:
    """Among a hundred thousand figures or cells just made there is no garbage, and to look for it takes as
    long as making them. Also a decorator: the search rests while the function runs."""
    was = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was:
            gc.enable()
