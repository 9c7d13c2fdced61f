"""Packages of Office Open XML (ECMA-376): parts in a ZIP, read safely, and written back with some parts
changed."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping

from lxml import etree

from humble_sum.core.errors import Fault, InputError

MOST_UNPACKED = 400_000_000  # bytes of all parts together
MOST_PART = 200_000_000  # bytes of one part
MOST_PARTS = 20_000
ENCRYPTED = b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1"  # a compound file: an encrypted package, or an old binary one
PARSER = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)


def bad(name: str, what: str, remedy: str = "") -> InputError:
    """The refusal of a document."""
    return InputError("bad-document", Fault(name, what, remedy))


def open_package(name: str, data: bytes) -> zipfile.ZipFile:
    """The parts of a package. Raises InputError where it is encrypted, broken, or would fill the memory."""
    if data.startswith(ENCRYPTED):
        what = "This file is encrypted, or of an old binary format."
        raise bad(name, what, "Save it without a password, in a format of today.")
    try:
        package = zipfile.ZipFile(io.BytesIO(data))
        entries = package.infolist()
    except (zipfile.BadZipFile, OSError, ValueError):
        raise bad(name, "This file is broken: it is no package of parts.") from None
    if len(entries) > MOST_PARTS or sum(entry.file_size for entry in entries) > MOST_UNPACKED:
        raise bad(name, "Unpacked, this file would be too large.", "Save it again in its own program.")
    if any(entry.flag_bits & 1 for entry in entries):
        raise bad(name, "This file is encrypted.", "Save it without a password.")
    return package


def part(package: zipfile.ZipFile, name: str, path: str) -> bytes:
    """The bytes of a part. Raises InputError where they cannot be read, or are more than they say."""
    try:
        with package.open(path) as file:
            data = file.read(MOST_PART + 1)
    except (zipfile.BadZipFile, OSError, KeyError, NotImplementedError, ValueError, EOFError):
        raise bad(name, f"Its part {path} cannot be read.") from None
    except Exception as error:  # zlib.error has no class of its own here
        raise bad(name, f"Its part {path} cannot be unpacked: {error}.") from None
    if len(data) > MOST_PART:
        raise bad(name, f"Its part {path} is too large.")
    return data


def parsed(name: str, path: str, data: bytes) -> etree._Element:
    """A part as XML. Entities are never resolved, and nothing is fetched."""
    try:
        root = etree.fromstring(data, PARSER)
    except (etree.XMLSyntaxError, ValueError):
        raise bad(name, f"Its part {path} is no XML.") from None
    if root.getroottree().docinfo.doctype:
        raise bad(name, f"Its part {path} declares entities, which no document of this kind does.")
    return root


def written(root: etree._Element) -> bytes:
    """A part as bytes again."""
    return bytes(etree.tostring(root, xml_declaration=True, encoding="UTF-8", standalone=True))


def with_parts(data: bytes, changed: Mapping[str, bytes]) -> bytes:
    """The package with some parts changed; all others as they were, in their order, to the byte."""
    source = zipfile.ZipFile(io.BytesIO(data))
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as target:
        for entry in source.infolist():
            content = changed.get(entry.filename)
            target.writestr(entry, source.read(entry) if content is None else content)
        for path in changed.keys() - set(source.namelist()):
            target.writestr(path, changed[path], zipfile.ZIP_DEFLATED)
    return made.getvalue()
