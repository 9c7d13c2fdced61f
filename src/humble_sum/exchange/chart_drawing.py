"""Charts drawn: one drawing for the screen and for files, as SVG whose text is text, or as PNG.

Everything printed comes from core; positions alone are worked out here. Points carry ids, by which the
page gives them focus and tips: `CHART-point-SERIES-PLACE`.
"""

from __future__ import annotations

import io
import logging
import re
import warnings
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

import matplotlib
from matplotlib.axes import Axes
from matplotlib.figure import Figure
from matplotlib.font_manager import FontProperties, findfont
from matplotlib.ft2font import FT2Font
from matplotlib.lines import Line2D
from matplotlib.patches import Rectangle

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.places.chart import ChartData, Point
from humble_sum.core.statements.placed import STYLES, Style
from humble_sum.exchange.chart_layout import (
    DPI,
    SMALL,
    Box,
    Wanted,
    heads_in,
    placed,
    text_width,
)

INK, SOFT, HAIR, PAPER = "#14262b", "#55676b", "#d9e0dd", "#fefefc"
TEXT_INK, SOFT_INK = INK, SOFT
TEAL, MOSS, RUST = "#0c5a61", "#2c6337", "#a83c14"
# Each lighter or darker than the others by enough to be told apart in grey too.
SERIES = ("#b3c9c4", TEAL, "#a68fc9", "#8a6210", "#22343a", "#8db58f", "#dfe6d3", "#c26a45")
HATCHES = ("", "", "//", "..", "xx", "\\\\", "--", "++")
MARKERS = ("o", "s", "^", "D", "v", "P", "X", "*")
STROKE = 'stroke="#fefefc" stroke-width="1.2" fill="none"'
KEYS = {
    "s": '<path d="M0 0h12v12H0z"/>',
    "o": '<circle cx="6" cy="6" r="5"/>',
    "^": '<path d="M6 1l5 10H1z"/>',
    "v": '<path d="M6 11l5-10H1z"/>',
    "D": '<path d="M6 0l6 6-6 6-6-6z"/>',
    "P": '<path d="M4 0h4v4h4v4H8v4H4V8H0V4h4z"/>',
    "X": '<path d="M2 0l4 4 4-4 2 2-4 4 4 4-2 2-4-4-4 4-2-2 4-4-4-4z"/>',
    "*": '<path d="M6 0l2 4 4 .5-3 3 1 4.5-4-2.4-4 2.4 1-4.5-3-3 4-.5z"/>',
    "/": f'<path {STROKE} d="M0 8L8 0M4 12l8-8"/>',
    "\\": f'<path {STROKE} d="M4 0l8 8M0 4l8 8"/>',
    "-": f'<path {STROKE} d="M0 4h12M0 8h12"/>',
    "x": f'<path {STROKE} d="M0 0l12 12M12 0L0 12"/>',
    "+": f'<path {STROKE} d="M6 0v12M0 6h12"/>',
    ".": '<g fill="#fefefc"><circle cx="4" cy="4" r="1.2"/><circle cx="8" cy="8" r="1.2"/></g>',
}
FONTS = ["IBM Plex Serif", "DejaVu Serif", "serif"]
MARGIN, ABOVE, UNDER = 6, 18, 9  # pixels: at the right edge, over the highest, between axis and heads
BELOW_BARS = 16  # pixels for what stands under bars that go down to the floor


@dataclass(frozen=True)
class Size:
    """How large a chart is drawn: pixels for each of its twelfths of the page, and of its height."""

    column: int
    height: int


REPORT, DESK = Size(80, 262), Size(56, 210)
GAP = 0.28  # of the room that a place has, between two of them
# Text stays text in a drawing, so whoever shows it needs the letters, and not this machine.
warnings.filterwarnings("ignore", message=r"Glyph \d+ .* missing from font")
logging.getLogger("matplotlib.font_manager").setLevel(logging.ERROR)  # the page has the first font itself
matplotlib.rcParams["svg.fonttype"] = "none"
matplotlib.rcParams["svg.hashsalt"] = "humble-sum"
matplotlib.rcParams["text.parse_math"] = False  # between two dollar signs stands text as anywhere


