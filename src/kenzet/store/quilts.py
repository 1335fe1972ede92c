"""Quilts and their revisions.

A revision is never changed. Undo shows its parent; redo shows the newest child; a change after an undo becomes the
newest child, so redo never leads into abandoned revisions. Every function takes a connection and the owner's
number; those that write take the version that the caller last saw.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

from kenzet.core.errors import Stale, Unknown
from kenzet.core.params import with_plain_names
from kenzet.core.top.document import Quilt, read, write
from kenzet.store.pool import atomic, new_id
from kenzet.texts import tr

LOCAL_OWNER = 1
State = Literal["at hand", "put away", "deleted"]


@dataclass(frozen=True, slots=True)
class Kept:
    """The present state of a quilt. ``undo`` and ``redo`` say, in words, what they would undo or redo."""

    id: str
    version: int
    revision: int
    quilt: Quilt
    undo: str | None
    redo: str | None


@dataclass(frozen=True, slots=True)
class Listed:
    """An entry of the list of quilts."""

    id: str
    name: str
    state: State
    revision: int
    changed: int
    sewn: bool


def add(conn: Any, owner: int, quilt: Quilt) -> str:
    """Store a new quilt; returns its id."""
    quilt_id = new_id()
    with atomic(conn) as cursor:
        cursor.execute(
            "INSERT INTO quilt (id, owner_id, current, version) VALUES (%s, %s, 1, 1)", (quilt_id, owner)
        )
        _insert(cursor, quilt_id, 1, None, Made(quilt, "begun", "first"))
    return quilt_id


def listed(conn: Any, owner: int) -> list[Listed]:
    """All quilts of an owner that are not deleted, the last changed first."""
    with conn.cursor() as cursor:
        cursor.execute(
            "SELECT q.id, q.state, q.current, UNIX_TIMESTAMP(q.changed_at) AS changed, JSON_VALUE(r.document, '$.name') AS name,"
            " EXISTS (SELECT 1 FROM sewing_event e WHERE e.quilt_id = q.id) AS sewn"
            " FROM quilt q JOIN revision r ON r.quilt_id = q.id AND r.number = q.current"
            " WHERE q.owner_id = %s AND q.state <> 'deleted' ORDER BY q.changed_at DESC, q.id",
            (owner,),
        )
        rows = cursor.fetchall()
    conn.commit()  # ends the read view, so that the next read sees what others kept
    return [
        Listed(row["id"], row["name"], row["state"], row["current"], int(row["changed"]), bool(row["sewn"]))
        for row in rows
    ]


def set_state(conn: Any, owner: int, quilt_id: str, state: State) -> None:
    """Archive a quilt, delete it, or restore it: a deleted one is kept and can be restored. Raises Unknown."""
    with atomic(conn) as cursor:
        _locked(cursor, owner, quilt_id)
        cursor.execute("UPDATE quilt SET state = %s WHERE id = %s", (state, quilt_id))


def load(conn: Any, owner: int, quilt_id: str) -> Kept:
    """The present state of a quilt. Raises Unknown."""
    with conn.cursor() as cursor:
        kept = _load(cursor, owner, quilt_id)
    conn.commit()
    return kept


def planned_at(conn: Any, owner: int, quilt_id: str, revision: int) -> Kept:
    """The quilt at a revision. Raises Unknown."""
    with conn.cursor() as cursor:
        cursor.execute(
            "SELECT q.version, r.document FROM quilt q JOIN revision r ON r.quilt_id = q.id"
            " WHERE q.id = %s AND q.owner_id = %s AND r.number = %s",
            (quilt_id, owner, revision),
        )
        row = cursor.fetchone()
    conn.commit()
    if not row:
        raise Unknown(tr("This quilt has no such revision."), "revision")
    return Kept(quilt_id, row["version"], revision, read(json.loads(row["document"])), None, None)


def document(conn: Any, owner: int, quilt_id: str) -> str:
    """The plan as stored, without parsing it: all that is left of a quilt that can no longer be read. Raises
    Unknown."""
    with conn.cursor() as cursor:
        row = _shown(cursor, owner, quilt_id)
    conn.commit()
    return str(row["document"])


@dataclass(frozen=True, slots=True)
class Made:
    """A change: the quilt after it, and what was done, in words.

    ``key`` identifies it: sent twice, it is made once. With ``joins`` it forms one undo step with the revision
    before.
    """

    quilt: Quilt
    what: str
    key: str
    joins: bool = False


def change(conn: Any, owner: int, quilt_id: str, version: int, made: Sequence[Made]) -> Kept:
    """Store changes in order, each as a revision, all or none. Raises Unknown, Stale."""
    with atomic(conn) as cursor:
        row = _locked(cursor, owner, quilt_id)
        new = [one for one in made if not _is_made(cursor, quilt_id, one.key)]
        if new:
            _refuse_stale(row, version + len(made) - len(new))
        shown = row["current"]
        for one in new:
            shown = _keep(cursor, quilt_id, shown, one)
        return _load(cursor, owner, quilt_id)


def made_already(conn: Any, quilt_id: str, keys: Sequence[str]) -> set[str]:
    """Those of ``keys`` whose changes are stored."""
    with conn.cursor() as cursor:
        found = {key for key in keys if _is_made(cursor, quilt_id, key)}
    conn.commit()
    return found


def _is_made(cursor: Any, quilt_id: str, key: str) -> bool:
    cursor.execute("SELECT 1 FROM revision WHERE quilt_id = %s AND change_key = %s", (quilt_id, key))
    return cursor.fetchone() is not None


def _keep(cursor: Any, quilt_id: str, shown: int, one: Made) -> int:
    cursor.execute("SELECT MAX(number) AS last FROM revision WHERE quilt_id = %s", (quilt_id,))
    number: int = cursor.fetchone()["last"] + 1
    joined = _parent(cursor, quilt_id, shown) if one.joins else None
    _insert(cursor, quilt_id, number, shown if joined is None else joined, one)
    _show(cursor, quilt_id, number)
    return number


def undo(conn: Any, owner: int, quilt_id: str, version: int) -> Kept:
    """Show the parent of the present revision; at the first revision nothing happens. Raises Unknown, Stale."""
    with atomic(conn) as cursor:
        row = _locked(cursor, owner, quilt_id)
        _refuse_stale(row, version)
        parent = _parent(cursor, quilt_id, row["current"])
        if parent is not None:
            _show(cursor, quilt_id, parent)
        return _load(cursor, owner, quilt_id)


def redo(conn: Any, owner: int, quilt_id: str, version: int) -> Kept:
    """Show the newest child of the present revision, if there is one. Raises Unknown, Stale."""
    with atomic(conn) as cursor:
        row = _locked(cursor, owner, quilt_id)
        _refuse_stale(row, version)
        child = _newest_child(cursor, quilt_id, row["current"])
        if child is not None:
            _show(cursor, quilt_id, child["number"])
        return _load(cursor, owner, quilt_id)


def unit(conn: Any, owner: int) -> str:
    """The owner's unit: in or mm."""
    with conn.cursor() as cursor:
        cursor.execute("SELECT unit FROM owner WHERE id = %s", (owner,))
        found = str(cursor.fetchone()["unit"])
    conn.commit()
    return found


