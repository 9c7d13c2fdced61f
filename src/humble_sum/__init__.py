"""Humble Sum: printed figures that are right, readable and add up."""

from humble_sum.core.errors import InputError
from humble_sum.core.footing.api import foot
from humble_sum.core.printing.printer import Printer, Shown, show
from humble_sum.packs import PackFile, read_pack

__version__ = "0.3.0"
__all__ = ["InputError", "PackFile", "Printer", "Shown", "foot", "read_pack", "show"]
