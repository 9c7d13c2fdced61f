"""Taxonomies of others, whose concepts lines can be tagged with (XBRL 2.1, section 5)."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

# A prefix and a local name, each an NCName in letters that every processor takes (Namespaces in XML 1.0).
Concept = Annotated[
    str | None, Field(max_length=200, pattern=r"^[A-Za-z_][A-Za-z0-9_.-]*:[A-Za-z_][A-Za-z0-9_.-]*$")
]
Address = Annotated[str, Field(max_length=500, pattern=r"^(https?://|urn:)[^\s<>\"]+$")]
# Prefixes that tagged documents have already.
TAKEN = ("pack", "ix", "ixt", "link", "xbrli", "xbrldi", "iso4217", "xlink", "xs", "xsi", "xml", "xmlns")


class Taxonomy(BaseModel):
    """A taxonomy by its prefix, its namespace, and the schema that it begins with.

    Concepts are taken to be declared there under the id PREFIX_NAME, as published taxonomies mostly have it.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)
    prefix: Annotated[str, Field(max_length=60, pattern=r"^[A-Za-z_][A-Za-z0-9_.-]*$")]
    namespace: Address
    schema_at: Address
