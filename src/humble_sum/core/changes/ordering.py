"""Things in an order, with one of them put right before another, or last."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from humble_sum.core.errors import Fault, InputError


def put_before(every: Sequence[Any], own: Any, before: str | None, slug: str) -> tuple[Any, ...]:
    """The things with their own right before the one of this id, or last; before itself it stays. Raises
    InputError of this slug where there is nothing to put it before."""
    if before == own.id:
        return tuple(every)
    others = [each for each in every if each.id != own.id]
    at = len(others) if before is None else next((n for n, e in enumerate(others) if e.id == before), -1)
    if at < 0:
        what = f'There is no "{before}" to put it before.'
        raise InputError(slug, Fault("before", what, "Leave it out to put it last."))
    return (*others[:at], own, *others[at:])
