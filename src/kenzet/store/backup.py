"""Everything that is stored, in one file, and back.

A backup is a zip: ``manifest.json`` with a version, the migrations applied, and for each table its number of rows
and the SHA-256 of its file; and one file of JSON lines for each table. It is taken from one snapshot while the app
runs, and read back before it counts as done.
"""

from __future__ import annotations

import base64
import hashlib
import io
import json
import zipfile
from collections.abc import Iterable, Iterator
from contextlib import suppress
from datetime import UTC, date, datetime
from decimal import Decimal
from pathlib import Path
from typing import Any

from kenzet.core.errors import BadValue, Unavailable
from kenzet.store.migrate import steps
from kenzet.texts import tr

FORMAT = "kenzet.backup"
VERSION = 1
TABLES = (
    "owner",
    "quilt",
    "revision",
    "photo",
    "recipe",
    "thing",
    "printer",
    "marked",
    "sewing_event",
    "remark",
    "inspection",
    "swatch",
)
"""In an order in which rows can be restored; every table but that of the migrations, which the manifest names."""
_LATER = frozenset({"swatch"})
"""Tables that backups of the same version may lack, because an older Kenzet left them out."""
KEPT_DAYS = 7
MOST_BYTES = 4_000_000_000
_ROWS = 500
_NAME = "kenzet-%Y-%m-%d.zip"


def backup(conn: Any, into: Path) -> dict[str, int]:
    """Write everything to ``into``, which is replaced only by a complete file that was read back; returns the number
    of rows of each table.

    Raises Unavailable if it cannot be written.
    """
    part = into.with_name(f".{into.name}.part")
    try:
        into.parent.mkdir(parents=True, exist_ok=True)
        with part.open("wb") as file:
            _write(conn, file)
        found = checked(part)
        part.replace(into)
    except OSError as error:
        raise Unavailable(
            tr(
                "The backup could not be written to {into}: {strerror}. The last one is untouched.",
                into=into,
                strerror=error.strerror,
            )
        ) from error
    finally:
        with suppress(OSError):
            part.unlink()
    return found


def backup_bytes(conn: Any) -> bytes:
    """The same in memory, for a download."""
    file = io.BytesIO()
    _write(conn, file)
    return file.getvalue()


def _write(conn: Any, file: Any) -> None:
    told: dict[str, Any] = {}
    conn.rollback()
    with conn.cursor() as cursor, zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED, compresslevel=3) as kept:
        cursor.execute("START TRANSACTION WITH CONSISTENT SNAPSHOT")
        for table in TABLES:
            digest, many = hashlib.sha256(), 0
            with kept.open(f"{table}.jsonl", "w", force_zip64=True) as lines:
                for row in _rows(cursor, table):
                    line = (
                        json.dumps({name: _told(value) for name, value in row.items()}, ensure_ascii=False)
                        + "\n"
                    ).encode()
                    digest.update(line)
                    lines.write(line)
                    many += 1
            told[table] = {"rows": many, "sha256": digest.hexdigest()}
        manifest = {
            "format": FORMAT, "version": VERSION, "made": datetime.now(UTC).isoformat(timespec="seconds"),
            "migrations": [name for name, _ in steps()], "tables": told,
        }  # fmt: skip
        kept.writestr("manifest.json", json.dumps(manifest, indent=1))
    conn.rollback()


def _rows(cursor: Any, table: str) -> Iterator[dict[str, Any]]:
    """All rows in batches, in the order of the primary key."""
    cursor.execute(f"SHOW KEYS FROM {table} WHERE Key_name = 'PRIMARY'")
    keys = [row["Column_name"] for row in sorted(cursor.fetchall(), key=lambda row: row["Seq_in_index"])]
    order, begin = ", ".join(keys), 0
    while True:
        cursor.execute(f"SELECT * FROM {table} ORDER BY {order} LIMIT %s OFFSET %s", (_ROWS, begin))
        some = cursor.fetchall()
        yield from some
        if len(some) < _ROWS:
            return
        begin += _ROWS


def _told(value: Any) -> Any:
    if isinstance(value, bytes | bytearray):
        return {"base64": base64.b64encode(value).decode()}
    if isinstance(value, date):  # a time is one too
        return {"time": str(value)}
    return float(value) if isinstance(value, Decimal) else value


