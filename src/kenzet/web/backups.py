"""Downloads of all data, and the state of the automatic copies."""

from __future__ import annotations

from datetime import datetime

from flask import Response, current_app

from kenzet.store.backup import KEPT_DAYS, backup_bytes, last_copy
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.texts import on_day, tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.open_files import open_files
from kenzet.web.request_context import answer, connection, file_answer
from kenzet.web.wire import base as m

backups = Blueprint("backups", __name__, url_prefix="/api")


class CopiesView(m.Wire):
    """The folder of the daily copies, the number of ``days`` each is kept, and when the ``last`` was made; empty
    if there is none."""

    folder: str
    days: int
    last: str


@backups.get("/backups", responses={200: CopiesView})
def copies() -> Response:
    """The automatic copies."""
    folder = current_app.extensions["backups"]
    newest = last_copy(folder) if folder else None
    made = datetime.fromtimestamp(newest.stat().st_mtime) if newest else None
    last = tr("{day}, {clock}", day=on_day(made), clock=f"{made:%H:%M}") if made else ""
    return answer(CopiesView(folder=str(folder or ""), days=KEPT_DAYS, last=last))


@backups.get("/files.zip")
def all_files() -> Response:
    """All quilts, tools and logs as files that other programs read: plans, tables, pictures."""
    with connection() as conn:
        data = open_files(conn, LOCAL_OWNER)
    return file_answer(data, "application/zip", datetime.now().strftime("kenzet-files-%Y-%m-%d.zip"))


@backups.get("/backup.zip")
def everything() -> Response:
    """Everything that is stored, for ``./start --restore``."""
    with connection() as conn:
        data = backup_bytes(conn)
    return file_answer(data, "application/zip", datetime.now().strftime("kenzet-%Y-%m-%d.zip"))
