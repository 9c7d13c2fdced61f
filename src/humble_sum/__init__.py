"""Humble Sum: printed figures that are right, readable and add up."""

__version__ = "0.1.0"
