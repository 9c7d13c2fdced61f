"""What clauses can say: their choices and the values of several parts, as rulebook files spell them.

Plain data, which printing works with; `clauses` reads and checks it. It is kept apart from the validation
package, whose models take longer to build than a figure takes to print.
"""

from __future__ import annotations

import unicodedata
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar, Literal

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
# How Pydantic takes a value of several parts, where it is asked to: with no part that is not known.
NOTHING_ELSE: dict[str, Any] = {"extra": "forbid"}
RECORD = "record"  # the currency that a line is kept in


def printable(text: str) -> str:
    """Refuse characters that would not show, or would turn the text around them."""
    for character in text:
        if unicodedata.category(character) in ("Cc", "Cf", "Cs", "Co", "Cn", "Zl", "Zp"):
            raise ValueError(f"U+{ord(character):04X} cannot be printed in a word")
    if not text.strip():
        raise ValueError("a word needs at least one letter or mark")
    return text


@dataclass(frozen=True)
class Whole:
    """A part that is a whole number, within bounds that are included, as Pydantic is to take it."""

    least: int
    most: int

    def __get_pydantic_core_schema__(self, source: object, handler: object) -> Any:
        from pydantic_core.core_schema import int_schema

        return int_schema(strict=True, ge=self.least, le=self.most)


class ShortWord:
    """A part that is a word to be printed, as Pydantic is to take it."""

    def __get_pydantic_core_schema__(self, source: object, handler: object) -> Any:
        from pydantic_core.core_schema import no_info_after_validator_function, str_schema

        return no_info_after_validator_function(printable, str_schema(min_length=1, max_length=24))


@dataclass(frozen=True)
class FixedDecimals:
    """Always this many decimals."""

    __pydantic_config__: ClassVar[Any] = NOTHING_ELSE
    fixed: Annotated[int, Whole(0, MOST_DECIMALS)]


@dataclass(frozen=True)
class UpToDecimals:
    """At most this many decimals; zeros at the end are dropped."""

    __pydantic_config__: ClassVar[Any] = NOTHING_ELSE
    up_to: Annotated[int, Whole(0, MOST_DECIMALS)]


@dataclass(frozen=True)
class SignificantDigits:
    """This many digits that count, from the first that is not zero."""

    __pydantic_config__: ClassVar[Any] = NOTHING_ELSE
    significant: Annotated[int, Whole(1, MOST_DECIMALS)]


@dataclass(frozen=True)
class YesNoWords:
    """What yes and no print as."""

    __pydantic_config__: ClassVar[Any] = NOTHING_ELSE
    yes: Annotated[str, ShortWord()]
    no: Annotated[str, ShortWord()]


@dataclass(frozen=True)
class CountWords:
    """The unit of a count: one litre, many litres."""

    __pydantic_config__: ClassVar[Any] = NOTHING_ELSE
    one: Annotated[str, ShortWord()]
    many: Annotated[str, ShortWord()]


@dataclass(frozen=True)
class Width:
    """Most characters a figure may take, and what gives way where it takes more. It is never cut."""

    __pydantic_config__: ClassVar[Any] = NOTHING_ELSE
    most: Annotated[int, Whole(1, 200)]
    gives_way: Literal["nothing", "decimals", "scale"] = "nothing"


@dataclass(frozen=True)
class Word:
    """A word printed instead of a figure."""

    __pydantic_config__: ClassVar[Any] = NOTHING_ELSE
    word: Annotated[str, ShortWord()]


Decimals = FixedDecimals | UpToDecimals | SignificantDigits | Literal["currency"]
Zero = Literal["figure", "dash", "blank"] | Word
Missing = Literal["blank", "dash"] | Word
