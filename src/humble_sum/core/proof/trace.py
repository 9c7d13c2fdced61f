"""The trace of a figure: how one exact amount came to its printed text, step by step."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from humble_sum.core.amounts import amount_text, cut_endless
from humble_sum.core.printing.figure import exact_text, scaled_text, units_text
from humble_sum.core.printing.rounding import ROUNDINGS
from humble_sum.core.printing.scaling import caption_word, fitting_scale
from humble_sum.core.proof.figures import Figure
from humble_sum.core.rules.rulebook import Rule

DRESSING = {
    "amount": ("negative",),
    "zero": ("zero",),
    "rounds_away": ("rounds_away", "negative"),
    "missing": ("missing",),
}


FORM_STEPS = {
    "percent": ("Percent", "a hundredth is one"),
    "points": ("Percentage points", "a hundredth is one"),
    "basis_points": ("Basis points", "a ten-thousandth is one"),
}


HIDDEN = "hidden by a rule; it counts in its sums all the same"


@dataclass(frozen=True)
class Step:
    """One step: what it is called, the value after it, why, and the clauses that decided it."""

    name: str
    value: str
    reason: str
    clauses: tuple[tuple[str, Rule | None], ...] = ()


def trace(figure: Figure) -> list[Step]:
    """Exact → scaled → rounded → nudged → dressed, each step with its reason and its rules."""
    clauses, printed = figure.clauses, figure.printed

    def by(*names: str) -> tuple[tuple[str, Rule | None], ...]:
        return tuple((name, figure.decided.origins[name]) for name in names)

    hidden = [] if clauses.shown else [Step("Printed", "nothing", HIDDEN, by("shown"))]
    if figure.exact is None:
        return [
            Step("Exact", "missing", "there is no amount in this cell"),
            *(hidden or [Step("Printed", printed.text, "what a missing amount prints", by("missing"))]),
        ]
    steps = [Step("Exact", exact_text(figure.exact, clauses), "the stored amount", by("currency"))]
    if clauses.form in FORM_STEPS:
        name, why = FORM_STEPS[clauses.form]
        steps.append(Step(name, scaled_text(figure.exact, clauses), why, by("form")))
    elif clauses.power:
        scale: str = clauses.scale
        if scale == "fit":
            scale = fitting_scale(clauses.power, clauses.locale, clauses.ladder)
        word = caption_word(clauses.locale, scale) if scale else f"10^{clauses.power}"
        reason = f"divided by 10 to the power {clauses.power}"
        steps.append(Step(f"In {word}", scaled_text(figure.exact, clauses), reason, by("scale")))
    if printed.own_rounding is None or printed.units is None:
        return [
            *steps,
            Step("Printed", printed.full_text or "blank", "not a number of units", by("form", "words")),
        ]
    steps.append(
        Step(
            ROUNDINGS[clauses.rounding],
            units_text(printed.own_rounding, printed.exponent, clauses),
            "rounded once, from the exact amount",
            by("decimals", "rounding"),
        )
    )
    steps.append(_nudged(figure))
    names = DRESSING[printed.kind]
    if printed.kind == "amount" and printed.units >= 0:
        names = ()
    dressed = by(*names, "grouping", "money_shown")
    steps += hidden or [Step("Printed", printed.full_text or "blank", _dressing(printed.kind), dressed)]
    return steps


def _nudged(figure: Figure) -> Step:
    if figure.held is not None:
        reason = figure.held.reason or "held, so footing may not move it"
        return Step("Held", units_text(figure.units or 0, figure.exponent, figure.clauses), reason)
    if figure.nudge is None:
        resting = " (one made at another unit is resting)" if figure.resting else ""
        return Step("Nudge", "none", f"prints its own rounding{resting}")
    return Step("Nudge", units_text(figure.nudge.units, figure.exponent, figure.clauses), figure.nudge.reason)


def _dressing(kind: str) -> str:
    return {
        "amount": "sign, marks and currency put on",
        "zero": "an exact zero",
        "rounds_away": "not zero, but less than this unit shows",
        "missing": "no amount",
    }[kind]


def drift_text(drift: Decimal) -> str:
    """A drift in units, signed, for people: +0.2965 or −0.5."""
    plain = amount_text(abs_exact(drift))
    plain = plain.rstrip("0").rstrip(".") if "." in plain else plain
    if not drift:
        return "0"
    return ("\u2212" if drift < 0 else "+") + cut_endless(plain)


def abs_exact(amount: Decimal) -> Decimal:
    """The size of an amount, exactly."""
    return amount.copy_abs()
