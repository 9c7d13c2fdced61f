"""What the things of a pack are called by."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from humble_sum.core.rules.rulebook import Id

Label = Annotated[str, Field(min_length=1, max_length=2_000)]
FigureRef = tuple[Id, Id, Id]  # statement, line, column
Reason = Annotated[str, Field(max_length=500)]
