"""Remarks about what was sewn (verdicts, notes, pictures, finished tasks), and blocks measured from photographs.
Neither is rewritten, only marked as removed."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any, Literal

from kenzet.core.errors import Unknown
from kenzet.store.pool import atomic, new_id
from kenzet.texts import tr

Kind = Literal["verdict", "note", "photo", "done", "left out", "measured"]


@dataclass(frozen=True, slots=True)
class Remark:
    """``about`` is its subject, such as ``place:1-1``; ``told`` is a verdict, a text, the id of a photograph, or a
    tape reading (JSON). ``when`` in seconds since 1970."""

    id: str
    about: str
    kind: Kind
    told: str
    when: float = 0.0


def remarks(conn: Any, quilt: str) -> list[Remark]:
    """The remarks that were not removed, the oldest first."""
    with conn.cursor() as cursor:
        cursor.execute(
            "SELECT id, about, kind, told, UNIX_TIMESTAMP(made_at) AS made FROM remark"
            " WHERE quilt_id = %s AND struck_at IS NULL ORDER BY seq",
            (quilt,),
        )
        rows = cursor.fetchall()
    conn.commit()
    return [Remark(row["id"], row["about"], row["kind"], row["told"], float(row["made"])) for row in rows]


def remark(conn: Any, quilt: str, one: Remark) -> None:
    """Store a remark; one with a known id is not changed. A new verdict or finished task on the same subject
    replaces the one before."""
    with atomic(conn) as cursor:
        cursor.execute("SELECT id FROM remark WHERE quilt_id = %s AND id = %s", (quilt, one.id))
        if cursor.fetchone():
            return
        if one.kind in ("verdict", "done", "left out"):
            cursor.execute(
                "UPDATE remark SET struck_at = CURRENT_TIMESTAMP(3) WHERE quilt_id = %s AND about = %s AND kind = %s AND struck_at IS NULL",
                (quilt, one.about, one.kind),
            )
        cursor.execute(
            "INSERT INTO remark (quilt_id, id, about, kind, told) VALUES (%s, %s, %s, %s, %s)",
            (quilt, one.id, one.about, one.kind, one.told),
        )


def strike(conn: Any, quilt: str, remark_id: str) -> None:
    """Mark a remark as removed. Raises Unknown."""
    with atomic(conn) as cursor:
        cursor.execute(
            "UPDATE remark SET struck_at = CURRENT_TIMESTAMP(3) WHERE quilt_id = %s AND id = %s AND struck_at IS NULL",
            (quilt, remark_id),
        )
        if not cursor.rowcount:
            raise Unknown(tr("There is no such remark here."), "remark")


@dataclass(frozen=True, slots=True)
class Inspection:
    """A block measured from photograph ``photo`` against ``revision`` of the plan.

    ``found`` is the camera view and every side; ``struck`` has the quilter's changes, by side key: null if it is
    removed, mm if it is moved.
    """

    id: str
    place: str
    photo: str
    revision: int
    found: dict[str, Any]
    struck: dict[str, float | None]
    when: float = 0.0


def inspections(conn: Any, quilt: str) -> list[Inspection]:
    """The inspections that were not removed, the newest first."""
    with conn.cursor() as cursor:
        cursor.execute(
            "SELECT id, place, photo_id, revision, found, struck, UNIX_TIMESTAMP(made_at) AS made FROM inspection"
            " WHERE quilt_id = %s AND struck_at IS NULL ORDER BY made_at DESC, id",
            (quilt,),
        )
        rows = cursor.fetchall()
    conn.commit()
    return [
        Inspection(
            row["id"], row["place"], row["photo_id"], row["revision"], json.loads(row["found"]),
            json.loads(row["struck"]), float(row["made"]),
        )
        for row in rows
    ]  # fmt: skip


def inspection(conn: Any, quilt: str, inspection_id: str) -> Inspection:
    """One inspection. Raises Unknown."""
    found = next((one for one in inspections(conn, quilt) if one.id == inspection_id), None)
    if found is None:
        raise Unknown(tr("There is no such measured picture here."), "inspection")
    return found


def add_inspection(
    conn: Any, quilt: str, place: str, photo: str, revision: int, found: dict[str, Any]
) -> str:
    """Store an inspection; returns its id."""
    new = new_id()
    with atomic(conn) as cursor:
        cursor.execute(
            "INSERT INTO inspection (id, quilt_id, place, photo_id, revision, found, struck) VALUES (%s, %s, %s, %s, %s, %s, '{}')",
            (new, quilt, place, photo, revision, json.dumps(found)),
        )
    return new


def set_struck(conn: Any, quilt: str, inspection_id: str, struck: dict[str, float | None]) -> None:
    """Store which sides were removed or moved. Raises Unknown."""
    inspection(conn, quilt, inspection_id)
    with atomic(conn) as cursor:
        cursor.execute(
            "UPDATE inspection SET struck = %s WHERE quilt_id = %s AND id = %s",
            (json.dumps(struck), quilt, inspection_id),
        )


def strike_inspection(conn: Any, quilt: str, inspection_id: str) -> None:
    """Mark a whole inspection as removed. Raises Unknown."""
    inspection(conn, quilt, inspection_id)
    with atomic(conn) as cursor:
        cursor.execute(
            "UPDATE inspection SET struck_at = CURRENT_TIMESTAMP(3) WHERE quilt_id = %s AND id = %s",
            (quilt, inspection_id),
        )
