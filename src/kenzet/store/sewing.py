"""The events at the machine, in the order in which they arrived. None is ever changed."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from kenzet.core.sewing.log import Event
from kenzet.core.sewing.stretch import Stretch
from kenzet.store.pool import atomic


def append(conn: Any, quilt: str, events: Sequence[Event]) -> None:
    """Store events in this order; one with a known id is ignored.

    The quilt's row is locked meanwhile, so that events of two devices are always stored in the order of their
    numbers.
    """
    with atomic(conn) as cursor:
        cursor.execute("SELECT id FROM quilt WHERE id = %s FOR UPDATE", (quilt,))
        cursor.executemany(
            "INSERT IGNORE INTO sewing_event (quilt_id, id, told) VALUES (%s, %s, %s)",
            [(quilt, event.id, json.dumps(asdict(event))) for event in events],
        )


def after(conn: Any, quilt: str, seq: int) -> list[tuple[int, Event]]:
    """All events that arrived after number ``seq``, with their numbers."""
    with conn.cursor() as cursor:
        cursor.execute(
            "SELECT seq, told FROM sewing_event WHERE quilt_id = %s AND seq > %s ORDER BY seq", (quilt, seq)
        )
        rows = cursor.fetchall()
    conn.commit()
    return [(row["seq"], _event(json.loads(row["told"]))) for row in rows]


def _event(told: dict[str, Any]) -> Event:
    for name in ("sewn", "back"):
        told[name] = tuple(Stretch(**stretch) for stretch in told[name])
    told["at"] = tuple(told["at"]) if told["at"] else None
    return Event(**told)
