"""Imports a log from a file: the events at the machine, and remarks."""

from __future__ import annotations

import json
import time
from dataclasses import replace
from typing import Annotated, Any, Literal

from flask import Response
from pydantic import Field

from kenzet.core.errors import BadValue, KenzetError
from kenzet.core.logbook.by_hand import tape_found
from kenzet.core.sewing.progress import fault_of
from kenzet.core.top.document import validated
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import log_words as say
from kenzet.store import logbook as store
from kenzet.store.logbook import Remark
from kenzet.store.quilts import Kept
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.log import ABOUT, VERDICTS, log_view, routes_now
from kenzet.web.request_context import answer, connection, laid_quilt, upload
from kenzet.web.state.logs import logs
from kenzet.web.taped import TapeKept
from kenzet.web.wire import base as m
from kenzet.web.wire.sewing import SewingEvent, event_of

log_import = Blueprint("log_import", __name__, url_prefix="/api/quilts/<quilt>")
MOST_BYTES = 40_000_000
_AT_ONCE = 1000


class FileRemark(m.Wire):
    """A remark in a file."""

    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{6,40}$")]
    about: Annotated[str, Field(pattern=ABOUT)]
    kind: store.Kind
    told: Annotated[str, Field(min_length=1, max_length=2000)]


class LogFile(m.Wire):
    """A log file, as far as it is imported: photographs and inspections are not."""

    format: Literal["kenzet.log"]
    version: Literal[1]
    events: Annotated[list[SewingEvent], Field(max_length=200_000)]
    remarks: Annotated[list[FileRemark], Field(max_length=20_000)]


@log_import.post("/log/import", responses={200: say.LogView})
def bring_log(path: m.QuiltKey, query: m.Reading) -> Response:
    """Add the events and remarks of a file; known ids are not duplicated, and entries that do not fit this quilt
    are left out."""
    kept, laid = laid_quilt(path.quilt)
    try:
        file: LogFile = validated(LogFile, _as_told(json.loads(upload(MOST_BYTES, tr("A log")))))
    except (ValueError, RecursionError, TypeError, AttributeError, KeyError) as error:
        raise BadValue(tr("This file holds no log of Kenzet."), "file") from error
    ways, now = routes_now(kept, laid), time.time()
    events = [replace(event_of(one, now), plan=kept.revision) for one in file.events]
    mine = [event for event in events if not fault_of(ways, event)]
    with connection() as conn:
        for first in range(0, len(mine), _AT_ONCE):
            logs().keep(conn, path.quilt, mine[first : first + _AT_ONCE])
        for one in file.remarks:
            told = _told_here(kept, laid, one)
            if told:
                store.remark(conn, path.quilt, Remark(one.id, one.about, one.kind, told))
    return answer(log_view(path.quilt, query.unit))


def _told_here(kept: Kept, laid: QuiltLayout, one: FileRemark) -> str:
    """What a remark says about this quilt, in its present plan; empty if it does not apply."""
    if one.kind == "photo":
        return ""
    if one.kind == "verdict":
        return one.told if one.told in VERDICTS else ""
    if one.kind in ("done", "left out"):
        return one.told if one.told.isdigit() else ""
    if one.kind == "measured":
        try:
            tape = TapeKept.model_validate_json(one.told).model_copy(update={"revision": kept.revision})
            tape_found(laid, one.about.removeprefix("place:"), tape.reading, "in")
        except (KenzetError, ValueError):
            return ""
        return tape.model_dump_json()
    return one.told


def _as_told(file: dict[str, Any]) -> dict[str, Any]:
    """The file's events in the form in which a machine sends them."""

    def stretches(some: list[dict[str, Any]]) -> list[dict[str, Any]]:
        return [
            {"drawing": one["of"], **{key: one[key] for key in ("line", "turn", "begins", "ends")}}
            for one in some
        ]

    events = [
        {
            **{key: one[key] for key in ("id", "kind", "when", "place", "at", "stitches", "freehand")},
            "sewn": stretches(one["sewn"]), "taken_out": stretches(one["back"]), "length_mm": one["far"], "target": one["of"],
        }
        for one in file["events"]
    ]  # fmt: skip
    remarks = [{key: one[key] for key in ("id", "about", "kind", "told")} for one in file["remarks"]]
    return {
        "format": file.get("format"),
        "version": file.get("version"),
        "events": events,
        "remarks": remarks,
    }
