"""The bytes of a ZIP archive as we write one (APPNOTE 6.3.3): nothing in it is free to be otherwise."""

from __future__ import annotations

import io
import struct
import zipfile
from collections.abc import Iterable

DATE = (1980, 1, 1, 0, 0, 0)
DAY = 1 << 5 | 1  # 1 January 1980, as archives count
LOCAL = struct.Struct("<4s5H3L2H")
CENTRAL = struct.Struct("<4s4B4H3L5H2L")
END = struct.Struct("<4s4H2LH")
NEEDED, UNIX, PACKED, UTF8 = 20, 3, zipfile.ZIP_DEFLATED, 0x800
PLAIN_FILE = 0o644 << 16


def write_archive(files: Iterable[tuple[str, bytes]]) -> bytes:
    """An archive of files in this order: the same files are the same archive."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        for name, data in files:
            entry = zipfile.ZipInfo(name, DATE)
            entry.external_attr = PLAIN_FILE
            entry.create_system = UNIX
            packed.writestr(entry, data, PACKED, 6)
    return out.getvalue()


def is_as_written(data: bytes, packed: zipfile.ZipFile) -> bool:
    """Whether every byte around the packed ones is what `write_archive` writes: dates, names, sizes, and no
    gap or remark anywhere."""
    made, listed = bytearray(), bytearray()
    entries = packed.infolist()
    for entry in entries:
        name = entry.filename.encode()
        flags = 0 if entry.filename.isascii() else UTF8
        sizes = (entry.CRC, entry.compress_size, entry.file_size)
        at = len(made)
        made += LOCAL.pack(b"PK\3\4", NEEDED, flags, PACKED, 0, DAY, *sizes, len(name), 0) + name
        made += data[len(made) : len(made) + entry.compress_size]
        listed += CENTRAL.pack(
            *(b"PK\1\2", NEEDED, UNIX, NEEDED, 0, flags, PACKED, 0, DAY, *sizes, len(name)),
            *(0, 0, 0, 0, PLAIN_FILE, at),
        )
        listed += name
    ends = END.pack(b"PK\5\6", 0, 0, len(entries), len(entries), len(listed), len(made), 0)
    return bytes(made + listed + ends) == data


def is_bare(data: bytes) -> bool:
    """Whether an archive has no byte but those of its files and what names them: no remark, no gap, nothing
    before or behind. Raises zipfile.BadZipFile."""
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        entries = packed.infolist()
    named = sum(len(entry.filename.encode()) for entry in entries)
    taken = sum(entry.compress_size for entry in entries) + 2 * named
    told = any(entry.extra or entry.comment for entry in entries)
    return not told and len(data) == taken + len(entries) * (LOCAL.size + CENTRAL.size) + END.size
