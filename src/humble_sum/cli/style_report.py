"""What there is to say of a folder of house styles and of packs that follow them."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from humble_sum.cli.files import is_there
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.rules.house_style import HouseStyle, own_words
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.style_folder import NO_FOLDER, StyleFolder, keep_version, read_styles


def style_words(folder: Path) -> tuple[list[str], bool]:
    """Every version with its changes since the last, and whether some file is wrong."""
    found = _opened(folder)
    said = [f"wrong: {fault}" for fault in found.faults]
    for each in found.styles:
        changes = found.changes(each)
        said += [f"{each.style.said} ({each.file})", *(f"  {line}" for line in changes or ["says the same"])]
    return said or ["There are no house styles in this folder."], bool(found.faults)


def follow_words(folder: Path, pack: Pack) -> tuple[list[str], bool]:
    """What a pack follows and says otherwise, and whether it is behind."""
    if pack.follows is None:
        return ["follows no house style"], False
    found = _opened(folder)
    here, newest = found.version(pack.follows.name, pack.follows.version), found.newest(pack.follows.name)
    if here is None:
        return [f"follows {pack.follows.said}, which is not in the folder"], True
    own = own_words(pack.rulebook, pack.follows, here.rulebook)
    words = [f"follows {pack.follows.said}", *own]
    behind = newest is not None and newest.style.version > pack.follows.version
    if behind and newest is not None:
        words[0] += f"; version {newest.style.version} is there"
    return words, behind or bool(own)


def keep_next(folder: Path, name: str, packs: Sequence[Pack]) -> str:
    """Keep a pack's rules as the next version of a house style; what was done. Raises InputError."""
    if len(packs) != 1:
        what = "A version is kept from one pack's rules."
        raise InputError("no-file", Fault("--keep", what, "Give one pack file behind the folder."))
    newest = read_styles(folder).newest(name)
    style = HouseStyle(name=name, version=newest.style.version + 1 if newest else 1)
    file = keep_version(folder, style, packs[0].rulebook)
    return f"Kept {style.said} in {file}."


def _opened(folder: Path) -> StyleFolder:
    if not (is_there(folder) and folder.is_dir()):
        raise InputError(NO_FOLDER, Fault(str(folder), "There is no such folder."))
    return read_styles(folder)
