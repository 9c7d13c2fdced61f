"""Clauses: single decisions about printing, as rulebook files spell them, read and checked."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, Any, Literal

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    ValidationError,
    field_validator,
    model_validator,
)

from humble_sum.core.amounts import read_amount
from humble_sum.core.errors import InputError, faults_of
from humble_sum.core.locales import Digits, currencies, resolve
from humble_sum.core.locales.currencies import MoneySign
from humble_sum.core.printing.bands import Band
from humble_sum.core.printing.clause_values import (
    RECORD,
    CountWords,
    Decimals,
    Form,
    Grouping,
    Ladder,
    Missing,
    MoneyShown,
    Negative,
    RoundsAway,
    Scale,
    ScaleWord,
    Tone,
    Width,
    YesNoWords,
    Zero,
    printable,
)
from humble_sum.core.printing.resolved_clauses import NAMES, ResolvedClauses, contradiction
from humble_sum.core.printing.rounding import Mode


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

    model_config = ConfigDict(extra="forbid", frozen=True, json_schema_extra=without_defaults)
    form: Form = ResolvedClauses.form
    currency: CurrencyClause = ResolvedClauses.currency
    money_sign: MoneySign = ResolvedClauses.money_sign
    money_shown: MoneyShown = ResolvedClauses.money_shown
    scale: Scale = ResolvedClauses.scale
    ladder: Ladder | None = ResolvedClauses.ladder
    scale_word: ScaleWord = ResolvedClauses.scale_word
    decimals: Decimals = ResolvedClauses.decimals
    rounding: Mode = ResolvedClauses.rounding
    step: Step = ResolvedClauses.step
    locale: LocaleTag = ResolvedClauses.locale
    digits: Digits = ResolvedClauses.digits
    grouping: Grouping = ResolvedClauses.grouping
    negative: Negative = ResolvedClauses.negative
    negative_tone: Tone = ResolvedClauses.negative_tone
    zero: Zero = ResolvedClauses.zero
    rounds_away: RoundsAway = ResolvedClauses.rounds_away
    missing: Missing = ResolvedClauses.missing
    plus: Literal["never", "always"] = ResolvedClauses.plus
    before: Beside = ResolvedClauses.before
    after: Beside = ResolvedClauses.after
    bands: tuple[Band, ...] = Field(default=ResolvedClauses.bands, max_length=12)
    words: YesNoWords | CountWords | None = ResolvedClauses.words
    line_up: bool = ResolvedClauses.line_up
    shown: bool = Field(
        default=ResolvedClauses.shown, description="Whether it prints at all; what does not still counts."
    )
    width: Width | None = ResolvedClauses.width

    def __eq__(self, other: object) -> bool:
        """Clauses that name the same and say the same of it: naming what is so by default decides it too."""
        same = isinstance(other, Clauses) and self.model_fields_set == other.model_fields_set
        return same and super().__eq__(other)

    @field_validator("decimals", mode="before")
    @classmethod
    def one_way_of_decimals(cls, data: Any) -> Any:
        if isinstance(data, dict) and len({"fixed", "up_to", "significant"} & set(data)) > 1:
            raise ValueError("decimals are either fixed, up_to or significant; keep one of them")
        return data

    @model_validator(mode="after")
    def no_contradictions(self) -> Clauses:
        if said := contradiction(self.named()):
            raise ValueError(said)
        return self

    def named(self) -> dict[str, Any]:
        """The clauses that were named, with their values."""
        said = self.model_fields_set
        return {name: getattr(self, name) for name in NAMES if name in said}

    def spelled(self) -> dict[str, Any]:
        """The same as JSON."""
        return self.model_dump(mode="json", include=self.model_fields_set, by_alias=True)


def spelled(clauses: ResolvedClauses, names: Iterable[str] = NAMES) -> dict[str, Any]:
    """Clauses that are in force, those of the names, as rulebook files spell them."""
    return Clauses.model_construct(**{name: getattr(clauses, name) for name in names}).spelled()


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
