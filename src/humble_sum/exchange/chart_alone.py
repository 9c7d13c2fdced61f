"""A chart that stands alone, as an SVG file: its title and unit over it, its key, what it shows in words for
those who cannot see it (WAI-ARIA graphics: an image with a name and a description), and the drawing."""

from __future__ import annotations

import re
from html import escape

from humble_sum.core.places.chart import ChartData
from humble_sum.exchange.chart_drawing import REPORT, SOFT_INK, TEXT_INK, legend, write_svg
from humble_sum.exchange.chart_layout import text_width
from humble_sum.exchange.safe_text import UNSEEN

TITLE, PAD, KEY = 15.0, 12, 12  # pixels
SIZE = re.compile(r'viewBox="0 0 ([\d.]+) ([\d.]+)"')
POINTS = 72 / 96  # in a pixel


def write_chart(data: ChartData, title: str, id: str, width: int = 6) -> bytes:
    """The chart as a file of its own; its ids begin with `id`."""
    drawing = write_svg(data, id, width, REPORT)
    found = SIZE.search(drawing)
    assert found is not None
    wide, high = (float(each) / POINTS for each in found.groups())
    parts: list[str] = []
    at = PAD + TITLE
    for line in broken(title, wide - 2 * PAD, TITLE):
        parts.append(_text(PAD, at, line, TITLE, TEXT_INK, bold=True))
        at += TITLE * 1.35
    for line in broken(data.caption, wide - 2 * PAD, KEY):
        parts.append(_text(PAD, at, line, KEY, SOFT_INK))
        at += KEY * 1.5
    at = _keys(data, at, wide, parts) if len(data.series) > 1 else at
    top = at - KEY + 4
    placed = drawing.replace("<svg", f'<svg x="0" y="{top:.0f}"', 1)
    placed = placed.replace('width="100%"', f'width="{wide:.0f}" height="{high:.0f}"', 1)
    notes = at + high
    for note in data.notes:
        for line in broken(note, wide - 2 * PAD, KEY):
            parts.append(_text(PAD, notes, line, KEY, SOFT_INK))
            notes += KEY * 1.5
    total = notes + PAD
    size = f'width="{wide:.0f}" height="{total:.0f}" viewBox="0 0 {wide:.0f} {total:.0f}"'
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" role="img" \
aria-labelledby="{id}-title {id}-desc" {size}>
<title id="{id}-title">{escape(title)}</title>
<desc id="{id}-desc">{escape(described(data))}</desc>
<rect width="100%" height="100%" fill="#fefefc"/>
{"".join(parts)}
{placed}
</svg>
""".encode()


def described(data: ChartData) -> str:
    """What a chart shows, in words: each series, and what each of its points prints."""
    said = [f"{data.caption}."] if data.caption else []
    for series in data.series:
        points = (
            f"{head} {point.text or 'missing'}" for head, point in zip(data.heads, series.points, strict=True)
        )
        said.append(f"{series.name}: {'; '.join(points)}.")
    return " ".join([*said, *data.notes])


def broken(text: str, room: float, size: float) -> list[str]:
    """Text in lines of at most so many pixels, broken at its blanks."""
    lines: list[str] = []
    for word in text.split():
        if lines and text_width(f"{lines[-1]} {word}", size * POINTS) <= room:
            lines[-1] += f" {word}"
        else:
            lines.append(word)
    return lines


def _keys(data: ChartData, at: float, wide: float, parts: list[str]) -> float:
    """The key of each series, one beside another where there is room. Returns where what follows begins."""
    x: float = PAD
    for key, series in zip(legend(data), data.series, strict=True):
        names = broken(series.name, wide - 2 * PAD - KEY - 6, KEY)
        needed = KEY + 6 + max((text_width(name, KEY * POINTS) for name in names), default=0) + 16
        if x > PAD and x + needed > wide - PAD:
            x, at = PAD, at + KEY * 1.6
        parts.append(
            key.replace("<svg", f'<svg x="{x:.0f}" y="{at - KEY + 1:.0f}" width="{KEY}" height="{KEY}"', 1)
        )
        for number, name in enumerate(names):
            at += KEY * 1.4 if number else 0
            parts.append(_text(x + KEY + 6, at, name, KEY, TEXT_INK))
        x += needed
        if len(names) > 1:
            x = wide
    return at + KEY * 1.6


def _text(x: float, y: float, text: str, size: float, colour: str, bold: bool = False) -> str:
    weight = ' font-weight="600"' if bold else ""
    shown = " ".join(UNSEEN.sub(lambda found: found[0] if found[0].isspace() else "", text).split())
    return (
        f'<text x="{x:.0f}" y="{y:.0f}" fill="{colour}" font-size="{size:.0f}"{weight} '
        f"font-family=\"'IBM Plex Sans', 'Noto Sans', sans-serif\">{escape(shown)}</text>"
    )
