"""Rules: where clauses apply, which of them decide, and how they are said."""
