"""What prints, what does not add, and why."""
