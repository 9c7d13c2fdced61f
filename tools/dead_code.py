"""Names in the product that nothing uses: part of make check. Ends with 1 where there are any."""

from __future__ import annotations

import re
import sys
from pathlib import Path

from vulture import Vulture

from humble_sum.core.changes.change_union import COMMANDS
from humble_sum.exchange.formats import FORMATS

SOURCE = Path(__file__).parent.parent / "src/humble_sum"
# What a framework calls by its name or by a decorator, and what only another program reads.
CALLED = [
    *("model_config", "__getattr__", "handle_*", "do_*", "user_*", "external_attr", "create_system"),
    *("data_type", "process_*", "render_as_batch", "revision", "down_revision", "upgrade", "downgrade"),
    *("text_factory", "border", "isolation_level", "impl", "cache_ok", "dialect", "type_annotation_map"),
    *("on_day", "OF_THE_COMMAND_LINE", "__table_args__", "read_only", "itersize"),
]
DECORATED = [
    "@router.*",
    "@app.*",
    "@tokens.*",
    "@cli.*",
    "@*validator*",
    "@*serializer*",
    "@event.*",
    "@listens_for*",
    "@atexit*",
]
OF_ANSWERS = re.compile(
    r"server/.*(schemas|models|_page|routes|presenters)|core/issue/pack_standing|documents/recorded_numbers"
)


def main() -> None:
    """Print every name that nothing uses."""
    found = Vulture(ignore_names=CALLED, ignore_decorators=DECORATED)
    found.scavenge([str(SOURCE), str(Path(__file__).parent)], exclude=["*/migrations/*"])
    named = {each.__name__ for each in COMMANDS.values()}
    for each in FORMATS.values():
        paths = (each.statement, each.dashboard, each.chart, each.edition, each.paper, each.record_paper)
        named |= {path.partition(":")[2] for path in paths}
    dead = [
        item
        for item in found.get_unused_code(min_confidence=60)
        if item.name not in named
        and SOURCE in Path(item.filename).parents
        # Fields of answers are read by whoever asked for them.
        and not (item.typ == "variable" and OF_ANSWERS.search(str(item.filename)))
    ]
    for item in dead:
        print(f"{Path(item.filename).relative_to(SOURCE)}:{item.first_lineno}: nothing uses {item.name}")
    sys.exit(bool(dead))


if __name__ == "__main__":
    main()