def write_svg(data: ChartData, id: str, width: int = 6, size: Size = REPORT) -> str:
    """The chart as an SVG element that is as wide as its place; its ids begin with `id`."""
    drawn = _drawing(data, id, width, size)
    out = io.StringIO()
    drawn.savefig(out, format="svg", transparent=True, metadata={"Date": None, "Creator": None})
    svg = out.getvalue()
    svg = svg[svg.index("<svg") :]
    svg = re.sub(r"<metadata>.*?</metadata>", "", svg, flags=re.DOTALL)
    svg = re.sub(r'(<svg[^>]*?) height="[^"]*"', r"\1", svg, count=1)
    svg = re.sub(r'(<svg[^>]*?) width="[^"]*"', r'\1 width="100%"', svg, count=1)
    # Ids of parts that the drawing shares must not meet those of another chart on the page.
    svg = re.sub(rf'\bid="(?!{re.escape(id)}-)', f'id="{id}-', svg)
    svg = re.sub(r'href="#', f'href="#{id}-', svg)
    return re.sub(r"url\(#", f"url(#{id}-", svg)


def write_png(data: ChartData, id: str, width: int = 6) -> bytes:
    """The chart as a picture. Raises InputError where its script needs shapes that this drawing has not."""
    texts = [*data.heads, *(tick.text for tick in data.ticks)]
    texts += [point.text for series in data.series for point in series.points]
    texts += [series.name for series in data.series]
    font = FT2Font(findfont(FontProperties(family=FONTS[1:])))
    missing = {letter for text in texts for letter in text if not font.get_char_index(ord(letter))}
    missing -= set("\u00a0\u202f\u200e\u200f\u2066\u2069")
    if missing:
        what = f"A picture of this chart cannot have {' '.join(sorted(missing)[:6])}."
        raise InputError("not-drawable", Fault("format", what, "Take it as svg, which keeps its text."))
    out = io.BytesIO()
    _drawing(data, id, width, REPORT).savefig(
        out, format="png", dpi=2 * DPI, facecolor=PAPER, metadata={"Software": None}
    )
    return out.getvalue()


@dataclass(frozen=True)
class _Frame:
    """Where the drawing's own area lies, in pixels from the lower left, and what its axes run over."""

    left: float
    bottom: float
    right: float
    top: float
    floor: float
    ceiling: float
    count: int

    def across(self, place: float) -> float:
        """Where a place stands, the first being 0."""
        return self.left + (place + 0.5) * (self.right - self.left) / self.count

    def up(self, amount: float) -> float:
        """Where an amount stands."""
        share = (amount - self.floor) / ((self.ceiling - self.floor) or 1)
        return self.bottom + share * (self.top - self.bottom)


