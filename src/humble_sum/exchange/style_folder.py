"""A folder of house styles: rulebook files, each one version of one, which stays as it was kept."""

from __future__ import annotations

import os
import re
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from stat import S_ISREG
from typing import Any

from humble_sum.core.errors import Fault, InputError
from humble_sum.core.rules.house_style import HouseStyle
from humble_sum.core.rules.rule_changes import rule_changes
from humble_sum.core.rules.rulebook import Rulebook
from humble_sum.core.rules.rulebook_file import house_style_of
from humble_sum.exchange.exact_json import parse_json
from humble_sum.exchange.rulebook_json import write_rulebook

MOST_FILES, MOST_BYTES = 500, 2_000_000
NO_FOLDER = "no-house-styles"


@dataclass(frozen=True)
class StyleFile:
    """One version of a house style: what its file is called, its rules, and the file as JSON."""

    style: HouseStyle
    file: str
    rulebook: Rulebook
    data: dict[str, Any]


@dataclass(frozen=True)
class StyleFolder:
    """The house styles of a folder by name and version, and what was found wrong with files in it."""

    styles: tuple[StyleFile, ...] = ()
    faults: tuple[Fault, ...] = ()

    def version(self, name: str, version: int) -> StyleFile | None:
        wanted = HouseStyle(name=name, version=version)
        return next((each for each in self.styles if each.style == wanted), None)

    def newest(self, name: str) -> StyleFile | None:
        return next((each for each in reversed(self.styles) if each.style.name == name), None)

    def before(self, file: StyleFile) -> StyleFile | None:
        """The version of the same house style that came before."""
        older = [each for each in self.styles if each.style.name == file.style.name]
        return next((each for each in reversed(older) if each.style.version < file.style.version), None)

    def changes(self, file: StyleFile) -> list[str]:
        """Changes since the version before, in words; of the first one, all its rules."""
        older = self.before(file)
        return rule_changes(older.rulebook if older else Rulebook(), file.rulebook)


def read_styles(folder: Path) -> StyleFolder:
    """Every house style in a folder's JSON files; none where there is no such folder. What cannot be read is
    named, and the others are there. Raises InputError where the folder cannot be looked at."""
    try:
        files = sorted(folder.glob("*.json")) if folder.is_dir() else []
        looked = [(file, file.stat()) for file in files[:MOST_FILES]]
    except OSError as error:
        raise InputError(NO_FOLDER, Fault(str(folder), f"{error.strerror or error}.")) from None
    read: list[StyleFile] = []
    faults: list[Fault] = []
    if len(files) > MOST_FILES:
        what = f"There are {len(files):,} files, and {MOST_FILES} are read."
        faults.append(Fault(str(folder), what, "Move old versions to another folder."))
    for file, stat in looked:
        if not S_ISREG(stat.st_mode):  # to read a pipe or a device might never end
            faults.append(Fault(file.name, "It is no ordinary file.", "Take it out of this folder."))
            continue
        found = _read(file, stat.st_mtime_ns, stat.st_size)
        if isinstance(found, StyleFile):
            read.append(found)
        else:
            faults += found
    kept: dict[HouseStyle, StyleFile] = {}
    for each in read:
        if (first := kept.setdefault(each.style, each)) is not each:
            what = f"It says that it is {each.style.said}, as {first.file} does."
            faults.append(Fault(each.file, what, "Give it a version of its own."))
    styles = sorted(kept.values(), key=lambda each: (each.style.name, each.style.version))
    return StyleFolder(tuple(styles), tuple(faults))


@lru_cache(maxsize=MOST_FILES)
def _read(file: Path, changed: int, size: int) -> StyleFile | tuple[Fault, ...]:
    """A file as it was when it was last changed, or what is wrong with it."""
    if size > MOST_BYTES:
        return (Fault(file.name, f"It has {size:,} bytes, and {MOST_BYTES:,} are read.", "Split it."),)
    try:
        data = parse_json(file.read_bytes(), "house style")
        style, rulebook = house_style_of(data)
    except InputError as error:
        return tuple(Fault(file.name, fault.what, fault.remedy) for fault in error.faults)
    except OSError as error:
        return (Fault(file.name, f"{error.strerror or error}."),)
    return StyleFile(style, file.name, rulebook, dict(data))


def keep_version(folder: Path, style: HouseStyle, rulebook: Rulebook) -> Path:
    """Keep a new version of a house style in a file of its own, whole or not at all.

    Raises InputError where the folder has that version, or a later one, or cannot be written to.
    """
    newest = read_styles(folder).newest(style.name)
    if newest is not None and newest.style.version >= style.version:
        what = f"{newest.style.said} is kept already, and a version stays as it is."
        remedy = f"The next is version {newest.style.version + 1}."
        raise InputError("version-kept", Fault("version", what, remedy))
    words = re.sub(r"[^a-z0-9]+", "-", style.name.lower()).strip("-")[:60] or "style"
    data = write_rulebook(rulebook, style)
    beside = folder / f".{words}.{os.getpid()}.part"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        beside.write_bytes(data)
        for number in range(1, MOST_FILES):
            file = folder / f"{words}-{style.version}{f'-{number}' if number > 1 else ''}.json"
            try:
                os.link(beside, file)
            except FileExistsError:
                continue
            return file
        raise InputError(NO_FOLDER, Fault(str(folder), "Every name for the file is taken."))
    except OSError as error:
        raise InputError(NO_FOLDER, Fault(str(folder), f"{error.strerror or error}.")) from None
    finally:
        beside.unlink(missing_ok=True)
