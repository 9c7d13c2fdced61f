"""Documents made elsewhere: read as paragraphs and tables, and written back with corrections alone."""
