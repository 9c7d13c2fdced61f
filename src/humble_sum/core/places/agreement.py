"""Whether what is placed agrees with the page of its edition.

At the page's unit it prints what the page prints, nudges included. At a coarser unit it is the rounding
of the exact amount; a reader who rounds the page may get another text, which is said. At a finer unit it
is the rounding of the exact amount and rounds to what the page prints; where the page was nudged it shows
the nudge, which somebody has to answer.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from humble_sum.core.amounts import of_units
from humble_sum.core.places.placed_figure import Placed, same_unit, unit_of
from humble_sum.core.places.typed_figures import Typed
from humble_sum.core.printing.figure import print_amount, scaled_text
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.rounding import position, rounded
from humble_sum.core.proof.figures import UNCOUNTED, Figure

Standing = Literal["agrees", "shows_nudge", "disagrees"]
Way = Literal["follow", "page_unit", "release", "accept", "remove", "every_part"]


@dataclass(frozen=True)
class Agreement:
    """How what is placed stands to the page: what is found, in a sentence; `off` is a short word for the
    margin, and `ways` what would settle it."""

    standing: Standing
    says: str = ""
    off: str = ""
    ways: tuple[Way, ...] = ()


AGREES = Agreement("agrees")


def agreement(placed: Placed, said: bool = True) -> Agreement:
    """How a placed figure stands to its page; what one that agrees has to say is left out where it is not
    to be `said`."""
    if placed.gone:
        return Agreement("disagrees", placed.gone, "gone", ("remove",))
    if placed.shows.measure != "figure":
        return _of_measure(placed) if said else AGREES
    page, clauses = placed.page, placed.clauses
    assert page is not None and clauses is not None
    if page.exact is None or page.units is None or clauses.form in UNCOUNTED or not clauses.shown:
        return AGREES
    if same_unit(page, clauses):
        return AGREES
    if unit_of(page.exact, clauses) >= page.exponent:
        return _coarser(placed, page, clauses) if said else AGREES
    return _finer(placed, page)


def _of_measure(placed: Placed) -> Agreement:
    if placed.no_meaning:
        return Agreement("agrees", f"It prints {placed.text}, as it is {placed.no_meaning}.")
    if placed.differs:
        of, other = ("printed", "exact") if placed.shows.printed else ("exact", "printed")
        says = f"Worked out from {of} amounts. From {other} ones it would print {placed.differs}."
        return Agreement("agrees", says)
    return AGREES


def _coarser(placed: Placed, page: Figure, clauses: ResolvedClauses) -> Agreement:
    """What a reader who rounds the page would get."""
    assert page.units is not None
    printed = of_units(page.units, page.exponent)
    again = print_amount(printed, clauses, usual_sign=page.usual_sign).full_text
    if again == placed.text:
        return Agreement("agrees", f"A reader who rounds {page.printed.full_text} gets {again} too.")
    rounds = f"A reader who rounds the page’s {page.printed.full_text} gets {again}"
    says = f"{rounds}; the exact amount is nearer to {placed.text}."
    return Agreement("agrees", says)


def _finer(placed: Placed, page: Figure) -> Agreement:
    assert page.units is not None and placed.printed is not None and placed.printed.units is not None
    shown = of_units(placed.printed.units, placed.printed.exponent)
    back = rounded(position(shown, page.exponent), page.clauses.rounding, page.clauses.multiple)
    if back == page.units:
        return AGREES
    if page.moved:
        if placed.shows.accepted:
            return Agreement("agrees", f"It shows the page’s nudge, accepted: {placed.shows.accepted}")
        says = (
            f"The page prints {page.printed.full_text}, which was moved to make it add; "
            f"{placed.text} rounds to something else."
        )
        return Agreement("shows_nudge", says, "shows the nudge", ("page_unit", "release", "accept"))
    # Rounded twice: 4.145 shows as 4.15 at two decimals, and the page says 4.1.
    says = f"The page prints {page.printed.full_text}; a reader who rounds {placed.text} gets another figure."
    if placed.shows.accepted:
        return Agreement("agrees", f"Accepted: {placed.shows.accepted}")
    return Agreement("shows_nudge", says, "rounds differently", ("page_unit", "accept"))


def typed_agreement(placed: Placed, text: str, typed: Typed | None) -> Agreement:
    """How a text that was typed for a figure, and does not follow it, stands to what it would print;
    `typed` is what the text was read as, where it is a figure."""
    if placed.gone:
        return agreement(placed)
    if _plain(text) == _plain(placed.text):
        says = "Typed by hand. It says what the figure prints, and does not follow it."
        return Agreement("agrees", says, "", ("follow",))
    if typed is None or placed.exact is None or placed.clauses is None:
        says = f"Typed by hand, and the figure prints {placed.text}."
        return Agreement("disagrees", says, "typed differently", ("follow",))
    off = typed.off(placed.exact)
    value = scaled_text(placed.exact, placed.clauses)
    if not off:
        says = f"Typed by hand. It is {value}, rounded, where the figure prints {placed.text}."
        return Agreement("agrees", says, "", ("follow",))
    says = (
        f"{value} does not round to {text or typed.text}, and the figure prints {placed.text}. "
        "This text was typed by hand and does not follow it."
    )
    return Agreement("disagrees", says, f"off by {scaled_text(off, placed.clauses)}", ("follow",))


def _plain(text: str) -> str:
    """The text with one plain space for every run of spaces, also of those that do not break."""
    return " ".join(text.split())
