"""Printing: from an exact amount to the text a reader sees."""
