"""The extension taxonomy of an edition (XBRL 2.1): a concept for each line, its label, its place, and what
adds up to it (Calculations 1.1), in one schema with its linkbases inside."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterator, Mapping
from xml.sax.saxutils import quoteattr

from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.taxonomy import Taxonomy
from humble_sum.exchange.inline.facts import PREFIX, Fact, concept_of, summations
from humble_sum.exchange.inline.written import written

SUMS = "https://xbrl.org/2023/arcrole/summation-item"
SUMS_SCHEMA = "https://www.xbrl.org/2023/calculation-1.1.xsd#summation-item"
PARENT = "http://www.xbrl.org/2003/arcrole/parent-child"
LABELS = "http://www.xbrl.org/2003/arcrole/concept-label"
LABEL = "http://www.xbrl.org/2003/role/label"
SPACES = {
    "xs": "http://www.w3.org/2001/XMLSchema",
    "xbrli": "http://www.xbrl.org/2003/instance",
    "link": "http://www.xbrl.org/2003/linkbase",
    "xlink": "http://www.w3.org/1999/xlink",
}


def namespace_of(pack_proof: PackProof) -> str:
    """The namespace of an edition's concepts: a name, not an address. It has the letters of the entity's name
    that may stand in one, and a digest of all of it and of the period, so that no two packs share one."""
    pack = pack_proof.pack
    words = re.sub("[^a-z0-9]+", "-", pack.entity.lower()).strip("-")[:60]
    whose = hashlib.sha256(f"{pack.entity}\n{pack.period}".encode("utf-8", "replace")).hexdigest()[:12]
    return f"urn:humble-sum:{'-'.join(filter(None, (words, whose)))}:{pack.shown}"


def taxonomies_of(pack_proof: PackProof) -> list[Taxonomy]:
    """The taxonomies of others that some line is tagged from."""
    lines = (line for proof in pack_proof.proofs.values() for line in proof.statement.lines)
    used = {line.concept.partition(":")[0] for line in lines if line.concept}
    return [taxonomy for taxonomy in pack_proof.pack.taxonomies if taxonomy.prefix in used]


def write_taxonomy(pack_proof: PackProof, facts: Mapping[FigureRef, Fact], name: str) -> bytes:
    """The schema; `name` is what its file is called."""
    space = namespace_of(pack_proof)
    spaces = " ".join(f'xmlns:{prefix}="{uri}"' for prefix, uri in SPACES.items())
    roles = "\n".join(_role(space, proof) for proof in pack_proof.proofs.values())
    schemas = {each.prefix: each.schema_at for each in taxonomies_of(pack_proof)} | {PREFIX: name}
    bases = "\n".join(_linkbase(space, proof, facts, name, schemas) for proof in pack_proof.proofs.values())
    elements = "\n".join(_elements(pack_proof, facts))
    imports = "".join(
        f"<xs:import namespace={quoteattr(each.namespace)} schemaLocation={quoteattr(each.schema_at)}/>\n"
        for each in taxonomies_of(pack_proof)
    )
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<xs:schema {spaces} xmlns:{PREFIX}="{space}" targetNamespace="{space}" elementFormDefault="qualified">
<xs:annotation><xs:appinfo>
{roles}
{bases}
</xs:appinfo></xs:annotation>
<xs:import namespace="{SPACES["xbrli"]}" schemaLocation="http://www.xbrl.org/2003/xbrl-instance-2003-12-31.xsd"/>
<xs:import namespace="{SPACES["link"]}" schemaLocation="http://www.xbrl.org/2003/xbrl-linkbase-2003-12-31.xsd"/>
{imports}{elements}
</xs:schema>
""".encode()


def _role(space: str, proof: Proof) -> str:
    used = "".join(
        f"<link:usedOn>link:{kind}Link</link:usedOn>" for kind in ("presentation", "calculation", "label")
    )
    title = written(proof.statement.title)
    uri = _role_of(space, proof)
    return (
        f'<link:roleType roleURI="{uri}" id="role.{proof.statement.id}">'
        f"<link:definition>{title}</link:definition>{used}</link:roleType>"
    )


