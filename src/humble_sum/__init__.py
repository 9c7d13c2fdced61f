"""Humble Sum: printed figures that are right, readable and add up.

What programs use is here, and docs/python.md shows each in use. Arrow, SQLite and the commands are
imported when they are first asked for.
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

from humble_sum.core.errors import InputError
from humble_sum.core.footing.api import foot
from humble_sum.core.printing.printer import Printer, Shown, show
from humble_sum.packs import PackFile, read_pack

if TYPE_CHECKING:
    from humble_sum.arrow import print_batch, print_batches
    from humble_sum.arrow_footing import foot_batches, foot_tables
    from humble_sum.core.changes.change_union import COMMANDS
    from humble_sum.sqlite import register

__version__ = "0.4.0"
__all__ = [
    "COMMANDS",
    "InputError",
    "PackFile",
    "Printer",
    "Shown",
    "foot",
    "foot_batches",
    "foot_tables",
    "print_batch",
    "print_batches",
    "read_pack",
    "register",
    "show",
]
LATER = {
    "COMMANDS": "core.changes.change_union",
    "foot_batches": "arrow_footing",
    "foot_tables": "arrow_footing",
    "print_batch": "arrow",
    "print_batches": "arrow",
    "register": "sqlite",
}


def __getattr__(name: str) -> Any:
    """What is imported when it is first asked for."""
    if name not in LATER:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module(f"{__name__}.{LATER[name]}"), name)
