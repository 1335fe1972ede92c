"""Photographs, stored by owner: quilts refer to them, and copies of a quilt share them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from kenzet.core.errors import Unknown
from kenzet.store.pool import atomic, new_id
from kenzet.texts import tr


@dataclass(frozen=True, slots=True)
class KeptPhoto:
    """A photograph with its size in pixels."""

    jpeg: bytes
    width: int
    height: int


def add(conn: Any, owner: int, photo: KeptPhoto) -> str:
    """Store a photograph; returns its id."""
    photo_id = new_id()
    with atomic(conn) as cursor:
        cursor.execute(
            "INSERT INTO photo (id, owner_id, width, height, jpeg) VALUES (%s, %s, %s, %s, %s)",
            (photo_id, owner, photo.width, photo.height, photo.jpeg),
        )
    return photo_id


def load(conn: Any, owner: int, photo_id: str) -> KeptPhoto:
    """One photograph. Raises Unknown."""
    with conn.cursor() as cursor:
        cursor.execute(
            "SELECT width, height, jpeg FROM photo WHERE id = %s AND owner_id = %s", (photo_id, owner)
        )
        row = cursor.fetchone()
    conn.commit()
    if not row:
        raise Unknown(tr("There is no such photograph here."), "photo")
    return KeptPhoto(row["jpeg"], row["width"], row["height"])


def is_there(conn: Any, owner: int, photo_id: str) -> bool:
    """Whether the owner has such a photograph."""
    with conn.cursor() as cursor:
        cursor.execute("SELECT 1 FROM photo WHERE id = %s AND owner_id = %s", (photo_id, owner))
        found = cursor.fetchone() is not None
    conn.commit()
    return found
