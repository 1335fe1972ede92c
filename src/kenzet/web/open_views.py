"""The views open on a screen, computed for the quilt after a change."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from kenzet.core.errors import KenzetError
from kenzet.core.plan.planner import plan_zone
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say.words import Said
from kenzet.store.quilts import Kept
from kenzet.web.guard import problem_of
from kenzet.web.request_context import connection, her_things, planned
from kenzet.web.state.logs import logs
from kenzet.web.state.routes import routes
from kenzet.web.wire.kit import kit_of
from kenzet.web.wire.marks import MarksRequest, marks_of_zone
from kenzet.web.wire.quilt import VersionRequest, Views
from kenzet.web.wire.route import RouteOrQuickRequest, RouteView, route_of
from kenzet.web.wire.top import top_of
from kenzet.web.wire.zone import PlanRequest, ZoneView, typed_zone, zone_view


def views_of(kept: Kept, laid: QuiltLayout, body: VersionRequest) -> Views:
    """The views in ``body``; one that fails is reported among the faults and does not affect the others."""
    wanted, unit = body.views, body.unit
    makers: dict[str, Callable[[], Said]] = {}
    if wanted.zone:
        makers["zone"] = partial(_zone, laid, wanted.zone)
    if wanted.marks:
        makers["marks"] = partial(_marks, laid, wanted.marks)
    if wanted.route:
        makers["route"] = partial(route_view_of, kept, laid, wanted.route)
    if wanted.top:
        makers["top"] = partial(top_of, laid.quilt, unit)
    if wanted.kit:
        makers["kit"] = lambda: kit_of(laid.quilt.kit, her_things(), unit)
    made: dict[str, Any] = {}
    faults = {}
    for name, make in makers.items():
        try:
            made[name] = make()
        except KenzetError as error:
            faults[name] = problem_of(error)
    return Views(**made, faults=faults)


def route_view_of(kept: Kept, laid: QuiltLayout, body: RouteOrQuickRequest) -> RouteView:
    """The route found so far, and how much of it is sewn."""
    ways = routes().soon(kept, laid) if body.quick else routes().ways(kept, laid)
    with connection() as conn:
        sewn = logs().log(conn, kept.id).sewn
    return route_of(laid, ways, sewn, body)


def _zone(laid: QuiltLayout, body: PlanRequest) -> ZoneView:
    typed = typed_zone(laid, body)
    return zone_view(typed, plan_zone(typed, body.zone), body)


def _marks(laid: QuiltLayout, body: MarksRequest) -> Said:
    return marks_of_zone(laid, planned(laid, body.zone), body)
