"""How far each zone of a quilt is marked, when its marks were put on, and when they were taken off."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Any

from kenzet.store.pool import atomic


@dataclass(frozen=True, slots=True)
class Marked:
    """``done`` strokes are drawn, over all places of the zone; ``put_on`` the first of them."""

    zone: str
    done: int
    put_on: date | None
    taken_off: date | None

    @property
    def still_on(self) -> bool:
        """Whether there is something left to take off."""
        return self.done > 0 and self.taken_off is None


def marked(conn: Any, quilt: str) -> dict[str, Marked]:
    """All zones of a quilt of which anything was marked, by key."""
    with conn.cursor() as cursor:
        cursor.execute("SELECT zone_key, done, put_on, taken_off FROM marked WHERE quilt_id = %s", (quilt,))
        rows = cursor.fetchall()
    conn.commit()
    return {
        row["zone_key"]: Marked(row["zone_key"], row["done"], row["put_on"], row["taken_off"]) for row in rows
    }


def set_done(conn: Any, quilt: str, zone: str, done: int, today: date) -> None:
    """So many strokes are drawn; with the first of them the marks are on, with none they never were."""
    with atomic(conn) as cursor:
        cursor.execute(
            "INSERT INTO marked (quilt_id, zone_key, done, put_on) VALUES (%s, %s, %s, %s)"
            " ON DUPLICATE KEY UPDATE done = VALUES(done), put_on = IF(VALUES(done) = 0, NULL,"
            " COALESCE(put_on, VALUES(put_on))), taken_off = NULL",
            (quilt, zone, done, today if done else None),
        )


def take_off(conn: Any, quilt: str, zone: str, today: date) -> None:
    """The marks of a zone are off."""
    with atomic(conn) as cursor:
        cursor.execute(
            "UPDATE marked SET taken_off = %s WHERE quilt_id = %s AND zone_key = %s AND done > 0",
            (today, quilt, zone),
        )
