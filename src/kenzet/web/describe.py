"""Prints the OpenAPI description of the API, from which ui/src/api/schema.ts is made."""

from __future__ import annotations

import json
import os
from typing import Any

from kenzet.texts import tr
from kenzet.web.blueprint import WANTED

_REFUSED = {
    "description": tr("Refused: what is wrong, and in which field"),
    "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
}
"""What every request may be answered with instead."""


_BINARY = {"type": "string", "format": "binary"}
_FILES = {
    "zip": "application/zip", "pdf": "application/pdf", "svg": "image/svg+xml", "dxf": "image/vnd.dxf", "csv": "text/csv", "jpg": "image/jpeg", "png": "image/png", "ics": "text/calendar",
    "json": "application/json",
}  # fmt: skip
"""What is sent, by the ending of its path."""


def description() -> str:
    """The description as JSON, keys in a fixed order; in a process that has not loaded the application yet."""
    os.environ[WANTED] = "yes"
    from kenzet.web.app import Settings, create_app

    found = _plain(create_app(Settings(pool=None)).api_doc)
    for path, requests in found["paths"].items():
        for request in requests.values():
            sent = _FILES.get(path.rpartition(".")[2])
            if sent:
                request["responses"]["200"] = {
                    "description": tr("The file"),
                    "content": {sent: {"schema": {} if sent == "application/json" else _BINARY}},
                }
            request["responses"].pop("422", None)  # the library's own form, which is never sent
            request["responses"]["default"] = _REFUSED
    return json.dumps(found, indent=1, sort_keys=True)


def _plain(part: Any) -> Any:
    """Without what the types of the front end cannot carry through a request: tuples become lists of their length, keys of a
    certain form any keys, lengths their text, and what can only be null is left out.
    """
    if isinstance(part, list):
        return [_plain(one) for one in part]
    if not isinstance(part, dict):
        return part
    if set(part) == {"mm", "text"}:  # a length, as a default
        return part["text"]
    found = {key: _plain(value) for key, value in part.items() if key != "securitySchemes" or value}
    if "prefixItems" in found:
        kinds = [one for k, one in enumerate(found["prefixItems"]) if one not in found["prefixItems"][:k]]
        del found["prefixItems"]
        found["items"] = kinds[0] if len(kinds) == 1 else {"anyOf": kinds}
    if found.get("type") == "object" and not {"properties", "additionalProperties"} & set(found):
        found["additionalProperties"] = True  # keys of a certain form, which the description cannot hold
    if isinstance(found.get("properties"), dict):
        some = found["properties"]
        found["properties"] = {
            key: one if not isinstance(one, dict) or one.get("type") != "null" else {}
            for key, one in some.items()
        }
    return found


if __name__ == "__main__":
    print(description())
