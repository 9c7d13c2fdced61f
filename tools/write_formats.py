"""Write the published formats: JSON Schemas and the OpenAPI file. A test keeps them current."""

import json
import tempfile
from pathlib import Path
from typing import Any

from humble_sum.core.footing.problem_json import BareProblem
from humble_sum.core.intake.decisions import Decisions
from humble_sum.core.rules.rulebook_file import RulebookFile
from humble_sum.exchange.containers.manifest import Manifest
from humble_sum.exchange.pack_json import pack_schema
from humble_sum.records.database import Database
from humble_sum.server.app import OPENAPI, create_app, openapi

FORMATS = Path(__file__).parent.parent / "docs/formats"
DIALECT = {"$schema": "https://json-schema.org/draft/2020-12/schema"}


def formats() -> dict[Path, Any]:
    """Each published file and what it should hold."""
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder) / "records.sqlite")
        document = openapi(create_app(database))
        database.close()
    return {
        OPENAPI: document,
        FORMATS / "pack.schema.json": pack_schema(),
        FORMATS / "rulebook.schema.json": DIALECT | RulebookFile.model_json_schema(),
        FORMATS / "decisions.schema.json": DIALECT | Decisions.model_json_schema(),
        FORMATS / "issue.schema.json": DIALECT | Manifest.model_json_schema(),
        FORMATS / "footing.schema.json": DIALECT | BareProblem.model_json_schema(),
    }


def main() -> None:
    for file, content in formats().items():
        text = json.dumps(content, ensure_ascii=False, indent=1) + "\n"
        file.write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main()
