"""Measures every part against a yardstick in the same run, and prints one table.

    python -m bench [--tiny] [PART …]

The parts are reading, sources, printing, footing, searches, places, issue, page, repaint, load, cluster, many
and documents.
`--tiny` runs each of their works once, on next to nothing: it shows that they run, and measures nothing.
"""

import argparse
import importlib
import sys

from bench.rows import Part, Row, table

PARTS = (
    "reading",
    "sources",
    "printing",
    "footing",
    "searches",
    "places",
    "issue",
    "page",
    "repaint",
    "load",
    "cluster",
    "many",
    "documents",
)


def part_of(name: str) -> Part:
    """What measures a part; it is imported when it runs."""
    part: Part = importlib.import_module(f"bench.{name}").rows
    return part


def measured(name: str, tiny: bool = False) -> list[Row]:
    """The rows of a part, each told to standard error as it comes."""
    found = []
    for row in part_of(name)(tiny):
        print(f"{name}: {row.what}: {row.measured}", file=sys.stderr)
        found.append(row)
    return found


def main() -> None:
    """Run what the command line names, or all."""
    asked = argparse.ArgumentParser(prog="python -m bench", description="Measure every part, or those named.")
    asked.add_argument("parts", nargs="*", metavar="PART", help=", ".join(PARTS))
    asked.add_argument("--tiny", action="store_true", help="once, on next to nothing: for crashes only")
    wanted = asked.parse_args()
    if unknown := {*wanted.parts} - {*PARTS}:
        asked.error(f"there is no part {', '.join(sorted(unknown))}; use {', '.join(PARTS)}")
    print(table([(name, measured(name, wanted.tiny)) for name in wanted.parts or PARTS]))


if __name__ == "__main__":
    main()
