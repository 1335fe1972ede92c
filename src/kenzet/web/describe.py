"""Prints the OpenAPI description of the API, from which ui/src/api/schema.ts is made."""

from __future__ import annotations

import json

from kenzet.web.app import Settings, create_app


def description() -> str:
    """The description as JSON, keys in a fixed order."""
    return json.dumps(create_app(Settings(pool=None)).api_doc, indent=1, sort_keys=True)


if __name__ == "__main__":
    print(description())