def _drawing(data: ChartData, id: str, width: int, size: Size) -> Figure:
    wide, high = float(width * size.column), float(size.height)
    if data.fault or not data.series:
        drawn = Figure(figsize=(wide / DPI, high / DPI), dpi=DPI)
        text: Any = {"ha": "center", "va": "center", "color": SOFT, "fontsize": SMALL, "family": FONTS}
        drawn.text(0.5, 0.5, data.fault, wrap=True, **text)
        return drawn
    ticks = max(text_width(tick.text, SMALL) for tick in data.ticks)
    left = ticks + MARGIN + 4
    heads = heads_in(data.heads, wide - left - MARGIN, wide * 0.45)
    left = max(left, heads.left + 2)
    wide = max(wide, round(2 * left))  # a drawing too wide for its place is shown smaller
    hangs = BELOW_BARS if any(_reaches_floor(data)) else 0
    below = heads.below + UNDER + 2 + hangs
    high += round(max(0.0, below - 40))  # what stands under it takes nothing from the drawing
    frame = _Frame(
        *(left, below, wide - MARGIN, high - ABOVE),
        *(_at(data.floor), _at(data.ceiling), len(data.heads)),
    )
    drawn = Figure(figsize=(wide / DPI, high / DPI), dpi=DPI)
    # Nothing is worked out by the plot's own axes: what they say has been printed already.
    room = (left / wide, below / high, (frame.right - left) / wide, (frame.top - below) / high)
    axes = drawn.add_axes(room, frameon=False)
    axes.set_axis_off()
    axes.set_autoscale_on(False)
    axes.set_ylim(frame.floor, frame.ceiling)
    axes.set_xlim(-0.5, frame.count - 0.5)

    def write(x: float, y: float, said: str, **how: Any) -> None:
        drawn.text(x / wide, y / high, said, **({"color": INK, "family": FONTS, "va": "center"} | how))

    for tick in data.ticks:
        zero = not tick.amount
        level = _at(tick.amount)
        look: Any = {"color": SOFT if zero else HAIR, "linewidth": 1 if zero else 0.8, "zorder": 0}
        axes.add_artist(Line2D([-0.5, frame.count - 0.5], [level] * 2, **look))
        write(left - MARGIN, frame.up(level), tick.text, ha="right", fontsize=SMALL)
    for place, head in enumerate(heads.texts):
        turns: Any = {"rotation": heads.turned, "rotation_mode": "anchor"} if heads.turned else {}
        at = {"ha": "right" if heads.turned else "center", "va": "top", "fontsize": heads.points}
        if head:
            write(frame.across(place), below - hangs - UNDER, head, **at, **turns)
    wanted = [
        Wanted(
            frame.across(each.x),
            frame.up(each.y),
            *(each.text, each.down, each.rank, each.else_text, each.id),
        )
        for each in DRAWN[data.style].draw(axes, data, id)
    ]
    within = Box(left + 2, below - hangs, wide - 2, high - 2)
    for each in placed(wanted, within):
        missing: Any = {"color": SOFT, "gid": each.id} if each.id else {}
        write(each.x, each.y, each.text, ha="center", fontsize=each.points, zorder=4, **missing)
    return drawn


def _reaches_floor(data: ChartData) -> Iterator[bool]:
    """Whether points of labelled charts go down to near the floor, where what they print stands below."""
    span = (_at(data.ceiling) - _at(data.floor)) or 1
    for series in data.series:
        for point in series.points:
            if point.drawn is not None and point.drawn < 0 and STYLES[data.style].labels_below:
                yield (_at(point.base + point.drawn) - _at(data.floor)) / span < 0.1


def _at(amount: Decimal) -> float:
    """Where an amount lies on the axis: for drawing alone."""
    return float(amount)


def _colour(number: int, of: int) -> str:
    """The last series is the one that is read first: this year beside the one before."""
    if number == of - 1:
        return TEAL
    others = [colour for colour in SERIES if colour != TEAL]
    return others[number % len(others)]


def legend(data: ChartData) -> list[str]:
    """A small drawing for each series, in its colour and pattern: what tells them apart."""
    count = len(data.series)
    keys = []
    for number in range(count):
        keys.append(_key(*DRAWN[data.style].key(number, count)))
    return keys


def _key(colour: str, shape: str) -> str:
    inside = KEYS.get(shape[0], KEYS["s"])
    over = KEYS.get(shape[1:2], "") if len(shape) > 1 else ""
    return f'<svg viewBox="0 0 12 12" aria-hidden="true"><g fill="{colour}">{inside}</g>{over}</svg>'


def _hatch(number: int, of: int) -> str:
    """Two series are told apart by light and dark, more by patterns too."""
    return HATCHES[number % 8] if of > 2 else ""


def _line_colour(number: int, of: int) -> str:
    return _colour(number, of) if number or of == 1 else SOFT


def _bar(axes: Axes, x: float, point: Point, wide: float, colour: str, gid: str, hatch: str = "") -> None:
    assert point.drawn is not None
    corner = (x - wide / 2, _at(point.base))
    look: Any = {"facecolor": colour, "hatch": hatch, "edgecolor": PAPER, "linewidth": 0.5, "zorder": 2}
    axes.add_artist(Rectangle(corner, wide, _at(point.drawn), gid=gid, **look))


def _missing(x: float, point: Point, gid: str) -> Wanted:
    """What a missing point prints, where it would stand: a gap is not a zero."""
    return Wanted(x, 0, point.text or "·", rank=0, else_text="·", id=gid)


