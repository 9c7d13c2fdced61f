"""Points and signatures: what reviewers put to a pack, and whether what was signed still prints so."""
