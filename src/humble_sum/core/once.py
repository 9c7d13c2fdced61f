"""A property worked out once for each instance, for the many small values of a page.

`functools.cached_property` takes a lock at every first reading on Python 3.11, which costs more
than most figures take to print. What is worked out here may be worked out twice by two threads,
to the same value.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable
from typing import Any, Generic, TypeVar

T = TypeVar("T")


class once(Generic[T]):
    def __init__(self, work: Callable[[Any], T]):
        self._work = work
        self._name = work.__name__

    def __get__(self, instance: Any, owner: type | None = None) -> T:
        found = instance.__dict__[self._name] = self._work(instance)
        return found


class ByIdentity(Generic[T]):
    """A thing as a key of what was worked out for it: it and no other, however alike. It is kept with the
    key, so nothing else can come to stand where it did."""

    __slots__ = ("one",)

    def __init__(self, one: T):
        self.one = one

    def __hash__(self) -> int:
        return id(self.one)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, ByIdentity) and self.one is other.one


class ByKey(Generic[T]):
    """A thing as a key of what was worked out for it: it and whatever else has its `key`, which says all of
    it that is looked at there."""

    __slots__ = ("key", "one")

    def __init__(self, one: T, key: Hashable):
        self.one, self.key = one, key

    def __hash__(self) -> int:
        return hash(self.key)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, ByKey) and self.key == other.key
