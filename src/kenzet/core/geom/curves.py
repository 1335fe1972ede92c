"""Cubic Bézier curves as arcs that stray at most a given distance.

Glossary: a *cubic* is its four control points; a *stroke* is straight pieces and cubics end to end.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from kenzet.core.geom.arcs import Arc, Point, Vertex, bulge_through
from kenzet.core.tolerances import EQUAL, ROUNDING

_DEEPEST = 12
_SAMPLES = tuple(k / 8 for k in range(1, 8))
_MOST_BULGE = 0.5  # an arc of about 106 degrees: what turns further is halved first

Cubic = tuple[Point, Point, Point, Point]
Piece = tuple[Point] | tuple[Point, Point, Point]
"""Where a piece of a stroke ends; a cubic's two inner control points stand before its end."""


@dataclass(frozen=True, slots=True)
class Stroke:
    """An outline or a line from a drawing file; ``label`` names its layer or color, ``colour`` is #rrggbb or ''."""

    start: Point
    pieces: tuple[Piece, ...]
    closed: bool
    colour: str = ""
    label: str = ""

    @property
    def points(self) -> int:
        """The number of its control points."""
        return 1 + sum(len(piece) for piece in self.pieces)

    @property
    def end(self) -> Point:
        """The end of its last piece."""
        return self.pieces[-1][-1] if self.pieces else self.start

    def moved(self, scale: float, x: float, y: float) -> Stroke:
        """Scaled and shifted: every point (px, py) comes to (scale · px + x, scale · py + y)."""

        def to(point: Point) -> Point:
            return scale * point[0] + x, scale * point[1] + y

        pieces: tuple[Piece, ...] = tuple(tuple(to(point) for point in piece) for piece in self.pieces)  # type: ignore[misc]
        return Stroke(to(self.start), pieces, self.closed, self.colour, self.label)

    def vertices(self, error: float) -> list[Vertex]:
        """Its vertices with bulges; the arcs stray from its curves by at most ``error``. The last vertex is its
        end."""
        found: list[Vertex] = []
        here = self.start
        for piece in self.pieces:
            if len(piece) == 3:
                found += as_arcs((here, *piece), error)
            elif math.dist(piece[0], here) > EQUAL:
                found.append(here)
            here = piece[-1]
        return [*found, here]


def at(cubic: Cubic, t: float) -> Point:
    """The curve's point at ``t`` from 0 to 1.

    >>> at(((0, 0), (0, 1), (1, 1), (1, 0)), 0.5)
    (0.5, 0.75)
    """
    u = 1 - t
    weights = (u**3, 3 * u * u * t, 3 * u * t * t, t**3)
    x, y = (sum(w * p[axis] for w, p in zip(weights, cubic, strict=True)) for axis in (0, 1))
    return x, y


def as_cubic(start: Point, control: Point, end: Point) -> tuple[Point, Point, Point]:
    """A quadratic curve as an equal cubic piece of a stroke."""
    inner = [(p[0] + 2 / 3 * (control[0] - p[0]), p[1] + 2 / 3 * (control[1] - p[1])) for p in (start, end)]
    return inner[0], inner[1], end


def as_arcs(cubic: Cubic, error: float) -> list[Vertex]:
    """Vertices of arcs and straight sides along ``cubic``, without its end. The curve is halved until each part
    fits."""
    return _fitted(cubic, 0.0, 1.0, error, 0)


def _fitted(cubic: Cubic, low: float, high: float, error: float, depth: int) -> list[Vertex]:
    start, middle, end = (at(cubic, t) for t in (low, (low + high) / 2, high))
    bulge = bulge_through(start, middle, end)
    inner = [at(cubic, low + (high - low) * share) for share in _SAMPLES]
    if depth >= _DEEPEST or (abs(bulge) <= _MOST_BULGE and _strays(start, end, bulge, inner) <= error):
        if math.dist(start, end) < ROUNDING:
            return []
        return [(*start, bulge) if abs(bulge) * math.dist(start, end) / 2 > error / 4 else start]
    half = (low + high) / 2
    return [
        *_fitted(cubic, low, half, error, depth + 1),
        *_fitted(cubic, half, high, error, depth + 1),
    ]


def _strays(start: Point, end: Point, bulge: float, points: list[Point]) -> float:
    """The greatest distance of ``points`` from the arc (or from its chord if it is straight), mm."""
    chord = math.dist(start, end)
    if chord < ROUNDING:
        return max(math.dist(start, point) for point in points)
    if abs(bulge) < EQUAL:
        away = np.array(points) - start
        along = (end[0] - start[0], end[1] - start[1])
        return float(np.abs(away @ (-along[1], along[0])).max()) / chord
    arc = Arc(start, end, bulge)
    return float(np.abs(np.hypot(*(np.array(points) - arc.centre).T) - arc.radius).max())
