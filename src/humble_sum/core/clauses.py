"""Clauses: single decisions about printing, as rulebook files spell them."""

from __future__ import annotations

import unicodedata
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationError

from humble_sum.core import currencies
from humble_sum.core.currencies import MoneySign
from humble_sum.core.faults import Refused, faults_of
from humble_sum.core.locales import TAGS
from humble_sum.core.rounding import Mode

Form = Literal["amount", "number", "percent"]
MoneyShown = Literal["every", "first_and_totals", "caption"]
Scale = Literal[
    "ones",
    "hundreds",
    "thousands",
    "lakhs",
    "millions",
    "crores",
    "billions",
    "lakh_crores",
    "trillions",
]
ScaleWord = Literal["caption", "short", "full", "none"]
Grouping = Literal["locale", "threes", "lakhs", "fours", "none"]
Negative = Literal["minus", "trailing_minus", "brackets", "cr", "triangle", "unsigned"]
RoundsAway = Literal["figure", "signed", "dash", "less_than", "reveal"]

POWERS: dict[str, int] = {
    "ones": 0,
    "hundreds": 2,
    "thousands": 3,
    "lakhs": 5,
    "millions": 6,
    "crores": 7,
    "billions": 9,
    "lakh_crores": 12,
    "trillions": 12,
}
MOST_DECIMALS = 20


def printable(text: str) -> str:
    """Refuse characters that would not show, or would turn the text around them."""
    for character in text:
        if unicodedata.category(character) in ("Cc", "Cf", "Cs", "Co", "Cn", "Zl", "Zp"):
            raise ValueError(f"U+{ord(character):04X} cannot be printed in a word")
    if not text.strip():
        raise ValueError("a word needs at least one letter or mark")
    return text


def currency_code(code: str | None) -> str | None:
    if code is not None and not currencies.known(code):
        raise ValueError(f'"{code}" is not an ISO 4217 currency code')
    return code


def locale_tag(tag: str) -> str:
    if tag not in TAGS:
        raise ValueError(f'"{tag}" is not a locale held here; use one of {", ".join(TAGS)}')
    return tag


class FixedDecimals(BaseModel):
    """Always this many decimals."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    fixed: Annotated[int, Field(ge=0, le=MOST_DECIMALS, strict=True)]


class Word(BaseModel):
    """A word printed instead of a figure."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    word: Annotated[str, Field(min_length=1, max_length=24), AfterValidator(printable)]


Decimals = FixedDecimals | Literal["currency"]
Zero = Literal["figure", "dash", "blank"] | Word
Missing = Literal["blank", "dash"] | Word
Currency = Annotated[str | None, AfterValidator(currency_code)]
LocaleTag = Annotated[str, AfterValidator(locale_tag)]


def without_defaults(schema: dict[str, Any]) -> None:
    """A clause that is not named decides nothing, so the schema promises no default."""
    for field in schema["properties"].values():
        field.pop("default", None)


class Clauses(BaseModel):
    """Some clauses. Only those named decide anything; `currency` may be named as null."""

    model_config = ConfigDict(
        extra="forbid",
        frozen=True,
        json_schema_extra=without_defaults,
    )
    form: Form = "amount"
    currency: Currency = None
    money_sign: MoneySign = "symbol"
    money_shown: MoneyShown = "every"
    scale: Scale = "ones"
    scale_word: ScaleWord = "caption"
    decimals: Decimals = FixedDecimals(fixed=0)
    rounding: Mode = "half_up"
    locale: LocaleTag = "en-US"
    grouping: Grouping = "locale"
    negative: Negative = "minus"
    zero: Zero = "figure"
    rounds_away: RoundsAway = "figure"
    missing: Missing = "blank"

    def named(self) -> dict[str, Any]:
        """The clauses that were named, with their values."""
        return {name: getattr(self, name) for name in NAMES if name in self.model_fields_set}

    def spelled(self) -> dict[str, Any]:
        """The same as JSON."""
        return self.model_dump(mode="json", include=self.model_fields_set)


NAMES: tuple[str, ...] = tuple(Clauses.model_fields)


class InForce(Clauses):
    """Every clause, decided; the fields' defaults are what prints when no rule speaks."""

    @property
    def places(self) -> int:
        """How many decimals are printed."""
        if isinstance(self.decimals, FixedDecimals):
            return self.decimals.fixed
        return currencies.minor_units(self.currency) if self.currency else 2

    @property
    def power(self) -> int:
        """The power of ten that is one in print: 5 for lakhs, −2 for a percentage."""
        return -2 if self.form == "percent" else POWERS[self.scale]

    @property
    def exponent(self) -> int:
        """The unit is 10**exponent: one step in the last printed digit."""
        return self.power - self.places


def read_clauses(data: object) -> Clauses:
    """Clauses from parsed JSON. Raises Refused, naming each clause or value not known."""
    try:
        return Clauses.model_validate(data)
    except ValidationError as error:
        raise Refused("bad-rule", faults_of(error, "clauses")) from None
