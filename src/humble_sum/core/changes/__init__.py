"""Every change of a pack: from one pack to the next, with what it did in words."""
