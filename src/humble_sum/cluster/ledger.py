"""What was done already, in the folder that results go to: a job whose digest and files are there is not done
again."""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from humble_sum.cluster.jobs import Job, Result
from humble_sum.core.errors import Fault, InputError
from humble_sum.exchange.exact_json import parse_json
from humble_sum.exchange.imprint import digest_of

LEDGER = "done.json"


class Ledger:
    """The results in a folder, by work, pack and edition."""

    def __init__(self, folder: Path):
        self.folder = folder
        file = folder / LEDGER
        try:
            folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            what = f"It cannot be a folder for results: {error.strerror or error}."
            raise InputError("no-file", Fault(str(folder), what, "Name another with --out.")) from None
        self._done: dict[str, Any] = {}
        if file.exists():
            parsed = parse_json(file.read_bytes(), LEDGER)
            if not isinstance(parsed, dict):
                what = "It is no record of what was done."
                raise InputError("no-file", Fault(str(file), what, "Name another folder with --out."))
            self._done = parsed

    def done(self, job: Job) -> Result | None:
        """The result of a job that was done as it is now, its files as they were left; None otherwise."""
        entry = self._done.get(_key(job))
        if not isinstance(entry, dict) or entry.get("digest") != job.digest or entry.get("failed"):
            return None
        files = entry.get("files", {})
        for name, digest in files.items():
            path = self.path(job, name)
            if not path.is_file() or digest_of(path.read_bytes()) != digest:
                return None
        told = {name: entry[name] for name in ("entity", "figures", "open", "version")}
        return Result(says=tuple(entry["says"]), kept=tuple(files), **told)

    def keep(self, job: Job, result: Result) -> None:
        """Write the files of a result, and then that it is done."""
        for name, data in result.files.items():
            path = self.path(job, name)
            path.parent.mkdir(parents=True, exist_ok=True)
            _write(path, data)
        files = {name: digest_of(data) for name, data in result.files.items()}
        self._done[_key(job)] = result.told() | {"digest": job.digest, "files": files}

    def path(self, job: Job, name: str) -> Path:
        """Where a file of a job's result goes."""
        return self.folder / job.name / job.edition / name

    def save(self) -> None:
        """Write what was done, whole or not at all."""
        told: Mapping[str, Any] = dict(sorted(self._done.items()))
        _write(self.folder / LEDGER, json.dumps(told, ensure_ascii=False, indent=1).encode())


def _key(job: Job) -> str:
    return f"{job.work} {job.name}@{job.edition}"


def _write(path: Path, data: bytes) -> None:
    beside = path.with_name(f".{path.name}.part")
    try:
        beside.write_bytes(data)
        beside.replace(path)
    except OSError as error:
        beside.unlink(missing_ok=True)
        raise InputError("no-file", Fault(str(path), f"{error.strerror or error}.")) from None
