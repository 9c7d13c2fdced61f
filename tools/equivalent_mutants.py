"""Changes that no test can notice, with the reason: by module, line and change."""

EQUIVALENT: dict[tuple[str, str, str], str] = {}
