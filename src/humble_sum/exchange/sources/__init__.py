"""Sources of figures: delimited text, workbooks, JSON records and pasted tables."""
