"""Connections to the private database, and the only way to write."""

from __future__ import annotations

import secrets
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from typing import Any

import pymysql
from dbutils.pooled_db import PooledDB
from pymysql.cursors import DictCursor

from kenzet.core.errors import Unavailable
from kenzet.store import room
from kenzet.texts import tr

NAME = "kenzet"
_ALPHABET = "abcdefghjkmnpqrstuvwxyz23456789"
_LOST = (pymysql.err.OperationalError, pymysql.err.InterfaceError, OSError)


@dataclass(frozen=True, slots=True)
class Login:
    """The socket of the database and the account to use."""

    socket: str
    user: str
    password: str


def connect(login: Login, database: str | None = NAME) -> Any:
    """A plain connection; rows are dictionaries; nothing is committed automatically."""
    return pymysql.connect(
        unix_socket=login.socket,
        user=login.user,
        password=login.password,
        database=database,
        charset="utf8mb4",
        cursorclass=DictCursor,
        autocommit=False,
    )


class Pool:
    """A pool of connections, created at the first use."""

    def __init__(self, login: Login, most: int = 8) -> None:
        self._login = login
        self._most = most
        self._pool: PooledDB | None = None

    @contextmanager
    def connection(self) -> Iterator[Any]:
        """A connection for one request. Raises Unavailable if the database does not answer."""
        try:
            conn = self._made().connection()
        except _LOST as error:
            raise Unavailable(
                tr(
                    "The database does not answer; nothing was changed. It is being started again: try in a moment."
                )
            ) from error
        try:
            yield conn
        except _LOST as error:
            raise Unavailable(
                tr("The database could not do that just now; nothing was changed. Try again.")
            ) from error
        finally:
            with suppress(*_LOST):
                conn.close()

    def _made(self) -> PooledDB:
        if self._pool is None:
            self._pool = PooledDB(
                creator=lambda: connect(self._login), maxconnections=self._most, blocking=True, ping=1
            )
        return self._pool


def new_id() -> str:
    """Twelve letters and digits that are hard to confuse with each other."""
    return "".join(secrets.choice(_ALPHABET) for _ in range(12))


@contextmanager
def atomic(conn: Any) -> Iterator[Any]:
    """A write transaction and its cursor: committed as a whole, or not at all. Raises Unavailable if the disk is
    nearly full.

    ``begin`` comes first: only then does the pool report a lost connection, instead of silently continuing the
    second half on a new one.
    """
    room.check()
    conn.begin()
    try:
        with conn.cursor() as cursor:
            yield cursor
        conn.commit()
    except BaseException:
        with suppress(*_LOST):  # a connection that is gone has rolled back by itself
            conn.rollback()
        raise
