"""From a table of cells to a statement: what was read, how, and what adds up to what."""
