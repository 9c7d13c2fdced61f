"""What leaves the desk: the last checks, issues that are frozen, and how two states of a pack differ."""
