"""JSON whose numbers stay as they were written."""

from __future__ import annotations

import json
from typing import Any

from humble_sum.core.errors import Fault, InputError

MOST_BYTES = 32 * 1024 * 1024
MOST_INTEGER_DIGITS = 100


class NumberText(str):
    """A JSON number that would not survive as a double, kept as it was written."""


def parse_json(data: bytes, what: str) -> Any:
    """JSON with numbers kept exact. Raises InputError where it is too large or not JSON."""
    if len(data) > MOST_BYTES:
        raise InputError(
            "too-large",
            Fault(
                "", f"The {what} is larger than {MOST_BYTES // 1024 // 1024} MiB.", "Split it into several."
            ),
        )
    try:
        text = data.decode("utf-8-sig")
        return json.loads(text, parse_float=NumberText, parse_int=_integer, parse_constant=NumberText)
    except UnicodeDecodeError as error:
        raise InputError("not-json", Fault(f"byte {error.start}", f"The {what} is not UTF-8 text.")) from None
    except json.JSONDecodeError as error:
        where = f"line {error.lineno}, column {error.colno}"
        raise InputError("not-json", Fault(where, f"The {what} is not JSON: {error.msg}.")) from None
    except RecursionError:
        raise InputError("not-json", Fault("", f"The {what} is nested too deep.")) from None


def _integer(text: str) -> int | NumberText:
    return int(text) if len(text) <= MOST_INTEGER_DIGITS else NumberText(text)
