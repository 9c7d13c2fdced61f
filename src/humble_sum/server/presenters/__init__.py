"""What screens and programs are shown of a pack."""
