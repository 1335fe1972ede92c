"""Migrations: numbered SQL files with one statement each, all of them safe to run again.

The database commits at each DDL statement, so a step is recorded right after it ran; a step that ran but was not
recorded runs again and changes nothing.
"""

from __future__ import annotations

from importlib import resources
from typing import Any

from kenzet.core.errors import Unavailable
from kenzet.texts import tr


def steps() -> list[tuple[str, str]]:
    """(name, SQL) of every migration in order."""
    folder = resources.files("kenzet.store") / "migrations"
    files = sorted((f for f in folder.iterdir() if f.name.endswith(".sql")), key=lambda f: f.name)
    return [(f.name.removesuffix(".sql"), f.read_text(encoding="utf-8")) for f in files]


def migrate(conn: Any) -> list[str]:
    """Apply missing migrations; returns their names.

    Raises Unavailable if the data was written by a newer version.
    """
    known = steps()
    with conn.cursor() as cursor:
        cursor.execute(
            "CREATE TABLE IF NOT EXISTS migration (name VARCHAR(80) NOT NULL PRIMARY KEY,"
            " applied_at TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP) ENGINE = InnoDB"
        )
        cursor.execute("SELECT name FROM migration")
        done = {row["name"] for row in cursor.fetchall()}
        newer = sorted(done - {name for name, _ in known})
        if newer:
            raise Unavailable(
                tr(
                    "The data was written by a newer Kenzet ({newer}); start that one instead.",
                    newer=newer[-1],
                )
            )
        missing = [(name, sql) for name, sql in known if name not in done]
        for name, sql in missing:
            cursor.execute(sql)
            cursor.execute("INSERT INTO migration (name) VALUES (%s)", (name,))
            conn.commit()
    return [name for name, _ in missing]
