"""Matrices and whole numbers: least choices and what proves them. Nothing here knows of statements."""