def _role_of(space: str, proof: Proof) -> str:
    return f"{space}:role:{proof.statement.id}"


def _elements(pack_proof: PackProof, facts: Mapping[FigureRef, Fact]) -> Iterator[str]:
    first: dict[tuple[str, str], Fact] = {}
    for (statement, line_id, _), fact in facts.items():
        first.setdefault((statement, line_id), fact)
    for id, proof in pack_proof.proofs.items():
        for line in proof.statement.lines:
            if line.concept is not None:
                continue
            known = first.get((id, line.id))
            kind, period, abstract = "string", "duration", ' abstract="true"'
            if known is not None:
                kind = "monetary" if known.unit.currency and not known.unit.each else "decimal"
                period, abstract = "duration" if known.dates.first else "instant", ""
            concept = concept_of(id, line).partition(":")[2]
            yield (
                f'<xs:element name="{concept}" id="{PREFIX}.{concept}" type="xbrli:{kind}ItemType" '
                f'substitutionGroup="xbrli:item" xbrli:periodType="{period}" nillable="true"{abstract}/>'
            )


def _linkbase(
    space: str, proof: Proof, facts: Mapping[FigureRef, Fact], name: str, schemas: Mapping[str, str]
) -> str:
    id, role = proof.statement.id, _role_of(space, proof)
    qualified = {line.id: concept_of(id, line) for line in proof.statement.lines}
    places = "\n".join(_locator(schemas, concept) for concept in dict.fromkeys(qualified.values()))
    concepts = {line: _locator_label(concept) for line, concept in qualified.items()}
    labels = "\n".join(
        f'<link:label xlink:type="resource" xlink:label="said.{concepts[line.id]}" xlink:role="{LABEL}" '
        f'xml:lang="en">{written(line.label)}</link:label>\n'
        + _arc("label", LABELS, concepts[line.id], f"said.{concepts[line.id]}")
        for line in proof.statement.lines
    )
    first, *others = dict.fromkeys(concepts.values())
    order = "\n".join(
        _arc("presentation", PARENT, first, concept, f'order="{n}"') for n, concept in enumerate(others, 1)
    )
    sums = "\n".join(
        _arc("calculation", SUMS, concepts[line], concepts[part], f'order="{n}" weight="{sign}"')
        for line, parts in summations(proof, dict(facts))
        for n, (part, sign) in enumerate(parts, 1)
    )
    known = (
        f'<link:roleRef roleURI="{role}" xlink:type="simple" xlink:href={quoteattr(f"{name}#role.{id}")}/>'
        f'<link:arcroleRef arcroleURI="{SUMS}" xlink:type="simple" xlink:href="{SUMS_SCHEMA}"/>'
    )
    links = "\n".join(
        f'<link:{kind}Link xlink:type="extended" xlink:role="{role}">\n{places}\n{arcs}\n</link:{kind}Link>'
        for kind, arcs in (("label", labels), ("presentation", order), ("calculation", sums))
        if arcs
    )
    return f"<link:linkbase>{known}\n{links}\n</link:linkbase>"


def _locator(schemas: Mapping[str, str], concept: str) -> str:
    prefix, _, name = concept.partition(":")
    at = f"{PREFIX}.{name}" if prefix == PREFIX else f"{prefix}_{name}"
    href = quoteattr(f"{schemas[prefix]}#{at}")
    return f'<link:loc xlink:type="locator" xlink:href={href} xlink:label="{_locator_label(concept)}"/>'


def _locator_label(concept: str) -> str:
    """What a concept is called among the arcs of a link: one of another taxonomy with a mark before it that
    no concept of our own begins with."""
    prefix, _, name = concept.partition(":")
    return name if prefix == PREFIX else f"_{prefix}_{name}"


def _arc(kind: str, role: str, start: str, end: str, more: str = "") -> str:
    ends = f'xlink:from="{start}" xlink:to="{end}"'
    return f'<link:{kind}Arc xlink:type="arc" xlink:arcrole="{role}" {ends} {more}/>'
