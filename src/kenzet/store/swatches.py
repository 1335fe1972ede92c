"""The swatch book, stored by owner. A swatch is never rewritten, only its observations may change; a removed one
is marked as removed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from kenzet.core.errors import TooMany, Unknown
from kenzet.core.logbook.swatch import MOST_SWATCHES, KeptSwatch, Swatch, SwatchFound
from kenzet.core.logbook.swatch_lessons import DatedSwatch
from kenzet.store.pool import atomic, new_id
from kenzet.texts import tr


@dataclass(frozen=True, slots=True)
class SwatchInBook:
    """A swatch with its ``id``."""

    id: str
    dated: DatedSwatch


def listed(conn: Any, owner: int) -> list[SwatchInBook]:
    """All swatches in the book, the newest first."""
    with conn.cursor() as cursor:
        cursor.execute(
            "SELECT id, sewn, found, UNIX_TIMESTAMP(made_at) AS made FROM swatch"
            " WHERE owner_id = %s AND struck_at IS NULL ORDER BY made_at DESC, id",
            (owner,),
        )
        rows = cursor.fetchall()
    conn.commit()
    return [
        SwatchInBook(
            row["id"],
            DatedSwatch(
                Swatch.model_validate_json(row["sewn"]), SwatchFound.model_validate_json(row["found"]), float(row["made"])
            ),
        )
        for row in rows
    ]  # fmt: skip


def load(conn: Any, owner: int, swatch_id: str) -> SwatchInBook:
    """One swatch. Raises Unknown."""
    found = next((one for one in listed(conn, owner) if one.id == swatch_id), None)
    if found is None:
        raise Unknown(tr("There is no such swatch in the book."), "swatch")
    return found


def add(conn: Any, owner: int, swatches: Sequence[KeptSwatch]) -> list[str]:
    """Add swatches to the book; returns their ids. Raises TooMany, and stores none then."""
    new = [new_id() for _ in swatches]
    with atomic(conn) as cursor:
        for key, one in zip(new, swatches, strict=True):
            cursor.execute(
                "INSERT INTO swatch (id, owner_id, sewn, found) VALUES (%s, %s, %s, %s)",
                (key, owner, one.swatch.model_dump_json(), one.found.model_dump_json()),
            )
        cursor.execute(
            "SELECT COUNT(*) AS many FROM swatch WHERE owner_id = %s AND struck_at IS NULL", (owner,)
        )
        if cursor.fetchone()["many"] > MOST_SWATCHES:
            raise TooMany(
                tr("The swatch book holds at most {most_swatches} swatches.", most_swatches=MOST_SWATCHES),
                "swatches",
            )
    return new


def set_found(conn: Any, owner: int, swatch_id: str, found: SwatchFound) -> None:
    """Store the observations about a swatch. Raises Unknown."""
    load(conn, owner, swatch_id)
    with atomic(conn) as cursor:
        cursor.execute(
            "UPDATE swatch SET found = %s WHERE owner_id = %s AND id = %s AND struck_at IS NULL",
            (found.model_dump_json(), owner, swatch_id),
        )


def strike(conn: Any, owner: int, swatch_id: str) -> None:
    """Remove a swatch from the book. Raises Unknown."""
    load(conn, owner, swatch_id)
    with atomic(conn) as cursor:
        cursor.execute(
            "UPDATE swatch SET struck_at = CURRENT_TIMESTAMP(3) WHERE owner_id = %s AND id = %s AND struck_at IS NULL",
            (owner, swatch_id),
        )
