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
"""The error response of every request."""


_BINARY = {"type": "string", "format": "binary"}
_FILES = {
    "zip": "application/zip", "pdf": "application/pdf", "svg": "image/svg+xml", "dxf": "image/vnd.dxf", "csv": "text/csv", "jpg": "image/jpeg", "png": "image/png", "ics": "text/calendar",
    "json": "application/json",
}  # fmt: skip
"""Media type by the ending of the path."""


def description() -> str:
    """The description as JSON with keys in a fixed order; to be run in a process that has not loaded the
    application yet."""
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
    """Removes what the front end's types cannot express: tuples become lists, keys with a pattern any strings,
    lengths their text; properties that can only be null are dropped."""
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
