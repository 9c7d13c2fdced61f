"""The page of the API: every call with its fields and examples, from the OpenAPI file, without scripts."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from functools import lru_cache
from html import escape
from pathlib import Path
from typing import Any

MOST_EXAMPLE = 4_000  # letters of an example that are shown; the file has all of it
STYLE = """
body { margin: 0 auto; max-width: 62rem; padding: 2rem 1.5rem; color: #1d2a2c; background: #fbfaf6;
  font: 15px/1.55 "Source Sans 3", "Noto Sans", sans-serif; }
h1 { font-size: 1.6rem; }
h2 { margin-top: 2.5rem; font-size: 1.2rem; }
h3 { margin: 2rem 0 .3rem; font-size: 1rem; }
code, pre { font-family: "IBM Plex Mono", "Noto Sans Mono", monospace; font-size: 13px; }
pre { max-height: 22rem; overflow: auto; padding: .75rem; border: 1px solid #c9d2cf; background: #fff; }
pre:focus-visible, a:focus-visible, summary:focus-visible { outline: 3px solid #0b5e63; }
a { color: #0b5e63; } th, td { padding: .15rem .9rem .15rem 0; text-align: left; vertical-align: top; }
.method { display: inline-block; min-width: 4.2rem; color: #0b5e63; font-weight: 600; }
"""


@lru_cache(maxsize=1)
def api_page(openapi: Path) -> str:
    """The page as HTML, of the OpenAPI file that is at `openapi`."""
    told = json.loads(openapi.read_bytes())
    by_tag: dict[str, list[tuple[str, str, dict[str, Any]]]] = {}
    for path, operations in told["paths"].items():
        for method, operation in operations.items():
            by_tag.setdefault(operation.get("tags", ["other"])[0], []).append((method, path, operation))
    body = "".join(_part(tag, operations, told) for tag, operations in by_tag.items())
    links = " · ".join(f'<a href="#{escape(tag)}">{escape(tag)}</a>' for tag in by_tag)
    info = told["info"]
    return (
        '<!doctype html><html lang="en"><meta charset="utf-8">'
        '<meta name="viewport" content="width=device-width, initial-scale=1">'
        f"<title>Humble Sum: the API</title><style>{STYLE}</style><main>"
        f"<h1>The API of Humble Sum {escape(info['version'])}</h1><p>{escape(info['description'])}</p>"
        "<p>Errors are problem details (RFC 9457). From other machines a token is sent as a bearer. "
        'The same as a file: <a href="/api/openapi.json">openapi.json</a>.</p>'
        f"<p>{links}</p>{body}</main></html>"
    )


def _part(tag: str, operations: list[tuple[str, str, dict[str, Any]]], told: Mapping[str, Any]) -> str:
    shown = "".join(_operation(*operation, told) for operation in operations)
    return (
        f'<section aria-labelledby="{escape(tag)}"><h2 id="{escape(tag)}">{escape(tag)}</h2>{shown}</section>'
    )


def _operation(method: str, path: str, operation: Mapping[str, Any], told: Mapping[str, Any]) -> str:
    """One call: what it does, what it takes, and an example of what is sent and of what comes."""
    said = [f'<h3><span class="method">{method.upper()}</span> <code>{escape(path)}</code></h3>']
    if text := operation.get("description"):
        said.append(f"<p>{escape(text)}</p>")
    if rows := "".join(map(_parameter, operation.get("parameters", ()))):
        said.append(f"<table><tbody>{rows}</tbody></table>")
    for kind, content in operation.get("requestBody", {}).get("content", {}).items():
        for name, example in _examples(content, told):
            said.append(_example(f"Sent{f', {name}' if name else ''} ({kind})", example))
    for status, response in operation.get("responses", {}).items():
        for kind, content in response.get("content", {}).items():
            if status.startswith("2"):
                for name, example in _examples(content, told):
                    said.append(_example(f"{status}{f', {name}' if name else ''} ({kind})", example))
    return "".join(said)


def _parameter(of: Mapping[str, Any]) -> str:
    text = of.get("description") or of.get("schema", {}).get("description", "")
    needed = ", needed" if of.get("required") else ""
    return (
        f"<tr><th scope='row'><code>{escape(of['name'])}</code></th>"
        f"<td>{escape(of['in'])}{needed}</td><td>{escape(text)}</td></tr>"
    )


def _examples(content: Mapping[str, Any], told: Mapping[str, Any]) -> Iterator[tuple[str, Any]]:
    """The examples of a body: its own, or that of what it is."""
    if "example" in content:
        yield "", content["example"]
        return
    if content.get("examples"):
        for each in content["examples"].values():
            yield each.get("summary", ""), each["value"]
        return
    name = content.get("schema", {}).get("$ref", "").rpartition("/")[2]
    for example in told["components"]["schemas"].get(name, {}).get("examples", ())[:1]:
        yield "", example


def _example(title: str, value: Any) -> str:
    text = value if isinstance(value, str) else json.dumps(value, ensure_ascii=False, indent=1)
    cut = text if len(text) <= MOST_EXAMPLE else text[:MOST_EXAMPLE] + "\n…"
    return f"<details><summary>{escape(title)}</summary><pre tabindex=0>{escape(cut)}</pre></details>"
