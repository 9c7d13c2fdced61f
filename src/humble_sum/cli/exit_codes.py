"""What a command ends with where all is not well."""

FOUND = 1  # something was found: a gap, a question, no way to foot
REFUSED = 2  # the input was refused
