"""The closed area that a fill stays inside: any number of pieces, with or without holes.

Glossary: an *edge* is one straight run of the outline. It is merged across corners where the outline goes straight
on, and across pieces that continue each other. Edges run from left to right, upright ones from top to bottom,
whatever the direction of the rings. *Soft* points belong to drawn arcs: they are no corners, and sides that end at
them are no edges.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Soft, key
from kenzet.core.tolerances import (
    CIRCLE_ERROR,
    CURVE_ERROR,
    DIVISOR,
    SAME_ANGLE,
    SAME_PLACE,
    SNAP,
    STRAIGHT_ON,
)
from kenzet.texts import tr

Floats = NDArray[np.float64]
Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Edge:
    """A straight run of a region's outline from ``start`` (its datum corner) to ``end``, mm."""

    start: Point
    end: Point

    @property
    def length(self) -> float:
        """Length, mm."""
        return math.dist(self.start, self.end)

    @property
    def angle(self) -> float:
        """Direction from start to end, degrees counter-clockwise from the x axis."""
        return math.degrees(math.atan2(self.end[1] - self.start[1], self.end[0] - self.start[0]))

    @property
    def datum(self) -> Literal["top", "left"]:
        """The end from which ticks and lengths along it are counted: the top of an upright edge, the left end of
        any other."""
        return "top" if abs(self.end[0] - self.start[0]) < SAME_PLACE else "left"

    def at(self, along: float) -> Point:
        """The point at ``along`` mm from the datum corner."""
        share = along / self.length
        return (
            self.start[0] + share * (self.end[0] - self.start[0]),
            self.start[1] + share * (self.end[1] - self.start[1]),
        )


