"""The heart: exact amounts, rules, printing, relations and footing. No I/O, web or database."""
