"""Helpers of a request: a connection, cached layouts of quilts, and the forms of answers."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from flask import Response, current_app, request

from kenzet.core.errors import BadValue, TooMany
from kenzet.core.kit.things import Thing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say.words import Said
from kenzet.store import inventory, quilts
from kenzet.store.quilts import LOCAL_OWNER, Kept
from kenzet.texts import tr
from kenzet.web.state.layouts import layouts


@contextmanager
def connection() -> Iterator[Any]:
    """A database connection for this request."""
    with current_app.extensions["pool"].connection() as conn:
        yield conn


def laid_quilt(quilt_id: str) -> tuple[Kept, QuiltLayout]:
    """The quilt as stored, laid out. Raises Unknown."""
    with connection() as conn:
        kept = quilts.load(conn, LOCAL_OWNER, quilt_id)
    return kept, layouts().of(kept)


def planned(laid: QuiltLayout, zone: str) -> ZonePlan:
    """The plan of a zone with a fill. Raises BadValue if it has none."""
    found = plan_zone(laid, zone)
    if found is None:
        raise BadValue(tr("This zone is unquilted. Choose a fill for it first."), "zone")
    return found


def laid_at(kept: Kept, revision: int) -> QuiltLayout:
    """The quilt at a revision, laid out. Raises Unknown."""
    if revision == kept.revision:
        return layouts().of(kept)
    with connection() as conn:
        return layouts().of(quilts.planned_at(conn, LOCAL_OWNER, kept.id, revision))


def answer(value: Said) -> Response:
    """A model as JSON."""
    return current_app.response_class(value.model_dump_json(), mimetype="application/json")


def file_answer(data: bytes, kind: str, name: str) -> Response:
    """Bytes to save as a file called ``name``."""
    response = Response(data, mimetype=kind)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


def upload(most: int, what: str) -> bytes:
    """The file in the request body. Raises TooMany above ``most`` bytes, BadValue for an empty one."""
    if (request.content_length or 0) > most:
        raise TooMany(tr("{what} may have at most {most} MB.", what=what, most=most // 1000000), "file")
    request.max_content_length = most
    data = request.get_data()
    if not data:
        raise BadValue(tr("The file is empty."), "file")
    return data


def her_things() -> dict[str, Thing]:
    """The quilter's tools and supplies, by key."""
    with connection() as conn:
        return inventory.things(conn, LOCAL_OWNER)
