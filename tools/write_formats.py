"""Write the published formats: JSON Schemas and the OpenAPI file. A test keeps them current."""

import json
import tempfile
from pathlib import Path
from typing import Any

from humble_sum.core.footing.standalone import BareProblem
from humble_sum.core.rules.rulebook_file import RulebookFile
from humble_sum.exchange.pack_json import pack_schema
from humble_sum.records.database import Database
from humble_sum.server.app import create_app

FORMATS = Path(__file__).parent.parent / "docs/formats"
DIALECT = {"$schema": "https://json-schema.org/draft/2020-12/schema"}


def formats() -> dict[str, Any]:
    """Each published file and what it should hold."""
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder) / "records.sqlite")
        openapi = create_app(database).openapi()
        database.close()
    return {
        "openapi.json": openapi,
        "pack.schema.json": pack_schema(),
        "rulebook.schema.json": DIALECT | RulebookFile.model_json_schema(),
        "footing.schema.json": DIALECT | BareProblem.model_json_schema(),
    }


def main() -> None:
    for name, content in formats().items():
        text = json.dumps(content, ensure_ascii=False, indent=1) + "\n"
        (FORMATS / name).write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main()
