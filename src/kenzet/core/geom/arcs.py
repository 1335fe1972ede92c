"""Arcs in outlines: stored as arcs, drawn as polylines that stray by at most ``CURVE_ERROR``.

Glossary: a *vertex* is (x, y) or (x, y, bulge); its *bulge* is that of the side which leaves it: the tangent of a
quarter of the arc's angle. 0 is straight, 1 a half circle, positive where the arc turns left (counter-clockwise).
Rise = bulge · chord / 2. A *soft* point is an inner point of a drawn arc: it is no corner of the outline.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import shapely
from shapely.geometry import MultiPolygon, Polygon

from kenzet.core.tolerances import CURVE_ERROR, EQUAL, LEAST_TURN, ROUNDING, SAME_PLACE

Point = tuple[float, float]
Vertex = tuple[float, float] | tuple[float, float, float]
Soft = frozenset[Point]

_SOFT_TURN = math.radians(9.0)
_LEAST_CHORDS = 4


@dataclass(frozen=True, slots=True)
class Arc:
    """A circular arc from ``start`` to ``end``, mm; ``bulge`` as above, never 0."""

    start: Point
    end: Point
    bulge: float

    @property
    def chord(self) -> float:
        """Distance from start to end, mm."""
        return math.dist(self.start, self.end)

    @property
    def rise(self) -> float:
        """The greatest distance of the arc from its chord, mm, unsigned."""
        return abs(self.bulge) * self.chord / 2

    @property
    def angle(self) -> float:
        """The arc's angle in radians, with the sign of the bulge."""
        return 4 * math.atan(self.bulge)

    @property
    def radius(self) -> float:
        """F24, R = c²/8h + h/2, written for the bulge: R = c (1 + b²) / 4b."""
        return self.chord * (1 + self.bulge**2) / (4 * abs(self.bulge))

    @property
    def centre(self) -> Point:
        """Center of the circle, mm."""
        (x0, y0), (x1, y1) = self.start, self.end
        reach = (1 - self.bulge**2) / (4 * self.bulge)  # times the chord turned a quarter to the left
        return (x0 + x1) / 2 - (y1 - y0) * reach, (y0 + y1) / 2 + (x1 - x0) * reach

    def holds(self, point: Point, near: float) -> bool:
        """Whether ``point`` lies on the arc, within ``near`` mm of its circle."""
        cx, cy = self.centre
        dx, dy = point[0] - cx, point[1] - cy
        sx, sy = self.start[0] - cx, self.start[1] - cy
        turn = math.atan2(sx * dy - sy * dx, sx * dx + sy * dy) * (1 if self.bulge > 0 else -1)
        return abs(math.hypot(dx, dy) - self.radius) <= near and turn % math.tau <= abs(self.angle) + EQUAL

    def at(self, share: float) -> Point:
        """The point at ``share`` of the arc's length, from 0 (the start) to 1."""
        cx, cy = self.centre
        dx, dy = self.start[0] - cx, self.start[1] - cy
        turn = self.angle * share
        cos, sin = math.cos(turn), math.sin(turn)
        return cx + dx * cos - dy * sin, cy + dx * sin + dy * cos


def key(point: Sequence[float]) -> Point:
    """A point rounded to a ten-thousandth of a mm, to be used as a key."""
    return round(point[0], 4) + 0.0, round(point[1], 4) + 0.0


def inner_points(start: Point, end: Point, bulge: float, error: float = CURVE_ERROR) -> list[Point]:
    """The points of the drawn arc between ``start`` and ``end``; none if it is straight.

    The result does not depend on the direction: two patches that share an arc share every point of it.

    >>> inner_points((0.0, 0.0), (10.0, 0.0), 0.0)
    []
    >>> there = inner_points((0.0, 0.0), (10.0, 5.0), 0.4)
    >>> there == inner_points((10.0, 5.0), (0.0, 0.0), -0.4)[::-1], len(there) >= 3
    (True, True)
    """
    if abs(bulge) * math.dist(start, end) / 2 < SAME_PLACE:
        return []
    if end < start:
        return inner_points(end, start, -bulge, error)[::-1]
    arc = Arc(start, end, bulge)
    step = 2 * math.acos(max(1 - error / arc.radius, 0.0))
    chords = max(_LEAST_CHORDS, math.ceil(abs(arc.angle) / min(step, _SOFT_TURN * 0.9)))
    chords += chords % 2  # the middle of an arc is a point of it
    return [arc.at(k / chords) for k in range(1, chords)]


def sides(outline: Sequence[Vertex]) -> Iterable[tuple[Point, Point, float]]:
    """Every side of a closed outline: start, end, bulge."""
    for k, vertex in enumerate(outline):
        after = outline[(k + 1) % len(outline)]
        yield (vertex[0], vertex[1]), (after[0], after[1]), vertex[2] if len(vertex) == 3 else 0.0


def drawn(outline: Sequence[Vertex]) -> tuple[list[Point], list[Point]]:
    """A closed outline as a ring of points, and which of them are soft."""
    ring: list[Point] = []
    soft: list[Point] = []
    for start, end, bulge in sides(outline):
        inner = inner_points(start, end, bulge)
        ring += [start, *inner]
        soft += inner
    return ring, soft


def soft_of(area: MultiPolygon | Polygon) -> Soft:
    """The points of an offset outline where it turns so little that they belong to a curve."""
    found = set()
    for polygon in getattr(area, "geoms", [area]):
        for ring in (polygon.exterior, *polygon.interiors):
            points = shapely.get_coordinates(ring)[:-1].tolist()
            for before, here, after in zip(
                [points[-1], *points], points, [*points[1:], points[0]], strict=False
            ):
                turn = math.atan2(after[1] - here[1], after[0] - here[0])
                turn -= math.atan2(here[1] - before[1], here[0] - before[0])
                turn = abs(math.remainder(turn, math.tau))
                if LEAST_TURN < turn < _SOFT_TURN:
                    found.add(key(here))
    return frozenset(found)


def bulge_for(chord: float, rise: float) -> float:
    """The bulge of an arc over ``chord`` with ``rise``, both in the same unit; it has the sign of ``rise``."""
    return 2 * rise / chord


def bulge_through(start: Point, middle: Point, end: Point) -> float:
    """The bulge of the arc from ``start`` through ``middle`` to ``end``; 0 if they lie on a line.

    By the inscribed angle theorem, the arc's angle is twice what the angle at ``middle`` lacks to 180 degrees.

    >>> round(bulge_through((0, 0), (1, -1), (2, 0)), 6), bulge_through((0, 0), (1, 0), (2, 0))
    (1.0, 0.0)
    """
    ax, ay, bx, by = middle[0] - start[0], middle[1] - start[1], end[0] - middle[0], end[1] - middle[1]
    turn = math.atan2(ax * by - ay * bx, ax * bx + ay * by)
    return round(math.tan(turn / 2), 9) + 0.0 if abs(turn) > ROUNDING else 0.0


QUARTER = math.tan(math.pi / 8)
"""The bulge of a quarter circle."""
