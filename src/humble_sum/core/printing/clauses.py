"""Clauses: single decisions about printing, as rulebook files spell them."""

from __future__ import annotations

import unicodedata
from collections.abc import Mapping
from decimal import Decimal
from functools import cached_property
from typing import Annotated, Any, Literal

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    SerializerFunctionWrapHandler,
    ValidationError,
    model_serializer,
    model_validator,
)

from humble_sum.core.amounts import Amount, read_amount, scaled
from humble_sum.core.errors import InputError, faults_of
from humble_sum.core.locales import Digits, currencies, resolve
from humble_sum.core.locales.currencies import MoneySign
from humble_sum.core.printing.rounding import Mode

Form = Literal[
    "amount",
    "number",
    "percent",
    "basis_points",
    "points",
    "multiple",
    "yes_no",
    "date",
    "time",
    "text",
]
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
    "fit",
]
Ladder = Literal["western", "indian", "myriad"]
ScaleWord = Literal["caption", "short", "full", "none"]
Grouping = Literal["locale", "threes", "lakhs", "fours", "none"]
Negative = Literal["minus", "trailing_minus", "brackets", "cr", "triangle", "unsigned"]
Tone = Literal["plain", "rust"]
RoundsAway = Literal["figure", "signed", "dash", "less_than", "reveal"]
# The powers of ten of each ladder, and the scales that are said so; myriads have no scale of ours.
LADDERS: dict[Ladder, dict[int, str]] = {
    "western": {3: "thousands", 6: "millions", 9: "billions", 12: "trillions"},
    "indian": {3: "thousands", 5: "lakhs", 7: "crores", 12: "lakh_crores"},
    "myriad": {4: "", 8: "", 12: ""},
}
FORM_POWERS: dict[Form, int] = {"percent": -2, "points": -2, "basis_points": -4}
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
RECORD = "record"  # the currency that a line is kept in


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


def currency_clause(code: str | None) -> str | None:
    return code if code == RECORD else currency_code(code)


def locale_tag(tag: str) -> str:
    try:
        resolve(tag)
    except InputError as refusal:
        raise ValueError(str(refusal.faults[0].what).rstrip(".")) from None
    return tag


def step_text(text: str | None) -> str | None:
    if text is None:
        return None
    step = read_amount(text)
    if step <= 0:
        raise ValueError("a step is more than zero")
    return text


class FixedDecimals(BaseModel):
    """Always this many decimals."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
    fixed: Annotated[int, Field(ge=0, le=MOST_DECIMALS, strict=True)]


class UpToDecimals(BaseModel):
    """At most this many decimals; zeros at the end are dropped."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
    up_to: Annotated[int, Field(ge=0, le=MOST_DECIMALS, strict=True)]


class SignificantDigits(BaseModel):
    """This many digits that count, from the first that is not zero."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
    significant: Annotated[int, Field(ge=1, le=MOST_DECIMALS, strict=True)]


class Condition(BaseModel):
    """When a band applies, told from the exact amount: below, above, or from and to, both included."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True, populate_by_name=True)
    below: Amount | None = None
    above: Amount | None = None
    from_: Amount | None = Field(default=None, alias="from")
    to: Amount | None = None

    @model_serializer(mode="wrap")
    def only_what_is_said(self, write: SerializerFunctionWrapHandler) -> dict[str, Any]:
        return {name: value for name, value in write(self).items() if value is not None}

    @model_validator(mode="after")
    def says_something(self) -> Condition:
        if not self.model_fields_set:
            raise ValueError("a band needs below, above, from or to")
        return self

    def holds(self, amount: Decimal) -> bool:
        return (
            (self.below is None or amount < self.below)
            and (self.above is None or amount > self.above)
            and (self.from_ is None or amount >= self.from_)
            and (self.to is None or amount <= self.to)
        )


class Band(BaseModel):
    """A mark and a tone for amounts within some bounds."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
    when: Condition
    mark: Annotated[str, Field(max_length=8), AfterValidator(lambda text: text and printable(text))] = ""
    tone: Tone = "plain"

    @model_validator(mode="after")
    def seen_without_colour(self) -> Band:
        if self.tone == "rust" and not self.mark:
            raise ValueError("a tone alone says nothing to a reader without colour; add a mark")
        return self


class YesNoWords(BaseModel):
    """What yes and no print as."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
    yes: Annotated[str, Field(min_length=1, max_length=24), AfterValidator(printable)]
    no: Annotated[str, Field(min_length=1, max_length=24), AfterValidator(printable)]


class CountWords(BaseModel):
    """The unit of a count: one litre, many litres."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
    one: Annotated[str, Field(min_length=1, max_length=24), AfterValidator(printable)]
    many: Annotated[str, Field(min_length=1, max_length=24), AfterValidator(printable)]


class Width(BaseModel):
    """Most characters a figure may take, and what gives way where it takes more. It is never cut."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
    most: Annotated[int, Field(ge=1, le=200, strict=True)]
    gives_way: Literal["nothing", "decimals", "scale"] = "nothing"


