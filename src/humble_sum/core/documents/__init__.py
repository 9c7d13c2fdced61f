"""Documents made elsewhere: which of their numbers are figures of a pack, and whether they agree with it."""
