"""Printers and their corrections."""

from __future__ import annotations

from typing import Any

from kenzet.core.marks.printer import Printer
from kenzet.store.pool import atomic


def printers(conn: Any, owner: int) -> list[Printer]:
    """All by name."""
    with conn.cursor() as cursor:
        cursor.execute("SELECT name, across, up FROM printer WHERE owner_id = %s ORDER BY name", (owner,))
        rows = cursor.fetchall()
    conn.commit()
    return [Printer(row["name"], float(row["across"]), float(row["up"])) for row in rows]


def put(conn: Any, owner: int, printer: Printer) -> None:
    """Store a printer; one with the same name is replaced."""
    with atomic(conn) as cursor:
        cursor.execute(
            "INSERT INTO printer (owner_id, name, across, up) VALUES (%s, %s, %s, %s)"
            " ON DUPLICATE KEY UPDATE across = VALUES(across), up = VALUES(up)",
            (owner, printer.name, round(printer.across, 6), round(printer.up, 6)),
        )


def remove(conn: Any, owner: int, name: str) -> None:
    """Delete a printer, if it exists."""
    with atomic(conn) as cursor:
        cursor.execute("DELETE FROM printer WHERE owner_id = %s AND name = %s", (owner, name))