def _bars(axes: Axes, data: ChartData, id: str) -> Iterator[Wanted]:
    count = len(data.series)
    wide = (1 - GAP) / count
    for number, series in enumerate(data.series):
        for place, point in enumerate(series.points):
            x = place - (1 - GAP) / 2 + wide * (number + 0.5)
            gid = f"{id}-point-{number}-{place}"
            if point.drawn is None:
                yield _missing(x, point, gid)
                continue
            _bar(axes, x, point, wide * 0.94, _colour(number, count), gid, _hatch(number, count))
            if count == 1:
                yield _label(x, point)


def _stacked(axes: Axes, data: ChartData, id: str) -> Iterator[Wanted]:
    for number, series in enumerate(data.series):
        for place, point in enumerate(series.points):
            gid = f"{id}-point-{number}-{place}"
            if point.drawn is not None:
                _bar(axes, place, point, 1 - GAP, SERIES[number % 8], gid, _hatch(number, len(data.series)))
    yield from ()


def _shares(axes: Axes, data: ChartData, id: str) -> Iterator[Wanted]:
    for place, point in enumerate(data.series[0].points):
        gid = f"{id}-point-0-{place}"
        if point.drawn is None:
            yield _missing(place, point, gid)
            continue
        _bar(axes, place, point, 0.5, TEAL, gid)
        yield _label(place, point)


def _lines(axes: Axes, data: ChartData, id: str) -> Iterator[Wanted]:
    count = len(data.series)
    for number, series in enumerate(data.series):
        colour = _line_colour(number, count)
        # A missing point breaks the line; what stands alone between two gaps is a dot.
        heights = [float("nan") if point.drawn is None else _at(point.drawn) for point in series.points]
        line = Line2D(range(len(heights)), heights, color=colour, linewidth=1.8, zorder=2)
        axes.add_artist(line)
        for place, point in enumerate(series.points):
            gid = f"{id}-point-{number}-{place}"
            if point.drawn is None:
                yield _missing(place, point, gid)
            else:
                look: Any = {"marker": MARKERS[number % 8], "color": colour, "markersize": 5, "zorder": 3}
                axes.add_artist(Line2D([place], [_at(point.drawn)], gid=gid, **look))


def _bridge(axes: Axes, data: ChartData, id: str) -> Iterator[Wanted]:
    points = data.series[0].points
    top = Decimal(0)
    for place, point in enumerate(points):
        assert point.drawn is not None
        ends = place in (0, len(points) - 1)
        colour = INK if ends else MOSS if point.drawn >= 0 else RUST
        if place:
            span, level = [place - 0.68, place - 0.32], [_at(top)] * 2
            axes.add_artist(Line2D(span, level, color=SOFT, linewidth=1, linestyle=(0, (3, 2)), zorder=1))
        _bar(axes, place, point, 0.62, colour, f"{id}-point-0-{place}")
        top = point.base + point.drawn
        yield _label(place, point, rank=0 if ends else 1)


def _label(x: float, point: Point, rank: int = 1) -> Wanted:
    """What a point prints, above it, or below where it goes down."""
    assert point.drawn is not None
    down = point.drawn < 0
    end = _at(point.base + point.drawn) if down or point.drawn > 0 else _at(point.base)
    return Wanted(x, end, point.text, down, rank)


def _bar_key(number: int, of: int) -> tuple[str, str]:
    return _colour(number, of), "s" + _hatch(number, of)


def _stack_key(number: int, of: int) -> tuple[str, str]:
    return SERIES[number % 8], "s" + _hatch(number, of)


def _line_key(number: int, of: int) -> tuple[str, str]:
    return _line_colour(number, of), MARKERS[number % 8]


@dataclass(frozen=True)
class Drawn:
    """What draws a style of chart, and the colour and shape that its key has for a series of several."""

    draw: Callable[[Axes, ChartData, str], Iterator[Wanted]]
    key: Callable[[int, int], tuple[str, str]]


DRAWN: dict[Style, Drawn] = {
    "bars": Drawn(_bars, _bar_key),
    "grouped": Drawn(_bars, _bar_key),
    "stacked": Drawn(_stacked, _stack_key),
    "lines": Drawn(_lines, _line_key),
    "shares": Drawn(_shares, _bar_key),
    "bridge": Drawn(_bridge, _bar_key),
}
