"""Every clause, decided: what printing works with."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields
from functools import cached_property
from typing import TYPE_CHECKING, Annotated, Any, Literal

from humble_sum.core.amounts import read_amount, scaled
from humble_sum.core.locales import Digits, currencies
from humble_sum.core.locales.currencies import MoneySign
from humble_sum.core.printing.clause_checks import Beside, CurrencyClause, Described, LocaleTag, Step
from humble_sum.core.printing.clause_values import (
    FORM_POWERS,
    POWERS,
    CountWords,
    Decimals,
    FixedDecimals,
    Form,
    Grouping,
    Ladder,
    Missing,
    MoneyShown,
    Negative,
    RoundsAway,
    Scale,
    ScaleWord,
    SignificantDigits,
    Tone,
    UpToDecimals,
    Width,
    YesNoWords,
    Zero,
)
from humble_sum.core.printing.rounding import Mode

if TYPE_CHECKING:
    from humble_sum.core.printing.bands import Band

NO_DECIMALS = FixedDecimals(0)


@dataclass(frozen=True)
class ResolvedClauses:
    """Every clause, decided; the defaults are what prints when no rule speaks.

    A field here is a clause: its type says what files may say of it, and `clauses` and `plain_rule` read
    that. Made from clauses that were checked. `fitted` is the power of ten that a scale that fits has
    come to; it is not part of a file.
    """

    form: Form = "amount"
    currency: CurrencyClause = None
    money_sign: MoneySign = "symbol"
    money_shown: MoneyShown = "every"
    scale: Scale = "ones"
    ladder: Ladder | None = None
    scale_word: ScaleWord = "caption"
    decimals: Decimals = NO_DECIMALS
    rounding: Mode = "half_up"
    step: Step = None
    locale: LocaleTag = "en-US"
    digits: Digits = "locale"
    grouping: Grouping = "locale"
    negative: Negative = "minus"
    negative_tone: Tone = "plain"
    zero: Zero = "figure"
    rounds_away: RoundsAway = "figure"
    missing: Missing = "blank"
    plus: Literal["never", "always"] = "never"
    before: Beside = ""
    after: Beside = ""
    bands: Annotated[tuple[Band, ...], Described(most=12)] = ()
    words: YesNoWords | CountWords | None = None
    line_up: bool = True
    shown: Annotated[bool, Described("Whether it prints at all; what does not still counts.")] = True
    width: Width | None = None
    fitted: int | None = None

    @classmethod
    def of(cls, named: Mapping[str, Any]) -> ResolvedClauses:
        """Clauses that were checked already, and all others as they are where no rule speaks."""
        # Written into it at once, several times as fast as setting one frozen field after the other.
        made = object.__new__(cls)
        made.__dict__.update(DEFAULTS)
        made.__dict__.update(named)
        return made

    def at(self, **changes: Any) -> ResolvedClauses:
        """The same with some clauses changed, without a check of the others."""
        mine = self.__dict__
        return ResolvedClauses.of({name: mine[name] for name in DEFAULTS} | changes)

    @cached_property
    def decimal_places(self) -> int:
        """How many decimals are printed, at most."""
        match self.decimals:
            case FixedDecimals(fixed=decimal_places) | UpToDecimals(up_to=decimal_places):
                return decimal_places
            case SignificantDigits():
                return 0
            case _:
                return currencies.minor_units(self.currency) if self.currency else 2

    @cached_property
    def power(self) -> int:
        """The power of ten that is one in print: 5 for lakhs, −2 for a percentage."""
        if self.form in FORM_POWERS:
            return FORM_POWERS[self.form]
        if self.scale == "fit":
            return self.fitted or 0
        return POWERS[self.scale]

    @cached_property
    def exponent(self) -> int:
        """The unit is 10**exponent: one step in the last printed digit, where it is the same for
        every amount."""
        return self.power - self.decimal_places

    @cached_property
    def multiple(self) -> int:
        """How many units a step is; 1 where there is no step but the last digit."""
        if self.step is None:
            return 1
        return max(1, int(scaled(read_amount(self.step), self.decimal_places)))


DEFAULTS: dict[str, Any] = {field.name: field.default for field in fields(ResolvedClauses)}
NAMES: tuple[str, ...] = tuple(name for name in DEFAULTS if name != "fitted")


def contradiction(named: Mapping[str, Any]) -> str | None:
    """Why clauses cannot be said together in one rule, with the way out; None where they can."""
    scale, decimals, step = named.get("scale"), named.get("decimals"), named.get("step")
    if scale == "fit" and named.get("scale_word") in ("caption", "none"):
        return (
            "a scale that fits changes with the figure, so its word has to stand beside it; "
            "say scale_word short or full"
        )
    if named.get("ladder") and scale not in (None, "fit"):
        return "a ladder is for a scale that fits; say scale fit, or leave the ladder out"
    if step is not None and isinstance(decimals, FixedDecimals):
        exponent = read_amount(step).normalize().as_tuple().exponent
        if isinstance(exponent, int) and -exponent > decimals.fixed:
            return (
                f"the step {step} is finer than {decimals.fixed} decimals can show; "
                "add decimals or take a larger step"
            )
    if step is not None and isinstance(decimals, SignificantDigits):
        return "a step and significant digits round twice; keep one of them"
    return None
