"""Every command, found in the modules of commands beside this one."""

from __future__ import annotations

from collections.abc import Iterator
from importlib import import_module
from pathlib import Path
from pkgutil import iter_modules
from typing import get_args

from humble_sum.core.changes.command import Command

HERE = Path(__file__).parent


def kind_of(command: type[Command]) -> str | None:
    """The name of a command; None for a base of several."""
    field = command.model_fields.get("kind")
    return None if field is None else str(get_args(field.annotation)[0])


def _below(base: type[Command]) -> Iterator[type[Command]]:
    for each in base.__subclasses__():
        yield each
        yield from _below(each)


def _found() -> dict[str, type[Command]]:
    for module in iter_modules([str(HERE)]):
        if module.name.endswith("_commands"):
            import_module(f"{__package__}.{module.name}")
    named = ((kind_of(each), each) for each in _below(Command))
    return dict(sorted((kind, each) for kind, each in named if kind is not None))


COMMANDS: dict[str, type[Command]] = _found()
