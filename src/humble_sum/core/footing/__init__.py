"""Footing: whole numbers of units near exact amounts, chosen so that every relation adds.

This is controlled rounding (Bacharach 1966; Cox and Ernst 1982; Cox 1987) as one 0-1 program.
"""