class Word(BaseModel):
    """A word printed instead of a figure."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
    word: Annotated[str, Field(min_length=1, max_length=24), AfterValidator(printable)]


Decimals = FixedDecimals | UpToDecimals | SignificantDigits | Literal["currency"]
Zero = Literal["figure", "dash", "blank"] | Word
Missing = Literal["blank", "dash"] | Word
Currency = Annotated[str | None, AfterValidator(currency_code)]
CurrencyClause = Annotated[str | None, AfterValidator(currency_clause)]
Beside = Annotated[str, Field(max_length=24), AfterValidator(lambda text: text and printable(text))]
Step = Annotated[
    str | None,
    AfterValidator(step_text),
    Field(description="Rounding increment in printed terms, as a decimal string."),
]
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
    currency: CurrencyClause = None
    money_sign: MoneySign = "symbol"
    money_shown: MoneyShown = "every"
    scale: Scale = "ones"
    ladder: Ladder | None = None
    scale_word: ScaleWord = "caption"
    decimals: Decimals = FixedDecimals(fixed=0)
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
    bands: tuple[Band, ...] = Field(default=(), max_length=12)
    words: YesNoWords | CountWords | None = None
    line_up: bool = True
    shown: bool = Field(default=True, description="Whether it prints at all; what does not still counts.")
    width: Width | None = None

    @model_validator(mode="before")
    @classmethod
    def one_way_of_decimals(cls, data: Any) -> Any:
        decimals = data.get("decimals") if isinstance(data, dict) else None
        if isinstance(decimals, dict) and len({"fixed", "up_to", "significant"} & set(decimals)) > 1:
            raise ValueError("decimals are either fixed, up_to or significant; keep one of them")
        return data

    @model_validator(mode="after")
    def no_contradictions(self) -> Clauses:
        if type(self) is not Clauses:
            return self  # clauses of several rules together: the narrower one has been chosen
        named = self.model_fields_set
        if self.scale == "fit" and "scale_word" in named and self.scale_word in ("caption", "none"):
            raise ValueError(
                "a scale that fits changes with the figure, so its word has to stand beside it; "
                "say scale_word short or full"
            )
        if self.ladder and "scale" in named and self.scale != "fit":
            raise ValueError("a ladder is for a scale that fits; say scale fit, or leave the ladder out")
        if self.step is not None and isinstance(self.decimals, FixedDecimals) and "decimals" in named:
            exponent = read_amount(self.step).normalize().as_tuple().exponent
            if isinstance(exponent, int) and -exponent > self.decimals.fixed:
                raise ValueError(
                    f"the step {self.step} is finer than {self.decimals.fixed} decimals can show; "
                    "add decimals or take a larger step"
                )
        if self.step is not None and isinstance(self.decimals, SignificantDigits) and "decimals" in named:
            raise ValueError("a step and significant digits round twice; keep one of them")
        return self

    def named(self) -> dict[str, Any]:
        """The clauses that were named, with their values."""
        said = self.model_fields_set
        return {name: getattr(self, name) for name in NAMES if name in said}

    def spelled(self) -> dict[str, Any]:
        """The same as JSON."""
        return self.model_dump(mode="json", include=self.model_fields_set, by_alias=True)


NAMES: tuple[str, ...] = tuple(Clauses.model_fields)


class ResolvedClauses(Clauses):
    """Every clause, decided; the fields' defaults are what prints when no rule speaks.

    `fitted` is the power of ten that a scale that fits has come to; it is not part of a file.
    """

    # Made from clauses that were checked already, so its own check is built for who asks for one.
    model_config = ConfigDict(defer_build=True)
    fitted: int | None = None

    @classmethod
    def of(cls, named: Mapping[str, Any]) -> ResolvedClauses:
        """Clauses that were checked already, and all others as they are where no rule speaks."""
        return UNSAID.model_copy(update=named)

    @cached_property
    def places(self) -> int:
        """How many decimals are printed, at most."""
        match self.decimals:
            case FixedDecimals(fixed=places) | UpToDecimals(up_to=places):
                return places
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
        return self.power - self.places

    @cached_property
    def multiple(self) -> int:
        """How many units a step is; 1 where there is no step but the last digit."""
        if self.step is None:
            return 1
        return max(1, int(scaled(read_amount(self.step), self.places)))

    def at(self, **changes: Any) -> ResolvedClauses:
        """The same with some clauses changed, without a check of the others."""
        return UNSAID.model_copy(update={name: getattr(self, name) for name in ALL} | changes)


ALL = (*NAMES, "fitted")
# Only ever copied, five times as fast as making one is; nothing of it is read, so a copy has kept nothing.
UNSAID = ResolvedClauses.model_construct()


def read_clauses(data: object) -> Clauses:
    """Clauses from parsed JSON. Raises InputError, naming each clause or value not known."""
    try:
        return Clauses.model_validate(data)
    except ValidationError as error:
        raise InputError("bad-rule", faults_of(error, "clauses")) from None


def over(*several: Clauses) -> Clauses:
    """The clauses of several rules as one, the later over the earlier. Raises InputError where they
    contradict each other, with the way out."""
    named: dict[str, Any] = {}
    for each in several:
        named |= each.named()
    try:
        return Clauses(**named)
    except ValidationError as error:
        raise InputError("bad-rule", faults_of(error, "clauses")) from None
