"""What is kept: packs, rulebooks, holds, nudges and the history of changes, in SQLite."""
