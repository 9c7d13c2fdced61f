"""Amounts as a field of Pydantic's models: read exactly, and written in plain notation."""

from __future__ import annotations

from decimal import Decimal
from typing import Annotated

from pydantic import BeforeValidator, PlainSerializer, WithJsonSchema

from humble_sum.core.amounts import amount_text, read_amount

Amount = Annotated[
    Decimal,
    BeforeValidator(read_amount),
    PlainSerializer(amount_text, return_type=str, when_used="json"),
    WithJsonSchema({"type": "string", "pattern": r"^[+-]?\d+(\.\d*)?$", "examples": ["-1250.40"]}),
]
