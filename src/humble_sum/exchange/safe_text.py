"""Text on its way into files: nothing in it starts a formula, breaks a table, becomes a link, or turns the
text behind it around."""

from __future__ import annotations

import re
from html import escape

# What programs take off, or do not show, before a sign that starts a formula: blanks, controls, formats, and
# the other characters that Unicode says are ignored where they cannot be shown (UAX #44, Default_Ignorable).
IGNORED = (
    "\x00-\x20\x7f-\xa0\xad\u034f\u0600-\u0605\u061c\u06dd\u070f\u0890\u0891\u08e2\u115f\u1160\u1680"
    "\u17b4\u17b5\u180b-\u180f\u2000-\u200f\u2028-\u202f\u205f-\u206f\u2800\u3000\u3164\ufe00-\ufe0f\ufeff"
    "\uffa0\ufff0-\ufffb\U000110bd\U000110cd\U00013430-\U0001343f\U0001bca0-\U0001bca3"
    "\U0001d173-\U0001d17a\U000e0000-\U000e0fff"
)
UNSEEN = re.compile(f"[{IGNORED}]")
# The signs themselves, full and small forms too, and what stands between cells where commas do not.
FORMULA = "=+\\-@\uff1d\uff0b\uff0d\uff20\ufe66\ufe62\ufe63\ufe6b"
BETWEEN = ";|\t\r\n\v\f\x1c-\x1f\x85\u2028\u2029"
# A quotation mark there is taken for one around the cell.
STARTS = re.compile(f'(^|[{BETWEEN}])((?:(?![{BETWEEN}])["{IGNORED}])*[{FORMULA}])')
STARTS_A_CELL = "\t\r\n\v\f"
MARKS = "\\|*_`<[]~#&"
# What is made a link where it stands bare (GitHub Flavored Markdown, 6.9).
LINK = re.compile(r"(?:https?|ftp|mailto|xmpp):|www\.|(?<=\w)@(?=\w)", re.IGNORECASE)
STARTS_A_BLOCK = re.compile(r"(\d{1,9})([.)])(?=\s|$)|([-+>=])(?=\s|$|[-=>])")
# Directions that a text opens and does not close (UAX #9, 2.1 to 2.4), and what closes them.
CLOSES = dict.fromkeys("\u202a\u202b\u202d\u202e", "\u202c") | dict.fromkeys("\u2066\u2067\u2068", "\u2069")

TURNS = re.compile(f"[{''.join(CLOSES)}{''.join(sorted(set(CLOSES.values())))}]")


def neutral(text: str) -> str:
    """Text that no spreadsheet will run, whatever it takes to stand between cells: an apostrophe before what
    would start a formula, and before whatever stands there unseen."""
    plain = text.replace("\0", "") if "\0" in text else text
    guarded = STARTS.sub(r"\1'\2", plain)
    return closed(f"'{guarded}" if plain and plain[0] in STARTS_A_CELL else guarded)


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