class Region:
    """A valid area in mm with arrays ready for the scan. Treated as immutable.

    Raises BadValue if the area is empty.
    """

    def __init__(self, area: BaseGeometry, soft: Soft = frozenset()) -> None:
        pieces = [p for p in _polygons(area) if p.area > 0]
        if not pieces:
            raise BadValue(tr("This zone holds no area."))
        self.area: MultiPolygon = MultiPolygon(sorted(pieces, key=_reading_order))
        self.soft = soft

    @classmethod
    def of(cls, outline: Sequence[Point], *holes: Sequence[Point]) -> Region:
        """One piece from its ring and the rings of its holes; the first point of a ring is not repeated."""
        return cls(Polygon(outline, holes))

    @cached_property
    def pieces(self) -> tuple[Region, ...]:
        """The connected pieces, in reading order: top to bottom, left to right."""
        return (self,) if len(self.area.geoms) == 1 else tuple(Region(p, self.soft) for p in self.area.geoms)

    @cached_property
    def segments(self) -> Floats:
        """Every side of every ring: (n, 4) of x0, y0, x1, y1."""
        rings = [np.asarray(ring.coords) for ring in _rings(self.area)]
        return np.concatenate([np.hstack([ring[:-1], ring[1:]]) for ring in rings])

    @cached_property
    def side_ways(self) -> Floats:
        """(4, n), for every side: its unit direction (x, y), its length in mm, and the signed distance of its line
        to the left of the origin."""
        x0, y0, x1, y1 = self.segments.T
        size = np.maximum(np.hypot(x1 - x0, y1 - y0), DIVISOR)
        ux, uy = (x1 - x0) / size, (y1 - y0) / size
        return np.stack([ux, uy, size, y0 * ux - x0 * uy])

    @cached_property
    def shrunk(self) -> BaseGeometry:
        """The area without a thin strip along its outline: a line inside it does not run in the ditch. Prepared
        for fast tests."""
        by = 2 * CURVE_ERROR if self.soft else SNAP
        area = shapely.buffer(self.area, -by, join_style="mitre", mitre_limit=3)
        shapely.prepare(area)
        return area

    @cached_property
    def side_tree(self) -> shapely.STRtree:
        """A spatial index of the sides of the outline."""
        return shapely.STRtree(shapely.linestrings(self.segments.reshape(-1, 2, 2)))

    @cached_property
    def bounds(self) -> tuple[float, float, float, float]:
        """(left, bottom, right, top) in mm."""
        left, bottom, right, top = self.area.bounds
        return left, bottom, right, top

    @property
    def middle(self) -> Point:
        """The middle of the bounds."""
        left, bottom, right, top = self.bounds
        return (left + right) / 2, (bottom + top) / 2

    @cached_property
    def edges(self) -> tuple[Edge, ...]:
        """The straight runs of the outline in reading order."""
        straight = [s for s in self.segments.tolist() if not (self._is_soft(s[:2]) or self._is_soft(s[2:]))]
        return tuple(merge_straight(np.array(straight).reshape(-1, 4)))

    @cached_property
    def edge_ends(self) -> Floats:
        """Start and end of every edge: (n, 2, 2)."""
        return np.array([(edge.start, edge.end) for edge in self.edges]).reshape(-1, 2, 2)

    @cached_property
    def edge_ways(self) -> Floats:
        """Unit vector from start to end of every edge, (n, 2)."""
        way = self.edge_ends[:, 1] - self.edge_ends[:, 0]
        ways: Floats = way / np.hypot(way[:, 0], way[:, 1])[:, None]
        return ways

    def edges_along(self, direction: Point) -> NDArray[np.int64]:
        """The indices of the edges that are parallel to ``direction`` (a unit vector)."""
        across = self.edge_ways[:, 0] * direction[1] - self.edge_ways[:, 1] * direction[0]
        return np.flatnonzero(np.abs(across) < 1e3 * SAME_ANGLE)

    @cached_property
    def corner_places(self) -> Floats:
        """The corners as an array (n, 2)."""
        return np.array(self.corners).reshape(-1, 2)

    @cached_property
    def extreme_places(self) -> Floats:
        """``extremes`` as an array (n, 2)."""
        return np.array(self.extremes).reshape(-1, 2)

    def _is_soft(self, point: Sequence[float]) -> bool:
        return bool(self.soft) and key(point) in self.soft

    @cached_property
    def corners(self) -> tuple[Point, ...]:
        """Where two edges of the outline meet at an angle, in reading order."""
        points = {key(point) for ring in _rings(self.area) for point in _turns(ring)} - self.soft
        return tuple(sorted(points, key=lambda p: (-p[1], p[0])))

    @cached_property
    def sharpest(self) -> float | None:
        """The smallest interior angle at a corner, radians; None if there is no corner."""
        found = []
        for polygon in shapely.orient_polygons(self.area).geoms:
            for ring in (polygon.exterior, *polygon.interiors):
                points = np.asarray(ring.coords)[:-1]
                before, after = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
                turned = np.arctan2(
                    before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0], (before * after).sum(axis=1)
                )
                corners = [k for k, point in enumerate(points.tolist()) if key(point) in self._corner_keys]
                found += (math.pi - turned[corners]).tolist()
        return min(found, default=None)

    @cached_property
    def _corner_keys(self) -> frozenset[Point]:
        return frozenset(self.corners)

    @property
    def stretches_at_most(self) -> int:
        """About how many pieces a straight line can be cut into: it enters and leaves through two edges or curves."""
        return 1 + len(self.corners) // 2 + self.loops

    @cached_property
    def loops(self) -> int:
        """The number of rings in its outline."""
        return sum(1 + len(polygon.interiors) for polygon in self.area.geoms)

    @cached_property
    def extremes(self) -> tuple[Point, ...]:
        """The points of the outline, enough to find how far the region extends in any direction."""
        return tuple(sorted({key(point) for ring in _rings(self.area) for point in ring.coords}))

    def inward(self, edge: Edge) -> Point:
        """The unit vector perpendicular to ``edge``, towards the side with more of the region beside the edge."""
        ux = (edge.end[0] - edge.start[0]) / edge.length
        uy = (edge.end[1] - edge.start[1]) / edge.length
        samples = np.array([edge.at(edge.length * share) for share in (0.1, 0.3, 0.5, 0.7, 0.9)])
        beside = [samples + np.array([-uy, ux]) * side for side in (0.2, -0.2)]
        left, right = (shapely.intersects_xy(self.area, p[:, 0], p[:, 1]).sum() for p in beside)
        return (-uy, ux) if left >= right else (uy, -ux)

    @cached_property
    def inradius(self) -> float:
        """Radius in mm of the largest circle inside."""
        circles = shapely.maximum_inscribed_circle(np.array(self.area.geoms), tolerance=CIRCLE_ERROR)
        return float(shapely.length(circles).max())


