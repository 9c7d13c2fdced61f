"""A property worked out once for each instance, for the many small values of a page.

`functools.cached_property` takes a lock at every first reading on Python 3.11, which costs more
than most figures take to print. What is worked out here may be worked out twice by two threads,
to the same value.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Generic, TypeVar

T = TypeVar("T")


class once(Generic[T]):
    def __init__(self, work: Callable[[Any], T]):
        self._work = work
        self._name = work.__name__

    def __get__(self, instance: Any, owner: type | None = None) -> T:
        found = instance.__dict__[self._name] = self._work(instance)
        return found
