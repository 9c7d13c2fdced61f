"""Where the words of a chart stand: measured, so that nothing is cut at an edge and no two touch.

Widths are those of DejaVu Serif, which is wider than the faces that a page shows; for scripts that it lacks,
widths that are generous. All lengths are in pixels.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from math import ceil, cos, radians, sin

from fontTools.ttLib import TTFont
from matplotlib.font_manager import FontProperties, findfont
from wcwidth import wcwidth

DPI = 100
PIXELS = DPI / 72  # in a point
HIGH = 1.25  # heights of its letters that a line of text takes
APART = 3  # between two texts
SMALL, SMALLEST = 9.0, 7.25  # points
TURNED = 35  # degrees by which heads are turned that do not fit beside each other
# Heights of the letters that a character takes in scripts which the measured face lacks.
WIDE_SCRIPTS = (("DEVANAGARI", 0.8), ("ARABIC", 0.75), ("HEBREW", 0.65), ("BENGALI", 0.8), ("TAMIL", 1.0))
OTHER = 0.85


@dataclass(frozen=True)
class Box:
    """A rectangle that a text takes: left, bottom, right and top."""

    left: float
    bottom: float
    right: float
    top: float

    def touches(self, other: Box) -> bool:
        """Whether two texts are nearer than they should be."""
        beside = self.left < other.right + APART and other.left < self.right + APART
        return beside and self.bottom < other.top + 1 and other.bottom < self.top + 1


@dataclass(frozen=True)
class Wanted:
    """A text that is wanted at a point: where, whether below it, and what stands there if it does not fit;
    those that matter more are placed first."""

    x: float
    y: float
    text: str
    down: bool = False
    rank: int = 1
    else_text: str = ""
    id: str = ""


@dataclass(frozen=True)
class PlacedText:
    """A text at its place: the middle of its line, and its size in points."""

    x: float
    y: float
    text: str
    points: float
    id: str = ""


@dataclass(frozen=True)
class Heads:
    """What stands under the places: texts in lines, their size, by how many degrees they are turned, and what
    they take below. A text that is left out is empty."""

    texts: tuple[str, ...]
    points: float
    turned: int
    below: float
    left: float  # what the first takes to the left of its place


def text_width(text: str, points: float) -> float:
    """How wide a text is, in its widest line."""
    return max((sum(map(_ems, line)) for line in text.split("\n")), default=0.0) * points * PIXELS


def text_height(text: str, points: float) -> float:
    """How high a text is, all its lines."""
    return (text.count("\n") + 1) * HIGH * points * PIXELS


@cache
def _advances() -> Mapping[int, float]:
    """How wide each letter of the measured face is, in heights of its letters. Read once: what draws letters
    may not be asked by several threads at a time, and these are."""
    with TTFont(findfont(FontProperties(family=["DejaVu Serif"]))) as font:
        scale, widths = font["head"].unitsPerEm, font["hmtx"].metrics
        return {letter: widths[glyph][0] / scale for letter, glyph in font.getBestCmap().items()}


@cache
def _ems(letter: str) -> float:
    """How wide a letter is, in heights of its letters."""
    cells = wcwidth(letter)
    if cells <= 0:
        return 0.0
    if (measured := _advances().get(ord(letter))) is not None:
        return measured
    if cells == 2:
        return 1.05
    name = unicodedata.name(letter, "")
    return next((ems for script, ems in WIDE_SCRIPTS if name.startswith(script)), OTHER)


def heads_in(heads: Sequence[str], room: float, most: float) -> Heads:
    """Heads under places that share `room`: broken at their blanks in a size that fits, or turned where none
    does, and then no longer than `most`; every second or third is left out where even those would touch."""
    step = room / len(heads)
    widest = max((text_width(word, 1) for head in heads for word in head.split(" ")), default=1.0)
    size = min(SMALL, (step - APART) / max(widest, 0.1))
    if size >= SMALLEST:
        texts = tuple(_broken(head, step - APART, size) for head in heads)
        below = max(text_height(text, size) for text in texts)
        return Heads(texts, size, 0, below, 0.0)
    size = SMALLEST + 0.75
    shown = [_shortened(head, most, size) for head in heads]
    line = text_height("x", size)
    apart = step * sin(radians(TURNED))  # from one turned line to the next
    every = max(1, ceil(line / max(apart, 1.0)))
    texts = tuple(head if n % every == 0 else "" for n, head in enumerate(shown))
    down, across = sin(radians(TURNED)), cos(radians(TURNED))
    below = max(text_width(text, size) * down + line * across for text in texts)
    left = max(
        text_width(text, size) * across + line * down - step * (n + 0.5) for n, text in enumerate(texts)
    )
    return Heads(texts, size, TURNED, below, max(0.0, left))


def _broken(head: str, room: float, points: float) -> str:
    lines: list[str] = []
    for word in head.split(" "):
        if lines and text_width(f"{lines[-1]} {word}", points) <= room:
            lines[-1] += f" {word}"
        else:
            lines.append(word)
    return "\n".join(lines)


def _shortened(head: str, most: float, points: float) -> str:
    """A head of at most so many pixels; the whole of it is in the chart's table."""
    if text_width(head, points) <= most:
        return head
    kept = head
    while kept and text_width(f"{kept}…", points) > most:
        kept = kept[:-1]
    return f"{kept.rstrip()}…"


def placed(wanted: Iterable[Wanted], within: Box) -> list[PlacedText]:
    """The texts at their places, moved sideways where an edge is near. They are all of one size: where some
    would touch, the smaller one; where they touch in that too, those of a lower rank say their other text or
    are left out."""
    ranked = sorted(wanted, key=lambda each: each.rank)
    larger = _placed(ranked, within, SMALL - 0.5)
    return larger if len(larger) == len(ranked) else _placed(ranked, within, SMALLEST)


def _placed(ranked: Sequence[Wanted], within: Box, points: float) -> list[PlacedText]:
    there: list[Box] = []
    found = []
    for each in ranked:
        for text in filter(None, (each.text, each.else_text)):
            wide, high = text_width(text, points), text_height(text, points)
            if wide > within.right - within.left:
                continue
            x = min(max(each.x, within.left + wide / 2), within.right - wide / 2)
            y = each.y - high / 2 - 1 if each.down else each.y + high / 2 + 1
            y = min(max(y, within.bottom + high / 2), within.top - high / 2)
            box = Box(x - wide / 2, y - high / 2, x + wide / 2, y + high / 2)
            if not any(box.touches(other) for other in there):
                there.append(box)
                found.append(PlacedText(x, y, text, points, each.id))
                break
    return found
