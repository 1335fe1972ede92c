"""When the remaining work gets sewn, on the days available; to look at, and as a calendar file."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime, time
from typing import Annotated

from flask import Response
from pydantic import Field

from kenzet.core.errors import BadValue
from kenzet.core.logbook.forecast import time_left
from kenzet.core.logbook.schedule import Session, by_then, fading_marks, holds_all, schedule
from kenzet.core.route.quilt_needle import whole_needle
from kenzet.core.sewing.now import PlaceRoutes
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say.log_places import part_names
from kenzet.say.schedule_words import ScheduleView, schedule_view, session_lines, too_many
from kenzet.web.blueprint import Blueprint
from kenzet.web.log import routes_now
from kenzet.web.request_context import answer, connection, laid_quilt
from kenzet.web.state.logs import logs
from kenzet.web.wire import base as m

sessions = Blueprint("sessions", __name__, url_prefix="/api/quilts/<quilt>")


class ScheduleQuery(m.Reading):
    """The ``days`` of the week (0 Monday to 6 Sunday), the ``minutes`` from time ``at``, the first day (by default
    today), and the day ``by`` which to finish."""

    days: Annotated[str, Field(pattern=r"^[0-6]{0,7}$")] = "0123456"
    minutes: Annotated[int, Field(ge=10, le=600)] = 60
    begin: date | None = None
    by: date | None = None
    at: time = time(19, 0)


@sessions.get("/schedule", responses={200: ScheduleView})
def shown(path: m.QuiltKey, query: ScheduleQuery) -> Response:
    """All sessions in order."""
    laid, found, whole = planned_sessions(path.quilt, query)
    if found and not whole:
        raise BadValue(too_many(query.minutes), "minutes")
    longer = by_then(found, query.minutes, query.by) if query.by else 0
    return answer(schedule_view(laid, found, part_names(laid), query.at, query.by, longer, query.minutes))


def planned_sessions(quilt: str, query: ScheduleQuery) -> tuple[QuiltLayout, list[Session], bool]:
    """The sessions for what is left, and whether they finish everything. Raises Unknown."""
    kept, laid = laid_quilt(quilt)
    ways = routes_now(kept, laid)
    if not ways.route.visits:
        return laid, [], True
    with connection() as conn:
        told = logs().log(conn, quilt)
    whole = whole_needle(laid, ways.route)
    left = time_left(laid, ways, told.sewn)
    places = list(dict.fromkeys(one.place for one in left))
    found = schedule(
        left, {int(day) for day in query.days}, query.minutes, query.begin or date.today(), laid.quilt.stitching.rest,
        60 * whole.thread / max(whole.seconds, 1.0), laid.quilt.kit, _freehand(ways, places), _fading(laid, ways, places),
    )  # fmt: skip
    return laid, found, holds_all(found, left)


def _freehand(ways: PlaceRoutes, places: Sequence[str]) -> set[str]:
    visits = ways.route.visits
    return {
        place
        for place in places
        if any(ways.route.routes[visits[k].route].sewn["freehand"] for k in ways.at[place])
    }


def _fading(laid: QuiltLayout, ways: PlaceRoutes, places: Sequence[str]) -> dict[str, list[tuple[str, int]]]:
    found: dict[str, list[tuple[str, int]]] = {}
    for place in places:
        for k in ways.at[place]:
            for zone, _ in ways.of(ways.route.visits[k]).route.unit.drawings:
                if hours := fading_marks(laid, zone):
                    found.setdefault(place, []).append((zone, hours))
    return found


def calendar_of(quilt: str, query: ScheduleQuery) -> bytes:
    """The sessions as a calendar file. Raises Unknown."""
    from kenzet.formats.calendar import calendar_file

    laid, found, _ = planned_sessions(quilt, query)
    names = part_names(laid)
    told = [session_lines(one, names, laid) for one in found]
    return calendar_file(laid.quilt.name, quilt, found, told, query.at, datetime.now().astimezone())