def widest_circle(cells: Sequence[Polygon], near: float = CIRCLE_ERROR) -> float:
    """Radius in mm, within ``near``, of the largest circle that fits into any one of ``cells``.

    By bisection: a circle of radius r fits where a cell shrunk by r is not empty; cells that become empty too soon
    are dropped. Much faster than a search for each center if there are many cells or long thin rings; slower for
    one area with many corners. O(log(size / near)) offsets.
    """
    left = np.array(cells, dtype=object)
    if not len(left):
        return 0.0
    fits, fails = 0.0, math.sqrt(float(shapely.area(left).max()) / math.pi) + near
    while fails - fits > near:
        radius = (fits + fails) / 2
        shrunk = shapely.buffer(left, -radius, quad_segs=32)
        holds = ~shapely.is_empty(shrunk)
        if holds.any():
            fits, left = radius, left[holds]
        else:
            fails = radius
    return (fits + fails) / 2


def _polygons(area: BaseGeometry) -> Iterable[Polygon]:
    for part in getattr(area, "geoms", [area]):
        if isinstance(part, Polygon) and not part.is_empty:
            yield part


def _rings(area: MultiPolygon) -> Iterable[shapely.LinearRing]:
    for polygon in area.geoms:
        yield polygon.exterior
        yield from polygon.interiors


def _reading_order(polygon: Polygon) -> tuple[float, float]:
    left, _, _, top = polygon.bounds
    return (-round(top, 3), round(left, 3))


def _turns(ring: shapely.LinearRing) -> Iterable[Point]:
    points = np.asarray(ring.coords)[:-1]
    before, after = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
    cross = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    sine = cross / (np.hypot(*before.T) * np.hypot(*after.T))
    dot = (before * after).sum(axis=1)
    yield from ((float(x), float(y)) for x, y in points[(np.abs(sine) > STRAIGHT_ON) | (dot < 0)])


def merge_straight(segments: Floats) -> list[Edge]:
    """Sides on one straight line that touch or overlap are merged into one edge. O(n log n)."""
    direction = segments[:, 2:] - segments[:, :2]
    backward = (direction[:, 0] < -SAME_PLACE) | (
        (np.abs(direction[:, 0]) <= SAME_PLACE) & (direction[:, 1] > 0)
    )
    segments = np.where(backward[:, None], segments[:, [2, 3, 0, 1]], segments)
    lines: dict[tuple[float, float], list[tuple[float, float, Edge]]] = {}
    for x0, y0, x1, y1 in segments.tolist():
        length = math.hypot(x1 - x0, y1 - y0)
        ux, uy = (x1 - x0) / length, (y1 - y0) / length
        key = (round(math.atan2(uy, ux), 5), round(-uy * x0 + ux * y0, 2))
        edge = Edge((x0, y0), (x1, y1))
        lines.setdefault(key, []).append((ux * x0 + uy * y0, ux * x1 + uy * y1, edge))
    edges: list[Edge] = []
    for runs in lines.values():
        runs.sort(key=lambda run: run[:2])
        _, reach, last = runs[0]
        for start, end, edge in runs[1:]:
            if start > reach + SAME_PLACE:
                edges.append(last)
                reach, last = end, edge
            elif end > reach:
                reach, last = end, Edge(last.start, edge.end)
        edges.append(last)
    return sorted(edges, key=lambda e: (-round(e.start[1], 3), round(e.start[0], 3), e.angle))
