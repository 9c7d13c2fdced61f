"""What changed in the numbers of a document since the version before."""

from __future__ import annotations

from collections import defaultdict, deque
from collections.abc import Iterator
from dataclasses import dataclass

from humble_sum.core.documents.proofreading import Judgment, Proofread


@dataclass(frozen=True)
class NumberChange:
    """A number that is new, is gone, or is another: its place, what it said (`was`) and says (`now`)."""

    place: str
    was: str
    now: str

    @property
    def says(self) -> str:
        """The change in words: "page 14, paragraph 3: ₹33.83 crore is ₹33.38 crore now"."""
        if not self.was:
            return f"{self.place}: {self.now} is new"
        return f"{self.place}: {self.was} is {f'{self.now} now' if self.now else 'gone'}"


def number_changes(before: Proofread, after: Proofread) -> Iterator[NumberChange]:
    """The changes, in the order of the new version, and then what is gone. Numbers are the same where the
    same words stand around them, wherever they were moved."""
    old: dict[str, deque[Judgment]] = defaultdict(deque)
    for each in before.numbers:
        old[each.around].append(each)
    for each in after.numbers:
        waiting = old[each.around]
        if not waiting:
            yield NumberChange(each.place.says, "", each.text)
            continue
        # Of several with the same words around them, one that says the same is the same.
        same = next((one for one in waiting if one.text == each.text), waiting[0])
        waiting.remove(same)
        if same.text != each.text:
            yield NumberChange(each.place.says, same.text, each.text)
    for waiting in old.values():
        for each in waiting:
            yield NumberChange(each.place.says, each.text, "")