def _meant(value: Any) -> Any:
    if isinstance(value, dict) and set(value) == {"base64"}:
        return base64.b64decode(value["base64"])
    return value["time"] if isinstance(value, dict) and set(value) == {"time"} else value


def checked(file: Path) -> dict[str, int]:
    """The number of rows of each table in a backup, after reading everything and comparing checksums; a table that
    an older Kenzet left out is not in it. Raises BadValue at ``file``."""
    return {table: sum(1 for _ in lines) for table, lines in _opened(file)}


def _opened(file: Path) -> Iterator[tuple[str, Iterable[dict[str, Any]]]]:
    try:
        with zipfile.ZipFile(file) as kept:
            manifest = json.loads(kept.read("manifest.json"))
            _check_manifest(manifest, kept)
            for table in TABLES:
                if table in _LATER and table not in manifest["tables"]:
                    continue
                data = kept.read(f"{table}.jsonl")
                if hashlib.sha256(data).hexdigest() != manifest["tables"][table]["sha256"]:
                    raise BadValue(
                        tr(
                            "This backup is damaged: its {table} rows are not those that were written.",
                            table=table,
                        ),
                        "file",
                    )
                yield table, (json.loads(line) for line in data.splitlines())
    except FileNotFoundError as error:
        raise BadValue(tr("There is no file {file}.", file=file), "file") from error
    except (OSError, zipfile.BadZipFile, KeyError, TypeError, ValueError) as error:
        if isinstance(error, BadValue):
            raise
        raise BadValue(tr("{file} is not a complete Kenzet backup.", file=file), "file") from error


def _check_manifest(manifest: Any, kept: zipfile.ZipFile) -> None:
    if manifest["format"] != FORMAT or manifest["version"] != VERSION:
        raise BadValue(tr("This is not a backup that this Kenzet can read."), "file")
    newer = sorted(set(manifest["migrations"]) - {name for name, _ in steps()})
    if newer:
        raise BadValue(tr("This backup was made by a newer Kenzet: restore it with that one."), "file")
    if sum(info.file_size for info in kept.infolist()) > MOST_BYTES:
        raise BadValue(tr("This backup is larger than can be read."), "file")


def restore(conn: Any, file: Path) -> dict[str, int]:
    """Restore a backup into an empty database, all or nothing; returns the number of rows of each table.

    Raises BadValue at ``file``, and if there are quilts already.
    """
    checked(file)
    with conn.cursor() as cursor:
        cursor.execute("SELECT COUNT(*) AS many FROM quilt")
        if cursor.fetchone()["many"]:
            raise BadValue(
                tr(
                    "This folder holds quilts already; nothing was changed. Restore into an empty folder: --data NEW_FOLDER."
                ),
                "file",
            )
        found: dict[str, int] = {}
        try:
            cursor.execute("SET foreign_key_checks = 0")
            for table, rows in _opened(file):
                cursor.execute(f"DELETE FROM {table}")
                cursor.execute(f"SHOW COLUMNS FROM {table}")
                known = {row["Field"] for row in cursor.fetchall()}
                found[table] = sum(_put(cursor, table, row, known) for row in rows)
            cursor.execute("SET foreign_key_checks = 1")
        except BaseException:
            conn.rollback()
            raise
    conn.commit()
    return found


def _put(cursor: Any, table: str, row: dict[str, Any], known: set[str]) -> int:
    names = [name for name in row if name in known]
    marks = ", ".join(["%s"] * len(names))
    values = [_meant(row[name]) for name in names]
    cursor.execute(
        f"INSERT INTO {table} ({', '.join(f'`{name}`' for name in names)}) VALUES ({marks})",
        [json.dumps(value) if isinstance(value, dict | list) else value for value in values],
    )
    return 1


def nightly(conn: Any, folder: Path, now: datetime) -> Path | None:
    """Makes the copy of the day unless it exists, and deletes copies older than a week. Raises Unavailable."""
    into = folder / now.strftime(_NAME)
    if into.exists():
        return None
    backup(conn, into)
    for old in sorted(folder.glob("kenzet-????-??-??.zip"))[:-KEPT_DAYS]:
        old.unlink(missing_ok=True)
    return into


def last_copy(folder: Path) -> Path | None:
    """The newest nightly copy."""
    return max(folder.glob("kenzet-????-??-??.zip"), default=None)
