"""Text on its way into files: nothing in it starts a formula, breaks a table, becomes a link, or turns the
text behind it around."""

from __future__ import annotations

import re
from html import escape
from itertools import takewhile

# Blanks and signs that stand before a formula and that spreadsheets take off, or do not show.
UNSEEN = "\u200b\u200c\u200d\u200e\u200f\u2060\u00ad\ufeff\u061c\u180e"
FORMULA = "=+-@\uff1d\uff0b\uff0d\uff20"
STARTS_A_CELL = "\t\r\n\v\f"
MARKS = "\\|*_`<[]~#&"
# What is made a link where it stands bare (GitHub Flavored Markdown, 6.9).
LINK = re.compile(r"(?:https?|ftp|mailto|xmpp):|www\.|(?<=\w)@(?=\w)", re.IGNORECASE)
STARTS_A_BLOCK = re.compile(r"(\d{1,9})([.)])(?=\s|$)|([-+>=])(?=\s|$|[-=>])")
# Directions that a text opens and does not close (UAX #9, 2.1 to 2.4), and what closes them.
CLOSES = dict.fromkeys("\u202a\u202b\u202d\u202e", "\u202c") | dict.fromkeys("\u2066\u2067\u2068", "\u2069")

TURNS = re.compile(f"[{''.join(CLOSES)}{''.join(sorted(set(CLOSES.values())))}]")


def neutral(text: str) -> str:
    """Text that a spreadsheet will not run: an apostrophe before what would start a formula, whatever stands
    unseen before it."""
    ahead = "".join(takewhile(lambda c: c.isspace() or c in UNSEEN or ord(c) < 32, text))
    begins = text[len(ahead) : len(ahead) + 1]
    runs = bool(begins and begins in FORMULA) or bool(text and text[0] in STARTS_A_CELL)
    return closed(f"'{text}" if runs else text)


def escaped(text: str) -> str:
    """Text that a Markdown table or paragraph prints as it is, in one line."""
    plain = "".join(f"\\{c}" if c in MARKS else c for c in one_line(text))
    plain = LINK.sub(lambda found: _broken(found[0]), plain)
    return closed(STARTS_A_BLOCK.sub(_no_block, plain, count=1) if STARTS_A_BLOCK.match(plain) else plain)


def closed(text: str) -> str:
    """Text whose directions end where it ends: what it opens is closed, and what closes nothing is left
    out."""
    if text.isascii() or not TURNS.search(text):
        return text
    open_: list[str] = []
    made = []
    for character in text:
        if character in CLOSES:
            open_.append(CLOSES[character])
        elif character in CLOSES.values():
            if not open_ or open_[-1] != character:
                continue
            open_.pop()
        made.append(character)
    return "".join(made) + "".join(reversed(open_))


def one_line(text: str) -> str:
    """Text without breaks of lines; blanks within it stay as they are."""
    return re.sub(r"\s*[\r\n\v\f\x1c-\x1e\x85\u2028\u2029]+\s*", " ", text)


def isolated(text: str) -> str:
    """Text in a page, its direction its own (HTML, 4.5.24)."""
    return f"<bdi>{escape(text)}</bdi>"


def _broken(link: str) -> str:
    """The start of a link with an entity in it, which prints the same and links to nothing."""
    return link.replace(":", "&#58;").replace(".", "&#46;").replace("@", "&#64;")


def _no_block(found: re.Match[str]) -> str:
    return f"{found[1]}\\{found[2]}" if found[1] else f"\\{found[0]}"
