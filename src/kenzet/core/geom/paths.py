"""Lines that are no parallel family: straight sides and arcs end to end.

Glossary: a *path* is vertices (x, y, bulge), the bulge being that of the side which leaves; of an open
path's last vertex it means nothing. Its *points* are those of the polyline that is drawn, which strays
at most ``CURVE_ERROR`` from the arcs.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from kenzet.core.geom.arc_arrays import Floats, Ints, arc_lengths, chords, far
from kenzet.core.geom.arcs import Point, Vertex
from kenzet.core.tolerances import CURVE_ERROR, FLAT, ROUNDING

_CHORD_END = 1.5 * CURVE_ERROR


@dataclass(frozen=True)
class Path:
    """An open or closed path; ``vertices`` is (n, 3) in mm."""

    vertices: Floats
    closed: bool = False

    @classmethod
    def of(cls, vertices: Iterable[Vertex], closed: bool = False) -> Path:
        """From points with or without a bulge."""
        return cls(np.array([(*v[:2], v[2] if len(v) == 3 else 0.0) for v in vertices]), closed)

    @cached_property
    def points(self) -> Floats:
        """The polyline as drawn, (m, 2); a closed path's first point is not repeated."""
        v = self.vertices
        if self.closed:
            return chords(v, np.roll(v[:, :2], -1, axis=0)).begin
        return np.vstack([chords(v[:-1], v[1:, :2]).begin, v[-1:, :2]])

    @property
    def straight(self) -> bool:
        """Whether it has no arcs."""
        bulges = self.vertices[:, 2] if self.closed else self.vertices[:-1, 2]
        return not np.any(np.abs(bulges) > ROUNDING)

    @cached_property
    def length(self) -> float:
        """Length along the arcs, mm."""
        return float(lengths([self])[0])


def lengths(paths: Sequence[Path]) -> Floats:
    """Length of each path along its arcs, mm."""
    if not paths:
        return np.empty(0)
    vertices, owner = end_to_end(paths)
    way = vertices[1:, :2] - vertices[:-1, :2]
    size = np.where(owner[1:] == owner[:-1], far(way[:, 0], way[:, 1]), 0.0)
    return np.asarray(np.bincount(owner[:-1], arc_lengths(size, vertices[:-1, 2]), len(paths)), dtype=float)


def end_to_end(paths: Sequence[Path]) -> tuple[Floats, Ints]:
    """The vertices (n, 3) of all paths, and the path of each; a closed path ends with its first vertex again."""
    rows = [np.vstack([p.vertices, p.vertices[:1]]) if p.closed else p.vertices for p in paths]
    return np.concatenate(rows), np.repeat(np.arange(len(rows)), [len(row) for row in rows])


def with_arcs(points: Floats, closed: bool, near: float = CURVE_ERROR / 10) -> Floats:
    """The vertices (n, 3) of a polyline in which runs of short chords that lie on a circle have become arcs again.

    A run of at least three chords becomes one arc if the chords turn the same way by less than 9 degrees each,
    their points lie within ``near`` of one circle, and the two ends within a chord's rise. O(n).
    """
    if closed:
        points = np.vstack([_from_a_corner(points), _from_a_corner(points)[:1]])
    rows: list[tuple[float, float, float]] = []
    k, last = 0, len(points) - 1
    while k < last:
        reach, bulge = _run(points, k, near)
        rows.append((float(points[k, 0]), float(points[k, 1]), bulge))
        k = reach
    if not closed:
        rows.append((float(points[last, 0]), float(points[last, 1]), 0.0))
    return np.array(rows)


def _from_a_corner(points: Floats) -> Floats:
    """A closed ring rotated to begin at its sharpest turn, so that no arc is cut by its beginning."""
    before, after = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
    turn = np.arctan2(before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0], (before * after).sum(axis=1))
    return np.roll(points, -int(np.abs(turn).argmax()), axis=0)


def _run(points: Floats, k: int, near: float) -> tuple[int, float]:
    """The index where the arc that begins at point ``k`` ends, and its bulge; the next point and 0 if there is no
    arc."""
    circle = _circle(points[k + 1 : k + 4]) if k + 3 < len(points) else None
    if circle is None:
        return k + 1, 0.0
    cx, cy, radius = circle
    if abs(math.dist(points[k], (cx, cy)) - radius) > _CHORD_END:
        return k + 1, 0.0
    reach, angle = k, 0.0
    while reach + 1 < len(points):
        x0, y0 = points[reach] - (cx, cy)
        x1, y1 = points[reach + 1] - (cx, cy)
        turn = math.atan2(x0 * y1 - y0 * x1, x0 * x1 + y0 * y1)
        off = abs(math.hypot(x1, y1) - radius)
        if off > _CHORD_END or abs(turn) > math.radians(9.0):
            break
        if (angle and turn * angle < 0) or abs(angle + turn) > math.radians(350):
            break
        angle += turn
        reach += 1
        if off > near:  # where two arcs meet, each ends inside a chord
            break
    return (reach, math.tan(angle / 4)) if reach - k >= 3 else (k + 1, 0.0)


def _circle(three: Floats) -> tuple[float, float, float] | None:
    (ax, ay), (bx, by), (cx, cy) = three.tolist()
    cross = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
    reach = max(math.dist((ax, ay), (bx, by)), math.dist((bx, by), (cx, cy)))
    if abs(cross) < FLAT * reach**2:
        return None
    b2, c2 = (bx - ax) ** 2 + (by - ay) ** 2, (cx - ax) ** 2 + (cy - ay) ** 2
    x = ax + ((cy - ay) * b2 - (by - ay) * c2) / (2 * cross)
    y = ay + ((bx - ax) * c2 - (cx - ax) * b2) / (2 * cross)
    return x, y, math.dist((x, y), (ax, ay))


def straight_path(start: Point, end: Point) -> Path:
    """One straight line."""
    return Path.of([start, end])
