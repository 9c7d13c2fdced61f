"""Seals: detached JSON Web Signatures over the manifest of a container (RFC 7515, RFC 7797), made with
Ed25519 keys (RFC 8037).

A key is a JSON Web Key (RFC 7517) with a name, and where wanted a time until which it is good. Its id is the
thumbprint of its public part (RFC 7638), so that nobody chooses it.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, Literal

import jwt
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey, Ed25519PublicKey
from jwt.algorithms import OKPAlgorithm
from jwt.api_jws import PyJWS
from jwt.utils import base64url_encode

from humble_sum.core.errors import Fault, InputError
from humble_sum.exchange.exact_json import parse_json
from humble_sum.exchange.imprint import digest_of

KIND = "humble-sum/key"
Role = Literal["prepared", "reviewed", "approved"]
ROLES: tuple[Role, ...] = ("prepared", "reviewed", "approved")
TYPE = "humble-sum-seal+jws"
ALGORITHM = "EdDSA"
MOST_NAME = 200
PUBLIC = ("crv", "kty", "x")
BAD_KEY = "bad-key"
SIGNING = PyJWS(algorithms=[ALGORITHM])


@dataclass(frozen=True)
class PublicKey:
    """A key that seals are checked with: its id, whose it is, and until when it is good, if that is said."""

    id: str
    name: str
    until: datetime | None
    key: Ed25519PublicKey


@dataclass(frozen=True)
class PrivateKey:
    """A key that seals are made with, and its public part."""

    public: PublicKey
    key: Ed25519PrivateKey


@dataclass(frozen=True)
class SealFound:
    """A seal that was found: its key, the key's owner, the role and the time it claims. `fault` says why it
    does not hold. `expired` says until when its key was good; nothing shows that the seal is older. `trusted`
    says that the key is one of those given."""

    key: str
    name: str
    role: str
    made: str
    fault: str = ""
    expired: str = ""
    trusted: bool = False

    @property
    def says(self) -> str:
        """The seal in words."""
        whose = f"the key of {self.name}" if self.trusted else f"a key that calls itself {self.name}"
        return f"{self.role} by {whose} ({self.key}), {self.made}"


def new_key(name: str, until: datetime | None = None) -> tuple[bytes, bytes]:
    """A new key as two files: the private one, which is kept, and the public one, which is given away."""
    if not name.strip() or len(name) > MOST_NAME:
        what = "A key has a name." if not name.strip() else f"A name has at most {MOST_NAME} characters."
        raise InputError(BAD_KEY, Fault("name", what, "Say whose it is."))
    made = Ed25519PrivateKey.generate()
    private = json.loads(OKPAlgorithm.to_jwk(made))
    public = {part: private[part] for part in PUBLIC}
    more: dict[str, Any] = {"kind": KIND, "name": name.strip(), "kid": thumbprint(public), "alg": ALGORITHM}
    if until is not None:
        more["exp"] = int(until.timestamp())
    return _file(private | more), _file(public | more)


def _file(told: dict[str, Any]) -> bytes:
    told = {name: value for name, value in told.items() if name != "key_ops"}
    return (json.dumps(told, ensure_ascii=False, indent=1, sort_keys=True) + "\n").encode()


def thumbprint(public: dict[str, Any]) -> str:
    """The id of a key, by its public part alone (RFC 7638)."""
    text = json.dumps({part: public[part] for part in PUBLIC}, sort_keys=True, separators=(",", ":"))
    return base64url_encode(bytes.fromhex(digest_of(text.encode()))).decode()


def read_key(data: bytes) -> PrivateKey:
    """A private key from its file. Raises InputError."""
    told = _told(data)
    if "d" not in told:
        what = "It is a public key, and a seal is made with a private one."
        raise InputError(BAD_KEY, Fault("key", what, "Give the file that `humble-sum key new` kept private."))
    key = _loaded(told)
    if not isinstance(key, Ed25519PrivateKey):
        raise _no_key("It has no Ed25519 key in it.")
    public = read_public_key(data)
    if key.public_key().public_bytes_raw() != public.key.public_bytes_raw():
        raise _no_key("Its private part is not that of its public part.")
    return PrivateKey(public, key)


def read_public_key(data: bytes) -> PublicKey:
    """The public part of a key from its file. Raises InputError."""
    told = _told(data)
    key = _loaded({name: value for name, value in told.items() if name != "d"})
    name, until = told.get("name"), told.get("exp")
    if not isinstance(key, Ed25519PublicKey):
        raise _no_key("It has no Ed25519 key in it.")
    if told.get("kid") != thumbprint(told):
        raise _no_key("Its id is not that of its key.")
    if not isinstance(name, str) or not name.strip() or len(name) > MOST_NAME:
        raise _no_key("It does not say whose it is.")
    if until is not None and (
        isinstance(until, bool) or not isinstance(until, int) or not 0 < until < 10**11
    ):
        raise _no_key("The time until which it is good is none.")
    return PublicKey(told["kid"], name, None if until is None else datetime.fromtimestamp(until, UTC), key)


def _told(data: bytes) -> dict[str, Any]:
    told = parse_json(data, "key")
    if not isinstance(told, dict) or told.get("kind") != KIND:
        raise _no_key(f'It does not say that it is "{KIND}".')
    return told


def _loaded(told: dict[str, Any]) -> Any:
    try:
        return OKPAlgorithm.from_jwk({name: str(told[name]) for name in (*PUBLIC, "d") if name in told})
    except (jwt.InvalidKeyError, ValueError, KeyError) as error:
        raise _no_key(f"It cannot be read: {error}.") from None


def _no_key(what: str) -> InputError:
    return InputError(BAD_KEY, Fault("key", what, "Make one with `humble-sum key new`."))


def make_seal(manifest: bytes, key: PrivateKey, role: Role, now: datetime) -> bytes:
    """A seal over a manifest. Raises InputError where the key is no longer good."""
    until = key.public.until
    if until is not None and now > until:
        what = f"The key of {key.public.name} was good until {_day(until)}."
        raise InputError(BAD_KEY, Fault("key", what, "Make a new one with `humble-sum key new`."))
    headers = {
        "typ": TYPE,
        "kid": key.public.id,
        "name": key.public.name,
        "role": role,
        "iat": int(now.timestamp()),
        "jwk": json.loads(OKPAlgorithm.to_jwk(key.key.public_key())),
    }
    if until is not None:
        headers["exp"] = int(until.timestamp())
    text = SIGNING.encode(manifest, key.key, ALGORITHM, headers, is_payload_detached=True)
    return f"{text}\n".encode()


def seals_of(
    manifest: bytes, seals: Iterable[bytes], trusted: Sequence[PublicKey], now: datetime
) -> list[SealFound]:
    """Each seal, checked over a manifest. One whose key is among the trusted ones is said to be of that key's
    name; of any other it is only shown that whoever sealed it had that key."""
    return [_checked(manifest, seal, trusted, now) for seal in seals]


def _checked(manifest: bytes, seal: bytes, trusted: Sequence[PublicKey], now: datetime) -> SealFound:
    try:
        header = jwt.get_unverified_header(seal.decode("ascii").strip())
    except (jwt.InvalidTokenError, UnicodeDecodeError, ValueError) as error:
        return SealFound("", "", "", "", f"It is no seal: {error}.")
    said = _said(header)
    if said is None:
        what = "It is no seal of ours: its head does not say who, as what and when."
        return SealFound(str(header.get("kid"))[:80], "", "", "", what)
    id, name, role, made, public = said
    known = next((key for key in trusted if key.id == id), None)
    whose = known.name if known else name
    when = datetime.fromtimestamp(made, UTC).isoformat(timespec="seconds")
    fault = _broken(manifest, seal, public, known)
    until = _until(known, header)
    expired = f"good until {_day(until)}" if until is not None and now > until else ""
    why = f"The seal of {whose} ({id}) is not over this manifest: {fault}." if fault else ""
    return SealFound(id, whose, role, when, why, expired, known is not None)


def _said(header: dict[str, Any]) -> tuple[str, str, str, int, dict[str, Any]] | None:
    """What the head of a seal says: the key's id, name, role, time and public part. None where it is not all
    there, or the id is another key's."""
    id, name, role, made, jwk = (header.get(each) for each in ("kid", "name", "role", "iat", "jwk"))
    public = {part: jwk.get(part) for part in PUBLIC} if isinstance(jwk, dict) else {}
    if header.get("typ") != TYPE or not all(isinstance(public.get(part), str) for part in PUBLIC):
        return None
    texts = isinstance(id, str) and isinstance(name, str) and isinstance(role, str) and role in ROLES
    times = isinstance(made, int) and not isinstance(made, bool) and 0 < made < 10**11
    if not texts or not times or not 0 < len(str(name)) <= MOST_NAME or thumbprint(public) != id:
        return None
    return str(id), str(name), str(role), int(made or 0), public


def _broken(manifest: bytes, seal: bytes, public: dict[str, Any], known: PublicKey | None) -> str:
    """Why a signature is none over a manifest; empty where it is."""
    try:
        key: Any = known.key if known else OKPAlgorithm.from_jwk(public)
        SIGNING.decode(seal.decode("ascii").strip(), key, [ALGORITHM], detached_payload=manifest)
    except (jwt.InvalidTokenError, jwt.InvalidKeyError, ValueError) as error:
        return str(error)[:80]
    return ""


def _until(known: PublicKey | None, header: dict[str, Any]) -> datetime | None:
    """Until when the key of a seal is good, by the key that was given and by the seal itself."""
    said = header.get("exp")
    there = isinstance(said, int) and not isinstance(said, bool) and 0 < said < 10**11
    ends = [known.until] if known and known.until else []
    ends += [datetime.fromtimestamp(said, UTC)] if there and isinstance(said, int) else []
    return min(ends, default=None)


def _day(of: datetime) -> str:
    return of.astimezone(UTC).date().isoformat()
