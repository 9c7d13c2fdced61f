"""What was said of numbers in documents made elsewhere: kept by what stands around each, so that it is
known again in the next version, in another place and under another file name."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field

from humble_sum.core.statements.names import FigureRef, Reason, cleaned

MOST_AROUND = 400  # characters
Around = Annotated[str, Field(min_length=1, max_length=MOST_AROUND), BeforeValidator(cleaned)]


class SaidOfNumber(BaseModel):
    """What is said of a number: that it is none of the pack's figures, that it is another figure, or why
    it may stay as it is. `around` is what stands around it; of an answer for all alike it is the
    number's own text."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    around: Around
    alike: bool = False
    answer: Literal["other", "figure", "stays"]
    figure: FigureRef | None = None
    reason: Reason = ""
    number: Annotated[str, Field(max_length=120), BeforeValidator(cleaned)] = ""
    document: Annotated[str, Field(max_length=300), BeforeValidator(cleaned)] = ""


class DocumentAnswer(SaidOfNumber):
    """What was said of a number, by whom and when."""

    author: Annotated[str, Field(max_length=80)] = ""
    made: Annotated[str, Field(max_length=40)] = ""

    @property
    def key(self) -> tuple[str, bool]:
        """What no other answer of a pack is about."""
        return self.around, self.alike


def with_answer(answers: tuple[DocumentAnswer, ...], answer: DocumentAnswer) -> tuple[DocumentAnswer, ...]:
    """The answers with one more, in the place of any that is about the same."""
    return (*(each for each in answers if each.key != answer.key), answer)
