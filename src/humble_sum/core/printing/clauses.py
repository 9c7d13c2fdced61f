"""Clauses: single decisions about printing, as rulebook files spell them, read and checked."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING, Any, Self, get_type_hints

from pydantic import (
    BaseModel,
    ConfigDict,
    ValidationError,
    create_model,
    field_validator,
    model_validator,
)

from humble_sum.core.errors import InputError, faults_of
from humble_sum.core.printing.bands import Band
from humble_sum.core.printing.resolved_clauses import DEFAULTS, NAMES, ResolvedClauses, contradiction


def without_defaults(schema: dict[str, Any]) -> None:
    """A clause that is not named decides nothing, so the schema promises no default."""
    for field in schema["properties"].values():
        field.pop("default", None)


class _Named(BaseModel):
    """Some clauses. Only those named decide anything; `currency` may be named as null."""

    model_config = ConfigDict(extra="forbid", frozen=True, json_schema_extra=without_defaults)

    def __eq__(self, other: object) -> bool:
        """Clauses that name the same and say the same of it: naming what is so by default decides it too."""
        same = isinstance(other, _Named) and self.model_fields_set == other.model_fields_set
        return same and super().__eq__(other)

    @field_validator("decimals", mode="before", check_fields=False)
    @classmethod
    def one_way_of_decimals(cls, data: Any) -> Any:
        if isinstance(data, dict) and len({"fixed", "up_to", "significant"} & set(data)) > 1:
            raise ValueError("decimals are either fixed, up_to or significant; keep one of them")
        return data

    @model_validator(mode="after")
    def no_contradictions(self) -> Self:
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


TYPES = get_type_hints(ResolvedClauses, localns={"Band": Band}, include_extras=True)
if TYPE_CHECKING:

    class Clauses(_Named):
        """Some clauses; a field for each of `ResolvedClauses`, with its type."""

        def __init__(self, **named: Any): ...
        def __getattr__(self, name: str) -> Any: ...

else:
    Clauses = create_model(
        "Clauses",
        __base__=_Named,
        __doc__=_Named.__doc__,
        __module__=__name__,
        **{name: (TYPES[name], DEFAULTS[name]) for name in NAMES},
    )


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
