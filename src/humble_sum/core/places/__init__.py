"""Figures placed outside of the page: as they print there, and whether they agree with it."""
