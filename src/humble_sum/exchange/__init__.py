"""Readers and writers of open formats."""
