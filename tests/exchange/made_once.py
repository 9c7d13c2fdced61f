"""Files of the same pack made once, where a test verifies many containers of it."""

from __future__ import annotations

from contextlib import AbstractContextManager
from typing import Any
from unittest.mock import patch

from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.exchange import formats
from humble_sum.exchange.imprint import Imprint
from humble_sum.exchange.pack_json import write_pack

_make = formats._made
_made: dict[tuple[object, ...], Any] = {}


def _once(name: str, of: formats.Format, pack_proof: PackProof, imprint: Imprint | None) -> Any:
    key = (name, of.label, imprint, write_pack(pack_proof.pack))
    if key not in _made:
        _made[key] = _make(name, of, pack_proof, imprint)
    return dict(_made[key])


def made_once() -> AbstractContextManager[object]:
    """Within, what most spoils leave as it is is made once: to draw its charts for each of them took half of
    the time."""
    return patch.object(formats, "_made", _once)
