"""An issue in one file: a ZIP with a manifest that names every other file with its digest (docs/formats).

The same issue is the same file, byte by byte: entries are in order, with one date and one way of packing.
Behind the files stand the seals that were put into it. The manifest was there before them, so it does not
name them.
"""

from __future__ import annotations

import hashlib
import io
import re
import zipfile
import zlib
from collections.abc import Mapping
from dataclasses import dataclass

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.issue.issue import Issue, IssuedFile
from humble_sum.exchange.containers.archive import is_as_written, write_archive
from humble_sum.exchange.containers.manifest import BAD, MANIFEST, read_manifest, write_manifest

MOST_BYTES, MOST_FILES, MOST_SEALS = 512 * 1024 * 1024, 400, 20  # of all files unpacked
MOST_SEAL = 16 * 1024
SEAL = re.compile(r"seal-([1-9]\d?)\.jws")
UNREADABLE = (NotImplementedError, EOFError, OSError, RuntimeError, ValueError)


@dataclass(frozen=True)
class Container:
    """What is in a container: the issue, the version of its format, its files and seals by name, and the
    manifest that the seals are over."""

    issue: Issue
    format: int
    files: Mapping[str, bytes]
    seals: Mapping[str, bytes]
    manifest: bytes

    @property
    def digest(self) -> str:
        """The SHA-256 of the container as it was issued, before any seal was put into it."""
        return hashlib.sha256(_archive(self.manifest, self.files, {})).hexdigest()


def with_files(issue: Issue, files: Mapping[str, tuple[str, bytes]]) -> Issue:
    """The issue with its files on record."""
    listed = tuple(
        IssuedFile(name=name, says=says, sha256=hashlib.sha256(data).hexdigest(), size=len(data))
        for name, (says, data) in sorted(files.items())
    )
    return issue.model_copy(update={"files": listed})


def write_container(issue: Issue, files: Mapping[str, bytes]) -> bytes:
    """The container of an issue whose files are on record."""
    return _archive(write_manifest(issue), files, {})


def with_seal(container: Container, seal: bytes) -> bytes:
    """The container with one more seal in it."""
    number = 1 + max((int(name[5:-4]) for name in container.seals), default=0)
    if number > MOST_SEALS:
        raise InputError("bad-seal", Fault("container", f"It has {MOST_SEALS} seals, which is the most."))
    return _archive(container.manifest, container.files, {**container.seals, f"seal-{number}.jws": seal})


def _archive(manifest: bytes, files: Mapping[str, bytes], seals: Mapping[str, bytes]) -> bytes:
    entries = [(MANIFEST, manifest), *sorted(files.items())]
    return write_archive([*entries, *sorted(seals.items(), key=lambda seal: int(seal[0][5:-4]))])


def read_container(data: bytes) -> Container:
    """What is in a container, each file as its digest says. Raises InputError, naming everything that is not
    as it was issued; nothing is unpacked past the sizes that the manifest states."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            found = _opened(packed)
            if not is_as_written(data, packed):
                what = "Its files are as they were issued, and the archive around them was changed."
                raise InputError(BAD, Fault("container", what))
    except (zlib.error, zipfile.BadZipFile, *UNREADABLE) as error:
        if isinstance(error, InputError):
            raise
        raise InputError(BAD, Fault("container", f"It cannot be unpacked: {error}.")) from None
    return found


def _opened(packed: zipfile.ZipFile) -> Container:
    names = [entry.filename for entry in packed.infolist()]
    if len(names) > MOST_FILES + MOST_SEALS:
        raise InputError(BAD, Fault("container", f"It has more than {MOST_FILES} files."))
    if MANIFEST not in names:
        raise InputError(BAD, Fault(MANIFEST, "It is missing.", "Ask for the container as it was issued."))
    twice = sorted({name for name in names if names.count(name) > 1})
    if twice:
        raise InputError(BAD, [Fault(name, "It is in the container twice.") for name in twice])
    manifest = _bounded(packed, MANIFEST, 16 * 1024 * 1024)
    issue, version = read_manifest(manifest)
    listed = {each.name: each for each in issue.files}
    sealing = [name for name in names if SEAL.fullmatch(name) and name not in listed]
    faults = [
        Fault(name, "It is in the container, and was not issued.")
        for name in sorted({*names} - {*listed, *sealing, MANIFEST})
    ]
    faults += [
        Fault(name, "It was issued, and is missing from the container.")
        for name in sorted({*listed} - {*names})
    ]
    faults += [Fault(MANIFEST, "It names itself.")] if MANIFEST in listed else []
    if len(listed) < len(issue.files):
        faults.append(Fault(MANIFEST, "It names a file twice."))
    if sum(each.size for each in issue.files) > MOST_BYTES:
        raise InputError(BAD, Fault(MANIFEST, f"It states more than {MOST_BYTES // 1024 // 1024} MiB."))
    files = {}
    for name, each in listed.items():
        if name not in names or name == MANIFEST:
            continue
        inside = _bounded(packed, name, each.size)
        if len(inside) != each.size or hashlib.sha256(inside).hexdigest() != each.sha256:
            faults.append(Fault(name, "It is not what was issued: its digest is another."))
        files[name] = inside
    seals = {name: _bounded(packed, name, MOST_SEAL) for name in sealing}
    faults += [Fault(name, "It is longer than a seal is.") for name in seals if len(seals[name]) > MOST_SEAL]
    in_order = [MANIFEST, *sorted(files), *sorted(seals, key=lambda name: int(name[5:-4]))]
    if not faults and names != in_order:
        faults.append(Fault("container", "Its files are not in the order that they were issued in."))
    if faults:
        raise InputError(BAD, faults)
    return Container(issue, version, files, seals, manifest)


def _bounded(packed: zipfile.ZipFile, name: str, most: int) -> bytes:
    """A file's bytes, and one more where it is longer than it may be."""
    with packed.open(name) as file:
        return file.read(most + 1)
