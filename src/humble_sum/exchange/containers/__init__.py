"""Issues as files: what goes out, in one container, sealed by those who vouch for it, and verified."""
