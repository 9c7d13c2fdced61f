"""Promises the repository makes about itself: formats, links, imports and lock files."""

import ast
import json
import os
import re
import subprocess
import tempfile
import unittest
from pathlib import Path
from typing import Any

import jsonschema
from tools import write_clauses, write_problems
from tools.write_formats import FORMATS, formats

from humble_sum.core.printing.clauses import Clauses
from humble_sum.exchange.pack_json import write_pack
from humble_sum.records.demo import demo_pack
from humble_sum.server import origins, problem_registry
from tests.making import cases

ROOT = Path(__file__).parent.parent.parent
SOURCE = ROOT / "src/humble_sum"
LAYERS = ("core", "exchange", "records", "server")
OUTSIDE_CORE = {
    "fastapi",
    "starlette",
    "sqlalchemy",
    "alembic",
    "typer",
    "uvicorn",
    "openpyxl",
    "socket",
    "sqlite3",
}
LINK = re.compile(r"\]\(([^)#]+)")


def imports(file: Path) -> set[str]:
    """Every module a file imports."""
    found = set()
    for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
        if isinstance(node, ast.Import):
            found |= {name.name for name in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
    return found


def named_values(field: dict[str, Any], schema: dict[str, Any]) -> list[str]:
    """The values a clause's schema names, in alternatives and definitions too."""
    if "$ref" in field:
        return []
    found = list(field.get("enum", [])) + ([field["const"]] if "const" in field else [])
    for alternative in field.get("anyOf", []):
        found += named_values(alternative, schema)
    return found


CONSTANTS = vars(problem_registry) | vars(origins)


def raised_slugs() -> set[str]:
    """The name of every refusal that the code makes."""
    found = set()
    for file in SOURCE.rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") in ("InputError", "problem"):
                first = node.args[0]
                if isinstance(first, ast.Constant):
                    found.add(str(first.value))
                elif isinstance(first, ast.Name) and first.id in CONSTANTS:
                    found.add(CONSTANTS[first.id])
    return found | {"cannot-foot", "too-busy"}  # raised by errors of their own


class FormatsTest(unittest.TestCase):
    def test_every_problem_is_in_the_registry_and_documented(self) -> None:
        named = set(problem_registry.PROBLEMS)
        self.assertEqual(raised_slugs() - named - problem_registry.OF_THE_COMMAND_LINE, set())
        self.assertEqual(named - raised_slugs(), set(), "kinds that nothing raises")
        published = (ROOT / "docs/problems.md").read_text(encoding="utf-8")
        self.assertEqual(published, write_problems.page(), "run: python -m tools.write_problems")

    def test_published_files_are_what_the_code_says(self) -> None:
        for file, content in formats().items():
            with self.subTest(file.name):
                published = json.loads(file.read_text(encoding="utf-8"))
                self.assertEqual(published, content, "run: python tools/write_formats.py")

    def test_the_page_of_clauses_prints_every_value(self) -> None:
        published = (ROOT / "docs/clauses.md").read_text(encoding="utf-8")
        self.assertEqual(published, write_clauses.page(), "run: python -m tools.write_clauses")
        shown = {
            (clause, json.dumps(value)) for clause, values, _, _ in write_clauses.rows() for value in values
        }
        schema = Clauses.model_json_schema()
        for clause, field in schema["properties"].items():
            self.assertIn(clause, {name for name, _ in shown})
            for value in named_values(field, schema):
                self.assertIn((clause, json.dumps(value)), shown)

    def test_the_schemas_accept_what_the_readers_accept(self) -> None:
        schemas = formats()
        pack = json.loads(write_pack(demo_pack()))
        jsonschema.validate(pack, schemas[FORMATS / "pack.schema.json"])
        jsonschema.validate(pack["rulebook"], schemas[FORMATS / "rulebook.schema.json"])
        for case in cases("footing"):
            bare = {key: case[key] for key in ("figures", "relations", "holds")}
            jsonschema.validate(bare, schemas[FORMATS / "footing.schema.json"])

    def test_the_schema_refuses_numbers_as_amounts_and_unknown_names(self) -> None:
        schema = formats()[FORMATS / "pack.schema.json"]
        for change in ({"surprise": 1}, {"version": 2}, {"entity": 3}):
            with self.subTest(change), self.assertRaises(jsonschema.ValidationError):
                jsonschema.validate(json.loads(write_pack(demo_pack())) | change, schema)
        pack = json.loads(write_pack(demo_pack()))
        pack["statements"][0]["lines"][1]["amounts"]["y26"] = 12.5
        with self.assertRaises(jsonschema.ValidationError):
            jsonschema.validate(pack, schema)


class ShapeTest(unittest.TestCase):
    def test_imports_run_one_way(self) -> None:
        for place, layer in enumerate(LAYERS):
            above = tuple(
                f"humble_sum.{name}"
                for name in (*LAYERS[place + 1 :], "cli", "serving", "footing_files", "taking")
            )
            for file in (SOURCE / layer).rglob("*.py"):
                with self.subTest(file.relative_to(ROOT)):
                    self.assertEqual([name for name in imports(file) if name.startswith(above)], [])

    def test_core_does_no_input_output_web_or_database(self) -> None:
        for file in (SOURCE / "core").rglob("*.py"):
            with self.subTest(file.relative_to(ROOT)):
                self.assertEqual({name.split(".")[0] for name in imports(file)} & OUTSIDE_CORE, set())

    def test_the_browser_formats_no_number(self) -> None:
        for file in (ROOT / "web/src").rglob("*.ts*"):
            if file.name != "schema.d.ts":
                text = file.read_text(encoding="utf-8")
                self.assertNotRegex(text, r"toLocale|Intl\.|toFixed|toPrecision", file.name)


class LinksTest(unittest.TestCase):
    def test_every_link_in_the_documents_leads_somewhere(self) -> None:
        for document in (ROOT / "README.md", *(ROOT / "docs").rglob("*.md")):
            for link in LINK.findall(document.read_text(encoding="utf-8")):
                if not link.startswith(("http:", "https:")):
                    with self.subTest(document=document.name, link=link):
                        self.assertTrue((document.parent / link).exists())

    def test_every_screenshot_is_shown_in_the_readme(self) -> None:
        readme = (ROOT / "README.md").read_text(encoding="utf-8")
        shots = sorted(shot.name for shot in (ROOT / "docs/screenshots").glob("*.png"))
        self.assertTrue(0 < len(shots) < 20)
        self.assertEqual([shot for shot in shots if shot not in readme], [])


class LocksTest(unittest.TestCase):
    def test_lock_files_hold_no_registry_address(self) -> None:
        for name in ("requirements/run.lock", "requirements/dev.lock", "web/package-lock.json"):
            text = (ROOT / name).read_text(encoding="utf-8")
            self.assertNotRegex(
                text, r'"resolved"|--index-url|--extra-index-url|--find-links [^\s-]|https?://[^"\s]*\.tgz'
            )

    def test_every_python_requirement_is_pinned_by_hash(self) -> None:
        for name in ("run", "dev"):
            text = (ROOT / f"requirements/{name}.lock").read_text(encoding="utf-8")
            pins = re.findall(r"^([A-Za-z0-9._-]+==\S+)(.*)$", text, re.MULTILINE)
            self.assertGreater(len(pins), 20)
            self.assertEqual([pin for pin, rest in pins if not rest.strip().endswith("\\")], [])


class CarryingOnTest(unittest.TestCase):
    PAGE = (ROOT / "CONTRIBUTING.md").read_text(encoding="utf-8")

    def test_two_modules_of_one_name_have_a_reason(self) -> None:
        found: dict[str, list[str]] = {}
        for file in SOURCE.rglob("*.py"):
            if file.stem != "__init__":
                found.setdefault(file.stem, []).append(str(file.relative_to(SOURCE)))
        twins = {name for name, files in found.items() if len(files) > 1}
        reasons = self.PAGE.partition("only for a reason given here")[2].partition("\n## ")[0]
        self.assertEqual(twins, set(re.findall(r"^\| `(\w+)` \|", reasons, re.MULTILINE)))

    def test_every_file_that_the_pages_name_is_there(self) -> None:
        for page in (ROOT / "CONTRIBUTING.md", ROOT / "README.md", *(ROOT / "docs").glob("*.md")):
            named = re.findall(
                r"`((?:core|exchange|records|server|cli|tests|tools|bench|web)/[\w/.]+\.\w+)`",
                page.read_text(encoding="utf-8"),
            )
            for name in named:
                with self.subTest(page.name, named=name):
                    self.assertTrue((ROOT / name).exists() or (SOURCE / name).exists())

    def test_its_commands_work_line_by_line_in_a_clone(self) -> None:
        """With what is installed here: the installs themselves are what `make test` began with."""
        block = self.PAGE.partition("```sh\n")[2].partition("```")[0]
        commands = [line.partition("#")[0].strip() for line in block.splitlines()]
        self.assertEqual(commands[0], "make tools")
        with tempfile.TemporaryDirectory() as folder:
            clone = Path(folder) / "clone"
            subprocess.run(["git", "clone", "-q", "--depth", "1", f"file://{ROOT}", clone], check=True)
            for name in (".venv", ".stamps", "web/node_modules"):
                (clone / name).symlink_to(ROOT / name)
            for command in commands:
                if command.startswith((".venv/bin/python", "make tools")):
                    with self.subTest(command):
                        said = command.replace("make tools", "make -n tools").split()
                        environment = os.environ | {"PYTHONPATH": str(clone / "src")}
                        done = subprocess.run(
                            said, cwd=clone, env=environment, capture_output=True, check=False
                        )
                        self.assertEqual(done.returncode, 0, done.stderr.decode()[-2000:])
