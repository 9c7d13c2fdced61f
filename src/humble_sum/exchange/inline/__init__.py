"""Inline XBRL 1.1: the edition's pages as a document whose figures programs read as facts."""
