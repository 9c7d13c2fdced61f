"""Write docs/problems.md: every kind of problem the API answers with. A test keeps it current."""

from __future__ import annotations

from pathlib import Path

from humble_sum.server.problem_registry import PROBLEMS

PAGE = Path(__file__).parent.parent / "docs/problems.md"
HEAD = """# Problems

Every refusal is answered as RFC 9457 problem details: `type` is `urn:humble-sum:problem:` and the name
below, `faults` says each thing wrong, where it is and what to do. The command line prints the same
faults and exits with 2. `python -m tools.write_problems` made this page.

| name | status | title | what to do |
|---|---|---|---|
"""


def page() -> str:
    """The page, made from the registry."""
    rows = [f"| `{slug}` | {kind.status} | {kind.title} | {kind.remedy} |" for slug, kind in PROBLEMS.items()]
    return HEAD + "\n".join(rows) + "\n"


def main() -> None:
    PAGE.write_text(page(), encoding="utf-8")


if __name__ == "__main__":
    main()