def set_unit(conn: Any, owner: int, chosen: str) -> None:
    """Store the owner's unit; no length changes."""
    with atomic(conn) as cursor:
        cursor.execute("UPDATE owner SET unit = %s WHERE id = %s", (chosen, owner))


def _shown(cursor: Any, owner: int, quilt_id: str) -> Any:
    cursor.execute(
        "SELECT q.version, q.current, r.document, r.parent, r.what"
        " FROM quilt q JOIN revision r ON r.quilt_id = q.id AND r.number = q.current"
        " WHERE q.id = %s AND q.owner_id = %s",
        (quilt_id, owner),
    )
    row = cursor.fetchone()
    if not row:
        raise _no_such_quilt()
    return row


def _load(cursor: Any, owner: int, quilt_id: str) -> Kept:
    row = _shown(cursor, owner, quilt_id)
    child = _newest_child(cursor, quilt_id, row["current"])
    return Kept(
        id=quilt_id,
        version=row["version"],
        revision=row["current"],
        quilt=_read(row["document"]),
        undo=row["what"] if row["parent"] is not None else None,
        redo=child["what"] if child else None,
    )


@lru_cache(maxsize=32)
def _read(document: str) -> Quilt:
    """Cached, so that a quilt in use is not parsed at every key press."""
    return read(with_plain_names(json.loads(document)))


def _locked(cursor: Any, owner: int, quilt_id: str) -> Any:
    cursor.execute(
        "SELECT current, version FROM quilt WHERE id = %s AND owner_id = %s FOR UPDATE", (quilt_id, owner)
    )
    row = cursor.fetchone()
    if not row:
        raise _no_such_quilt()
    return row


def _no_such_quilt() -> Unknown:
    return Unknown(tr("There is no such quilt here. Go back to the list and choose one."), "quilt")


def _refuse_stale(row: Any, version: int) -> None:
    if row["version"] != version:
        raise Stale(
            tr(
                "This quilt was changed in another window since you opened it here. Nothing was overwritten; the newest state is shown now."
            ),
            "version",
        )


def _parent(cursor: Any, quilt_id: str, number: int) -> int | None:
    cursor.execute("SELECT parent FROM revision WHERE quilt_id = %s AND number = %s", (quilt_id, number))
    parent: int | None = cursor.fetchone()["parent"]
    return parent


def _newest_child(cursor: Any, quilt_id: str, number: int) -> Any:
    cursor.execute(
        "SELECT number, what FROM revision WHERE quilt_id = %s AND parent = %s ORDER BY number DESC LIMIT 1",
        (quilt_id, number),
    )
    return cursor.fetchone()


def _insert(cursor: Any, quilt_id: str, number: int, parent: int | None, one: Made) -> None:
    cursor.execute(
        "INSERT INTO revision (quilt_id, number, parent, what, change_key, document)"
        " VALUES (%s, %s, %s, %s, %s, %s)",
        (quilt_id, number, parent, one.what[:200], one.key, json.dumps(write(one.quilt), ensure_ascii=False)),
    )


def _show(cursor: Any, quilt_id: str, number: int) -> None:
    cursor.execute("UPDATE quilt SET current = %s, version = version + 1 WHERE id = %s", (number, quilt_id))
