"""Every operation with bodies made from its own schema, real ids among them: no answer is our fault."""

from __future__ import annotations

import json
import random
import tempfile
import unittest
from pathlib import Path
from typing import Any
from urllib.parse import quote

from fastapi.testclient import TestClient

from humble_sum.server.app import OPENAPI, create_app
from tests.server.template import demo_database
from tests.soak import SEED, TIMES, told

CASES = 250 * TIMES
TEXTS = (
    "",
    "income",
    "fares",
    "y26",
    "x" * 70,
    "-0",
    "1e999",
    "9" * 1_200,
    "\ud800",
    "\x00",
    "٣",
    "=1",
    "@",
    "..",
)
NUMBERS = (0, 1, -1, 2**31, -(2**63), 10**20, 0.5)


class Made:
    """Values made from a JSON Schema, mostly good and sometimes not."""

    def __init__(self, pick: random.Random, schemas: dict[str, Any], ids: list[str]):
        self.pick, self.schemas, self.ids = pick, schemas, ids

    def of(self, schema: dict[str, Any], depth: int = 0) -> Any:
        pick = self.pick
        if pick.random() < 0.02:
            return pick.choice([None, [], {}, True, *TEXTS, *NUMBERS])
        if "$ref" in schema:
            return self.of(self.schemas[schema["$ref"].rpartition("/")[2]], depth)
        for word in ("anyOf", "oneOf", "allOf"):
            if word in schema:
                return self.of(pick.choice(schema[word]), depth)
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return pick.choice(schema["enum"])
        if schema.get("examples") and pick.random() < 0.5:
            return pick.choice(schema["examples"])
        match schema.get("type"):
            case "object":
                return self.object(schema, depth)
            case "array":
                return self.array(schema, depth)
            case "integer":
                low, high = schema.get("minimum", -3), schema.get("maximum", 40)
                return pick.choice([pick.randint(int(low), int(max(low, min(high, 10**6)))), *NUMBERS[:3]])
            case "number":
                return pick.choice([0.5, 1, 20])
            case "boolean":
                return pick.random() < 0.5
            case "null":
                return None
        return pick.choice(self.ids) if pick.random() < 0.8 else pick.choice(TEXTS)

    def object(self, schema: dict[str, Any], depth: int) -> Any:
        properties, required = schema.get("properties", {}), schema.get("required", [])
        keep = 0.4 if depth < 5 else 0.0
        made = {
            name: self.of(each, depth + 1)
            for name, each in properties.items()
            if name in required or self.pick.random() < keep
        }
        more = schema.get("additionalProperties")
        if isinstance(more, dict) and depth < 5:
            made |= {
                self.pick.choice(self.ids): self.of(more, depth + 1) for _ in range(self.pick.randint(0, 2))
            }
        return made

    def array(self, schema: dict[str, Any], depth: int) -> Any:
        if "prefixItems" in schema:
            return [self.of(each, depth + 1) for each in schema["prefixItems"]]
        most = 3 if depth < 5 else 0
        count = self.pick.randint(min(schema.get("minItems", 0), 3), max(schema.get("minItems", 0), most))
        return [self.of(schema.get("items", {}), depth + 1) for _ in range(count)]


class RequestsTest(unittest.TestCase):
    def test_no_request_is_answered_by_a_fault_of_ours(self) -> None:
        document = json.loads(OPENAPI.read_text(encoding="utf-8"))
        operations = [
            (method, path, operation)
            for path, of in document["paths"].items()
            for method, operation in of.items()
            if not path.endswith("/streamed")
        ]
        pick = random.Random(SEED)
        with tempfile.TemporaryDirectory() as folder:
            database = demo_database(Path(folder) / "records.sqlite")
            client = TestClient(
                create_app(database), base_url="http://localhost", raise_server_exceptions=False
            )
            for number in range(CASES):
                method, path, operation = operations[number % len(operations)]
                ids = self.ids(client)
                made = Made(pick, document["components"]["schemas"], ids)
                url = path
                for each in operation.get("parameters", ()):
                    if each["in"] == "path":
                        value = str(pick.choice(ids if "pack" not in each["name"] else ids[:1] * 9 + ids))
                        url = url.replace(f"{{{each['name']}}}", quote(value, safe="", errors="replace"))
                query = {
                    each["name"]: str(made.of(each["schema"])).encode("utf-8", "replace").decode()
                    for each in operation.get("parameters", ())
                    if each["in"] == "query" and (each.get("required") or pick.random() < 0.5)
                }
                if "seconds" in query:
                    query["seconds"] = "1"
                content = operation.get("requestBody", {}).get("content", {})
                body, headers = self.body(made, content)
                answer = client.request(method.upper(), url, params=query, content=body, headers=headers)
                with self.subTest(method=method, path=url, query=query, body=body[:2_000]):
                    self.assertLess(answer.status_code, 500, answer.text[:500])
                    if answer.status_code >= 400:
                        self.assertIn("problem+json", answer.headers["content-type"])
            database.close()
        told("requests made from the schema", CASES)

    def ids(self, client: TestClient) -> list[str]:
        packs = client.get("/api/packs").json()
        pack = [each["id"] for each in packs] or ["gone"]
        return [
            *pack[:3],
            "income",
            "position",
            "fares",
            "costs",
            "y26",
            "y25",
            "statutory",
            "board",
            "0",
            "csv",
        ]

    def body(self, made: Made, content: dict[str, Any]) -> tuple[bytes, dict[str, str]]:
        if not content:
            return b"", {}
        kind, schema = next(iter(content.items()))
        if kind != "application/json":
            return bytes(made.pick.choices(b'Line,2027\nA,12;"\xff', k=40)), {"Content-Type": kind}
        value = made.of(schema.get("schema", {}))
        if isinstance(value, dict) and "revision" in value and made.pick.random() < 0.8:
            value["revision"] = made.pick.choice([1, 2, 3])
        if isinstance(value, dict) and "seconds" in value:
            value["seconds"] = 1
        return json.dumps(value).encode(), {"Content-Type": kind}


if __name__ == "__main__":
    unittest.main()
