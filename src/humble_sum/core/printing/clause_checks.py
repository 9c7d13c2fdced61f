"""What texts of clauses are held to: currencies, locales, steps, and words beside a figure.

A check stands in the type of its clause, in `resolved_clauses`. Pydantic reads it from there where a file
is checked; rules that are plainly right are told by it without Pydantic, which takes long to import.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any

from humble_sum.core.amounts import read_amount
from humble_sum.core.errors import InputError
from humble_sum.core.locales import currencies, resolve
from humble_sum.core.printing.clause_values import RECORD, printable


@dataclass(frozen=True)
class TextCheck:
    """A text that `check` takes without a ValueError, at most so long. None is left to the type."""

    check: Callable[[str], object]
    most: int | None = None
    description: str = ""

    def accepts(self, value: object) -> bool:
        """Whether a value of the type passes."""
        if not isinstance(value, str):
            return value is None
        if self.most is not None and len(value) > self.most:
            return False
        try:
            self.check(value)
        except (ValueError, InputError):
            return False
        return True

    def _checked(self, value: Any) -> Any:
        if value is not None:
            self.check(value)
        return value

    def __get_pydantic_core_schema__(self, source: object, handler: Callable[[object], Any]) -> Any:
        from pydantic_core.core_schema import no_info_after_validator_function, str_schema

        inner = handler(source) if self.most is None else str_schema(max_length=self.most)
        return no_info_after_validator_function(self._checked, inner)

    def __get_pydantic_json_schema__(self, core: Any, handler: Callable[[Any], dict[str, Any]]) -> Any:
        described = {"description": self.description} if self.description else {}
        return handler(core) | described


@dataclass(frozen=True)
class Described:
    """Words for the published schema, and how many items a list may have."""

    description: str = ""
    most: int | None = None

    def accepts(self, _: object) -> bool:
        """Every value: the rest is the type's."""
        return True

    def __get_pydantic_core_schema__(self, source: object, handler: Callable[[object], Any]) -> Any:
        inner = handler(source)
        return inner if self.most is None else inner | {"max_length": self.most}

    def __get_pydantic_json_schema__(self, core: Any, handler: Callable[[Any], dict[str, Any]]) -> Any:
        described = {"description": self.description} if self.description else {}
        return handler(core) | described


def currency_code(code: str) -> None:
    """Refuse what is no currency of ISO 4217."""
    if not currencies.known(code):
        raise ValueError(f'"{code}" is not an ISO 4217 currency code')


def _currency_clause(code: str) -> None:
    if code != RECORD:
        currency_code(code)


def _locale_tag(tag: str) -> None:
    try:
        resolve(tag)
    except InputError as refusal:
        raise ValueError(str(refusal.faults[0].what).rstrip(".")) from None


def _step_text(text: str) -> None:
    if read_amount(text) <= 0:
        raise ValueError("a step is more than zero")


def _beside(text: str) -> None:
    if text:
        printable(text)


Currency = Annotated[str | None, TextCheck(currency_code)]
CurrencyClause = Annotated[str | None, TextCheck(_currency_clause)]
Beside = Annotated[str, TextCheck(_beside, most=24)]
Step = Annotated[
    str | None, TextCheck(_step_text, description="Rounding increment in printed terms, as a decimal string.")
]
LocaleTag = Annotated[str, TextCheck(_locale_tag)]
