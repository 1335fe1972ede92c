"""Where the other lines of a drawing lie from one of them: on which side, which one in count, how much beside it."""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from functools import cached_property

import numpy as np
import shapely

from kenzet.core.geom.region import Point
from kenzet.core.memo import Table
from kenzet.core.placing.legs import Leg
from kenzet.core.placing.placement import Onward
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.tolerances import DIVISOR

LINES = Table[tuple[ZonePlan, int], shapely.STRtree]("lines of a drawing", 100)


class Neighbors:
    """The other lines of ``drawing``, seen from ``line`` with its ``legs``."""

    def __init__(self, plan: ZonePlan, drawing: Drawing, line: int, legs: Sequence[Leg]) -> None:
        self._plan, self._drawing, self._line, self._legs = plan, drawing, line, legs

    def towards(self, other: int, leg: Leg | None = None) -> Onward | None:
        """The direction in which line ``other`` lies: into a ring, out of it, or that of the shortest way from the
        middle of the line, or of its ``leg``; None if they meet there."""
        trace = self._drawing.trace(self._line)
        if trace is not None and trace.closed:
            ring = shapely.Polygon(trace.points)
            return "in" if ring.contains(shapely.Point(self._drawing.polylines[other][0])) else "out"
        start, end = shapely.get_coordinates(self._way_to(other, leg))
        x, y = (end - start).tolist()
        long = math.hypot(x, y)
        return (x / long, y / long) if long > DIVISOR else None

    def over(self, other: int, sewn: Collection[int] | None, leg: Leg | None = None) -> int:
        """Whether ``other`` is the first, second … line of its family on the way to it, counted among those that are
        ``sewn`` (None: all), pieces of one line once."""
        way, family = self._way_to(other, leg), self._family(other)
        between = {
            self._number(k)
            for k in self._tree.query(way, predicate="intersects").tolist()
            if self._family(k) == family and (sewn is None or k in sewn)
        }
        return 1 + len(between - {self._number(self._line), self._number(other)})

    def side_along(self, normal: Point, other: int) -> int:
        """+1 if the line lies from ``other`` in the direction of ``normal``, else -1."""
        own, there = (self._tree.geometries[k] for k in (self._line, other))
        points = shapely.line_interpolate_point(own, np.linspace(0.1, 0.9, 9), normalized=True)
        nearest = shapely.line_interpolate_point(there, shapely.line_locate_point(there, points))
        away = (shapely.get_coordinates(points) - shapely.get_coordinates(nearest)) @ np.array(normal)
        return 1 if np.median(away) >= 0 else -1

    def shared_with(self, other: int | None) -> float:
        """The length of a straight line beside another, mm; of a line with turns its whole length."""
        own = self._legs[0]
        if other is None or len(self._legs) > 1 or own.arc is not None:
            return sum(leg.length for leg in self._legs)
        way = np.array([own.end[0] - own.start[0], own.end[1] - own.start[1]]) / own.length
        along = (self._drawing.polylines[other] - np.array(own.start)) @ way
        return float(min(along.max(), own.length) - max(along.min(), 0.0))

    def beside_at(self, other: int, distance: float, near: float) -> float:
        """How much of ``other`` runs along the line at ``distance`` mm, within ``near``; 0 if they are nowhere that
        far apart."""
        own, there = (self._tree.geometries[k] for k in (self._line, other))
        if abs(own.distance(there) - distance) > near:
            return 0.0
        if len(own.coords) + len(there.coords) == 4:  # both are straight
            return self.shared_with(other)
        return float(there.intersection(own.buffer(distance + near)).length)

    def _way_to(self, other: int, leg: Leg | None = None) -> shapely.LineString:
        own, there = (self._tree.geometries[k] for k in (self._line, other))
        if leg is not None:
            own = shapely.LineString([leg.start, leg.end])
        return shapely.shortest_line(shapely.line_interpolate_point(own, 0.5, normalized=True), there)

    @cached_property
    def _tree(self) -> shapely.STRtree:
        key = (self._plan, self._plan.number_of(self._drawing))
        lines = self._drawing.polylines
        return self._plan.memo.once(
            LINES, key, lambda: shapely.STRtree([shapely.LineString(one) for one in lines])
        )

    def _family(self, line: int) -> tuple[bool, int]:
        """What a line has in common with the others of its family."""
        drawing, many = self._drawing, len(self._drawing.stretches)
        if line < many:
            return True, int(drawing.stretches.job[line]) % max(len(drawing.straight), 1)
        return False, drawing.traces[line - many].family

    def _number(self, line: int) -> int:
        """The whole number of a line in its family; pieces of one line share it."""
        drawing, many = self._drawing, len(self._drawing.stretches)
        return int(drawing.stretches.line[line]) if line < many else drawing.traces[line - many].line
