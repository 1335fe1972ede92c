"""The number of turns of the quilt at the needle along a route, and how many lines in a row have the same
direction."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from kenzet.core.geom.arc_arrays import arc_lengths
from kenzet.core.geom.paths import Path, end_to_end
from kenzet.core.geom.region import Floats
from kenzet.core.route.euler_walk import Leg, Run
from kenzet.core.route.network import CURVES
from kenzet.core.route.unit_route import UnitRoute

_PIVOT = math.radians(20)


def is_freehand(one: UnitRoute, leg: Leg) -> bool:
    """Whether it is the path through a texture."""
    return leg.sews and one.unit.courses[int(one.network.courses[leg.edge])].freehand


def turns_along(paths: Sequence[Path]) -> tuple[int, NDArray[np.bool_]]:
    """The number of turns of the quilt along ``paths``, and which of them run mostly on arcs or the short sides of
    drawn curves."""
    if not paths:
        return 0, np.zeros(0, dtype=bool)
    vertices, owner = end_to_end(paths)
    goes_on = owner[1:] == owner[:-1]
    way = vertices[1:, :2] - vertices[:-1, :2]
    along, half = np.arctan2(way[:, 1], way[:, 0]), 2 * np.arctan(vertices[:-1, 2])
    sharp = np.abs(_turn((along - half)[1:] - (along + half)[:-1])) > _PIVOT
    size = np.where(goes_on, arc_lengths(np.hypot(way[:, 0], way[:, 1]), vertices[:-1, 2]), 0.0)
    round_ = np.where((vertices[:-1, 2] != 0.0) | (size < CURVES), size, 0.0)
    of = owner[:-1]
    curved = np.bincount(of, round_, len(paths)) > np.bincount(of, size, len(paths)) / 2
    return int((sharp & goes_on[1:] & goes_on[:-1]).sum()), curved


def pivots(one: UnitRoute, run: Run) -> int:
    """The number of turns of the quilt at the needle: at sharp turns between pieces of the route, and within them."""
    many, before = 0, None
    for leg in run.legs:
        if is_freehand(one, leg):
            before = None
            continue
        path = one.network.paths[leg.edge]
        line = path[::-1] if leg.back else path
        ways = np.diff(line, axis=0)
        angles = np.arctan2(ways[:, 1], ways[:, 0])
        many += int((np.abs(_turn(np.diff(angles))) > _PIVOT).sum())
        if before is not None:
            many += int(abs(float(_turn(np.array([angles[0] - before]))[0])) > _PIVOT)
        before = float(angles[-1])
    return many


def same_way(one: UnitRoute, run: Run) -> int:
    """The greatest number of consecutive lines of one family sewn in the same direction; freehand and rings do not
    count."""
    most = row = 0
    before: tuple[int, int, float, float] | None = None
    for leg in run.legs:
        if not leg.sews:
            continue
        course = one.unit.courses[int(one.network.courses[leg.edge])]
        if course.closed or course.freehand:
            before = None
            continue
        path = one.network.paths[leg.edge]
        x, y = ((path[0] - path[-1]) if leg.back else (path[-1] - path[0])).tolist()
        same = (
            before is not None
            and before[:2] == (course.zone, course.family)
            and before[2] * x + before[3] * y > 0
        )
        row = row + 1 if same else 1
        most = max(most, row)
        before = (course.zone, course.family, x, y)
    return most


def corners_along(line: Floats) -> tuple[float, ...]:
    """The places along a polyline where the quilt is turned at the needle, mm.

    >>> corners_along(np.array([[0.0, 0.0], [10.0, 0.0], [10.0, 5.0], [20.0, 5.0]]))
    (10.0, 15.0)
    """
    ways = np.diff(line, axis=0)
    sharp = np.abs(_turn(np.diff(np.arctan2(ways[:, 1], ways[:, 0])))) > _PIVOT
    along = np.cumsum(np.hypot(ways[:, 0], ways[:, 1]))[:-1]
    return tuple(along[sharp].tolist())


def _turn(angles: Floats) -> Floats:
    turned: Floats = (angles + math.pi) % (2 * math.pi) - math.pi
    return turned


def all_pivots(one: UnitRoute) -> int:
    """The number of turns of the quilt at the needle in all runs."""
    return sum(pivots(one, run) for run in one.runs)
