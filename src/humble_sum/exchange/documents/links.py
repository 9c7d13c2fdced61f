"""Links to figures of a desk, as a copied figure carries them: /packs/…/income?of=Lanternfish#fares/y26."""

from __future__ import annotations

import posixpath
import zipfile
from dataclasses import dataclass
from urllib.parse import parse_qs, unquote, urlsplit

from humble_sum.core.statements.names import FigureRef
from humble_sum.exchange.documents.packages import parsed, part

RELATION = "{http://schemas.openxmlformats.org/package/2006/relationships}Relationship"
REFERS = "{http://schemas.openxmlformats.org/officeDocument/2006/relationships}id"


@dataclass(frozen=True)
class FigureLink:
    """The figure that a link names, and whose it is."""

    figure: FigureRef
    entity: str


def figure_link(address: str) -> FigureLink | None:
    """The figure that an address names; None for every other address."""
    try:
        said = urlsplit(address)
    except ValueError:
        return None
    path = [unquote(step) for step in said.path.split("/")]
    place = [unquote(step) for step in said.fragment.split("/")]
    entity = parse_qs(said.query).get("of", [""])[0]
    if len(path) != 4 or path[1] != "packs" or len(place) != 2 or not all((path[3], *place, entity)):
        return None
    return FigureLink((path[3], place[0], place[1]), entity)


def links_of(name: str, package: zipfile.ZipFile, path: str) -> dict[str, str]:
    """The addresses that a part of a package refers to, by their names in it."""
    folder, file = posixpath.split(path)
    relations = f"{folder}/_rels/{file}.rels"
    if relations not in package.namelist():
        return {}
    root = parsed(name, relations, part(package, name, relations))
    return {
        each.get("Id") or "": each.get("Target") or ""
        for each in root.iter(RELATION)
        if each.get("TargetMode") == "External"
    }
