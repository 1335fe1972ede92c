"""Tools and supplies, stored by owner: each item under its key."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any

from kenzet.core.kit.inventory import OneThing, first_things
from kenzet.core.kit.things import Thing
from kenzet.core.params import with_plain_names
from kenzet.store.pool import atomic


def things(conn: Any, owner: int) -> dict[str, Thing]:
    """All items by key, in the order in which they were added; a new owner gets the first items."""
    with atomic(conn) as cursor:
        cursor.execute("SELECT cupboard_begun AS begun FROM owner WHERE id = %s FOR UPDATE", (owner,))
        row = cursor.fetchone()
        if row and not row["begun"]:
            _put(cursor, owner, first_things())
            cursor.execute("UPDATE owner SET cupboard_begun = 1 WHERE id = %s", (owner,))
        cursor.execute(
            "SELECT thing_key, document FROM thing WHERE owner_id = %s ORDER BY position", (owner,)
        )
        rows = cursor.fetchall()
    return {row["thing_key"]: _thing(row["document"]) for row in rows}


def put(conn: Any, owner: int, kept: Mapping[str, Thing]) -> None:
    """Store items; an item with an existing key is replaced and keeps its place."""
    with atomic(conn) as cursor:
        _put(cursor, owner, kept)


def remove(conn: Any, owner: int, key: str) -> None:
    """Delete an item for good, if it exists."""
    with atomic(conn) as cursor:
        cursor.execute("DELETE FROM thing WHERE owner_id = %s AND thing_key = %s", (owner, key))


def _put(cursor: Any, owner: int, kept: Mapping[str, Thing]) -> None:
    for key, thing in kept.items():
        document = thing.model_dump_json()
        _thing(document)  # an item that cannot be read again would make all of them unreadable
        cursor.execute(
            "INSERT INTO thing (owner_id, thing_key, document) VALUES (%s, %s, %s)"
            " ON DUPLICATE KEY UPDATE document = VALUES(document)",
            (owner, key, document),
        )


def _thing(document: str) -> Thing:
    return OneThing.model_validate({"thing": with_plain_names(json.loads(document))}).thing
