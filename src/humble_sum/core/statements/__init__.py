"""Statements: lines, columns and figures, what adds to what, and what footing may do to them."""
