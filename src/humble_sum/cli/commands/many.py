"""The commands that do the same to many packs. What they do is imported when they run."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from pathlib import Path
from typing import Annotated, Any, Literal

import typer

from humble_sum.cli.exit_codes import FOUND
from humble_sum.cli.files import MOST_CONTAINER, read_file
from humble_sum.core.errors import Fault, InputError
from humble_sum.exchange.formats import OF_ISSUES, USUAL

many = typer.Typer(no_args_is_help=True, help="Do the same to many packs, on several processes or a cluster.")

Files = Annotated[
    list[Path], typer.Argument(help="Pack files, or folders of them; of verify, issues' containers.")
]
Editions = Annotated[
    list[str] | None,
    typer.Option("--edition", help="An edition, or all. Can be repeated; otherwise the pack's own."),
]
Out = Annotated[
    Path, typer.Option("--out", help="The folder for results. What is there and unchanged is not done again.")
]
Workers = Annotated[int, typer.Option(min=1, max=256, help="Processes on this machine.")]
Cluster = Annotated[
    str | None, typer.Option("--cluster", help="The address of a Dask scheduler, in place of own processes.")
]
Memory = Annotated[str, typer.Option(help="What each process may take, such as 2GB.")]
AsJson = Annotated[bool, typer.Option("--json", help="Answer in JSON.")]
WORKERS, MEMORY = 2, "2GB"
KEPT_EVERY = 20  # results after which it is written what was done


@many.command()
def check(
    files: Files,
    out: Out,
    edition: Editions = None,
    workers: Workers = WORKERS,
    cluster: Cluster = None,
    memory: Memory = MEMORY,
    as_json: AsJson = False,
) -> None:
    """Check every pack: sums, ties, and what is placed; exit 1 where anything is open."""
    _run("check", files, out, edition, {}, workers, cluster, memory, as_json)


@many.command()
def foot(
    files: Files,
    out: Out,
    edition: Editions = None,
    workers: Workers = WORKERS,
    cluster: Cluster = None,
    memory: Memory = MEMORY,
    as_json: AsJson = False,
) -> None:
    """Foot every pack; each footed one is written as pack.json."""
    _run("foot", files, out, edition, {}, workers, cluster, memory, as_json)


@many.command()
def render(
    files: Files,
    out: Out,
    to: Annotated[str, typer.Option(help=f"The formats: {', '.join(OF_ISSUES)}.")] = "html",
    edition: Editions = None,
    workers: Workers = WORKERS,
    cluster: Cluster = None,
    memory: Memory = MEMORY,
    as_json: AsJson = False,
) -> None:
    """Write every pack in some formats."""
    options = {"formats": [each.strip() for each in to.split(",") if each.strip()]}
    _run("render", files, out, edition, options, workers, cluster, memory, as_json)


@many.command()
def issue(
    files: Files,
    out: Out,
    to: Annotated[str, typer.Option("--to", help="Who they go to.")],
    by: Annotated[str, typer.Option("--by", help="Who prepared them.")],
    made: Annotated[
        str | None, typer.Option(help="When they are made (RFC 3339); the same time, the same bytes.")
    ] = None,
    number: Annotated[int, typer.Option(min=1, help="Their number.")] = 1,
    state: Annotated[Literal["draft", "final"], typer.Option(help="A draft or final.")] = "draft",
    formats: Annotated[str, typer.Option("--files", help="What goes out.")] = ",".join(USUAL),
    why: Annotated[
        list[str] | None,
        typer.Option("--why", help="CHECK=REASON, for a check that stays open. Can be repeated."),
    ] = None,
    edition: Editions = None,
    workers: Workers = WORKERS,
    cluster: Cluster = None,
    memory: Memory = MEMORY,
    as_json: AsJson = False,
) -> None:
    """Issue every pack into a container of its own. Without --made, issues are made anew at each run."""
    options: dict[str, Any] = {"recipients": to, "prepared_by": by, "number": number, "state": state}
    options["files"] = [each.strip() for each in formats.split(",") if each.strip()]
    options["reasons"] = dict(map(_reason, why or ()))
    options["made"] = made or datetime.now(UTC).isoformat(timespec="seconds")
    _run("issue", files, out, edition, options, workers, cluster, memory, as_json)


@many.command()
def verify(
    files: Files,
    out: Out,
    workers: Workers = WORKERS,
    cluster: Cluster = None,
    memory: Memory = MEMORY,
    as_json: AsJson = False,
) -> None:
    """Verify every container of an issue."""
    _run("verify", files, out, None, {}, workers, cluster, memory, as_json)


@many.command()
def proofread(
    files: Files,
    out: Out,
    documents: Annotated[
        Path, typer.Option(help="A folder that has for each pack a folder of its name with its documents.")
    ],
    edition: Editions = None,
    workers: Workers = WORKERS,
    cluster: Cluster = None,
    memory: Memory = MEMORY,
    as_json: AsJson = False,
) -> None:
    """Proofread the documents of every pack against it; the record of each is written as documents.csv."""
    _run("proofread", files, out, edition, {}, workers, cluster, memory, as_json, documents)


def _run(
    work: Any,
    files: Sequence[Path],
    out: Path,
    editions: Sequence[str] | None,
    options: Mapping[str, Any],
    workers: int,
    cluster: str | None,
    memory: str,
    as_json: bool,
    documents: Path | None = None,
) -> None:
    from humble_sum.cli.terminal_progress import on_terminal
    from humble_sum.cluster.engine import run_jobs
    from humble_sum.cluster.jobs import Job
    from humble_sum.cluster.ledger import Ledger
    from humble_sum.cluster.results_table import as_lines, as_row, write_parquet

    def job_of(name: str, file: Path, edition: str) -> Job:
        own = {each.name: read_file(each, MOST_CONTAINER) for each in _documents(documents, name)}
        return Job(name, work, edition, read_file(file, MOST_CONTAINER), options, own)

    ledger = Ledger(out)
    rows: dict[tuple[str, str], dict[str, Any]] = {}
    waiting: list[tuple[str, Path, str]] = []
    for name, file in _named(files, ".zip" if work == "verify" else ".json").items():
        for edition in _editions(file, editions, work):
            job = job_of(name, file, edition)
            done = ledger.done(job)
            rows[name, edition] = as_row(job, done, True) if done else {}
            if done is None:
                waiting.append((name, file, edition))
    # What waits is read again when a worker has time for it, so that not all of it is in memory.
    jobs = (job_of(*each) for each in waiting)
    try:
        for number, (job, result) in enumerate(run_jobs(jobs, len(waiting), workers, cluster, memory), 1):
            ledger.keep(job, result)
            rows[job.name, job.edition] = as_row(job, result, False)
            on_terminal(number, len(waiting), f"{job.name}, {job.edition}")
            if number % KEPT_EVERY == 0:
                ledger.save()
    finally:
        ledger.save()
    table = list(rows.values())
    write_parquet(table, out / f"{work}.parquet")
    print(json.dumps(table, ensure_ascii=False, indent=1) if as_json else "\n".join(as_lines(table)))
    if any(row["failed"] or row["open"] for row in table):
        raise typer.Exit(FOUND)


def _reason(said: str) -> tuple[str, str]:
    """CHECK=REASON in its two parts. Raises InputError."""
    check, found, reason = said.partition("=")
    if not found:
        raise InputError("bad-issue", Fault("--why", f'"{said}" is no CHECK=REASON.'))
    return check.strip(), reason


def _named(files: Sequence[Path], ending: str) -> dict[str, Path]:
    """The files by the names of their results. Raises InputError where two have one name, or there are
    none."""
    found: dict[str, Path] = {}
    for given in files:
        every = sorted(given.glob(f"*{ending}")) if given.is_dir() else [given]
        for file in every:
            if file.stem in found:
                what = f"{file} and {found[file.stem]} have one name."
                raise InputError("bad-file", Fault(str(file), what, "Rename one: results go by it."))
            found[file.stem] = file
    if not found:
        raise InputError("no-file", Fault(str(files[0]), f"There is no file that ends with {ending} here."))
    return found


def _documents(folder: Path | None, name: str) -> list[Path]:
    own = folder / name if folder is not None else None
    if own is None or not own.is_dir():
        return []
    return sorted(each for each in own.iterdir() if each.is_file())


def _editions(file: Path, editions: Sequence[str] | None, work: str) -> list[str]:
    """The editions of a pack that are asked for; those that it does not have fail with it."""
    from humble_sum.core.statements.edition import OWN
    from humble_sum.core.statements.in_edition import editions_of
    from humble_sum.exchange.pack_json import read_pack

    if work == "verify" or not editions:
        return [OWN]
    if "all" not in editions:
        return list(dict.fromkeys(editions))
    try:
        return list(editions_of(read_pack(read_file(file))))
    except InputError:
        return [OWN]
