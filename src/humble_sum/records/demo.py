"""The demo pack: Lanternfish Ferries, a made-up operator, in its year to 31 March 2026."""

from __future__ import annotations

from importlib.resources import files

from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.pack_json import read_pack
from humble_sum.records.database import Database
from humble_sum.records.pack_rows import add_pack, pack_rows


def demo_pack() -> Pack:
    """The pack that ships with the product."""
    return read_pack((files("humble_sum") / "demo" / "lanternfish.json").read_bytes())


def ensure_demo(database: Database) -> None:
    """Keep the demo pack in a database that has no pack yet."""
    with database.writing() as session:
        if not pack_rows(session):
            add_pack(session, demo_pack())
