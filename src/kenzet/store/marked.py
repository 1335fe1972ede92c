"""How much of each zone is marked, when its marks were made, and when they were removed."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Any

from kenzet.store.pool import atomic


@dataclass(frozen=True, slots=True)
class Marked:
    """``done`` strokes are drawn, over all places of the zone, the first on ``put_on``.

    ``stayed`` is the number of hours after which they were found faded, if they were; ``for_hours`` how long they
    have been on now.
    """

    zone: str
    done: int
    put_on: date | None
    taken_off: date | None
    stayed: float | None = None
    for_hours: float | None = None
    when: float = 0.0

    @property
    def still_on(self) -> bool:
        """Whether there are marks left to remove."""
        return self.done > 0 and self.taken_off is None


def marked(conn: Any, quilt: str) -> dict[str, Marked]:
    """All zones of a quilt with any marks, by key."""
    with conn.cursor() as cursor:
        cursor.execute(
            "SELECT zone_key, done, put_on, taken_off, TIMESTAMPDIFF(SECOND, put_at, faded_at) / 3600 AS stayed,"
            " IF(taken_off IS NULL, TIMESTAMPDIFF(SECOND, put_at, CURRENT_TIMESTAMP) / 3600, NULL) AS for_hours,"
            " UNIX_TIMESTAMP(COALESCE(faded_at, put_at)) AS told FROM marked WHERE quilt_id = %s",
            (quilt,),
        )
        rows = cursor.fetchall()
    conn.commit()
    return {
        row["zone_key"]: Marked(
            row["zone_key"],
            row["done"],
            row["put_on"],
            row["taken_off"],
            stayed=None if row["stayed"] is None else float(row["stayed"]),
            for_hours=None if row["for_hours"] is None else float(row["for_hours"]),
            when=float(row["told"] or 0),
        )
        for row in rows
    }


def set_done(conn: Any, quilt: str, zone: str, done: int, today: date) -> None:
    """Store the number of strokes drawn; with the first one the marks are on, with none they never were."""
    with atomic(conn) as cursor:
        cursor.execute(
            "INSERT INTO marked (quilt_id, zone_key, done, put_on, put_at) VALUES (%s, %s, %s, %s, IF(%s, CURRENT_TIMESTAMP, NULL))"
            " ON DUPLICATE KEY UPDATE done = VALUES(done), put_on = IF(VALUES(done) = 0, NULL,"
            " COALESCE(put_on, VALUES(put_on))), put_at = IF(VALUES(done) = 0 OR taken_off IS NOT NULL, VALUES(put_at),"
            " COALESCE(put_at, VALUES(put_at))), taken_off = NULL, faded_at = NULL",
            (quilt, zone, done, today if done else None, done),
        )


def take_off(conn: Any, quilt: str, zone: str, today: date, faded: bool = False) -> None:
    """The marks of a zone are gone: they were removed, or they ``faded``."""
    with atomic(conn) as cursor:
        cursor.execute(
            "UPDATE marked SET taken_off = %s, faded_at = IF(%s, CURRENT_TIMESTAMP, NULL)"
            " WHERE quilt_id = %s AND zone_key = %s AND done > 0",
            (today, faded, quilt, zone),
        )
