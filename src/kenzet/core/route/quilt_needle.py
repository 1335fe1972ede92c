"""Needle time and thread for the whole route of a quilt."""

from __future__ import annotations

from kenzet.core.route.needle import Needle, needle
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.route.turns import all_pivots
from kenzet.core.top.quilt_layout import QuiltLayout


def hands_at_work(found: QuiltRoute) -> tuple[int, int]:
    """How many times a line is begun, and how many times the quilt is turned at the needle."""
    routes = [found.routes[visit.route] for visit in found.visits]
    return sum(len(one.unit.courses) for one in routes), sum(all_pivots(one) for one in routes)


def whole_needle(laid: QuiltLayout, found: QuiltRoute) -> Needle:
    """Needle time, thread and bobbins of the whole route."""
    quilt = laid.quilt
    return needle(quilt.kit, quilt.stitching, found.sewn, found.travelled, *hands_at_work(found), found.stops)
