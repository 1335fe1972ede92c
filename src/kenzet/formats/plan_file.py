"""Plan files: bytes to a document and back. Described in docs/plan-format.md."""

from __future__ import annotations

import json
from typing import Any

from kenzet.core.errors import BadValue
from kenzet.core.top.document import Quilt, read, write
from kenzet.texts import tr

MOST_BYTES = 4_000_000


def load(data: bytes) -> Quilt:
    """A document from a plan file. Raises BadValue: too large, not JSON, not a plan."""
    if len(data) > MOST_BYTES:
        raise BadValue(tr("A plan file can hold at most 4 MB."))
    try:
        values: Any = json.loads(data)
    except (ValueError, RecursionError) as error:
        nested = isinstance(error, RecursionError)
        raise BadValue(
            tr("This file is not JSON.") if not nested else tr("This file is nested too deeply to be a plan.")
        ) from error
    return read(values)


def dump(quilt: Quilt) -> bytes:
    """A plan file of ``quilt``; ``load`` gives the same document."""
    return (json.dumps(write(quilt), indent=1, ensure_ascii=False) + "\n").encode()


def schema() -> bytes:
    """The JSON schema of a plan file, generated from the models."""
    return (json.dumps(Quilt.model_json_schema(), indent=1, sort_keys=True) + "\n").encode()
